import { plural } from '@/core/words';
import { sql } from 'kysely';
import { addDays, daysBetween, formatDate, formatDay, type PlainDate } from '@/core/calendar';
import { formatAmount, type Currency, type Minor } from '@/core/money';
import { SEEN_AT_BANK } from '../payouts/list';
import { TOTAL_FEE } from '../payouts/total-fee';
import { bankProofs, clearingProofs } from '../proof/clearing';
import type { Reading } from '../store';
import { countedTwice, deposits, feesLearnt, statementsMissing } from './bank-work';
import { overPaid, samePayers } from './payer-work';
import type { Rail } from './rail';

/** One thing that needs someone, and where it is dealt with. */
export interface WorkItem {
  readonly risk: 'trouble' | 'waiting' | 'new';
  readonly title: string;
  readonly detail: string;
  readonly amount: Minor | null;
  /** Where it is not the books' own. */
  readonly currency?: Currency;
  /** Days it has waited; null where that says nothing. */
  readonly age: number | null;
  readonly action: string;
  /** Path below the books' own address. */
  readonly href: string;
}

const LISTED = 4;

async function latePayouts(db: Reading, today: PlainDate): Promise<WorkItem[]> {
  const { rows } = await sql<{ id: number; name: string; expected: PlainDate; net: Minor; currency: Currency }>`
    SELECT p.id, p.external_id AS name, p.expected_on AS expected, p.net, p.currency FROM payout p
    WHERE p.match_id IS NULL AND p.expected_on < ${today} AND NOT ${SEEN_AT_BANK}
    ORDER BY p.expected_on LIMIT ${LISTED}
  `.execute(db);
  return rows.map((row) => ({
    risk: 'trouble',
    title: `Payout ${row.name} has not reached the bank`,
    detail: `expected ${formatDate(row.expected)}`,
    amount: row.net,
    currency: row.currency,
    age: daysBetween(row.expected, today),
    action: 'Follow it',
    href: `in-transit?payout=${row.id}`,
  }));
}

async function differingPayouts(db: Reading, today: PlainDate): Promise<WorkItem[]> {
  const { rows } = await sql<{
    id: number;
    name: string;
    date: PlainDate;
    difference: Minor;
    n: number;
    currency: Currency;
  }>`
    SELECT p.id, p.external_id AS name, p.book_date AS date, p.net - (p.receipt_gross - p.receipt_fee) AS difference,
           receipt_count AS n, p.currency
    FROM payout p WHERE p.net <> p.receipt_gross - p.receipt_fee AND ${TOTAL_FEE} = 0 AND p.match_id IS NULL
    ORDER BY p.book_date LIMIT ${LISTED}
  `.execute(db);
  return rows.map((row) => ({
    risk: 'trouble',
    title: `Payout ${row.name} is ${formatAmount(row.difference, row.currency)} away from its receipts`,
    detail: row.n === 0 ? 'none of its receipts is here' : `${plural(row.n, 'receipt', 'receipts')} known`,
    amount: row.difference,
    currency: row.currency,
    age: daysBetween(row.date, today),
    action: 'Look at it',
    href: `in-transit?payout=${row.id}`,
  }));
}

async function unknownDocuments(db: Reading): Promise<WorkItem[]> {
  const { rows } = await sql<{ count: number; amount: Minor; names: string }>`
    SELECT count(*) AS count, coalesce(sum(gross), 0) AS amount, group_concat(document, ', ') AS names FROM receipt
    WHERE document <> '' AND invoice_id IS NULL AND kind = 'receipt'
  `.execute(db);
  const { count, amount, names } = rows[0]!;
  if (count === 0) return [];
  return [
    {
      risk: 'trouble',
      title: `${plural(count, 'receipt names', 'receipts name')} an invoice that is not in the books`,
      detail: `${names.slice(0, 80)}, kept as the payer’s credit`,
      amount,
      age: null,
      action: 'Look at it',
      href: `collected?text=${encodeURIComponent(names.split(', ')[0]!)}`,
    },
  ];
}

async function proofs(db: Reading, currency: Currency): Promise<WorkItem[]> {
  const clearing = (await clearingProofs(db)).filter((proof) => !proof.proves);
  const bank = (await bankProofs(db)).filter((proof) => proof.difference !== 0);
  return [
    ...clearing.map((proof): WorkItem => {
      const off = (proof.balance - proof.payouts.amount - proof.waiting.amount) as Minor;
      return {
        risk: 'trouble',
        title: `${proof.channel} clearing is ${formatAmount(off, proof.currency)} away from what is in transit`,
        detail: [
          proof.notPosted.count > 0 ? `${plural(proof.notPosted.count, 'receipt', 'receipts')} not posted` : '',
          proof.differs.count > 0 ? `${plural(proof.differs.count, 'payout does', 'payouts do')} not add up` : '',
          proof.other !== 0 ? `${formatAmount(proof.other, proof.currency)} booked past the documents` : '',
        ]
          .filter(Boolean)
          .join(' · '),
        amount: off,
        currency: proof.currency,
        age: null,
        action: 'See the proof',
        href: 'proved',
      };
    }),
    ...bank.map((proof): WorkItem => ({
      risk: 'trouble',
      title: `${proof.name} is ${formatAmount(proof.difference, currency)} away from the bank’s own figure`,
      detail: `statement ${proof.statement!.file}`,
      amount: proof.difference,
      age: null,
      action: 'See the proof',
      href: 'proved',
    })),
  ];
}

