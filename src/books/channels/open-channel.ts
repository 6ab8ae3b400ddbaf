import { sql } from 'kysely';
import { z } from 'zod';
import { workingCalendar } from '@/adapters/holidays';
import { addWorkingDays, formatDate, type PlainDate } from '@/core/calendar';
import { credit, debit, type AccountId } from '@/core/ledger';
import { referenceKey } from '@/core/matching';
import { sum } from '@/core/money';
import { done, refuse, type Command, type CommandContext } from '../command';
import { JournalWriter } from '../ledger/journal-writer';
import { refreshProposals } from '../matching/proposals';
import { todayOf } from '../setup/today';
import type { PostingMode, Writing } from '../store';
import { channelAccounts, makeAccount, Refused } from './channel-accounts';
import { channelDraft, channelSettings, type ChannelDraft, type ChannelSettings } from './channel-settings';
import { writeSites } from './sites';

/** Keeps what was answered so far, so that opening a channel can be left and taken up again. */
export const saveChannelDraft: Command<{ id: number | null; settings: ChannelDraft }, { draft: number }> = {
  name: 'save-channel-draft',
  input: z.object({ id: z.number().int().nullable(), settings: channelDraft }),
  async run({ db }, { id, settings }, { now, actor }) {
    const row = { settings: JSON.stringify(settings), changed_at: now.toISOString(), actor: actor.name };
    if (id !== null) {
      const kept = await db
        .updateTable('channel_draft')
        .set(row)
        .where('id', '=', id)
        .returning('id')
        .executeTakeFirst();
      if (kept) return done({ draft: kept.id }, null);
    }
    const made = await db.insertInto('channel_draft').values(row).returning('id').executeTakeFirstOrThrow();
    return done({ draft: made.id }, null);
  },
};

/** Gives up a channel that was being opened. */
export const dropChannelDraft: Command<{ id: number }, null> = {
  name: 'drop-channel-draft',
  input: z.object({ id: z.number().int() }),
  async run({ db }, { id }) {
    await db.deleteFrom('channel_draft').where('id', '=', id).execute();
    return done(null, null);
  },
};

/**
 * Opens a channel: makes its clearing account, which nothing else may use, and the accounts that were said to be made;
 * and begins with payouts that are still on their way, where that was chosen.
 */
export const openChannel: Command<{ draft: number | null; settings: ChannelSettings }, { channel: number }> = {
  name: 'open-channel',
  input: z.object({ draft: z.number().int().nullable(), settings: channelSettings }),
  async run(tx, { draft, settings }, context) {
    try {
      const channel = await open(tx, settings, context);
      if (draft !== null) await tx.db.deleteFrom('channel_draft').where('id', '=', draft).execute();
      return done({ channel }, `Opened channel ${settings.name}`);
    } catch (error) {
      if (error instanceof Refused) return refuse(error.refusal);
      throw error;
    }
  },
};

