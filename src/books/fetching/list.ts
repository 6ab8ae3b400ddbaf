import { sql } from 'kysely';
import type { PlainDate } from '@/core/calendar';
import type { AccountId } from '@/core/ledger';
import type { Currency, Minor } from '@/core/money';
import { clockOf } from '../setup/today';
import type { Reading } from '../store';
import { fetchRuns, type FetchRunRow } from './run-log';
import { nextRun } from './schedule';
import { BY_HAND, schedule, scheduleWords, type Schedule } from './schedule-input';

export interface ConnectionRow {
  readonly id: number;
  readonly channel: number | null;
  readonly account: AccountId | null;
  readonly name: string;
  readonly address: string;
  readonly schedule: Schedule;
  readonly scheduleWords: string;
  /** UTC; null where it is fetched by hand. */
  readonly next: string | null;
  readonly mailTo: string;
  /** Events taken in whose matter is not fetched yet. */
  readonly eventsOpen: number;
  readonly last: FetchRunRow | null;
  readonly reading: { readonly day: PlainDate; readonly currency: Currency; readonly amount: Minor } | null;
}

/** Everything the fetching page shows. */
export async function fetchingPage(db: Reading, now: Date) {
  const books = await db.selectFrom('books').selectAll().executeTakeFirstOrThrow();
  const { rows } = await sql<{
    id: number;
    channel: number | null;
    account: AccountId | null;
    name: string;
    address: string;
    schedule: string;
    scheduledTo: string;
    mailTo: string;
    events: number;
  }>`
    SELECT k.id, k.channel_id AS channel, k.account_id AS account, coalesce(c.name, a.name) AS name, k.address, k.schedule,
      k.scheduled_to AS scheduledTo, k.mail_to AS mailTo,
      (SELECT count(*) FROM channel_event e WHERE e.channel_id = k.channel_id AND e.fetch_run_id IS NULL) AS events
    FROM connection k LEFT JOIN channel c ON c.id = k.channel_id LEFT JOIN account a ON a.id = k.account_id ORDER BY k.id
  `.execute(db);
  const connections: ConnectionRow[] = [];
  for (const { schedule: text, scheduledTo, events, ...row } of rows) {
    const read = schedule.safeParse(JSON.parse(text));
    const of = read.success ? read.data : BY_HAND;
    const after = new Date(Math.max(Date.parse(scheduledTo), clockOf(books, now).getTime()));
    const reading = await db
      .selectFrom('reading')
      .select(['book_date as day', 'currency', 'amount'])
      .where('channel_id', '=', row.channel)
      .orderBy('id', 'desc')
      .limit(1)
      .executeTakeFirst();
    connections.push({
      ...row,
      schedule: of,
      scheduleWords: scheduleWords(of),
      next: nextRun(of, books.zone, after)?.toISOString() ?? null,
      eventsOpen: events,
      last: (await fetchRuns(db, row.id))[0] ?? null,
      reading: reading ?? null,
    });
  }
  const channels = await db.selectFrom('channel').select(['id', 'name']).orderBy('id').execute();
  const banks = await db
    .selectFrom('bank_account')
    .innerJoin('account', 'account.id', 'bank_account.account_id')
    .select(['account.id', 'account.name'])
    .execute();
  return {
    zone: books.zone,
    connections,
    runs: await fetchRuns(db),
    /** What has no connection yet. */
    channels: channels.filter(({ id }) => !connections.some((one) => one.channel === id)),
    banks: banks.filter(({ id }) => !connections.some((one) => one.account === id)),
  };
}
export type FetchingPage = Awaited<ReturnType<typeof fetchingPage>>;
