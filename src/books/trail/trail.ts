import { sql } from 'kysely';
import { formatDate, type PlainDate } from '@/core/calendar';
import { reasonWords, type Reason } from '@/core/matching';
import type { Minor } from '@/core/money';
import type { Reading } from '../store';
import type { TrailKind, TrailRef } from './ref';

export type Station = 'Owed' | 'Collected' | 'In transit' | 'Banked';

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

export interface TrailStop {
  readonly station: Station;
  readonly steps: readonly TrailStep[];
  /** Steps that are not listed because there are too many. */
  readonly more: number;
  /** What is awaited, where there is no step yet; null where none is to come. */
  readonly gap: string | null;
}

export interface Trail {
  readonly title: string;
  readonly entered: TrailRef;
  readonly stops: readonly TrailStop[];
}

const LISTED = 12;

interface Ids {
  invoices: number[];
  receipts: number[];
  payouts: number[];
  lines: number[];
}

const inList = (ids: readonly number[]) => sql`(SELECT value FROM json_each(${JSON.stringify(ids)}))`;

async function ids(db: Reading, query: ReturnType<typeof sql>): Promise<number[]> {
  const { rows } = await sql<{ id: number }>`SELECT DISTINCT id FROM (${query}) ORDER BY id`.execute(db);
  return rows.map((row) => row.id);
}

const linesOfPayouts = (payouts: readonly number[]) => sql`
  SELECT m.statement_line_id AS id FROM payout p JOIN match_line m ON m.match_id = p.match_id AND m.live = 1
  WHERE p.id IN ${inList(payouts)}`;

const linesOfReceipts = (receipts: readonly number[]) => sql`
  SELECT m.statement_line_id AS id FROM receipt r JOIN match_line m ON m.match_id = r.match_id AND m.live = 1
  WHERE r.id IN ${inList(receipts)}`;

const linesOfInvoices = (invoices: readonly number[]) => sql`
  SELECT l.statement_line_id AS id FROM match_part p JOIN match_line l ON l.match_id = p.match_id AND l.live = 1
  WHERE p.kind = 'invoice' AND p.live = 1 AND p.ref_id IN ${inList(invoices)}`;

const payoutsOfReceipts = (receipts: readonly number[]) => sql`
  SELECT payout_id AS id FROM receipt WHERE id IN ${inList(receipts)} AND payout_id IS NOT NULL`;

const receiptsOfInvoices = (invoices: readonly number[]) => sql`
  SELECT r.id FROM invoice i JOIN receipt r ON r.document = i.number WHERE i.id IN ${inList(invoices)}`;

const invoicesOfReceipts = (receipts: readonly number[]) => sql`
  SELECT i.id FROM receipt r JOIN invoice i ON i.number = r.document AND r.document <> ''
  WHERE r.id IN ${inList(receipts)}`;

const receiptsOfPayouts = (payouts: readonly number[]) => sql`
  SELECT id FROM receipt WHERE payout_id IN ${inList(payouts)}`;

const partsOf = (kind: string, lines: readonly number[]) => sql`
  SELECT p.ref_id AS id FROM match_line l JOIN match_part p ON p.match_id = l.match_id AND p.live = 1
  WHERE l.live = 1 AND p.kind = ${kind} AND l.statement_line_id IN ${inList(lines)}`;

/** Follows the money from one end: everything that hangs together with the place where the trail is entered. */
async function follow(db: Reading, kind: Exclude<TrailKind, 'journal'>, id: number): Promise<Ids> {
  switch (kind) {
    case 'invoice': {
      const receipts = await ids(db, receiptsOfInvoices([id]));
      const payouts = await ids(db, payoutsOfReceipts(receipts));
      const lines = await ids(
        db,
        sql`${linesOfPayouts(payouts)} UNION ${linesOfReceipts(receipts)} UNION ${linesOfInvoices([id])}`,
      );
      return { invoices: [id], receipts, payouts, lines };
    }
    case 'receipt': {
      const payouts = await ids(db, payoutsOfReceipts([id]));
      return {
        invoices: await ids(db, invoicesOfReceipts([id])),
        receipts: [id],
        payouts,
        lines: await ids(db, sql`${linesOfPayouts(payouts)} UNION ${linesOfReceipts([id])}`),
      };
    }
    case 'payout': {
      const receipts = await ids(db, receiptsOfPayouts([id]));
      return {
        invoices: await ids(db, invoicesOfReceipts(receipts)),
        receipts,
        payouts: [id],
        lines: await ids(db, linesOfPayouts([id])),
      };
    }
    case 'line': {
      const payouts = await ids(db, partsOf('payout', [id]));
      const receipts = await ids(db, sql`${receiptsOfPayouts(payouts)} UNION ${partsOf('receipt', [id])}`);
      return {
        invoices: await ids(db, sql`${invoicesOfReceipts(receipts)} UNION ${partsOf('invoice', [id])}`),
        receipts,
        payouts,
        lines: [id],
      };
    }
  }
}

