import { sql } from 'kysely';
import { workingCalendar } from '@/adapters/holidays';
import type { PlainDate } from '@/core/calendar';
import {
  CERTAINTIES,
  claimPools,
  dayNumber,
  LineSet,
  notDueYet,
  nothing,
  proposeInvoices,
  proposeLines,
  proposeSweeps,
  proposeTogether,
  settleConflicts,
  weighClaims,
  type Claim,
  type Explanation,
  type OwnAccount,
  type Proposal,
} from '@/core/matching';
import type { AccountId } from '@/core/ledger';
import type { Reading, Writing } from '../store';
import { byRules, rulesInForce } from './by-rules';
import { depositLines, type Deposit } from './deposit-lines';
import { directFor } from './direct-receipts';
import { HABIT, payoutsOnTheirWay } from './free-payouts';
import { keepProposals } from './keep-proposals';
import { payerCreditAccount } from './kept-over';
import { knownChannels } from './known-channels';
import { openInvoicesAndNames } from './open-invoices';
import { sweepChannels } from './sweep-channels';
import { withRest } from './with-rest';

/** Days of the bank, both included. */
export interface Days {
  readonly from: PlainDate;
  readonly to: PlainDate;
}

/** Which lines are asked: those of some days, some by their ids, or both. */
export type Scope = Partial<Days> & { readonly ids: readonly number[] };

const undecidedBy = (found: ReadonlyMap<number, Proposal>) => (deposit: Deposit) =>
  !['proven', 'probable'].includes(found.get(deposit.id)?.certainty ?? 'none');

/** Lines that no payout explains. */
function depositsToExplain(db: Reading, scope: Scope | null): Promise<Deposit[]> {
  const ids = sql`q.statement_line_id IN (SELECT value FROM json_each(${JSON.stringify(scope?.ids ?? [])}))`;
  const within =
    scope === null ? sql`1` : scope.from ? sql`(q.book_date BETWEEN ${scope.from} AND ${scope.to} OR ${ids})` : ids;
  return depositLines(
    db,
    sql`SELECT q.statement_line_id FROM proposal q WHERE (q.certainty IN ('none', 'not-due') OR q.deep = 1) AND ${within}`,
  );
}

const surer = (a: Proposal, b: Proposal) => CERTAINTIES.indexOf(a.certainty) < CERTAINTIES.indexOf(b.certainty);

/** Two channels may each have a run of the amount: then neither is sure of it, and both are shown. */
function joined(before: Proposal | undefined, next: Proposal): Proposal {
  if (!before || surer(next, before)) return before ? { ...next, others: [...next.others, ...ways(before)] } : next;
  if (surer(before, next)) return { ...before, others: [...before.others, ...ways(next)] };
  return { line: next.line, certainty: 'open', laid: null, reasons: [], others: [...ways(before), ...ways(next)] };
}
const ways = ({ laid, others }: Proposal) => (laid ? [laid, ...others] : others);

/** Runs of receipts, and where a channel holds few, any of them that come to a deposit. */
export async function sweepsFor(db: Reading, deposits: readonly Deposit[]): Promise<Map<number, Proposal>> {
  const found = new Map<number, Proposal>();
  if (deposits.length === 0) return found;
  const dates = deposits.map(({ date }) => date).sort();
  const channels = await sweepChannels(db, dates[0]!, dates.at(-1)!);
  const claims: Claim[] = [];
  for (const [account, own] of channels) {
    const lines = deposits
      .filter((deposit) => deposit.account === account)
      .map(({ id, date, amount }) => ({ id, day: dayNumber(date), amount }));
    if (lines.length === 0) continue;
    const set = new LineSet(lines);
    for (const channel of own) {
      for (const proposal of proposeSweeps(set, channel).proposals) {
        found.set(proposal.line, joined(found.get(proposal.line), proposal));
      }
      claims.push(
        ...claimPools(
          lines.filter(({ id }) => !found.has(id)),
          channel,
        ),
      );
    }
  }
  for (const [id, proposal] of weighClaims(claims)) if (!found.has(id)) found.set(id, proposal);
  return found;
}

