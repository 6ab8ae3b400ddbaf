import { sql } from 'kysely';
import type { PlainDate } from '@/core/calendar';
import type { AccountClass, AccountId } from '@/core/ledger';
import {
  differ,
  StatementRules,
  type Explanation,
  type Proposal,
  type Reason,
  type StatementRule,
} from '@/core/matching';
import type { Minor } from '@/core/money';
import type { Reading } from '../store';
import { ruleOf } from './rule-input';

/** The rules that are switched on, in their order. */
export async function rulesInForce(db: Reading): Promise<StatementRule[]> {
  const rows = await db.selectFrom('statement_rule').selectAll().where('active', '=', 1).orderBy('position').execute();
  const merged = await db
    .selectFrom('payer')
    .select(['id', 'merged_into as into'])
    .where('merged_into', 'is not', null)
    .execute();
  const now = new Map(merged.map(({ id, into }) => [id, into]));
  return rows.map((row) => {
    const rule = ruleOf(row);
    // A payer that was merged since is the one it was merged into.
    let { payer } = rule.result;
    while (payer !== null && now.has(payer)) payer = now.get(payer)!;
    return { ...rule, result: { ...rule.result, payer } };
  });
}

export interface RuledRow {
  readonly id: number;
  readonly account: AccountId;
  readonly date: PlainDate;
  readonly amount: Minor;
  readonly text: string;
}

/** How a line is booked by a rule. */
export function bookedBy(rule: StatementRule, amount: Minor, more: readonly Reason[] = []): Explanation {
  const { account, dimensions, taxCode } = rule.result;
  return {
    parts: [
      {
        kind: 'account',
        id: account,
        amount,
        dimensions,
        taxCode,
        rule: rule.name,
        ruleId: rule.id,
        payer: rule.result.payer,
      },
    ],
    reasons: [{ kind: 'by-rule', rule: rule.name }, ...more],
  };
}

/** Which accounts are income: money that a rule books there may be in the books already, as receipts. */
async function incomeAccounts(db: Reading): Promise<ReadonlySet<number>> {
  const rows = await db.selectFrom('account').select(['id', 'class']).execute();
  return new Set(rows.filter((row) => (row.class as AccountClass) === 'income').map(({ id }) => id as number));
}

/**
 * What rules say of lines. A line that a channel, an invoice or receipts explain is theirs, also where its channel is not known
 * so far: a rule never takes it, and where it would have booked it as income the line says so, since the money would count twice.
 * What a rule books to anything but income is no receivable and stands apart from what is.
 */
export async function byRules(
  db: Reading,
  rules: readonly StatementRule[],
  lines: readonly RuledRow[],
  explained: ReadonlyMap<number, Proposal>,
): Promise<Map<number, Proposal>> {
  const found = new Map<number, Proposal>();
  if (rules.length === 0) return found;
  const ready = new StatementRules(rules);
  const income = await incomeAccounts(db);
  for (const line of lines) {
    const [first, ...others] = ready.all(line);
    if (!first) continue;
    const before = explained.get(line.id);
    if (before && before.certainty !== 'none') {
      if (line.amount > 0 && income.has(first.result.account)) {
        const guard: Reason = {
          kind: before.certainty === 'not-due' ? 'rule-waits' : 'double-count',
          rule: first.name,
        };
        const laid = before.laid && { ...before.laid, reasons: [...before.laid.reasons, guard] };
        found.set(line.id, { ...before, laid, reasons: laid ? before.reasons : [...before.reasons, guard] });
      }
      continue;
    }
    const otherwise = others.filter((rule) => differ(rule.result, first.result));
    const collides: Reason[] =
      otherwise.length > 0
        ? [{ kind: 'rule-collides', rule: first.name, others: otherwise.map(({ name }) => name) }]
        : [];
    found.set(line.id, {
      line: line.id,
      certainty: otherwise.length > 0 ? 'open' : income.has(first.result.account) ? 'probable' : 'not-ours',
      laid: bookedBy(first, line.amount, collides),
      reasons: [],
      others: otherwise.map((rule) => bookedBy(rule, line.amount)),
    });
  }
  return found;
}

/** Lines that nothing of a channel explains, in or out, as rules read them: all that the bank says. */
export async function linesForRules(db: Reading, where: ReturnType<typeof sql>): Promise<RuledRow[]> {
  const { rows } = await sql<RuledRow>`
    SELECT l.id, l.account_id AS account, l.book_date AS date, l.amount,
      l.text || ' ' || l.counterparty || ' ' || l.reference AS text
    FROM statement_line l WHERE ${where} ORDER BY l.id
  `.execute(db);
  return rows;
}
