import { sql } from 'kysely';
import type { EntryLine } from '@/core/ledger';
import type { Minor } from '@/core/money';
import { refusalWords, type Refusal, type RefusalWords } from '../command';
import type { Reading } from '../store';
import { balanceMoves, type BalanceMove } from './balances';
import { accountNames, viewLines, type EntryView } from './entry-view';
import type { JournalWriter, PlannedJournal } from './journal-writer';

/** Refusals listed one by one; more are only counted. */
export const REFUSALS_LISTED = 50;

/** One thing that was not posted, and why. */
export interface NotPosted {
  readonly name: string;
  readonly refusal: Refusal;
  readonly words: RefusalWords;
}

/** What a posting wrote, or would write. */
export interface Posting {
  readonly posted: number;
  /** Gross of what was posted, minor units. */
  readonly gross: Minor;
  readonly notPostedCount: number;
  readonly notPosted: readonly NotPosted[];
  /** The entry where it is one; null where several were posted. */
  readonly entry: EntryView | null;
  readonly moves: readonly BalanceMove[];
  /** Ids of the journals written, which follow each other; null where there are none. */
  readonly journals: { readonly from: number; readonly to: number } | null;
}

/** Gathers what a posting command writes and makes the report of it. */
export class PostingReport {
  private posted = 0;
  private written = 0;
  private gross = 0;
  private notPostedCount = 0;
  private readonly notPosted: NotPosted[] = [];
  private first: PlannedJournal | null = null;
  private from = 0;
  private to = 0;

  constructor(private readonly writer: JournalWriter) {}

  /** Takes an entry in. `documents` is how many receipts or invoices it stands for. */
  post(journal: PlannedJournal, gross: Minor, documents = 1): number {
    const id = this.writer.write(journal);
    this.first ??= journal;
    this.written++;
    this.posted += documents;
    this.gross += gross;
    this.from ||= id;
    this.to = id;
    return id;
  }

  /** Writes what is held back, before documents refer to it. */
  flush(): void {
    this.writer.flush();
  }

  leave(name: string, refusal: Refusal): void {
    this.notPostedCount++;
    if (this.notPosted.length < REFUSALS_LISTED) this.notPosted.push({ name, refusal, words: refusalWords(refusal) });
  }

  async finish(db: Reading): Promise<Posting> {
    const moves = await balanceMoves(db, await this.writer.finish());
    return {
      posted: this.posted,
      gross: this.gross as Minor,
      notPostedCount: this.notPostedCount,
      notPosted: this.notPosted,
      entry: this.written === 1 ? await entryView(db, this.first!, moves) : null,
      moves,
      journals: this.posted === 0 ? null : { from: this.from, to: this.to },
    };
  }
}

/** An entry about to be written, or just written, as shown. */
export async function entryView(
  db: Reading,
  journal: Pick<PlannedJournal, 'date' | 'memo'> & { readonly lines: readonly EntryLine[] },
  moves: readonly BalanceMove[],
): Promise<EntryView> {
  return {
    date: journal.date,
    memo: journal.memo,
    lines: viewLines(journal.lines, await accountNames(db)),
    moves,
  };
}

/** Rows of two numbers for set-based updates: `FROM ${pairs(...)}` gives columns a and b. */
export function pairs(rows: readonly (readonly [number, number])[]) {
  return sql`(SELECT value ->> 0 AS a, value ->> 1 AS b FROM json_each(${JSON.stringify(rows)}))`;
}
