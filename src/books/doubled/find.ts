import { sql, type RawBuilder } from 'kysely';
import { workingCalendar } from '@/adapters/holidays';
import { proposeInvoices, proposePayouts, settleConflicts, type Explanation, type Proposal } from '@/core/matching';
import { sweepsFor, type Days } from '../matching/deep';
import { depositLines, type Deposit } from '../matching/deposit-lines';
import { directFor } from '../matching/direct-receipts';
import { HABIT, payoutsOnTheirWay } from '../matching/free-payouts';
import { openInvoicesAndNames } from '../matching/open-invoices';
import type { Reading, Writing } from '../store';
import { depositsToCheck } from './booked-to-income';

/** What a payer still owes may be paid in part by anything of them; that tells nothing of money which is booked already. */
const LOOSE = new Set<string>(['in-part', 'over', 'oldest-first', 'owes-otherwise']);

type Sure = Proposal & { readonly certainty: 'proven' | 'probable'; readonly laid: Explanation };
const isSure = (proposal: Proposal): proposal is Sure =>
  proposal.laid !== null &&
  (proposal.certainty === 'proven' || proposal.certainty === 'probable') &&
  !proposal.laid.reasons.some(({ kind }) => LOOSE.has(kind));

/** What would explain these deposits if they were not booked: payouts, then invoices, single receipts and runs of them. */
async function explainedBy(
  db: Reading,
  deposits: readonly Deposit[],
  waits: { receipts: boolean; invoices: boolean },
): Promise<Sure[]> {
  if (deposits.length === 0) return [];
  const dates = deposits.map(({ date }) => date).sort();
  const { country } = await db.selectFrom('books').select('country').executeTakeFirstOrThrow();
  const payouts = await payoutsOnTheirWay(db, dates[0]!, dates.at(-1)!);
  const found = new Map<number, Sure>();
  const keep = (proposals: Iterable<Proposal>) => {
    for (const proposal of proposals)
      if (isSure(proposal) && !found.has(proposal.line)) found.set(proposal.line, proposal);
  };
  const left = () => deposits.filter(({ id }) => !found.has(id));
  keep(proposePayouts(deposits, payouts, workingCalendar(country), HABIT));
  if (waits.invoices && left().length > 0) {
    const { invoices, names } = await openInvoicesAndNames(db);
    keep(proposeInvoices(left(), invoices, names));
  }
  if (waits.receipts) {
    keep((await directFor(db, left())).values());
    if (deposits.length <= RUNS_UP_TO) keep((await sweepsFor(db, left())).values());
  }
  return settleConflicts([...found.values()]).filter(isSure);
}

/** Of these, those of which nothing is laid on the sheet of a line that is still to be explained: that line comes first. */
async function notLaidElsewhere(db: Reading, found: readonly Sure[]): Promise<Sure[]> {
  const things = found.flatMap(({ laid }) => laid.parts.map(({ kind, id }) => [kind, id]));
  const { rows } = await sql<{ kind: string; id: number }>`
    SELECT DISTINCT x.kind, x.ref_id AS id FROM json_each(${JSON.stringify(things)}) t
    JOIN proposal_part x ON x.kind = t.value ->> 0 AND x.ref_id = t.value ->> 1 AND x.rank = 0
    JOIN proposal q ON q.statement_line_id = x.statement_line_id AND q.certainty IN ('proven', 'probable')
  `.execute(db);
  const laid = new Set(rows.map(({ kind, id }) => `${kind}/${id}`));
  return found.filter((one) => !one.laid.parts.some(({ kind, id }) => laid.has(`${kind}/${id}`)));
}

/** Deposits beyond those looked at that are said to count twice with one of the same things: only one of them can. */
async function standingOf(db: Reading, found: readonly Sure[], within: RawBuilder<unknown>): Promise<number[]> {
  const things = found.flatMap(({ laid }) => laid.parts.map(({ kind, id }) => [kind, id]));
  const { rows } = await sql<{ line: number }>`
    SELECT DISTINCT x.statement_line_id AS line FROM json_each(${JSON.stringify(things)}) t
    JOIN doubled_part x ON x.kind = t.value ->> 0 AND x.ref_id = t.value ->> 1
    JOIN statement_line l ON l.id = x.statement_line_id WHERE NOT (${within})
  `.execute(db);
  return rows.map(({ line }) => line);
}

