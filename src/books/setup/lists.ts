import type { Reading } from '../store';

/** What the books are set up with. */
export async function setUpLists(db: Reading) {
  return {
    books: await db.selectFrom('books').selectAll().executeTakeFirstOrThrow(),
    channels: await db.selectFrom('channel').selectAll().orderBy('id').execute(),
    taxCodes: await db.selectFrom('tax_code').selectAll().orderBy('code').execute(),
    items: await db.selectFrom('item').selectAll().orderBy('code').execute(),
    banks: await db.selectFrom('bank_account').selectAll().orderBy('account_id').execute(),
  };
}
