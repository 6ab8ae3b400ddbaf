import type { Reading } from '../store';
import { follow, type TrailIds } from './follow';
import type { TrailKind, TrailRef } from './ref';
import { invoiceSteps, lineSteps, payoutSteps, receiptSteps, type TrailStep } from './steps';

export type { TrailStep } from './steps';
export type Station = 'Owed' | 'Collected' | 'In transit' | 'Banked';

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
    case 'correction':
      return { kind: 'invoice', id: row.source_id };
    case 'credit-note':
    case 'settlement': {
      // What they did to an invoice; the first of several.
      const entry = await db
        .selectFrom('invoice_entry')
        .select('invoice_id as id')
        .where('journal_id', '=', journal)
        .orderBy('id')
        .executeTakeFirst();
      return entry ? { kind: 'invoice', id: entry.id } : null;
    }
    case 'reversal':
      return documentOf(db, row.source_id);
    default:
      return null;
  }
}

function gaps(found: TrailIds, steps: Record<Station, TrailStep[]>): Record<Station, string | null> {
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