async function open(tx: Writing, settings: ChannelSettings, context: CommandContext): Promise<number> {
  const { db } = tx;
  const books = await db.selectFrom('books').selectAll().executeTakeFirstOrThrow();
  const twice = await db.selectFrom('channel').select('id').where('name', '=', settings.name).executeTakeFirst();
  if (twice) throw new Refused({ code: 'name-taken', what: 'channel', name: settings.name });
  const { currency, clearing } = settings;
  const clearingId = await makeAccount(db, clearing.code, clearing.name, 'asset', 'clearing', currency);
  const accounts = await channelAccounts(db, settings, currency, books.currency);
  const { id } = await db
    .insertInto('channel')
    .values({
      name: settings.name,
      kind: settings.kind,
      currency,
      clearing_account_id: clearingId,
      ...accounts,
      fee_rate: settings.feeRate,
      fee_fixed: settings.feeFixed,
      payout_days: settings.payoutDays,
      history_from: settings.historyFrom,
      posts_itself: settings.postsItself ? 1 : 0,
      paid_when: settings.paidWhen,
      payer_id: settings.payer,
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  await writeSites(db, id, settings.sites, books.currency);
  const first = '0000-01-01' as PlainDate;
  await db.insertInto('channel_posting').values({ channel_id: id, from_day: first, mode: settings.mode }).execute();
  if (settings.cutOver === 'opening' && settings.outstanding.length > 0) {
    await openWithPayouts(tx, id, clearingId, settings, books.country, context);
  }
  return id;
}

/** Payouts on their way at the cut-over: their sum as a balance in transit, and each to be matched as it lands. */
async function openWithPayouts(
  tx: Writing,
  channel: number,
  clearing: AccountId,
  settings: ChannelSettings,
  country: string,
  context: CommandContext,
): Promise<void> {
  const { db } = tx;
  const { outstanding, name, currency, payoutDays, openingAgainst } = settings;
  if (openingAgainst === null) {
    throw new Refused({
      code: 'invalid-input',
      field: 'openingAgainst',
      expected: 'an account that takes the other side',
    });
  }
  const total = sum(outstanding.map((payout) => payout.net));
  const date = outstanding.map((payout) => payout.date).sort()[0]!;
  const { closed_through: closed } = await db.selectFrom('books').select('closed_through').executeTakeFirstOrThrow();
  if (closed !== null && date <= closed) throw new Refused({ code: 'period-closed', date, closedThrough: closed });
  const { last } = (
    await sql<{
      last: number;
    }>`SELECT coalesce(max(source_id), 0) AS last FROM journal WHERE source_kind = 'opening'`.execute(db)
  ).rows[0]!;
  const writer = await JournalWriter.open(tx, context);
  const because = { why: 'opening' } as const;
  writer.write({
    date,
    source: { kind: 'opening', id: last + 1, revision: 1 },
    memo: `${name}: in transit when its history begins`,
    lines: [...debit(clearing, total, because), ...credit(openingAgainst, total, because)],
  });
  await writer.finish();
  const at = context.now.toISOString();
  const run = await db
    .insertInto('run')
    .values({
      kind: 'receipts',
      file_name: `Opening of ${name}`,
      sha256: '',
      bytes: 0,
      started_at: at,
      ended_at: at,
      actor: context.actor.name,
      added: outstanding.length,
      updated: 0,
      known: 0,
      refused: 0,
      undone_at: null,
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  const calendar = workingCalendar(country);
  for (const payout of outstanding) {
    await db
      .insertInto('payout')
      .values({
        channel_id: channel,
        external_id: payout.id,
        reference_key: referenceKey(payout.id),
        paid_at: `${payout.date}T12:00:00.000Z`,
        book_date: payout.date,
        expected_on: addWorkingDays(payout.date, payoutDays, calendar),
        currency,
        net: payout.net,
        receipt_gross: payout.net,
        match_id: null,
        run_id: run.id,
      })
      .execute();
  }
  await refreshProposals(tx, { all: true });
}

/** Switches between an entry for each receipt and one for a day and site. What is posted stays as it is. */
export const setPostingMode: Command<
  { channel: number; mode: PostingMode; from: PlainDate | null },
  { from: PlainDate }
> = {
  name: 'set-posting-mode',
  input: z.object({
    channel: z.number().int(),
    mode: z.enum(['each', 'summary']),
    /** The first day it holds for; null is today. */
    from: z.custom<PlainDate>((value) => typeof value === 'string' && /^\d{4}-\d{2}-\d{2}$/.test(value)).nullable(),
  }),
  async run({ db }, { channel: id, mode, from: asked }, { now }) {
    const channel = await db.selectFrom('channel').selectAll().where('id', '=', id).executeTakeFirst();
    if (!channel) return refuse({ code: 'not-found', what: 'channel', id: String(id) });
    const books = await db.selectFrom('books').selectAll().executeTakeFirstOrThrow();
    const from = asked ?? todayOf(books, now);
    const before = await db
      .selectFrom('channel_posting')
      .selectAll()
      .where('channel_id', '=', id)
      .orderBy('from_day', 'desc')
      .execute();
    const inForce = before.find((row) => row.from_day <= from)?.mode;
    if (inForce === mode && before[0]!.from_day <= from) return done({ from }, null);
    await db.deleteFrom('channel_posting').where('channel_id', '=', id).where('from_day', '>=', from).execute();
    await db.insertInto('channel_posting').values({ channel_id: id, from_day: from, mode }).execute();
    const words = mode === 'each' ? 'each receipt' : 'one entry a day and site';
    return done({ from }, `${channel.name} posts ${words} from ${formatDate(from)}; what is posted stays`, {
      command: 'set-posting-mode',
      input: { channel: id, mode: inForce ?? 'each', from },
      label: `let ${channel.name} post as before`,
    });
  },
};
