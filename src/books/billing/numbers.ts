import { sql } from 'kysely';
import type { PlainDate } from '@/core/calendar';
import type { NumberSeriesTable, Reading } from '../store';

/**
 * The next number of a series, given out in the transaction that issues its document: two who issue at once get one after the
 * other, and what is refused or fails gives its number back. A number that was brought in from elsewhere is passed over.
 */
export async function nextNumber(db: Reading, kind: NumberSeriesTable['kind'], date: PlainDate): Promise<string> {
  const { number_prefix: prefix } = await db.selectFrom('books').select('number_prefix').executeTakeFirstOrThrow();
  const year = Number(date.slice(0, 4));
  const table = kind === 'invoice' ? 'invoice' : 'credit_note';
  for (;;) {
    const { rows } = await sql<{ last: number }>`
      INSERT INTO number_series (kind, year, last) VALUES (${kind}, ${year}, 1)
      ON CONFLICT (kind, year) DO UPDATE SET last = last + 1 RETURNING last
    `.execute(db);
    const number = `${prefix}${kind === 'invoice' ? '' : 'C'}${year}-${String(rows[0]!.last).padStart(4, '0')}`;
    const taken = await db.selectFrom(table).select('id').where('number', '=', number).executeTakeFirst();
    if (!taken) return number;
  }
}
