import { plural } from '@/core/words';
import { sql } from 'kysely';
import { formatDate, type PlainDate } from '@/core/calendar';
import { reasonWords, type Reason } from '@/core/matching';
import type { Minor } from '@/core/money';
import type { Reading } from '../store';
import { inList } from './follow';
import type { TrailRef } from './ref';

export interface TrailStep {
  readonly ref: TrailRef;
  readonly title: string;
  readonly note: string;
  readonly date: PlainDate;
  /** Minor units. */
  readonly amount: Minor;
  /** What was taken off here, e.g. a fee; null where nothing was, or it is not known. */
  readonly takenOff: Minor | null;
  readonly journal: number | null;
  /** How it came to stand here. */
  readonly how: string;
}

/** Steps listed per station; more are counted. */
const LISTED = 12;

export async function invoiceSteps(db: Reading, list: readonly number[]): Promise<TrailStep[]> {
  const { rows } = await sql<TrailStep & { id: number; open: Minor; due: PlainDate; number: string; file: string }>`
    SELECT i.id, i.number, i.issued AS date, i.gross AS amount, i.gross - i.paid AS open, i.due, i.journal_id AS journal,
           y.name AS note, u.file_name AS file
    FROM invoice i JOIN payer y ON y.id = i.payer_id JOIN run u ON u.id = i.run_id
    WHERE i.id IN ${inList(list)} ORDER BY i.issued, i.id LIMIT ${LISTED}
  `.execute(db);
  return rows.map((row) => ({
    ref: `invoice:${row.id}`,
    title: `Invoice ${row.number}`,
    note: row.note,
    date: row.date,
    amount: row.amount,
    takenOff: null,
    journal: row.journal,
    how: `from ${row.file}`,
  }));
}

export async function receiptSteps(db: Reading, list: readonly number[]): Promise<TrailStep[]> {
  const { rows } = await sql<
    TrailStep & {
      id: number;
      name: string;
      kind: string;
      fee: Minor | null;
      file: string;
      payer: string | null;
      about: string;
    }
  >`
    SELECT r.id, r.external_id AS name, r.kind, r.book_date AS date, r.gross AS amount, r.fee, r.journal_id AS journal,
           y.name AS payer, coalesce(nullif(r.document, ''), nullif(r.note, ''), 'paid sale') AS about, u.file_name AS file
    FROM receipt r LEFT JOIN payer y ON y.id = r.payer_id JOIN run u ON u.id = r.run_id
    WHERE r.id IN ${inList(list)} ORDER BY r.book_date, r.id LIMIT ${LISTED}
  `.execute(db);
  return rows.map((row) => ({
    ref: `receipt:${row.id}`,
    title: `${row.kind === 'refund' ? 'Refund' : 'Receipt'} ${row.name}`,
    note: [row.payer ?? 'no name', row.about].join(', '),
    date: row.date,
    amount: row.amount,
    takenOff: row.fee,
    journal: row.journal,
    how: row.journal === null ? `from ${row.file}, not posted yet` : `from ${row.file}`,
  }));
}

export async function payoutSteps(db: Reading, list: readonly number[]): Promise<TrailStep[]> {
  const { rows } = await sql<{
    id: number;
    name: string;
    date: PlainDate;
    expected: PlainDate;
    net: Minor;
    count: number;
    channel: string;
    journal: number | null;
    file: string;
  }>`
    SELECT p.id, p.external_id AS name, p.book_date AS date, p.expected_on AS expected, p.net, p.receipt_count AS count,
           c.name AS channel, m.journal_id AS journal, u.file_name AS file
    FROM payout p JOIN channel c ON c.id = p.channel_id JOIN run u ON u.id = p.run_id
    LEFT JOIN match m ON m.id = p.match_id
    WHERE p.id IN ${inList(list)} ORDER BY p.book_date, p.id LIMIT ${LISTED}
  `.execute(db);
  return rows.map((row) => ({
    ref: `payout:${row.id}`,
    title: `Payout ${row.name}`,
    note: `${row.channel}, ${plural(row.count, 'receipt')}`,
    date: row.date,
    amount: row.net,
    takenOff: null,
    journal: row.journal,
    how: `from ${row.file}, expected ${formatDate(row.expected)}`,
  }));
}

export async function lineSteps(db: Reading, list: readonly number[]): Promise<TrailStep[]> {
  const { rows } = await sql<{
    id: number;
    date: PlainDate;
    amount: Minor;
    currency: string;
    text: string;
    file: string;
    journal: number | null;
    actor: string | null;
    at: string | null;
    certainty: string | null;
    reasons: string | null;
    fee: Minor | null;
  }>`
    SELECT l.id, l.book_date AS date, l.amount, l.currency, l.text, u.file_name AS file, m.journal_id AS journal, m.actor,
           m.confirmed_at AS at, m.certainty, m.reasons,
           (SELECT sum(j.base_amount) FROM journal_line j JOIN channel c ON c.fee_account_id = j.account_id
            WHERE j.journal_id = m.journal_id) AS fee
    FROM statement_line l JOIN run u ON u.id = l.run_id LEFT JOIN match m ON m.id = l.match_id
    WHERE l.id IN ${inList(list)} ORDER BY l.book_date, l.id LIMIT ${LISTED}
  `.execute(db);
  return rows.map((row) => {
    const reasons = row.reasons ? (JSON.parse(row.reasons) as Reason[]) : [];
    const because = reasons.map((reason) => reasonWords(reason, row.currency)).join('; ');
    const confirmed = row.actor === null ? 'not confirmed yet' : `confirmed by ${row.actor}`;
    return {
      ref: `line:${row.id}`,
      title: 'Statement line',
      note: row.text,
      date: row.date,
      amount: row.amount,
      takenOff: row.fee,
      journal: row.journal,
      how: [`from ${row.file}`, confirmed, because].filter(Boolean).join(', '),
    };
  });
}
