import { sql, type RawBuilder } from 'kysely';
import type { PlainDate } from '@/core/calendar';
import { groupBy } from '@/core/group-by';
import { takenOff, type AccountId } from '@/core/ledger';
import { subtract, sum, ZERO, type Currency, type Minor } from '@/core/money';
import { earlyPayments, type EarlyInvoice } from '../settling/early';
import type { Refusal } from '../command';
import { readPacked, type Reading } from '../store';
import { AccountShelf } from './account-parts';
import { LINE_COLUMNS, linePart, transitAccount, type LineRow } from './line-parts';
import type { PartInput } from './part-input';
import { channelBookings, receivableOf } from './channel-bookings';
import {
  PAYOUT_COLUMNS,
  PAYOUT_FOR_ENTRY,
  PAYOUT_NAMES,
  RECEIPT_DIMENSIONS,
  type InvoiceRow,
  type PayoutRow,
  type ReceiptRow,
} from './part-rows';
import { accountPart, invoicePart, payoutPart, receiptPart, type SheetPart } from './parts';

/** Whatever one match holds at most. */
export interface Held {
  readonly match_id: number | null;
  /** Who confirmed the match that holds it. */
  readonly holder: string | null;
}

/** Whether parts are shown, with their notes, or only booked. */
type ShelfUse = 'sheets' | 'entries';

/** Looks the parts of one kind up by their ids; nothing is asked where there are none. */
async function ofKind<Row extends { readonly id: number }>(
  parts: readonly PartInput[] = [],
  read: (ids: RawBuilder<unknown>) => Promise<readonly Row[]>,
): Promise<Map<number, Row>> {
  if (parts.length === 0) return new Map();
  const rows = await read(sql`(SELECT value FROM json_each(${JSON.stringify(parts.map(({ id }) => id))}))`);
  return new Map(rows.map((row) => [row.id, row]));
}

async function lookUp(db: Reading, inputs: readonly PartInput[], use: ShelfUse) {
  const columns = use === 'entries' ? PAYOUT_FOR_ENTRY : PAYOUT_COLUMNS;
  const byKind = groupBy(inputs, ({ kind }) => kind);
  const rowsOf = async <Row>(query: RawBuilder<Row>) => (await query.execute(db)).rows;
  return {
    payouts: await ofKind(byKind.get('payout'), (ids) =>
      readPacked(
        db,
        [...PAYOUT_NAMES, 'match_id', 'holder'],
        sql<PayoutRow & Held>`
      SELECT ${columns}, p.match_id, m.actor AS holder
      FROM payout p LEFT JOIN match m ON m.id = p.match_id WHERE p.id IN ${ids}`,
      ),
    ),
    receipts: await ofKind(byKind.get('receipt'), (ids) =>
      rowsOf(sql<ReceiptRow & Held & { payout_ref: string; journal_id: number | null }>`
      SELECT r.*, y.name AS payer, m.actor AS holder, ${RECEIPT_DIMENSIONS} AS dimensions FROM receipt r
      LEFT JOIN payer y ON y.id = r.payer_id LEFT JOIN match m ON m.id = r.match_id WHERE r.id IN ${ids}`),
    ),
    invoices: await ofKind(byKind.get('invoice'), (ids) =>
      rowsOf(sql<InvoiceRow & { journal_id: number | null }>`
      SELECT i.id, i.number, i.issued, y.id AS payerId, y.name AS payer, i.gross - i.paid AS open, i.journal_id
      FROM invoice i JOIN payer y ON y.id = i.payer_id WHERE i.id IN ${ids}`),
    ),
    lines: await ofKind(byKind.get('line'), (ids) =>
      rowsOf(sql<LineRow & Held & { aside: string | null }>`
      SELECT ${LINE_COLUMNS}, l.aside, l.match_id, m.actor AS holder
      FROM statement_line l LEFT JOIN match m ON m.id = l.match_id WHERE l.id IN ${ids}`),
    ),
  };
}

/**
 * Looks up the parts of many sheets at once and hands them out sheet by sheet. A payout or receipt is given to one sheet
 * only; of an invoice, what earlier sheets took is no longer open.
 */
export class PartsShelf {
  private readonly given = new Set<string>();
  private readonly applied = new Map<number, Minor>();

  private constructor(
    private readonly accounts: AccountShelf,
    private readonly rows: Awaited<ReturnType<typeof lookUp>>,
    private readonly channels: Awaited<ReturnType<typeof channelBookings>>,
    private readonly receivable: Awaited<ReturnType<typeof receivableOf>>,
    private readonly currency: Currency,
    private readonly early: ReadonlyMap<number, EarlyInvoice>,
    private readonly discounts: AccountId | null,
    private readonly transit: AccountId | null,
  ) {}

