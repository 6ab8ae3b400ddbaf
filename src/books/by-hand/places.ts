import type { Reading } from '../store';

/** Where money that is keyed can have come in. */
export interface TakingPlace {
  readonly channel: number;
  readonly site: number | null;
  /** Empty where the channel holds it. */
  readonly method: '' | 'cash' | 'cheque';
  readonly label: string;
}

/** Every channel in the books' currency, and cash and cheques of those that take them, site by site. */
export async function takingPlaces(db: Reading): Promise<TakingPlace[]> {
  const { currency } = await db.selectFrom('books').select('currency').executeTakeFirstOrThrow();
  const channels = await db
    .selectFrom('channel')
    .select(['id', 'name', 'kind'])
    .where('currency', '=', currency)
    .orderBy('name')
    .execute();
  const sites = await db
    .selectFrom('site')
    .select(['id', 'channel_id', 'name', 'cash_account_id as cash'])
    .orderBy('name')
    .execute();
  const cheques = await db.selectFrom('account').select('id').where('role', '=', 'cheques_on_hand').executeTakeFirst();
  return channels.flatMap(({ id: channel, name, kind }) => {
    const own = sites.filter((site) => site.channel_id === channel);
    const at = own.length > 0 ? own : [{ id: null, name: '', cash: null }];
    return at.flatMap((site): TakingPlace[] => {
      const place = site.name ? `${name}, ${site.name}` : name;
      const of = { channel, site: site.id };
      const held: TakingPlace[] = kind === 'cash-and-cheques' ? [] : [{ ...of, method: '', label: place }];
      const cash: TakingPlace[] = site.cash === null ? [] : [{ ...of, method: 'cash', label: `${place}: cash` }];
      const takesCheques = cheques !== undefined && kind === 'cash-and-cheques';
      return [
        ...held,
        ...cash,
        ...(takesCheques ? [{ ...of, method: 'cheque' as const, label: `${place}: cheque` }] : []),
      ];
    });
  });
}
