import { sql } from 'kysely';
import { z } from 'zod';
import { formatDay, type PlainDate } from '@/core/calendar';
import type { AccountId } from '@/core/ledger';
import type { Confirmable } from '@/core/matching';
import { formatAmount, negate, sum, ZERO, type Minor } from '@/core/money';
import { plural } from '@/core/words';
import { done, refuse, type Command, type CommandContext, type Refusal } from '../command';
import { balanceMoves } from '../ledger/balances';
import { refreshDoubled } from '../doubled/find';
import { JournalWriter, type Movement } from '../ledger/journal-writer';
import { entryView } from '../ledger/posting';
import type { EntryView } from '../ledger/entry-view';
import type { Reading, Writing } from '../store';
import { askAgain } from './ask-again';
import { laidParts, matchParts, partInputs, sheetOf, type KeptSheet } from './kept-parts';
import { channelsTold, learnFeeSteps } from './learn-fee-steps';
import { partInput } from './part-input';
import { refreshProposals, type Touched } from './proposals';
import type { SheetToConfirm } from './match-plan';
import { writeMatches, type WrittenMatch } from './write-matches';

const restTo = z.custom<AccountId>((value) => Number.isSafeInteger(value), 'an account').nullable();

export const matchInput = z.object({ line: z.number().int(), parts: z.array(partInput).max(5_000), restTo });
export type MatchInput = z.infer<typeof matchInput>;

export interface ConfirmedMatch {
  readonly match: number;
  readonly journal: number;
  readonly entry: EntryView;
  readonly left: Minor;
}

/** What these matches took out of what is free. */
function takenBy(written: readonly WrittenMatch[]): Touched {
  const amounts = new Set<Minor>();
  const days = new Set<PlainDate>();
  const gone = { payout: [] as number[], receipt: [] as number[], invoice: [] as number[], line: [] as number[] };
  for (const { line, parts } of written) {
    amounts.add(line.amount);
    days.add(line.book_date);
    gone.line.push(line.id);
    for (const { kind, id, net, date } of parts) {
      if (kind === 'account') continue;
      gone[kind].push(id);
      if (kind === 'payout') amounts.add(net);
      if (kind !== 'line') continue;
      amounts.add(negate(net));
      days.add(date);
    }
  }
  const { payout: payouts, receipt: receipts, invoice: invoices, line: lines } = gone;
  return { amounts: [...amounts], days: [...days], gone: { payouts, receipts, invoices, lines } };
}

/** Asks again what confirmed matches touch, and all that waits where they tell that a channel charges otherwise. */
async function askWhatIsTouched(tx: Writing, written: readonly WrittenMatch[], context: CommandContext): Promise<void> {
  await refreshProposals(tx, takenBy(written));
  const booked = written.filter(({ parts, restTo }) => restTo !== null || parts.some(({ kind }) => kind === 'account'));
  if (booked.length > 0) await refreshDoubled(tx, { lines: booked.map(({ line }) => line.id) });
  if (!written.some(({ parts }) => parts.some(({ kind, feeFrom }) => kind === 'receipt' && feeFrom !== 'channel')))
    return;
  const channels = await channelsTold(
    tx.db,
    written.map(({ match }) => match),
  );
  if (await learnFeeSteps(tx, channels)) await askAgain(tx, context);
}

interface Confirmed {
  readonly written: readonly WrittenMatch[];
  readonly movements: readonly Movement[];
}

/** Confirms these sheets, asks again what they touch, and says what moved; one that cannot be confirmed refuses all. */
export async function confirmSheets(
  tx: Writing,
  sheets: readonly SheetToConfirm[],
  context: CommandContext,
): Promise<Confirmed | { readonly refusal: Refusal }> {
  const writer = await JournalWriter.open(tx, context);
  const result = await writeMatches(tx, sheets, writer, context);
  if ('refusal' in result) return result;
  const movements = await writer.finish();
  await askWhatIsTouched(tx, result.written, context);
  return { written: result.written, movements };
}

