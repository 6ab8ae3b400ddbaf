import { sql } from 'kysely';
import { workingCalendar } from '@/adapters/holidays';
import { formatDay, workingDaysBetween, type PlainDate, type WorkingCalendar } from '@/core/calendar';
import { plural } from '@/core/words';
import type { Reading } from '../store';
import { PartsShelf } from './load-parts';
import type { PartInput } from './part-input';
import type { SheetPart } from './parts';

/** A part that is laid, and others that would fit in its place to the cent; what tells each apart, in words. */
export interface Twins {
  readonly part: SheetPart;
  readonly tells: string;
  readonly others: readonly { readonly part: SheetPart; readonly tells: string }[];
  /** Others that are not listed. */
  readonly more: number;
}

/** Parts that are looked at; a run of more than these is told apart by its ends, not by its members. */
const MOST_PARTS = 12;
const MOST_TWINS = 4;
/** Days of the calendar around a part within which another is mistaken for it. */
const AROUND = 31;

type Laid = Extract<PartInput, { kind: 'payout' | 'receipt' | 'invoice' }>;

/** Ids of what is free, of the same kind and origin, and of the same amount as a part. */
async function equals(db: Reading, part: Laid): Promise<number[]> {
  const near = (a: ReturnType<typeof sql>, b: ReturnType<typeof sql>) =>
    sql`abs(julianday(${a}) - julianday(${b})) <= ${AROUND}`;
  const query = {
    payout: sql<{ id: number }>`
      SELECT o.id FROM payout p JOIN payout o ON o.net = p.net AND o.currency = p.currency AND o.match_id IS NULL AND o.id <> p.id
        AND ${near(sql`o.book_date`, sql`p.book_date`)}
      WHERE p.id = ${part.id} ORDER BY o.book_date, o.id`,
    receipt: sql<{ id: number }>`
      SELECT o.id FROM receipt r JOIN receipt o ON o.channel_id = r.channel_id AND o.gross = r.gross AND o.fee IS r.fee
        AND o.not_held = r.not_held AND o.not_held <> o.gross AND o.payout_id IS NULL AND o.payout_ref = '' AND o.match_id IS NULL
        AND o.journal_id IS NOT NULL AND o.id <> r.id
        AND ${near(sql`o.book_date`, sql`r.book_date`)}
      WHERE r.id = ${part.id} ORDER BY o.book_date, o.id`,
    invoice: sql<{ id: number }>`
      SELECT o.id FROM invoice i JOIN invoice o ON o.payer_id = i.payer_id AND o.gross - o.paid = i.gross - i.paid
        AND o.paid < o.gross AND o.journal_id IS NOT NULL AND o.id <> i.id
      WHERE i.id = ${part.id} ORDER BY o.issued, o.id`,
  }[part.kind];
  return (await query.execute(db)).rows.map(({ id }) => id);
}

/** Site by receipt, or of a payout the site of its receipts where they are of one. */
async function sitesOf(db: Reading, kind: Laid['kind'], ids: readonly number[]): Promise<Map<number, string>> {
  if (kind === 'invoice') return new Map();
  const of = kind === 'receipt' ? sql`r.id` : sql`r.payout_id`;
  const { rows } = await sql<{ id: number; site: string }>`
    SELECT ${of} AS id, min(s.name) AS site FROM receipt r JOIN site s ON s.id = r.site_id
    WHERE ${of} IN (SELECT value FROM json_each(${JSON.stringify(ids)})) GROUP BY 1 HAVING count(DISTINCT s.id) = 1
  `.execute(db);
  return new Map(rows.map(({ id, site }) => [id, site]));
}

function tellsOf(part: SheetPart, day: PlainDate, site: string | undefined, calendar: WorkingCalendar): string {
  const lag = workingDaysBetween(part.date, day, calendar);
  const days = lag === 0 ? 'on the day' : `${plural(Math.abs(lag), 'working day')} ${lag > 0 ? 'before' : 'after'}`;
  return [`of ${formatDay(part.date)}`, days, site].filter(Boolean).join(', ');
}

/**
 * Of the parts on the sheet of a line, those in whose place others would fit equally, with what tells them apart: number and
 * payer are in their titles, date, how long before the line, and site beside them.
 */
export async function twinsOf(db: Reading, lineId: number, parts: readonly PartInput[]): Promise<Twins[]> {
  const line = await db.selectFrom('statement_line').selectAll().where('id', '=', lineId).executeTakeFirst();
  if (!line) return [];
  const laid = parts.filter(
    (part): part is Laid => part.kind === 'payout' || part.kind === 'receipt' || part.kind === 'invoice',
  );
  if (laid.length > MOST_PARTS) return [];
  const { country } = await db.selectFrom('books').select('country').executeTakeFirstOrThrow();
  const calendar = workingCalendar(country);
  const found: Twins[] = [];
  for (const part of laid) {
    const free = (await equals(db, part)).filter((id) => !laid.some((one) => one.kind === part.kind && one.id === id));
    if (free.length === 0) continue;
    const inputs = [part, ...free.slice(0, MOST_TWINS).map((id) => ({ ...part, id }))];
    const shelf = await PartsShelf.of(db, inputs, line.currency, 'sheets');
    const sites = await sitesOf(
      db,
      part.kind,
      inputs.map(({ id }) => id),
    );
    const shown = inputs.flatMap((input) => {
      const looked = shelf.look([input], line.book_date);
      if ('refusal' in looked) return [];
      const one = looked.parts[0]!;
      return [{ part: one, tells: tellsOf(one, line.book_date, sites.get(input.id), calendar) }];
    });
    const [own, ...others] = shown;
    if (own?.part.id !== part.id || others.length === 0) continue;
    found.push({ ...own, others, more: Math.max(0, free.length - MOST_TWINS) });
  }
  return found;
}
