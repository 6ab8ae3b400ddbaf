import type { PlainDate } from '@/core/calendar';
import { imbalance, type AccountId, type EntryLine } from '@/core/ledger';
import { minor, type Currency, type Minor } from '@/core/money';
import type { CommandContext } from '../command';
import type { JournalSource, Writing } from '../store';

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

interface DayTotal {
  account: AccountId;
  day: PlainDate;
  debit: number;
  credit: number;
  lines: number;
}

/**
 * Writes journals: lines first, then the head that seals them (the database refuses what does not balance or is dated
 * in a closed period), and at the end the day totals. One writer serves one transaction; {@link finish} must be called.
 */
export class JournalWriter {
  private readonly totals = new Map<string, DayTotal>();
  private constructor(
    private readonly tx: Writing,
    private readonly currency: Currency,
    private readonly context: CommandContext,
    private next: number,
    private readonly insertLine: ReturnType<Writing['bulk']>,
    private readonly insertJournal: ReturnType<Writing['bulk']>,
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

  /** Writes and seals one journal and gives its id. */
  write(journal: PlannedJournal): number {
    if (imbalance(journal.lines) !== 0) throw new Error(`journal for ${journal.memo} does not balance`);
    const id = this.next++;
    let lineNo = 0;
    for (const { account, amount, because } of journal.lines) {
      this.insertLine(id, ++lineNo, account, journal.date, amount, this.currency, amount, JSON.stringify(because));
      this.count(account, journal.date, amount);
    }
    const { kind, id: sourceId, revision } = journal.source;
    this.insertJournal(
      id,
      journal.date,
      kind,
      sourceId,
      revision,
      journal.reverses ?? null,
      journal.memo,
      this.context.now.toISOString(),
      this.context.actor.name,
    );
    return id;
  }

  private count(account: AccountId, day: PlainDate, amount: Minor): void {
    const key = `${account}|${day}`;
    let total = this.totals.get(key);
    if (total === undefined) this.totals.set(key, (total = { account, day, debit: 0, credit: 0, lines: 0 }));
    if (amount > 0) total.debit += amount;
    else total.credit -= amount;
    total.lines++;
  }

  /** Adds what was written to the day totals and gives the movement of each account, in order of the accounts. */
  async finish(): Promise<Movement[]> {
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
