import { sql } from 'kysely';
import type { PlainDate } from '@/core/calendar';
import { reasonWords, type Certainty, type Reason } from '@/core/matching';
import type { AccountId } from '@/core/ledger';
import type { Currency, Minor } from '@/core/money';
import { postedJournal, type PostedJournal } from '../ledger/entry-view';
import { PartsShelf } from './load-parts';
import { containing } from '../receipts/filter';
import type { Reading } from '../store';
import { AccountShelf } from './account-parts';
import {
  accountPart,
  channelBookings,
  invoicePart,
  partInput,
  PAYOUT_COLUMNS,
  payoutPart,
  receiptPart,
  receivableOf,
  type AccountPartInput,
  type InvoiceRow,
  type PartInput,
  type PayoutRow,
  type ReceiptRow,
  type SheetPart,
} from './parts';

/** The working sheet of one statement line. */
export interface Sheet {
  readonly line: {
    readonly id: number;
    readonly date: PlainDate;
    readonly valueDate: PlainDate;
    readonly amount: Minor;
    readonly currency: Currency;
    readonly text: string;
    readonly counterparty: string;
    readonly reference: string;
    readonly account: AccountId;
    readonly file: string;
    readonly fileLine: number;
    /** Why nothing is to be explained of it. */
    readonly aside: string | null;
    /** What it is a sum of, where the bank says so. */
    readonly details: readonly { readonly amount: Minor; readonly text: string; readonly counterparty: string }[];
  };
  readonly certainty: Certainty | null;
  /** What is proposed, ready-made; empty where the user lays the parts. */
  readonly parts: readonly SheetPart[];
  readonly because: readonly string[];
  readonly others: readonly { readonly parts: readonly SheetPart[]; readonly because: readonly string[] }[];
  readonly confirmed: ConfirmedSheet | null;
}

export interface ConfirmedSheet {
  readonly match: number;
  readonly at: string;
  readonly actor: string;
  readonly certainty: string;
  readonly because: readonly string[];
  readonly rest: Minor;
  readonly restAccount: string | null;
  readonly journal: PostedJournal;
}

async function payoutsOf(db: Reading, ids: readonly number[]): Promise<SheetPart[]> {
  if (ids.length === 0) return [];
  const channels = await channelBookings(db);
  const { rows } = await sql<PayoutRow>`
    SELECT ${PAYOUT_COLUMNS} FROM payout p WHERE p.id IN (SELECT value FROM json_each(${JSON.stringify(ids)}))
  `.execute(db);
  const byId = new Map(rows.map((row) => [row.id, payoutPart(row, channels)]));
  return ids.flatMap((id) => byId.get(id) ?? []);
}

async function confirmedParts(db: Reading, match: number, date: PlainDate): Promise<SheetPart[]> {
  const channels = await channelBookings(db);
  const receivable = await receivableOf(db);
  const parts = await db
    .selectFrom('match_part')
    .selectAll()
    .where('match_id', '=', match)
    .orderBy('part_no')
    .execute();
  const idsOf = (kind: string) => parts.filter((part) => part.kind === kind).map((part) => part.ref_id);
  const payouts = await payoutsOf(db, idsOf('payout'));
  const receipts = await receiptRowsById(db, idsOf('receipt'));
  const invoices = await invoiceRowsById(db, idsOf('invoice'));
  const accounts = await AccountShelf.of(db, parts.some(({ kind }) => kind === 'account') ? [{ kind: 'account' } as AccountPartInput] : []); // prettier-ignore
  return parts.flatMap((part) => {
    switch (part.kind) {
      case 'payout':
        return payouts.find((p) => p.id === part.ref_id) ?? [];
      case 'receipt': {
        const row = receipts.find((r) => r.id === part.ref_id);
        // The fee as it was confirmed, whatever the schedule says today.
        return row ? { ...receiptPart(row, channels), fee: part.fee, net: (part.gross - part.fee) as Minor } : [];
      }
      case 'account': {
        const input = partInput.parse({ ...(JSON.parse(part.detail) as object), kind: 'account', id: part.ref_id, amount: part.gross }) as AccountPartInput; // prettier-ignore
        const row = accounts.row(input);
        return 'code' in row ? [] : accountPart(input, row, date);
      }
      case 'invoice': {
        const row = invoices.find((i) => i.id === part.ref_id);
        return row ? invoicePart(row, part.gross, receivable) : [];
      }
    }
  });
}