/** From a journal to the document it was written for; a reversal leads to what it reversed. */
async function documentOf(
  db: Reading,
  journal: number,
): Promise<{ kind: Exclude<TrailKind, 'journal'>; id: number } | null> {
  const row = await db
    .selectFrom('journal')
    .select(['source_kind', 'source_id'])
    .where('id', '=', journal)
    .executeTakeFirst();
  switch (row?.source_kind) {
    case 'invoice':
    case 'receipt':
      return { kind: row.source_kind, id: row.source_id };
    case 'match': {
      const line = await db
        .selectFrom('match_line')
        .select('statement_line_id as id')
        .where('match_id', '=', row.source_id)
        .executeTakeFirst();
      return line ? { kind: 'line', id: line.id } : null;
    }
    case 'reversal':
      return documentOf(db, row.source_id);
    default:
      return null;
  }
}

async function invoiceSteps(db: Reading, list: readonly number[]): Promise<TrailStep[]> {
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

async function receiptSteps(db: Reading, list: readonly number[]): Promise<TrailStep[]> {
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

async function payoutSteps(db: Reading, list: readonly number[]): Promise<TrailStep[]> {
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
    note: `${row.channel}, ${row.count} ${row.count === 1 ? 'receipt' : 'receipts'}`,
    date: row.date,
    amount: row.net,
    takenOff: null,
    journal: row.journal,
    how: `from ${row.file}, expected ${formatDate(row.expected)}`,
  }));
}

async function lineSteps(db: Reading, list: readonly number[]): Promise<TrailStep[]> {
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

function gaps(found: Ids, steps: Record<Station, TrailStep[]>): Record<Station, string | null> {
  const receipts = found.receipts.length;
  return {
    Owed: found.invoices.length > 0 ? null : receipts > 0 ? 'Paid at once, without an invoice.' : 'No document yet.',
    Collected:
      receipts > 0
        ? null
        : found.invoices.length > 0 && found.lines.length > 0
          ? 'Paid straight into the bank.'
          : found.invoices.length > 0
            ? 'Not paid yet.'
            : found.payouts.length > 0
              ? 'The receipts of this payout are not here: bring the channel’s export in.'
              : null,
    'In transit':
      found.payouts.length > 0
        ? null
        : found.lines.length > 0
          ? receipts > 0
            ? 'No payout report: explained from the receipts themselves.'
            : null
          : receipts > 0
            ? 'The channel has not said yet which payout carries it.'
            : null,
    Banked:
      found.lines.length > 0
        ? null
        : steps['In transit'][0]
          ? `Not matched at the bank yet; ${steps['In transit'][0].how.split(', ').at(-1)}.`
          : receipts > 0
            ? 'Not at the bank yet.'
            : null,
  };
}

/** The whole way of one piece of money, entered anywhere: the same stops from either end. Null where nothing is there. */
export async function trail(db: Reading, kind: TrailKind, id: number): Promise<Trail | null> {
  const place = kind === 'journal' ? await documentOf(db, id) : { kind, id };
  if (place === null) return null;
  const found = await follow(db, place.kind, place.id);
  const steps: Record<Station, TrailStep[]> = {
    Owed: await invoiceSteps(db, found.invoices),
    Collected: await receiptSteps(db, found.receipts),
    'In transit': await payoutSteps(db, found.payouts),
    Banked: await lineSteps(db, found.lines),
  };
  const counts = {
    Owed: found.invoices.length,
    Collected: found.receipts.length,
    'In transit': found.payouts.length,
    Banked: found.lines.length,
  };
  const entered: TrailRef = `${place.kind}:${place.id}`;
  const title = Object.values(steps)
    .flat()
    .find((step) => step.ref === entered);
  if (!title) return null;
  const gap = gaps(found, steps);
  return {
    title: title.title === 'Statement line' ? title.note || title.title : title.title,
    entered,
    stops: (Object.keys(steps) as Station[])
      .map((station) => ({
        station,
        steps: steps[station],
        more: counts[station] - steps[station].length,
        gap: gap[station],
      }))
      .filter((stop) => stop.steps.length > 0 || stop.gap !== null),
  };
}
