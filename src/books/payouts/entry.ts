import { depositEntry } from '@/core/ledger';
import { accountNames, journalLines, viewLines, type EntryLineView } from '../ledger/entry-view';
import type { Reading } from '../store';

/**
 * The entry of a payout at the bank: as its match posted it, with all that the match holds, or else as recipe 9 will
 * write it. Empty where there is no such payout.
 */
export async function payoutEntry(db: Reading, id: number): Promise<EntryLineView[]> {
  const payout = await db
    .selectFrom('payout')
    .innerJoin('channel', 'channel.id', 'payout.channel_id')
    .leftJoin('match', 'match.id', 'payout.match_id')
    .select(['external_id', 'net', 'clearing_account_id', 'bank_account_id', 'match.journal_id'])
    .where('payout.id', '=', id)
    .executeTakeFirst();
  if (!payout) return [];
  const names = await accountNames(db);
  if (payout.journal_id !== null) return viewLines(await journalLines(db, payout.journal_id), names);
  const { external_id: reference, net, clearing_account_id: clearing, bank_account_id: bank } = payout;
  const parts = [{ kind: 'payout', reference, clearing, net }] as const;
  const planned = depositEntry({ bank, lineId: 0, amount: net, parts, restTo: null });
  return 'lines' in planned ? viewLines(planned.lines, names) : [];
}