async function currencyOf(db: Reading) {
  const { currency } = await db.selectFrom('books').select('currency').executeTakeFirstOrThrow();
  return currency;
}

/**
 * Confirms what explains a statement line, once nothing is left to explain: writes its entry (recipes 9, 12, 21) and
 * ties line and parts together. A line, a payout and a receipt are used once.
 */
export const confirmMatch: Command<MatchInput, ConfirmedMatch> = {
  name: 'confirm-match',
  input: matchInput,
  async run(tx, input, context) {
    const result = await confirmSheets(tx, [input], context);
    if ('refusal' in result) return refuse(result.refusal);
    const moves = await balanceMoves(tx.db, result.movements);
    const { match, journal, line, planned } = result.written[0]!;
    return done(
      { match, journal, entry: await entryView(tx.db, planned, moves), left: ZERO },
      `Confirmed ${formatAmount(line.amount, await currencyOf(tx.db))} of ${formatDay(line.book_date)}`,
      { command: 'take-apart', input: { match }, label: 'take the match apart' },
    );
  },
};

/** The sheets of these lines as they are proposed; null for a line that is not as sure as this (any more). */
async function laidSheets(
  db: Reading,
  lines: readonly number[],
  certainty: Confirmable,
): Promise<(SheetToConfirm | null)[]> {
  const { rows } = await sql<KeptSheet>`
    SELECT q.statement_line_id AS line, w.rest_account_id AS restTo, q.certainty, q.reasons,
      ${laidParts(sql`w.statement_line_id`, sql`0`)} AS parts
    FROM json_each(${JSON.stringify(lines)}) AS wanted
    CROSS JOIN proposal q ON q.statement_line_id = wanted.value AND q.certainty = ${certainty}
    JOIN proposal_way w ON w.statement_line_id = q.statement_line_id AND w.rank = 0
  `.execute(db);
  const laid = new Map(rows.map((row) => [row.line, row]));
  return lines.map((line) => {
    const own = laid.get(line);
    return own && own.parts !== '[]' ? sheetOf(own) : null;
  });
}

/** Books every line that a statement rule explains alone, as it is laid; what two rules would book otherwise is left. */
export const confirmByRules: Command<Record<string, never>, { confirmed: number; amount: Minor }> = {
  name: 'confirm-by-rules',
  input: z.object({}),
  async run(tx, _input, context) {
    const { rows } = await sql<{ line: number; parts: string }>`
      SELECT q.statement_line_id AS line, ${laidParts(sql`q.statement_line_id`, sql`0`)} AS parts
      FROM proposal q JOIN proposal_part x ON x.statement_line_id = q.statement_line_id AND x.rank = 0
      WHERE q.certainty IN ('probable', 'not-ours') AND q.deep = 1 GROUP BY q.statement_line_id
      HAVING count(*) = 1 AND min(x.kind) = 'account' ORDER BY q.book_date, q.statement_line_id
    `.execute(tx.db);
    if (rows.length === 0) return refuse({ code: 'not-proven', count: 0, certainty: 'not-ours' });
    const sheets = rows.map(({ line, parts }) => ({ line, parts: partInputs(parts), restTo: null }));
    const result = await confirmSheets(tx, sheets, context);
    if ('refusal' in result) return refuse(result.refusal);
    const { written } = result;
    const amount = sum(written.map(({ line }) => line.amount));
    const what = `${written.length} ${written.length === 1 ? 'line' : 'lines'} by rule`;
    return done({ confirmed: written.length, amount }, `Booked ${what}`, {
      command: 'take-apart',
      input: { matches: written.map(({ match }) => match) },
      label: `take ${what} apart`,
    });
  },
};

/** Of two lines that are laid on each other's sheets, the first is confirmed and takes the other with it. */
function eachLineOnce(sheets: readonly SheetToConfirm[]): SheetToConfirm[] {
  const taken = new Set<number>();
  return sheets.filter(({ line, parts }) => {
    if (taken.has(line)) return false;
    for (const { kind, id } of parts) if (kind === 'line') taken.add(id);
    return true;
  });
}

