import { after, type NextRequest } from 'next/server';
import { takeEvent } from '@/books/fetching/events';
import { EVENT_HEADERS } from '@/formats/movements/wire';
import { openBooks } from '../../../../../../server/books';
import { fetchByItself } from '../../../../../../server/fetching';
import { idParam } from '../../../../../../server/params';

/** An event is an id, a moment and a word: whatever is longer is none. */
const LONGEST = 4_096;

/** Takes a channel's signed events in. The answer says only whether it may stop sending this one. */
export async function POST(request: NextRequest, { params }: { params: Promise<{ books: string; channel: string }> }) {
  const { books, channel } = await params;
  const id = idParam(channel);
  const body = await request.text();
  if (id === null || body.length > LONGEST) return Response.json({ error: 'no event' }, { status: 400 });
  const signed = {
    at: request.headers.get(EVENT_HEADERS.at),
    signature: request.headers.get(EVENT_HEADERS.signature),
  };
  const event = await takeEvent(openBooks(books), id, body, signed, new Date());
  switch (event.taken) {
    case 'new':
    case 'again': {
      const { fetch: connection } = event;
      if (connection !== null) after(() => fetchByItself(books, connection, 'event'));
      return Response.json({ taken: event.taken });
    }
    case 'unsigned':
      return Response.json({ error: 'the signature does not fit' }, { status: 401 });
    case 'unknown':
      return Response.json({ error: 'no channel is connected here' }, { status: 404 });
    case 'senseless':
      return Response.json({ error: 'no event' }, { status: 400 });
  }
}
