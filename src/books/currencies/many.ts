import type { Currency } from '@/core/money';
import type { Reading } from '../store';

/** The books' own currency where channels collect in others too; null where there is only one, and sums need no care. */
export async function manyCurrencies(db: Reading): Promise<Currency | null> {
  const { currency } = await db.selectFrom('books').select('currency').executeTakeFirstOrThrow();
  const other = await db.selectFrom('channel').select('id').where('currency', '<>', currency).executeTakeFirst();
  return other ? currency : null;
}
