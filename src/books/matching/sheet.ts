import { sql } from 'kysely';
import type { PlainDate } from '@/core/calendar';
import { reasonWords, type Certainty, type Reason } from '@/core/matching';
import type { AccountId } from '@/core/ledger';
import type { Currency, Minor } from '@/core/money';
import { PartsShelf } from './load-parts';
import type { Reading } from '../store';
import { confirmedParts, confirmedSheet, type ConfirmedSheet } from './confirmed';
import { laidParts, partInputs } from './kept-parts';
import type { PartInput } from './part-input';
import type { SheetPart } from './parts';

/** Another way to explain the line. */
export interface SheetWay {
  readonly parts: readonly SheetPart[];
  readonly restTo: AccountId | null;
  readonly because: readonly string[];
}

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
  /** Where the rest of what is laid is proposed to go; null where there is none. */
  readonly restTo: AccountId | null;
  readonly because: readonly string[];
  readonly others: readonly SheetWay[];
  readonly confirmed: ConfirmedSheet | null;
}

interface ProposedWay {
  readonly laid: boolean;
  readonly restTo: AccountId | null;
  readonly parts: readonly PartInput[];
  readonly reasons: readonly Reason[];
}

/** The ways that a line's proposal names, best first. */
async function proposedWays(db: Reading, line: number): Promise<ProposedWay[]> {
  const { rows } = await sql<{ laid: 0 | 1; restTo: AccountId | null; reasons: string; parts: string }>`
    SELECT w.laid, w.rest_account_id AS restTo, w.reasons, ${laidParts(sql`w.statement_line_id`, sql`w.rank`)} AS parts
    FROM proposal_way w WHERE w.statement_line_id = ${line} ORDER BY w.rank
  `.execute(db);
  return rows.map(({ laid, restTo, reasons, parts }) => ({
    laid: laid === 1,
    restTo,
    parts: partInputs(parts),
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
    details: await db
      .selectFrom('statement_line_detail')
      .select(['amount', 'text', 'counterparty'])
      .where('line_id', '=', id)
      .orderBy('no')
      .execute(),
  };
  if (line.match_id !== null) {
    return {
      line: head,
      certainty: null,
      parts: await confirmedParts(db, line.match_id, { id, date: line.book_date }),
      restTo: null,
      because: [],
      others: [],
      confirmed: await confirmedSheet(db, line.match_id, line),
    };
  }
  const proposal = await db.selectFrom('proposal').selectAll().where('statement_line_id', '=', id).executeTakeFirst();
  const words = (reasons: readonly Reason[]) => reasons.map((reason) => reasonWords(reason, line.currency));
  const ways = await proposedWays(db, id);
  const shelf = await PartsShelf.of(
    db,
    ways.flatMap((way) => way.parts),
    line.currency,
    'sheets',
  );
  // What was posted, matched or taken back since is no part any more; a way that lacks one is no way.
  const shown = ways.flatMap(({ laid, restTo, parts, reasons }) => {
    const found = shelf.look(parts, line.book_date);
    return 'refusal' in found ? [] : [{ laid, parts: found.parts, restTo, because: words(reasons) }];
  });
  const laid = shown.find((way) => way.laid);
  return {
    line: head,
    certainty: proposal?.certainty ?? 'none',
    parts: laid?.parts ?? [],
    restTo: laid?.restTo ?? null,
    because: proposal ? words(JSON.parse(proposal.reasons) as Reason[]) : [],
    others: shown.filter((way) => !way.laid),
    confirmed: null,
  };
}
