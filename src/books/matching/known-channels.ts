import { sql } from 'kysely';
import type { PlainDate } from '@/core/calendar';
import type { AccountId } from '@/core/ledger';
import { wordingOf, type KnownChannel } from '@/core/matching';
import type { Reading } from '../store';

const MOST = 500;

/** Each channel with the last day that is known of it and the wordings of its confirmed deposits. */
export async function knownChannels(db: Reading): Promise<KnownChannel[]> {
  const { rows: channels } = await sql<{
    id: number;
    name: string;
    account: AccountId;
    usualLag: number;
    upTo: PlainDate | null;
  }>`
    SELECT c.id, c.name, c.bank_account_id AS account, c.payout_days AS usualLag, max(
      coalesce((SELECT book_date FROM receipt WHERE channel_id = c.id ORDER BY book_date DESC, id DESC LIMIT 1), ''),
      coalesce((SELECT book_date FROM payout WHERE channel_id = c.id ORDER BY book_date DESC, id DESC LIMIT 1), '')) AS upTo
    FROM channel c ORDER BY c.id
  `.execute(db);
  const { rows: said } = await sql<{ channel: number; text: string }>`
    SELECT DISTINCT coalesce(p.channel_id, r.channel_id) AS channel, l.text || ' ' || l.counterparty AS text
    FROM (SELECT id FROM match WHERE undone_at IS NULL ORDER BY id DESC LIMIT ${MOST}) m
    JOIN match_line x ON x.match_id = m.id AND x.place = 1 JOIN statement_line l ON l.id = x.statement_line_id
    JOIN match_part part ON part.match_id = m.id AND part.part_no = 1 AND part.kind IN ('payout', 'receipt')
    LEFT JOIN payout p ON part.kind = 'payout' AND p.id = part.ref_id
    LEFT JOIN receipt r ON part.kind = 'receipt' AND r.id = part.ref_id
  `.execute(db);
  return channels.map(({ id, upTo, ...channel }) => ({
    ...channel,
    upTo: upTo || null,
    wordings: new Set(said.filter(({ channel: of }) => of === id).map(({ text }) => wordingOf(text))),
  }));
}