async function documents(db: Reading, rail: Rail): Promise<WorkItem[]> {
  const { rows } = await sql<{
    receipts: PlainDate | null;
    invoices: PlainDate | null;
    unposted: Minor;
    due: PlainDate | null;
    overdue: Minor;
    numbers: string | null;
  }>`
    SELECT (SELECT min(book_date) FROM receipt WHERE journal_id IS NULL AND aside IS NULL) AS receipts,
      (SELECT min(issued) FROM invoice WHERE journal_id IS NULL) AS invoices,
      (SELECT coalesce(sum(gross), 0) FROM invoice WHERE journal_id IS NULL) AS unposted,
      (SELECT min(due) FROM invoice WHERE journal_id IS NOT NULL AND paid < gross AND due < ${rail.today}) AS due,
      (SELECT coalesce(sum(gross - paid), 0) FROM invoice
       WHERE journal_id IS NOT NULL AND paid < gross AND due < ${rail.today}) AS overdue,
      (SELECT group_concat(number, ', ') FROM (SELECT number FROM invoice
       WHERE journal_id IS NOT NULL AND paid < gross AND due < ${rail.today} ORDER BY due, id LIMIT 5)) AS numbers
  `.execute(db);
  const row = rows[0]!;
  const age = (date: PlainDate | null) => (date === null ? null : daysBetween(date, rail.today));
  const { collected, owed } = rail;
  const items: WorkItem[] = [];
  if (collected.notPosted > 0) {
    items.push({
      risk: 'new',
      title: `${plural(collected.notPosted, 'receipt is', 'receipts are')} not posted`,
      detail: 'collected, not in the ledger yet',
      amount: collected.amount,
      age: age(row.receipts),
      action: 'Post',
      href: 'collected?state=not-posted',
    });
  }
  if (owed.notPosted > 0) {
    items.push({
      risk: 'new',
      title: `${plural(owed.notPosted, 'invoice is', 'invoices are')} not posted`,
      detail: 'brought in, not in the ledger yet',
      amount: row.unposted,
      age: age(row.invoices),
      action: 'Post',
      href: 'owed?state=not-posted',
    });
  }
  if (owed.overdue > 0) {
    items.push({
      risk: 'new',
      title: `${plural(owed.overdue, 'invoice is', 'invoices are')} overdue`,
      detail: row.numbers + (owed.overdue > 5 ? ` and ${owed.overdue - 5} more` : ''),
      amount: row.overdue,
      age: age(row.due),
      action: 'Open',
      href: 'owed?state=overdue',
    });
  }
  return items;
}

/** The last day of the month before this one. */
export function endOfLastMonth(today: PlainDate): PlainDate {
  return addDays(`${today.slice(0, 8)}01` as PlainDate, -1);
}

async function monthEnd(db: Reading, rail: Rail): Promise<WorkItem[]> {
  const end = endOfLastMonth(rail.today);
  if (rail.closedThrough !== null && rail.closedThrough >= end) return [];
  const { rows } = await sql<{ lines: number; receipts: number; invoices: number }>`
    SELECT (SELECT count(*) FROM proposal
      WHERE certainty IN ('proven', 'probable', 'open', 'none', 'not-due', 'not-ours') AND book_date <= ${end}) AS lines,
      (SELECT count(*) FROM receipt WHERE journal_id IS NULL AND aside IS NULL AND book_date <= ${end}) AS receipts,
      (SELECT count(*) FROM invoice WHERE journal_id IS NULL AND issued <= ${end}) AS invoices
  `.execute(db);
  const { lines, receipts, invoices } = rows[0]!;
  const left = [
    lines > 0 ? plural(lines, 'statement line to explain', 'statement lines to explain') : '',
    receipts > 0 ? plural(receipts, 'receipt to post', 'receipts to post') : '',
    invoices > 0 ? plural(invoices, 'invoice to post', 'invoices to post') : '',
  ].filter(Boolean);
  return [
    {
      risk: 'new',
      title: `The month to ${formatDay(end)} ${left.length === 0 ? 'can be closed' : 'is not finished'}`,
      detail: left.length === 0 ? 'everything of it is posted and explained' : left.join(', '),
      amount: null,
      age: daysBetween(end, rail.today),
      action: left.length === 0 ? 'Close' : 'See',
      href: 'proved/close',
    },
  ];
}

/** What needs someone, worst first. */
export async function worklist(db: Reading, rail: Rail): Promise<WorkItem[]> {
  const { currency, today } = rail;
  return [
    ...(await countedTwice(db, today)),
    ...(await latePayouts(db, today)),
    ...(await proofs(db, currency)),
    ...(await differingPayouts(db, today)),
    ...(await unknownDocuments(db)),
    ...(await overPaid(db)),
    ...(await samePayers(db)),
    ...(await statementsMissing(db, today)),
    ...(await deposits(db, today)),
    ...(await feesLearnt(db, today)),
    ...(await documents(db, rail)),
    ...(await monthEnd(db, rail)),
  ];
}
