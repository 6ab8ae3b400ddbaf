import { z } from 'zod';
import type { AccountId } from '@/core/ledger';
import { done, refuse, type Command } from '../command';
import { clockOf } from '../setup/today';
import type { Reading } from '../store';
import { BY_HAND, schedule, type Schedule } from './schedule-input';

const address = z
  .string()
  .trim()
  .min(1)
  .max(300)
  // An address without a host is of this server itself: the stand-ins.
  .refine((text) => /^\/standins\/[a-z0-9-]+\/(desk|bank)$/.test(text) || /^https?:\/\/[^\s]+$/.test(text), {
    message: 'an address that begins with https://',
  });
const mailTo = z.union([z.literal(''), z.email('an email address')]);

export interface ConnectionInput {
  /** One of the two is set. */
  channel: number | null;
  account: AccountId | null;
  address: string;
  secret: string;
}

/** Connects a channel, or a bank account, with the service that is asked for what is new. */
export const connect: Command<ConnectionInput, { connection: number }> = {
  name: 'connect',
  input: z
    .object({
      channel: z.number().int().nullable(),
      account: z.custom<AccountId>((value) => Number.isSafeInteger(value)).nullable(),
      address,
      secret: z.string().trim().min(1).max(200),
    })
    .refine(({ channel, account }) => (channel === null) !== (account === null), 'a channel or a bank account'),
  async run({ db }, { channel, account, ...to }, { now }) {
    const name = await nameOf(db, channel, account);
    if (name === null) {
      const what = channel === null ? 'bank account' : 'channel';
      return refuse({ code: 'not-found', what, id: String(channel ?? account) });
    }
    const there = await db
      .selectFrom('connection')
      .select('id')
      .where((e) => e.or([e('channel_id', '=', channel), e('account_id', '=', account)]))
      .executeTakeFirst();
    if (there) return refuse({ code: 'name-taken', what: 'connection of', name });
    const books = await db.selectFrom('books').selectAll().executeTakeFirstOrThrow();
    const { id } = await db
      .insertInto('connection')
      .values({
        channel_id: channel,
        account_id: account,
        ...to,
        schedule: JSON.stringify(BY_HAND),
        scheduled_to: clockOf(books, now).toISOString(),
      })
      .returning('id')
      .executeTakeFirstOrThrow();
    return done({ connection: id }, `Connected ${name}`, {
      command: 'disconnect',
      input: { connection: id },
      label: `disconnect ${name}`,
    });
  },
};

async function nameOf(db: Reading, channel: number | null, account: AccountId | null): Promise<string | null> {
  if (channel !== null) {
    return (await db.selectFrom('channel').select('name').where('id', '=', channel).executeTakeFirst())?.name ?? null;
  }
  const row = await db
    .selectFrom('bank_account')
    .innerJoin('account', 'account.id', 'bank_account.account_id')
    .select('account.name')
    .where('account.id', '=', account)
    .executeTakeFirst();
  return row?.name ?? null;
}

/** Ends a connection. What it brought in stays; so do its runs, in the log of files brought in. */
export const disconnect: Command<{ connection: number }, null> = {
  name: 'disconnect',
  input: z.object({ connection: z.number().int() }),
  async run({ db }, { connection }) {
    const row = await db.selectFrom('connection').selectAll().where('id', '=', connection).executeTakeFirst();
    if (!row) return refuse({ code: 'not-found', what: 'connection', id: String(connection) });
    const name = await nameOf(db, row.channel_id, row.account_id);
    if (row.channel_id !== null) {
      await db.deleteFrom('channel_event').where('channel_id', '=', row.channel_id).execute();
    }
    await db.deleteFrom('fetch_run').where('connection_id', '=', connection).execute();
    await db.deleteFrom('connection').where('id', '=', connection).execute();
    return done(null, `Disconnected ${name}`);
  },
};

export interface TimingInput {
  connection: number;
  schedule: Schedule;
  mailTo: string;
}

/** Says when a connection is fetched, and to whom its log is mailed. */
export const setTiming: Command<TimingInput, null> = {
  name: 'set-timing',
  input: z.object({ connection: z.number().int(), schedule, mailTo }),
  async run({ db }, { connection, schedule: wanted, mailTo: to }, { now }) {
    const row = await db.selectFrom('connection').selectAll().where('id', '=', connection).executeTakeFirst();
    if (!row) return refuse({ code: 'not-found', what: 'connection', id: String(connection) });
    const text = JSON.stringify(wanted);
    if (text === row.schedule && to === row.mail_to) return done(null, null);
    const books = await db.selectFrom('books').selectAll().executeTakeFirstOrThrow();
    await db
      .updateTable('connection')
      // Runs that would have been due before now are not made up for.
      .set({ schedule: text, mail_to: to, scheduled_to: clockOf(books, now).toISOString() })
      .where('id', '=', connection)
      .execute();
    const name = await nameOf(db, row.channel_id, row.account_id);
    return done(null, `Set when ${name} is fetched`, {
      command: 'set-timing',
      input: { connection, schedule: JSON.parse(row.schedule), mailTo: row.mail_to },
      label: `fetch ${name} as before`,
    });
  },
};
