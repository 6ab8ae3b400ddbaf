import { sql } from 'kysely';
import { depositEntry, type AccountId } from '@/core/ledger';
import { accountNames, journalLines, viewLines, type EntryLineView } from '../ledger/entry-view';
import { channelBookings } from '../matching/channel-bookings';
import { PAYOUT_COLUMNS, type PayoutRow } from '../matching/part-rows';
import { payoutPart } from '../matching/parts';
import type { Reading } from '../store';

/**
 * The entry of a payout at the bank: as its match posted it, with all that the match holds, or else as recipe 9 (or 21, where
 * only totals tell the fee) will write it. Empty where there is no such payout.
 */
export async function payoutEntry(db: Reading, id: number): Promise<EntryLineView[]> {
  const { rows } = await sql<PayoutRow & { bank: AccountId; journal: number | null }>`
    SELECT ${PAYOUT_COLUMNS}, c.bank_account_id AS bank, m.journal_id AS journal
    FROM payout p JOIN channel c ON c.id = p.channel_id LEFT JOIN match m ON m.id = p.match_id WHERE p.id = ${id}
  `.execute(db);
  const row = rows[0];
  if (!row) return [];
  const names = await accountNames(db);
  if (row.journal !== null) return viewLines(await journalLines(db, row.journal), names);
  const { part } = payoutPart(row, await channelBookings(db));
  const planned = depositEntry({ bank: row.bank, lineId: 0, amount: row.net, parts: [part], restTo: null });
  return 'lines' in planned ? viewLines(planned.lines, names) : [];
}
