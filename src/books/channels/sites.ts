import type { Currency } from '@/core/money';
import type { Reading } from '../store';
import { chosen, Refused } from './channel-accounts';
import type { ChannelSettings } from './channel-settings';

type Site = ChannelSettings['sites'][number];

/**
 * Makes the sites of a channel what they were said to be: new ones are added, those that are left out are taken out. One that
 * receipts name stays, and is refused with its name.
 */
export async function writeSites(
  db: Reading,
  channel: number,
  sites: readonly Site[],
  currency: Currency,
): Promise<void> {
  const there = await db.selectFrom('site').selectAll().where('channel_id', '=', channel).execute();
  // An id is not given out again while it could still be meant, by an undo or by a page that is open.
  const all = await db.selectFrom('site').select('id').orderBy('id', 'desc').execute();
  let next = (all[0]?.id ?? 0) + 1;
  for (const site of there) {
    if (sites.some((one) => one.id === site.id)) continue;
    const used = await db.selectFrom('receipt').select('id').where('site_id', '=', site.id).limit(1).executeTakeFirst();
    const summed = await db
      .selectFrom('summary')
      .select('id')
      .where('site_id', '=', site.id)
      .limit(1)
      .executeTakeFirst();
    if (used || summed) throw new Refused({ code: 'in-use', what: 'site', name: site.name });
    await db.deleteFrom('site').where('id', '=', site.id).execute();
  }
  const codes = new Set<string>();
  for (const site of sites) {
    if (codes.has(site.code.toLowerCase())) throw new Refused({ code: 'name-taken', what: 'site', name: site.code });
    codes.add(site.code.toLowerCase());
    const cash = site.cash && (await chosen(db, site.cash, 'asset', 'cash_on_hand', currency, 'cash'));
    if (site.bank !== null) {
      const bank = await db
        .selectFrom('bank_account')
        .select('currency')
        .where('account_id', '=', site.bank)
        .executeTakeFirst();
      if (bank?.currency !== currency) {
        throw new Refused({ code: 'account-unfit', account: site.name, decides: 'bank' });
      }
    }
    const row = { code: site.code, name: site.name, cash_account_id: cash, bank_account_id: site.bank };
    const kept = there.find((one) => one.id === site.id);
    if (kept) await db.updateTable('site').set(row).where('id', '=', kept.id).execute();
    // One that was taken out before comes back under its own id, which nothing else has taken.
    else
      await db
        .insertInto('site')
        .values({
          ...row,
          channel_id: channel,
          id: site.id && !all.some(({ id }) => id === site.id) ? site.id : next++,
        })
        .execute();
  }
}
