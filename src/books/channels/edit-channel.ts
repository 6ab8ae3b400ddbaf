import { sql } from 'kysely';
import { z } from 'zod';
import { workingCalendar } from '@/adapters/holidays';
import { addWorkingDays, type PlainDate } from '@/core/calendar';
import { done, refuse, type Command } from '../command';
import { learnFeeSteps } from '../matching/learn-fee-steps';
import { refreshProposals } from '../matching/proposals';
import type { Reading } from '../store';
import { channelAccounts, Refused } from './channel-accounts';
import { channelEdit, type ChannelEdit } from './channel-settings';
import { writeSites } from './sites';

/** What is settled of an open channel, as its edit would say it. */
export async function channelAsEdit(db: Reading, id: number): Promise<ChannelEdit | null> {
  const row = await db.selectFrom('channel').selectAll().where('id', '=', id).executeTakeFirst();
  if (!row) return null;
  const sites = await db.selectFrom('site').selectAll().where('channel_id', '=', id).orderBy('id').execute();
  const use = <A>(account: A | null) => (account === null ? null : { use: account });
  return {
    name: row.name,
    bank: row.bank_account_id,
    payoutDays: row.payout_days,
    feeRate: row.fee_rate,
    feeFixed: row.fee_fixed,
    fees: { use: row.fee_account_id },
    refunds: { use: row.refund_account_id },
    tips: { use: row.tips_account_id },
    discounts: use(row.discount_account_id),
    giftCards: use(row.gift_card_account_id),
    chargebacks: use(row.chargeback_account_id),
    fx: use(row.fx_account_id),
    income: row.income_account_id,
    taxCode: row.tax_code_id,
    sites: sites.map((site) => ({
      id: site.id,
      code: site.code,
      name: site.name,
      cash: use(site.cash_account_id),
      bank: site.bank_account_id,
    })),
    historyFrom: row.history_from,
    postsItself: row.posts_itself === 1,
    paidWhen: row.paid_when,
    payer: row.payer_id,
  };
}

/** Payouts on their way are expected by the days the channel takes now. */
async function expectAgain(db: Reading, channel: number, days: number): Promise<void> {
  const { country } = await db.selectFrom('books').select('country').executeTakeFirstOrThrow();
  const calendar = workingCalendar(country);
  const { rows } = await sql<{ day: PlainDate }>`
    SELECT DISTINCT book_date AS day FROM payout WHERE channel_id = ${channel} AND match_id IS NULL
  `.execute(db);
  const expected = rows.map(({ day }) => [day, addWorkingDays(day, days, calendar)]);
  await sql`
    UPDATE payout SET expected_on = t.due
    FROM (SELECT value ->> 0 AS day, value ->> 1 AS due FROM json_each(${JSON.stringify(expected)})) AS t
    WHERE channel_id = ${channel} AND match_id IS NULL AND book_date = t.day
  `.execute(db);
}

/**
 * Changes an open channel. What is posted stays as it was posted; what is not posted yet goes by what the channel says now.
 */
export const editChannel: Command<{ channel: number; settings: ChannelEdit }, null> = {
  name: 'edit-channel',
  input: z.object({ channel: z.number().int(), settings: channelEdit }),
  async run(tx, { channel: id, settings }) {
    const { db } = tx;
    const channel = await db.selectFrom('channel').selectAll().where('id', '=', id).executeTakeFirst();
    const before = await channelAsEdit(db, id);
    if (!channel || !before) return refuse({ code: 'not-found', what: 'channel', id: String(id) });
    const twice = await db
      .selectFrom('channel')
      .select('id')
      .where('name', '=', settings.name)
      .where('id', '<>', id)
      .executeTakeFirst();
    if (twice) return refuse({ code: 'name-taken', what: 'channel', name: settings.name });
    if (settings.payer !== null) {
      const payer = await db.selectFrom('payer').select('id').where('id', '=', settings.payer).executeTakeFirst();
      if (!payer) return refuse({ code: 'not-found', what: 'payer', id: String(settings.payer) });
    }
    const { currency: base } = await db.selectFrom('books').select('currency').executeTakeFirstOrThrow();
    try {
      const accounts = await channelAccounts(db, settings, channel.currency, base);
      await db
        .updateTable('channel')
        .set({
          ...accounts,
          name: settings.name,
          fee_rate: settings.feeRate,
          fee_fixed: settings.feeFixed,
          payout_days: settings.payoutDays,
          history_from: settings.historyFrom,
          posts_itself: settings.postsItself ? 1 : 0,
          paid_when: settings.paidWhen,
          payer_id: settings.payer,
        })
        .where('id', '=', id)
        .execute();
      await writeSites(db, id, settings.sites, base);
    } catch (error) {
      if (error instanceof Refused) return refuse(error.refusal);
      throw error;
    }
    if (settings.payoutDays !== channel.payout_days) await expectAgain(db, id, settings.payoutDays);
    await learnFeeSteps(tx, [id]);
    await refreshProposals(tx, { all: true });
    return done(null, `Changed channel ${settings.name}`, {
      command: 'edit-channel',
      input: { channel: id, settings: before },
      label: `set ${settings.name} back`,
    });
  },
};
