import { billLists, type BillLists } from '@/books/billing/bill-lists';
import { knownFunds } from '@/books/by-hand/gift-batch';
import { takingPlaces, type TakingPlace } from '@/books/by-hand/places';
import type { Reading } from '@/books/store';

/** What a form for money that came at once offers. */
export interface KeyLists extends BillLists {
  readonly places: readonly TakingPlace[];
  readonly funds: readonly string[];
  /** Whether money that shows up at the bank can be keyed: there is a channel for transfers. */
  readonly takesTransfers: boolean;
  readonly channels: readonly { readonly id: number; readonly name: string }[];
}

export async function keyLists(db: Reading): Promise<KeyLists> {
  return {
    ...(await billLists(db)),
    places: await takingPlaces(db),
    funds: await knownFunds(db),
    takesTransfers:
      (await db.selectFrom('channel').select('id').where('kind', '=', 'transfers').executeTakeFirst()) !== undefined,
    channels: await db.selectFrom('channel').select(['id', 'name']).orderBy('name').execute(),
  };
}