/** How many lines these matches explain and what they come to: a line that was laid on another's sheet is one of them. */
function linesIn(written: readonly WrittenMatch[]): { readonly count: number; readonly amount: Minor } {
  const others = written.flatMap(({ parts }) => parts.filter(({ kind }) => kind === 'line'));
  const amounts = [...written.map(({ line }) => line.amount), ...others.map(({ net }) => negate(net))];
  return { count: amounts.length, amount: sum(amounts) };
}

/** Confirms every line named that is still as sure, as it is laid; one that is not any more refuses all. */
function confirmLaid(
  name: string,
  certainty: Confirmable,
): Command<{ lines: number[] }, { confirmed: number; amount: Minor }> {
  return {
    name,
    input: z.object({ lines: z.array(z.number().int()).min(1).max(100_000) }),
    async run(tx, { lines }, context) {
      const sheets = await laidSheets(tx.db, lines, certainty);
      const gone = sheets.filter((sheet) => sheet === null).length;
      if (gone > 0) return refuse({ code: 'not-proven', count: gone, certainty });
      const result = await confirmSheets(tx, eachLineOnce(sheets as SheetToConfirm[]), context);
      if ('refusal' in result) return refuse(result.refusal);
      const { written } = result;
      const { count, amount } = linesIn(written);
      const what = certainty === 'not-ours' ? `${plural(count, 'line')} not ours` : plural(count, `${certainty} line`);
      return done({ confirmed: count, amount }, `Confirmed ${what}, ${formatAmount(amount, await currencyOf(tx.db))}`, {
        command: 'take-apart',
        input: { matches: written.map(({ match }) => match) },
        label: `take ${what} apart`,
      });
    },
  };
}

/** Proven lines may be confirmed by themselves, all at once. */
export const confirmProven = confirmLaid('confirm-proven', 'proven');
/** Probable ones only once somebody has looked at each. */
export const confirmProbable = confirmLaid('confirm-probable', 'probable');
/** Nor may what a rule books, though it is no receivable. */
export const confirmNotOurs = confirmLaid('confirm-not-ours', 'not-ours');

/** What these matches were made of, in the order given; matches that are not there are left out. */
async function sheetsOf(db: Reading, matches: readonly number[]): Promise<SheetToConfirm[]> {
  const { rows } = await sql<KeptSheet>`
    SELECT l.statement_line_id AS line, m.rest_account_id AS restTo, m.certainty, m.reasons,
      ${matchParts(sql`m.id`)} AS parts
    FROM json_each(${JSON.stringify(matches)}) AS wanted
    JOIN match m ON m.id = wanted.value JOIN match_line l ON l.match_id = m.id AND l.place = 1 ORDER BY wanted.key
  `.execute(db);
  return rows.map((row) => ({ ...sheetOf(row), again: true }));
}

/** Confirms again what was taken apart, line by line with the same parts and the same account for the rest. */
export const confirmAgain: Command<{ matches: number[] }, { confirmed: number; matches: number[] }> = {
  name: 'confirm-again',
  input: z.object({ matches: z.array(z.number().int()).min(1).max(100_000) }),
  async run(tx, { matches }, context) {
    const sheets = await sheetsOf(tx.db, matches);
    if (sheets.length < matches.length) return refuse({ code: 'not-found', what: 'match', id: String(matches[0]) });
    const result = await confirmSheets(tx, sheets, context);
    if ('refusal' in result) return refuse(result.refusal);
    const again = result.written.map(({ match }) => match);
    const what = again.length === 1 ? 'the match' : `${again.length} matches`;
    return done({ confirmed: again.length, matches: again }, `Confirmed ${what} again`, {
      command: 'take-apart',
      input: { matches: again },
      label: `take ${what} apart`,
    });
  },
};