  static async of(db: Reading, inputs: readonly PartInput[], currency: Currency, use: ShelfUse): Promise<PartsShelf> {
    const invoices = inputs.flatMap((part) => (part.kind === 'invoice' ? [part.id] : []));
    const discounts = await db
      .selectFrom('account')
      .select('id')
      .where('role', '=', 'discounts')
      .orderBy('id')
      .executeTakeFirst();
    return new PartsShelf(
      await AccountShelf.of(db, inputs),
      await lookUp(db, inputs, use),
      await channelBookings(db),
      await receivableOf(db),
      currency,
      await earlyPayments(db, invoices),
      discounts?.id ?? null,
      await transitAccount(db),
    );
  }

  /** The parts of a sheet as {@link take} would give them, without giving them away. */
  look(inputs: readonly PartInput[], day: PlainDate): { readonly parts: SheetPart[] } | { readonly refusal: Refusal } {
    const parts = inputs.map((input) => this.part(input, day));
    const refusal = parts.find((part): part is Refusal => 'code' in part);
    return refusal ? { refusal } : { parts: parts as SheetPart[] };
  }

  /** Takes the line of a sheet itself, so that no other sheet lays it; false where one did. */
  takeLine(id: number): boolean {
    const key = `line/${id}`;
    if (this.given.has(key)) return false;
    this.given.add(key);
    return true;
  }

  /** The parts of one sheet on the day of its line, or why they cannot be laid: each must be free, posted and large enough. */
  take(inputs: readonly PartInput[], day: PlainDate): { readonly parts: SheetPart[] } | { readonly refusal: Refusal } {
    const parts: SheetPart[] = [];
    for (const input of inputs) {
      const key = `${input.kind}/${input.id}`;
      if (input.kind === 'account') {
        const part = this.part(input, day);
        if ('code' in part) return { refusal: part };
        parts.push(part);
        continue;
      }
      if (input.kind !== 'invoice' && this.given.has(key)) return { refusal: twice() };
      if (parts.some((part) => part.kind === input.kind && part.id === input.id)) return { refusal: twice() };
      const part = this.part(input, day);
      if ('code' in part) return { refusal: part };
      parts.push(part);
    }
    for (const part of parts) {
      if (part.part.kind === 'invoice')
        this.applied.set(part.id, sum([this.applied.get(part.id) ?? ZERO, part.net, takenOff(part.part)]));
      else if (part.part.kind !== 'account') this.given.add(`${part.kind}/${part.id}`);
    }
    return { parts };
  }

  private part(input: PartInput, day: PlainDate): SheetPart | Refusal {
    const missing: Refusal = { code: 'not-found', what: input.kind, id: String(input.id) };
    switch (input.kind) {
      case 'account': {
        const row = this.accounts.row(input);
        return 'code' in row ? row : accountPart(input, row, day);
      }
      case 'line': {
        const row = this.rows.lines.get(input.id);
        if (!row) return missing;
        const part = linePart(row, day, this.transit);
        if (row.match_id !== null) return { code: 'part-taken', part: part.title, by: row.holder! };
        if (row.currency !== this.currency)
          return { code: 'part-other-currency', part: part.title, is: row.currency, currency: this.currency };
        return row.aside === null ? part : { code: 'part-aside', part: part.title, aside: row.aside };
      }
      case 'payout': {
        const row = this.rows.payouts.get(input.id);
        if (!row) return missing;
        const part = payoutPart(row, this.channels);
        return row.match_id === null ? part : { code: 'part-taken', part: part.title, by: row.holder! };
      }
      case 'receipt': {
        const row = this.rows.receipts.get(input.id);
        if (!row) return missing;
        const part = receiptPart(row, this.channels);
        if (row.match_id !== null) return { code: 'part-taken', part: part.title, by: row.holder! };
        if (row.payout_ref !== '') return { code: 'part-in-payout', part: part.title, payout: row.payout_ref };
        return row.journal_id === null ? { code: 'part-not-posted', part: part.title } : part;
      }
      case 'invoice': {
        const row = this.rows.invoices.get(input.id);
        if (!row) return missing;
        const open = subtract(row.open, this.applied.get(row.id) ?? ZERO);
        const shares = this.discounts === null ? undefined : this.early.get(row.id)?.taken(input.amount, open, day);
        const early = shares ? { discounts: this.discounts!, shares } : null;
        const part = invoicePart({ ...row, open }, input.amount, this.receivable, early);
        if (row.journal_id === null) return { code: 'part-not-posted', part: part.title };
        if (input.amount <= open) return part;
        return { code: 'part-too-large', part: part.title, open, asked: input.amount, currency: this.currency };
      }
    }
  }
}

const twice = (): Refusal => ({ code: 'invalid-input', field: 'parts', expected: 'each part once' });