/** Deposits in which several payouts came together, and lines that belong to each other. */
async function togetherFor(db: Reading, lines: readonly Deposit[]): Promise<Map<number, Proposal>> {
  if (lines.length === 0) return new Map();
  const dates = lines.map(({ date }) => date).sort();
  const payouts = await payoutsOnTheirWay(db, dates[0]!, dates.at(-1)!);
  const { country } = await db.selectFrom('books').select('country').executeTakeFirstOrThrow();
  const calendar = workingCalendar(country);
  const found = proposeTogether(lines, payouts, calendar, HABIT);
  const { rows: accounts } = await sql<OwnAccount>`
    SELECT b.account_id AS account, b.iban AS number, a.code || ' ' || a.name AS name
    FROM bank_account b JOIN account a ON a.id = b.account_id
  `.execute(db);
  const left = lines.filter(undecidedBy(found));
  for (const [id, proposal] of proposeLines(left, accounts, payouts, calendar, HABIT)) {
    found.set(id, joined(found.get(id), proposal));
  }
  return found;
}

/** What is over on the invoices of one payer is kept for them. */
function keepingOver(proposal: Proposal, credit: AccountId, payerOf: ReadonlyMap<number, number>): Proposal {
  const kept = (way: Explanation): Explanation => {
    const payers = new Set(way.parts.map(({ id }) => payerOf.get(id)));
    return payers.size === 1 && way.reasons.some(({ kind }) => kind === 'over') ? { ...way, restTo: credit } : way;
  };
  return { ...proposal, laid: proposal.laid && kept(proposal.laid), others: proposal.others.map(kept) };
}

/** Invoices by numbers, names and amounts, then runs of receipts, and of what neither explains the statement rules. */
async function explain(db: Reading, deposits: readonly Deposit[]): Promise<Proposal[]> {
  const { invoices, names } = await openInvoicesAndNames(db);
  const credit = await payerCreditAccount(db);
  const payerOf = new Map(invoices.map(({ id, payer }) => [id, payer]));
  const byInvoice = new Map(
    proposeInvoices(deposits, invoices, names).map((proposal) => [
      proposal.line,
      keepingOver(proposal, credit, payerOf),
    ]),
  );
  const unsettled = deposits.filter(undecidedBy(byInvoice));
  const direct = await directFor(
    db,
    unsettled.filter(({ amount }) => amount > 0),
  );
  for (const [id, proposal] of direct) byInvoice.set(id, joined(byInvoice.get(id), proposal));
  const undecided = unsettled.filter(undecidedBy(byInvoice));
  const together = await togetherFor(db, undecided);
  const bySweep = await sweepsFor(
    db,
    undecided.filter((deposit) => deposit.amount > 0 && undecidedBy(together)(deposit)),
  );
  for (const [id, proposal] of together) bySweep.set(id, joined(bySweep.get(id), proposal));
  const undone = undecided.filter((deposit) => deposit.amount > 0 && undecidedBy(bySweep)(deposit));
  for (const [id, proposal] of await withRest(db, undone)) bySweep.set(id, joined(bySweep.get(id), proposal));
  const explained = new Map(
    deposits.map(({ id }) => {
      const [invoice, sweep] = [byInvoice.get(id)!, bySweep.get(id)];
      const proposal = !sweep ? invoice : invoice.certainty === 'none' ? sweep : joined(sweep, invoice);
      return [id, proposal] as const;
    }),
  );
  const kept = await missesOf(db, deposits);
  const lines = new Map(deposits.map((deposit) => [deposit.id, deposit]));
  const unexplained = [...explained.values()].filter(({ certainty }) => certainty === 'none');
  for (const proposal of await notDueOrNone(db, unexplained, kept, lines)) explained.set(proposal.line, proposal);
  const ruled = await byRules(db, await rulesInForce(db), deposits, explained);
  return settleConflicts(deposits.map(({ id }) => ruled.get(id) ?? explained.get(id)!));
}

