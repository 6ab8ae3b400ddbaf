import { HttpDoor } from '@/adapters/channel-door';
import { mailer } from '@/adapters/mailer';
import { DoorShut, shutWords, type Patience } from '@/adapters/patience';
import { isSigned, sign, SIGNATURE_HOLDS } from '@/adapters/signature';
import { json, StandInServer } from './stand-in-server';

let server: StandInServer | null = null;
afterEach(async () => {
  await server?.close();
  server = null;
});

const waits: number[] = [];
const PATIENT: Patience = {
  tries: 4,
  firstWait: 100,
  longestWait: 350,
  timeout: 2_000,
  sleep: (milliseconds) => {
    waits.push(milliseconds);
    return Promise.resolve();
  },
};
beforeEach(() => {
  waits.length = 0;
});

async function doorTo(answer: (request: Request, asked: number) => Response, patience = PATIENT) {
  server = await StandInServer.open(answer);
  return new HttpDoor(new URL('/desk/', server.address), 'key', patience);
}

async function shut(promise: Promise<unknown>): Promise<string> {
  const error = await promise.then(
    () => null,
    (thrown: unknown) => thrown,
  );
  if (!(error instanceof DoorShut)) throw new Error(`the door stayed open: ${String(error)}`);
  return shutWords(error.reason);
}

async function all<T>(pages: AsyncGenerator<{ readonly items: readonly T[] }>): Promise<T[]> {
  const items: T[] = [];
  for await (const page of pages) items.push(...page.items);
  return items;
}

const READING = { at: '2026-11-16T18:00:00Z', currency: 'EUR', amount: 1250 };

describe('asking patiently', () => {
  test('a busy and an unwell answer are asked again, each wait twice the last, up to the longest', async () => {
    const door = await doorTo((_, asked) => (asked < 4 ? json({}, asked === 2 ? 429 : 503) : json(READING)));
    expect(await door.reading()).toEqual(READING);
    expect(waits).toEqual([100, 200, 350]);
    expect(door.retries).toBe(3);
  });

  test('the wait that the other side asks for is kept to, within reason', async () => {
    const door = await doorTo((_, asked) =>
      asked === 1
        ? json({}, 429, { 'retry-after': '0.2' })
        : asked === 2
          ? json({}, 429, { 'retry-after': '900' })
          : json(READING),
    );
    await door.reading();
    expect(waits).toEqual([200, 350]);
  });

  test('who stays unwell is given up, with what it answered last', async () => {
    const door = await doorTo(() => json({}, 502));
    expect(await shut(door.reading())).toBe('it was not well (502)');
    expect(server!.asked).toHaveLength(4);
  });

  test('a refusal is final: a wrong key is asked once', async () => {
    const door = await doorTo(() => json({}, 401));
    expect(await shut(door.reading())).toBe('it does not know the key');
    expect(server!.asked).toHaveLength(1);
    expect(server!.asked[0]!.headers.get('authorization')).toBe('Bearer key');
  });

  test.each([
    ['no JSON', () => new Response('<html>'), 'its answer makes no sense: no JSON'],
    ['another shape', () => json({ at: 'noon', currency: 'EUR', amount: 1 }), /makes no sense: at /],
    ['half a cent', () => json({ ...READING, amount: 12.5 }), /makes no sense: amount /],
    [
      'a way elsewhere',
      () => new Response('', { status: 302, headers: { location: 'http://127.0.0.1:1/' } }),
      'it could not be reached',
    ],
  ])('%s is no answer', async (_, answer, words) => {
    const door = await doorTo(answer);
    expect(await shut(door.reading())).toMatch(words);
  });

  test('where nobody listens, it is said', async () => {
    const door = new HttpDoor(new URL('http://127.0.0.1:1/desk'), 'key', PATIENT);
    expect(await shut(door.reading())).toBe('it could not be reached');
    expect(waits).toHaveLength(3);
  });
});

describe('pages', () => {
  const HAS = Array.from({ length: 250 }, (_, index) => ({ change: index + 1 }));
  const paged = (request: Request) => {
    const since = Number(new URL(request.url).searchParams.get('since'));
    const items = HAS.slice(since, since + 100);
    return json({ items, next: items.at(-1)?.change ?? since, more: since + 100 < HAS.length });
  };

  test('are asked for until there is no more, from where it was left', async () => {
    const door = await doorTo(paged);
    expect(await all(door.movementsSince(0))).toEqual(HAS);
    expect(server!.asked.map(({ url }) => new URL(url).search)).toEqual(['?since=0', '?since=100', '?since=200']);
    expect(await all(door.movementsSince(240))).toEqual(HAS.slice(240));
    expect(await all(door.movementsSince(250))).toEqual([]);
  });

  test('one that goes in a circle is given up', async () => {
    const door = await doorTo(() => json({ items: [{}], next: 5, more: true }));
    expect(await shut(all(door.movementsSince(0)))).toBe('its answer makes no sense: page after 5 leads to 5');
  });
});

describe('signatures', () => {
  const at = '2026-11-16T09:00:00.000Z';
  const now = new Date(at);
  const signature = sign('{"id":"E-1"}', at, 'key');

  test('hold for the body, the moment and the key they were made for', () => {
    expect(isSigned('{"id":"E-1"}', { at, signature }, 'key', now)).toBe(true);
    expect(isSigned('{"id":"E-2"}', { at, signature }, 'key', now)).toBe(false);
    expect(isSigned('{"id":"E-1"}', { at: '2026-11-16T09:00:01.000Z', signature }, 'key', now)).toBe(false);
    expect(isSigned('{"id":"E-1"}', { at, signature }, 'other', now)).toBe(false);
  });

  test.each([null, '', 'zz', 'f'.repeat(63), 'F'.repeat(64)])('%j is none', (other) => {
    expect(isSigned('{"id":"E-1"}', { at, signature: other }, 'key', now)).toBe(false);
  });

  test('do not hold for long, so that they cannot be replayed', () => {
    const later = (by: number) => new Date(now.getTime() + by);
    expect(isSigned('{"id":"E-1"}', { at, signature }, 'key', later(SIGNATURE_HOLDS))).toBe(true);
    expect(isSigned('{"id":"E-1"}', { at, signature }, 'key', later(SIGNATURE_HOLDS + 1))).toBe(false);
    expect(isSigned('{"id":"E-1"}', { at: 'yesterday', signature }, 'key', now)).toBe(false);
    expect(isSigned('{"id":"E-1"}', { at: null, signature }, 'key', now)).toBe(false);
  });
});

test('without a mail server a letter is put into form and goes nowhere', async () => {
  expect(await mailer(undefined).send({ to: 'office@kittiwake.example', subject: 'Run', text: 'done' })).toBe(false);
});