async function receiptRowsById(db: Reading, ids: readonly number[]): Promise<ReceiptRow[]> {
  if (ids.length === 0) return [];
  const { rows } = await sql<ReceiptRow>`
    SELECT r.*, y.name AS payer FROM receipt r LEFT JOIN payer y ON y.id = r.payer_id
    WHERE r.id IN (SELECT value FROM json_each(${JSON.stringify(ids)}))
  `.execute(db);
  return rows;
}

async function invoiceRowsById(db: Reading, ids: readonly number[]): Promise<InvoiceRow[]> {
  if (ids.length === 0) return [];
  const { rows } = await sql<InvoiceRow>`
    SELECT i.id, i.number, i.issued, y.name AS payer, i.gross - i.paid AS open
    FROM invoice i JOIN payer y ON y.id = i.payer_id
    WHERE i.id IN (SELECT value FROM json_each(${JSON.stringify(ids)}))
  `.execute(db);
  return rows;
}

async function confirmedSheet(db: Reading, match: number, currency: Currency): Promise<ConfirmedSheet> {
  const row = await db
    .selectFrom('match')
    .leftJoin('account', 'account.id', 'match.rest_account_id')
    .selectAll('match')
    .select(['account.code', 'account.name'])
    .where('match.id', '=', match)
    .executeTakeFirstOrThrow();
  return {
    match,
    at: row.confirmed_at,
    actor: row.actor,
    certainty: row.certainty,
    because: (JSON.parse(row.reasons) as Reason[]).map((reason) => reasonWords(reason, currency)),
    rest: row.rest,
    restAccount: row.code === null ? null : `${row.code} ${row.name}`,
    journal: (await postedJournal(db, row.journal_id))!,
  };
}

interface ProposedWay {
  readonly laid: boolean;
  readonly parts: readonly PartInput[];
  readonly reasons: readonly Reason[];
}

/** The ways that a line's proposal names, best first. */
async function proposedWays(db: Reading, line: number): Promise<ProposedWay[]> {
  const { rows } = await sql<{ laid: 0 | 1; reasons: string; parts: string }>`
    SELECT w.laid, w.reasons, (SELECT json_group_array(json_patch(detail, json_object('kind', kind, 'id', ref_id, 'amount', amount))) FROM (
      SELECT * FROM proposal_part p WHERE p.statement_line_id = w.statement_line_id AND p.rank = w.rank ORDER BY no)) AS parts
    FROM proposal_way w WHERE w.statement_line_id = ${line} ORDER BY w.rank
  `.execute(db);
  return rows.map(({ laid, reasons, parts }) => ({
    laid: laid === 1,
    parts: partInput.array().parse(JSON.parse(parts)),
    reasons: JSON.parse(reasons) as Reason[],
  }));
}

/** The sheet of a line: what is proposed or confirmed, why, and what else it could be. */
export async function workingSheet(db: Reading, id: number): Promise<Sheet | null> {
  const line = await db
    .selectFrom('statement_line')
    .innerJoin('run', 'run.id', 'statement_line.run_id')
    .selectAll('statement_line')
    .select('run.file_name')
    .where('statement_line.id', '=', id)
    .executeTakeFirst();
  if (!line) return null;
  const head: Sheet['line'] = {
    id,
    date: line.book_date,
    valueDate: line.value_date,
    amount: line.amount,
    currency: line.currency,
    text: line.text,
    counterparty: line.counterparty,
    reference: line.reference,
    account: line.account_id,
    file: line.file_name,
    fileLine: line.file_line,
    aside: line.aside,
    details: await db.selectFrom('statement_line_detail').select(['amount', 'text', 'counterparty']).where('line_id', '=', id).orderBy('no').execute(), // prettier-ignore
  };
  if (line.match_id !== null) {
    return {
      line: head,
      certainty: null,
      parts: await confirmedParts(db, line.match_id, line.book_date),
      because: [],
      others: [],
      confirmed: await confirmedSheet(db, line.match_id, line.currency),
    };
  }
  const proposal = await db.selectFrom('proposal').selectAll().where('statement_line_id', '=', id).executeTakeFirst();
  const words = (reasons: readonly Reason[]) => reasons.map((reason) => reasonWords(reason, line.currency));
  const ways = await proposedWays(db, id);
  const shelf = await PartsShelf.of(
    db,
    ways.flatMap((way) => way.parts),
    line.currency,
  );
  // What was posted, matched or taken back since is no part any more; a way that lacks one is no way.
  const shown = ways.flatMap(({ laid, parts, reasons }) => {
    const found = shelf.look(parts, line.book_date);
    return 'refusal' in found ? [] : [{ laid, parts: found.parts, because: words(reasons) }];
  });
  return {
    line: head,
    certainty: proposal?.certainty ?? 'none',
    parts: shown.find(({ laid }) => laid)?.parts ?? [],
    because: proposal ? words(JSON.parse(proposal.reasons) as Reason[]) : [],
    others: shown.filter(({ laid }) => !laid),
    confirmed: null,
  };
}

