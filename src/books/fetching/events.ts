import { isSigned } from '@/adapters/signature';
import { wireEvent } from '@/formats/movements/wire';
import type { BooksFile } from '../store';
import { schedule } from './schedule-input';

/** What became of an event: taken in, here already, or turned away. */
export type EventTaken =
  | { readonly taken: 'new' | 'again'; readonly fetch: number | null }
  | { readonly taken: 'unknown' | 'unsigned' | 'senseless' };

/**
 * Takes in a signed event. It only says that something changed: what it is now is fetched, so that events may come twice, late
 * and out of order. `fetch` is the connection to fetch where the channel is to be followed.
 */
export async function takeEvent(
  books: BooksFile,
  channel: number,
  body: string,
  signed: { readonly at: string | null; readonly signature: string | null },
  now: Date,
): Promise<EventTaken> {
  const connection = await books.reader
    .selectFrom('connection')
    .select(['id', 'secret', 'schedule'])
    .where('channel_id', '=', channel)
    .executeTakeFirst();
  if (!connection) return { taken: 'unknown' };
  if (!isSigned(body, signed, connection.secret, now)) return { taken: 'unsigned' };
  const event = wireEvent.safeParse(parsed(body));
  if (!event.success) return { taken: 'senseless' };
  const fresh = await books.write(
    async ({ db }) => {
      const { numInsertedOrUpdatedRows: n = 0n } = await db
        .insertInto('channel_event')
        .values({
          channel_id: channel,
          event_id: event.data.id,
          made_at: event.data.at,
          received_at: now.toISOString(),
          about: event.data.about,
          fetch_run_id: null,
        })
        .onConflict((c) => c.doNothing())
        .executeTakeFirst();
      return n > 0n;
    },
    () => true,
  );
  if (!fresh) return { taken: 'again', fetch: null };
  const follows = schedule.safeParse(JSON.parse(connection.schedule));
  // Somebody waits for a payment that was begun on a public page: it is fetched at once.
  const awaited = await books.reader
    .selectFrom('payment')
    .select('id')
    .where('channel_id', '=', channel)
    .where('external_id', '=', event.data.about)
    .executeTakeFirst();
  const follow = awaited !== undefined || (follows.success && follows.data.onEvents);
  return { taken: 'new', fetch: follow ? connection.id : null };
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}