/**
 * Lines beyond these that are to be weighed with them: on whose sheets something lies that one of these may be, or that may be
 * what is laid for one of these.
 */
async function rivalsOf(db: Reading, proposals: readonly Proposal[]): Promise<number[]> {
  const things = proposals.flatMap((proposal) =>
    ways(proposal).flatMap((way) =>
      way.parts.flatMap(({ kind, id }) => (kind === 'account' ? [] : [[kind, id, way === proposal.laid ? 1 : 0]])),
    ),
  );
  const asked = new Set(proposals.map(({ line }) => line));
  const { rows } = await sql<{ line: number }>`
    SELECT DISTINCT x.statement_line_id AS line FROM json_each(${JSON.stringify(things)}) t
    JOIN proposal_part x ON x.kind = t.value ->> 0 AND x.ref_id = t.value ->> 1 AND (x.rank = 0 OR t.value ->> 2)
    JOIN proposal q ON q.statement_line_id = x.statement_line_id AND q.deep = 1
  `.execute(db);
  return rows.flatMap(({ line }) => (asked.has(line) ? [] : [line]));
}

/** Each round brings in what the one before it competes with; equal amounts could tie all to all without an end. */
const ROUNDS = 3;

/**
 * Asks again what explains the lines that no payout does, and with them those that want the same things. All that wait where
 * no scope is given.
 */
export async function refreshDeep(tx: Writing, scope: Scope | null): Promise<void> {
  const { db } = tx;
  let deposits = await depositsToExplain(db, scope);
  if (deposits.length === 0) return;
  let proposals = await explain(db, deposits);
  for (let round = 1; scope !== null && round < ROUNDS; round++) {
    const rivals = await rivalsOf(db, proposals);
    if (rivals.length === 0) break;
    deposits = await depositsToExplain(db, { ids: [...deposits.map(({ id }) => id), ...rivals] });
    proposals = await explain(db, deposits);
  }
  const isOpen = ({ certainty }: Proposal) => certainty === 'none' || certainty === 'not-due';
  const lines = new Map(deposits.map((deposit) => [deposit.id, deposit]));
  await keepProposals(tx, proposals, lines, (proposal) => (isOpen(proposal) ? 0 : 1));
}

/** Of what nothing explains, what cannot be explained yet because its channel is not known so far. */
async function notDueOrNone(
  db: Reading,
  none: readonly Proposal[],
  kept: ReadonlyMap<number, Proposal['reasons']>,
  lines: ReadonlyMap<number, Deposit>,
): Promise<Proposal[]> {
  const came = none.filter(({ line }) => lines.get(line)!.amount > 0);
  const channels = came.length === 0 ? [] : await knownChannels(db);
  const { country } = await db.selectFrom('books').select('country').executeTakeFirstOrThrow();
  const calendar = workingCalendar(country);
  return none.map(({ line, reasons }) => {
    const deposit = lines.get(line)!;
    const before = kept.get(line) ?? [];
    const wait = deposit.amount > 0 && before.length === 0 ? notDueYet(deposit, channels, calendar) : null;
    return wait
      ? { ...nothing(line, [wait, ...reasons]), certainty: 'not-due' }
      : nothing(line, [...before, ...reasons]);
  });
}

/** What was said of a line's payouts, such as one that is named with another amount: it still holds. */
async function missesOf(db: Reading, deposits: readonly Deposit[]): Promise<Map<number, Proposal['reasons']>> {
  const { rows } = await sql<{ id: number; reasons: string }>`
    SELECT statement_line_id AS id, reasons FROM proposal WHERE deep = 0 AND reasons <> '[]'
      AND statement_line_id IN (SELECT value FROM json_each(${JSON.stringify(deposits.map(({ id }) => id))}))
  `.execute(db);
  return new Map(
    rows.map(({ id, reasons }) => [
      id,
      (JSON.parse(reasons) as Proposal['reasons']).filter(({ kind }) => kind === 'reference-but-amount'),
    ]),
  );
}