/** What is said to count twice among these lines l. */
async function saidWithin(db: Reading, within: RawBuilder<unknown>): Promise<number[]> {
  const { rows } = await sql<{ line: number }>`
    SELECT l.id AS line FROM doubled d JOIN statement_line l ON l.id = d.statement_line_id WHERE ${within}
  `.execute(db);
  return rows.map(({ line }) => line);
}

/** Which deposits are looked at again. */
type Which = { readonly lines?: readonly number[] } | Days;

const withinOf = (which: Which) =>
  'from' in which
    ? sql`l.book_date BETWEEN ${which.from} AND ${which.to}`
    : which.lines
      ? sql`l.id IN (SELECT value FROM json_each(${JSON.stringify(which.lines)}))`
      : sql`1`;

/** More deposits than these are looked up by what they are equal to, and not for runs of receipts. */
const RUNS_UP_TO = 500;

/**
 * Looks whether deposits that are booked straight to income are explained by what the books hold in transit or are owed: the same
 * money would then be income twice. What was found before with the same things is asked with it. What somebody said is other
 * money stays said, as long as the same explains it.
 * @param which those of some days, or some lines; all of them where nothing is said.
 */
export async function refreshDoubled(tx: Writing, which: Which = {}): Promise<void> {
  const { db } = tx;
  const within = withinOf(which);
  const { ids, ...waits } = await depositsToCheck(db, within);
  const deposits =
    ids.length === 0 ? [] : await depositLines(db, sql`SELECT value FROM json_each(${JSON.stringify(ids)})`);
  const denied = await deniedNow(db);
  const explained = await explainedBy(db, deposits, waits);
  const other = new Set(explained.filter(({ line, laid }) => denied.get(line) === keyOf(laid.parts)));
  // What explains money that is said to be other money may explain another deposit all the same.
  const left = new Set([...other].map(({ line }) => line));
  const asked =
    other.size === 0
      ? explained
      : await explainedBy(
          db,
          deposits.filter(({ id }) => !left.has(id)),
          waits,
        );
  const found = await notLaidElsewhere(db, [...asked, ...other]);
  const standing = await saidWithin(db, within);
  const others = await standingOf(db, found, within);
  if (others.length > 0) return refreshDoubled(tx, { lines: [...ids, ...standing, ...others] });
  await sql`
    DELETE FROM doubled WHERE statement_line_id IN (SELECT value FROM json_each(${JSON.stringify(standing)}))
  `.execute(db);
  const doubled = tx.bulk('doubled', ['statement_line_id', 'certainty', 'reasons', 'rest_account_id', 'denied']);
  const part = tx.bulk('doubled_part', ['statement_line_id', 'no', 'kind', 'ref_id', 'amount']);
  for (const one of found) {
    const { line, certainty, laid } = one;
    doubled.add(line, certainty, JSON.stringify(laid.reasons), laid.restTo ?? null, other.has(one) ? 1 : 0);
  }
  doubled.flush();
  for (const { line, laid } of found) {
    laid.parts.forEach((one, index) => part.add(line, index + 1, one.kind, one.id, 'amount' in one ? one.amount : 0));
  }
  part.flush();
}

const keyOf = (parts: readonly { readonly kind: string; readonly id: number }[]) =>
  parts
    .map(({ kind, id }) => `${kind}/${id}`)
    .sort()
    .join(' ');

/** What was said to be other money, by line: what explained it then. */
async function deniedNow(db: Reading): Promise<Map<number, string>> {
  const { rows } = await sql<{ line: number; kind: string; id: number }>`
    SELECT d.statement_line_id AS line, x.kind, x.ref_id AS id FROM doubled d
    JOIN doubled_part x ON x.statement_line_id = d.statement_line_id WHERE d.denied = 1
  `.execute(db);
  const parts = new Map<number, { kind: string; id: number }[]>();
  for (const { line, ...one } of rows) parts.set(line, [...(parts.get(line) ?? []), one]);
  return new Map([...parts].map(([line, own]) => [line, keyOf(own)]));
}
