import { sql } from 'kysely';
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

/** Lines are written some hundred journals at a time, after their heads. */
const JOURNALS_HELD = 400;

interface DayTotal {
  debit: number;
  credit: number;
  lines: number;
  /** Debits less credits in the account's own currency. */
  own: number;
}

/**
 * Writes the journals of one command: heads and lines in bulk, and at the end the seal over all of them (the database
 * then refuses what does not balance or is dated in a closed period) and the day totals. Journals are held back and
 * written together: whoever refers to one calls {@link flush} first. {@link finish} must be called in any case.
 */
export class JournalWriter {
  private held: (readonly [id: number, journal: PlannedJournal])[] = [];
  private readonly totals = new Map<PlainDate, Map<AccountId, DayTotal>>();
  private readonly first: number;

  private constructor(
    private readonly tx: Writing,
    private readonly currency: Currency,
    private readonly context: CommandContext,
    private next: number,
    private readonly seal: number,
    private readonly lines: BulkInsert,
    private readonly heads: BulkInsert,
    private readonly dimensions: BulkInsert,
  ) {
    this.first = next;
  }

  static async open(tx: Writing, context: CommandContext): Promise<JournalWriter> {
    const books = await tx.db.selectFrom('books').select('currency').executeTakeFirstOrThrow();
    const last = await tx.db
      .selectFrom('seal')
      .select((e) => [
        e.fn.coalesce(e.fn.max('id'), e.lit(0)).as('seal'),
        e.fn.coalesce(e.fn.max('last_journal'), e.lit(0)).as('journal'),
      ])
      .executeTakeFirstOrThrow();
    return new JournalWriter(
      tx,
      books.currency,
      context,
      Number(last.journal) + 1,
      Number(last.seal) + 1,
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
        'seal_id',
        'book_date',
        'source_kind',
        'source_id',
        'revision',
        'reverses_id',
        'memo',
        'posted_at',
        'actor',
      ]),
      tx.bulk('journal_line_dimension', ['journal_id', 'line_no', 'dimension_id', 'value_id']),
    );
  }

  /** Takes one journal in to be written and sealed, and gives its id. */
  write(journal: PlannedJournal): number {
    if (imbalance(journal.lines) !== 0) throw new Error(`journal for ${journal.memo} does not balance`);
    const id = this.next++;
    this.held.push([id, journal]);
    if (this.held.length >= JOURNALS_HELD) this.flush();
    return id;
  }

  /** Writes what is held: the heads, then their lines. To be called before anything refers to them. */
  flush(): void {
    const at = this.context.now.toISOString();
    const actor = this.context.actor.name;
    for (const [id, { date, source, memo, reverses }] of this.held) {
      this.heads.add(id, this.seal, date, source.kind, source.id, source.revision, reverses ?? null, memo, at, actor);
    }
    this.heads.flush();
    for (const [id, { date, lines }] of this.held) {
      let lineNo = 0;
      for (const { account, amount, because, foreign } of lines) {
        const own = foreign?.amount ?? amount;
        const currency = foreign?.currency ?? this.currency;
        this.lines.add(id, ++lineNo, account, date, own, currency, amount, JSON.stringify(because));
        this.count(account, date, amount, own);
      }
    }
    this.lines.flush();
    for (const [id, { lines }] of this.held) {
      for (const [index, { dimensions }] of lines.entries()) {
        for (const [dimension, value] of dimensions ?? []) this.dimensions.add(id, index + 1, dimension, value);
      }
    }
    this.dimensions.flush();
    this.held = [];
  }

  private count(account: AccountId, day: PlainDate, amount: Minor, own: Minor): void {
    let accounts = this.totals.get(day);
    if (accounts === undefined) this.totals.set(day, (accounts = new Map()));
    let total = accounts.get(account);
    if (total === undefined) accounts.set(account, (total = { debit: 0, credit: 0, lines: 0, own: 0 }));
    if (amount > 0) total.debit += amount;
    else total.credit -= amount;
    total.lines++;
    total.own += own;
  }

  private async addToDays(): Promise<void> {
    const rows = [...this.totals].flatMap(([day, accounts]) =>
      [...accounts].map(([account, { debit, credit, lines, own }]) => [account, day, debit, credit, lines, own]),
    );
    await sql`
      INSERT INTO account_day (account_id, day, debit, credit, lines, own)
      SELECT value ->> 0, value ->> 1, value ->> 2, value ->> 3, value ->> 4, value ->> 5 FROM json_each(${JSON.stringify(rows)})
      WHERE true
      ON CONFLICT (account_id, day) DO UPDATE SET
        debit = debit + excluded.debit, credit = credit + excluded.credit, lines = lines + excluded.lines,
        own = own + excluded.own
    `.execute(this.tx.db);
  }

  /**
   * Writes what is held, seals all of it, adds it to the day totals and gives the movement of each account, in order of
   * the accounts.
   */
  async finish(): Promise<Movement[]> {
    this.flush();
    if (this.next > this.first) {
      await this.tx.db
        .insertInto('seal')
        .values({ id: this.seal, first_journal: this.first, last_journal: this.next - 1 })
        .execute();
      await this.addToDays();
    }
    const movements = new Map<AccountId, { debit: number; credit: number }>();
    for (const accounts of this.totals.values()) {
      for (const [account, { debit, credit }] of accounts) {
        const movement = movements.get(account) ?? { debit: 0, credit: 0 };
        movement.debit += debit;
        movement.credit += credit;
        movements.set(account, movement);
      }
    }
    return [...movements]
      .sort(([a], [b]) => a - b)
      .map(([account, { debit, credit }]) => ({ account, debit: minor(debit), credit: minor(credit) }));
  }
}