async function notPostedReceipts(db: Reading): Promise<number> {
  const { n } = await db
    .selectFrom('receipt')
    .select((e) => e.fn.countAll<number>().as('n'))
    .where('journal_id', 'is', null)
    .where('aside', 'is', null)
    .where('payout_ref', '=', '')
    .executeTakeFirstOrThrow();
  return n;
}

const CANDIDATES_PER_KIND = 40;

/** Receipts this many days older than the line are not offered unless they are searched for. */
const DAYS_BACK = 21;

export interface Candidates {
  readonly payouts: readonly SheetPart[];
  readonly receipts: readonly SheetPart[];
  readonly invoices: readonly SheetPart[];
  /** Receipts that no payout carries and that cannot be laid yet because they are not posted. */
  readonly notPosted: number;
}

/**
 * What could be laid on the sheet of a line: free payouts nearest in amount, receipts that no payout carries, newest
 * first, and open invoices. A text narrows by id, payer, document or note; an amount (minor units) by gross or net.
 */
export async function candidates(
  db: Reading,
  lineId: number,
  find: { readonly text: string; readonly amount: Minor | null },
): Promise<Candidates> {
  const line = await db.selectFrom('statement_line').selectAll().where('id', '=', lineId).executeTakeFirstOrThrow();
  const channels = await channelBookings(db);
  const receivable = await receivableOf(db);
  const like = containing(find.text);
  const says = (columns: string[]) =>
    find.text === '' || find.amount !== null
      ? sql`1`
      : sql`(${sql.join(
          columns.map((column) => sql`${sql.ref(column)} LIKE ${like} ESCAPE '\\'`),
          sql` OR `,
        )})`;
  const amounts = (column: string) =>
    find.amount === null ? sql`1` : sql`${sql.ref(column)} = ${Math.abs(find.amount)}`;
  const payouts = await sql<PayoutRow>`
    SELECT ${PAYOUT_COLUMNS} FROM payout p
    WHERE p.match_id IS NULL AND ${says(['p.external_id'])} AND ${amounts('p.net')}
    ORDER BY abs(p.net - ${line.amount}), p.book_date DESC LIMIT ${CANDIDATES_PER_KIND}
  `.execute(db);
  const searching = find.text !== '';
  const receipts = await sql<ReceiptRow>`
    SELECT r.id, r.channel_id, r.external_id, r.book_date, r.gross, r.fee, r.not_held, y.name AS payer, r.document, r.note
    FROM receipt r LEFT JOIN payer y ON y.id = r.payer_id
    WHERE r.payout_ref = '' AND r.match_id IS NULL AND r.journal_id IS NOT NULL AND r.not_held <> r.gross
      AND r.currency = (SELECT currency FROM books)
      AND ${searching ? sql`1` : sql`r.book_date BETWEEN date(${line.book_date}, ${`-${DAYS_BACK} days`}) AND ${line.book_date}`}
      AND ${says(['r.external_id', 'y.name', 'r.document', 'r.note'])} AND ${amounts('r.gross')}
    ORDER BY r.book_date DESC, r.id DESC LIMIT ${CANDIDATES_PER_KIND}
  `.execute(db);
  const invoices = await sql<InvoiceRow>`
    SELECT i.id, i.number, i.issued, y.name AS payer, i.gross - i.paid AS open
    FROM invoice i JOIN payer y ON y.id = i.payer_id
    WHERE i.journal_id IS NOT NULL AND i.paid < i.gross AND ${line.amount} > 0
      AND ${says(['i.number', 'y.name'])} AND ${find.amount === null ? sql`1` : sql`i.gross - i.paid = ${find.amount}`}
    ORDER BY abs(i.gross - i.paid - ${line.amount}), i.due LIMIT ${CANDIDATES_PER_KIND}
  `.execute(db);
  return {
    payouts: payouts.rows.map((row) => payoutPart(row, channels)),
    receipts: receipts.rows.map((row) => receiptPart(row, channels)),
    notPosted: await notPostedReceipts(db),
    invoices: invoices.rows.map((row) => invoicePart(row, row.open, receivable)),
  };
}
