import type { PlainDate } from '@/core/calendar';
import { imbalance, type AccountId, type EntryLine } from '@/core/ledger';
import { minor, type Currency, type Minor } from '@/core/money';
import type { CommandContext } from '../command';
import type { BulkInsert, JournalSource, Writing } from '../store';

/** One journal about to be written. */
export interface PlannedJournal {
  readonly date: PlainDate;
  readonly source: { readonly kind: JournalSource; readonly id: number; readonly revision: number };
  readonly memo: string;
  readonly lines: readonly EntryLine[];
  readonly reverses?: number;
}

/** What a balance moves by, minor units. */
export interface Movement {
  readonly account: AccountId;
  readonly debit: Minor;
  readonly credit: Minor;
}

/** Heads are written some hundred at a time, so that their lines go in many to a statement. */
const HEADS_HELD = 400;

interface DayTotal {
  account: AccountId;
  day: PlainDate;
  debit: number;
  credit: number;
  lines: number;
}

/**
 * Writes journals: lines first, then the head that seals them (the database refuses what does not balance or is dated
 * in a closed period), and at the end the day totals. Journals are held back and written together: whoever refers to
 * one calls {@link seal} first. {@link finish} must be called in any case.
 */
export class JournalWriter {
  private heldHeads: (string | number | null)[][] = [];
  private readonly totals = new Map<string, DayTotal>();
  private constructor(
    private readonly tx: Writing,
    private readonly currency: Currency,
    private readonly context: CommandContext,
    private next: number,
    private readonly lines: BulkInsert,
    private readonly heads: BulkInsert,
  ) {}

  static async open(tx: Writing, context: CommandContext): Promise<JournalWriter> {
    const books = await tx.db.selectFrom('books').select('currency').executeTakeFirstOrThrow();
    const { last } = await tx.db
      .selectFrom('journal')
      .select((e) => e.fn.coalesce(e.fn.max('id'), e.lit(0)).as('last'))
      .executeTakeFirstOrThrow();
    return new JournalWriter(
      tx,
      books.currency,
      context,
      Number(last) + 1,
      tx.bulk('journal_line', [
        'journal_id',
        'line_no',
        'account_id',
        'book_date',
        'amount',
        'currency',
        'base_amount',
        'because',
      ]),
      tx.bulk('journal', [
        'id',
        'book_date',
        'source_kind',
        'source_id',
        'revision',
        'reverses_id',
        'memo',
        'posted_at',
        'actor',
      ]),
    );
  }

  /** Takes one journal in to be written and sealed, and gives its id. */
  write(journal: PlannedJournal): number {
    if (imbalance(journal.lines) !== 0) throw new Error(`journal for ${journal.memo} does not balance`);
    const id = this.next++;
    let lineNo = 0;
    for (const { account, amount, because } of journal.lines) {
      this.lines.add(id, ++lineNo, account, journal.date, amount, this.currency, amount, JSON.stringify(because));
      this.count(account, journal.date, amount);
    }
    const { kind, id: sourceId, revision } = journal.source;
    this.heldHeads.push([
      id,
      journal.date,
      kind,
      sourceId,
      revision,
      journal.reverses ?? null,
      journal.memo,
      this.context.now.toISOString(),
      this.context.actor.name,
    ]);
    if (this.heldHeads.length >= HEADS_HELD) this.seal();
    return id;
  }

  /** Writes what is held: the lines first, then the heads that seal them. To be called before anything refers to them. */
  seal(): void {
    this.lines.flush();
    for (const head of this.heldHeads) this.heads.add(...head);
    this.heads.flush();
    this.heldHeads = [];
  }

  private count(account: AccountId, day: PlainDate, amount: Minor): void {
    const key = `${account}|${day}`;
    let total = this.totals.get(key);
    if (total === undefined) this.totals.set(key, (total = { account, day, debit: 0, credit: 0, lines: 0 }));
    if (amount > 0) total.debit += amount;
    else total.credit -= amount;
    total.lines++;
  }

  /** Writes what is held, adds it to the day totals and gives the movement of each account, in order of the accounts. */
  async finish(): Promise<Movement[]> {
    this.seal();
    const movements = new Map<AccountId, { debit: number; credit: number }>();
    for (const { account, day, debit, credit, lines } of this.totals.values()) {
      await this.tx.db
        .insertInto('account_day')
        .values({ account_id: account, day, debit: minor(debit), credit: minor(credit), lines })
        .onConflict((c) =>
          c.columns(['account_id', 'day']).doUpdateSet((e) => ({
            debit: e('account_day.debit', '+', e.ref('excluded.debit')),
            credit: e('account_day.credit', '+', e.ref('excluded.credit')),
            lines: e('account_day.lines', '+', e.ref('excluded.lines')),
          })),
        )
        .execute();
      const movement = movements.get(account) ?? { debit: 0, credit: 0 };
      movement.debit += debit;
      movement.credit += credit;
      movements.set(account, movement);
    }
    this.totals.clear();
    return [...movements]
      .sort(([a], [b]) => a - b)
      .map(([account, { debit, credit }]) => ({ account, debit: minor(debit), credit: minor(credit) }));
  }
}
