import { join } from 'node:path';
import { BlobStore } from '@/adapters/blob-store';
import { HttpDoor, type ChannelDoor } from '@/adapters/channel-door';
import { DoorShut } from '@/adapters/patience';
import { sign } from '@/adapters/signature';
import type { Progress } from '@/books/command';
import { connect, disconnect, setTiming } from '@/books/fetching/connections';
import { takeEvent } from '@/books/fetching/events';
import { fetchNow, type FetchReport } from '@/books/fetching/fetch';
import { fetchingPage } from '@/books/fetching/list';
import { fetchRuns, mailRun, outbox } from '@/books/fetching/run-log';
import { BY_HAND, type Schedule } from '@/books/fetching/schedule-input';
import { clearingProofs } from '@/books/proof/clearing';
import { undoChange } from '@/books/undo';
import { Answers } from '@/standins/answers';
import { World as Outside, type WorldSeed } from '@/standins/world';
import { FILES } from '../../../demo/load';
import { kittiwakeWorld } from '../../../demo/kittiwake/world';
import { ACTOR, World } from '../books/world';
import { StandInServer } from './stand-in-server';

const NOW = new Date('2026-11-16T09:00:00Z');
const QUICK = { tries: 4, firstWait: 1, longestWait: 1, timeout: 5_000, sleep: () => Promise.resolve() };

const DAILY: Schedule = { ...BY_HAND, every: 'day' };

let seed: WorldSeed;
beforeAll(async () => {
  seed = await kittiwakeWorld(FILES);
});

let world: World;
let outside: Outside;
let server: StandInServer;
let desk: number;
beforeEach(async () => {
  world = await World.open();
  outside = new Outside(seed, seed.begins);
  let clock = 0;
  // A second passes with every question, so that the rate limit is not in the way.
  const answers = new Answers(() => (clock += 1000));
  server = await StandInServer.open((request) => {
    const { pathname } = new URL(request.url);
    return answers.answer(outside, pathname.slice(1), request);
  });
  const { secret } = seed;
  desk = (await world.must(connect, { channel: 1, account: null, address: '/standins/kittiwake/desk', secret }))
    .connection;
});
afterEach(async () => {
  await server.close();
  await world.close();
});

const doorTo = (side: string) => () => new HttpDoor(new URL(`/${side}`, server.address), seed.secret, QUICK);

interface How {
  readonly connection?: number;
  readonly door?: () => ChannelDoor;
  readonly progress?: Progress;
}

async function fetchOnce({ connection = desk, door = doorTo('desk'), progress }: How = {}): Promise<FetchReport> {
  const result = await fetchNow(world.books, connection, {
    actor: ACTOR,
    now: NOW,
    beganBy: 'hand',
    blobs: new BlobStore(join(world.folder, 'files')),
    door,
    ...(progress && { progress }),
  });
  if (!result.ok) throw new Error(JSON.stringify(result.refusal));
  return result.value;
}

const cursor = async () =>
  (await world.books.reader.selectFrom('connection').select('cursor').where('id', '=', desk).executeTakeFirstOrThrow())
    .cursor;
const allIn = async () => (await world.count('receipt')) + (await world.count('payout'));

describe('fetching a channel', () => {
  test('brings in all there is, page by page; asked again, there is nothing new', async () => {
    const there = outside.desk.changesAfter(0);
    expect(await fetchOnce()).toMatchObject({ outcome: 'done', added: there.length, changed: 0, refused: 0, why: '' });
    expect(await allIn()).toBe(there.length);
    expect(server.asked.filter(({ url }) => url.includes('movements'))).toHaveLength(Math.ceil(there.length / 100));
    expect(await fetchOnce()).toMatchObject({ outcome: 'done', added: 0, changed: 0 });
    expect(await allIn()).toBe(there.length);
  });

  test('a later day brings only what is new and what changed, and what it holds is what the books know', async () => {
    await fetchOnce();
    let added = await allIn();
    for (const day of ['2026-11-17', '2026-11-18', '2026-11-19', '2026-11-30', '2026-12-24']) {
      outside = new Outside(seed, day);
      const { outcome, refused } = await fetchOnce();
      expect([day, outcome, refused]).toEqual([day, outside.weather === 'down' ? 'failed' : 'done', 0]);
      if (outcome === 'failed') continue;
      expect(await allIn()).toBeGreaterThan(added);
      added = await allIn();
      const [proof] = await clearingProofs(world.books.reader);
      expect(proof!.read).toEqual({
        day,
        said: outside.desk.reading(day).amount,
        ours: proof!.read!.said,
        changedSince: 0,
      });
    }
    expect(await allIn()).toBe(outside.desk.changesAfter(0).length);
  });

  test('a day on which the desk is closed fails, is in the log with why, and loses nothing', async () => {
    await fetchOnce();
    const before = { cursor: await cursor(), all: await allIn() };
    const closed = new Outside(seed, '2027-03-31').days.find(({ weather }) => weather === 'down')!.day;
    outside = new Outside(seed, closed);
    expect(await fetchOnce()).toMatchObject({ outcome: 'failed', added: 0, why: 'it was not well (503)', retries: 3 });
    expect({ cursor: await cursor(), all: await allIn() }).toEqual(before);
    outside = new Outside(seed, '2027-03-31');
    await fetchOnce();
    expect(await allIn()).toBe(outside.desk.changesAfter(0).length);
    expect((await fetchRuns(world.books.reader)).map(({ outcome }) => outcome)).toEqual(['done', 'failed', 'done']);
  });

  test('cut off between two pages, nothing of it comes in; the next run brings it all', async () => {
    const real = doorTo('desk')();
    const cut: ChannelDoor = {
      retries: 0,
      reading: () => real.reading(),
      statementsSince: (at) => real.statementsSince(at),
      async *movementsSince(at) {
        for await (const page of real.movementsSince(at)) {
          yield page;
          throw new DoorShut({ why: 'timeout' });
        }
      },
    };
    expect(await fetchOnce({ door: () => cut })).toMatchObject({ outcome: 'failed', why: 'it did not answer in time' });
    expect([await cursor(), await allIn()]).toEqual([0, 0]);
    await fetchOnce();
    expect(await allIn()).toBe(outside.desk.changesAfter(0).length);
  });

  test('cancelled, it leaves the books as they were and says so', async () => {
    const progress: Progress = { cancelled: true, report: () => undefined };
    expect(await fetchOnce({ progress })).toMatchObject({ outcome: 'cancelled', added: 0 });
    expect([await cursor(), await allIn()]).toEqual([0, 0]);
  });

  test('what makes no sense is refused with its reason, the rest comes in', async () => {
    const [first, second] = outside.desk.changesAfter(0);
    const odd: ChannelDoor = {
      retries: 0,
      reading: () => Promise.resolve({ at: '2026-11-16T18:00:00Z', currency: 'EUR', amount: 0 }),
      async *statementsSince() {
        // A desk has none.
      },
      async *movementsSince() {
        const items = [
          { ...first, kind: 'gift horse' },
          { ...second, gross: -1 },
          'nothing',
          outside.desk.changesAfter(2)[0],
        ];
        yield await Promise.resolve({ items, next: 3 });
      },
    };
    const { why, ...report } = await fetchOnce({ door: () => odd });
    expect(report).toMatchObject({ outcome: 'done', added: 1, refused: 3 });
    expect(why.split('\n')).toHaveLength(3);
    expect(why).toContain('kind');
  });

  test('a channel that posts by itself posts what came', async () => {
    await world.books.write(
      ({ db }) => db.updateTable('channel').set({ posts_itself: 1 }).execute(),
      () => true,
    );
    const { posted, outcome } = await fetchOnce();
    expect(outcome).toBe('done');
    expect(posted).toBeGreaterThan(150);
    const [proof] = await clearingProofs(world.books.reader);
    expect(proof!.other).toBe(0);
    await world.expectSound();
  });

  test('a chargeback that was won is a movement of its own, and both are posted where it says', async () => {
    outside = new Outside(seed, '2027-03-31');
    await world.books.write(
      ({ db }) => db.updateTable('channel').set({ posts_itself: 1 }).execute(),
      () => true,
    );
    const { outcome } = await fetchOnce();
    expect(outcome).toBe('done');
    const there = outside.desk.changesAfter(0).filter(({ kind }) => kind === 'chargeback');
    expect(
      await world.books.reader.selectFrom('receipt').select('gross').where('kind', '=', 'chargeback').execute(),
    ).toHaveLength(there.length);
    await world.expectSound();
  });
});

describe('fetching a bank', () => {
  let bank: number;
  beforeEach(async () => {
    const account = await world.account('1010');
    const { secret } = seed;
    bank = (await world.must(connect, { channel: null, account, address: '/standins/kittiwake/bank', secret }))
      .connection;
  });

  test('takes in statement after statement, each once', async () => {
    outside = new Outside(seed, '2026-11-20');
    const files = outside.bank.statementsAfter(0);
    const { outcome, added } = await fetchOnce({ connection: bank, door: doorTo('bank') });
    expect(outcome).toBe('done');
    expect(await world.count('statement_line')).toBe(added);
    expect(await fetchOnce({ connection: bank, door: doorTo('bank') })).toMatchObject({ outcome: 'done', added: 0 });
    expect(await world.count('run')).toBe(files.length);
  });

  test('one that does not foot stops it; those before it stay, and it is asked for again', async () => {
    outside = new Outside(seed, '2026-11-18');
    const good = outside.bank.statementsAfter(0);
    const spoilt = (last: string): ChannelDoor => ({
      retries: 0,
      reading: () => Promise.reject(new Error('a bank has none')),
      async *movementsSince() {
        // A bank has none.
      },
      async *statementsSince(at) {
        const items = good.filter(({ change }) => change > at);
        yield await Promise.resolve({ items: [...items.slice(0, -1), { ...items.at(-1)!, body: last }], next: 99 });
      },
    });
    const body = good.at(-1)!.body;
    const broken = await fetchOnce({ connection: bank, door: () => spoilt(body.slice(0, body.length / 2)) });
    expect(broken.outcome).toBe('failed');
    expect(broken.why).not.toBe('');
    expect(broken.added).toBeGreaterThan(0);
    const whole = await fetchOnce({ connection: bank, door: () => spoilt(body) });
    expect(whole).toMatchObject({ outcome: 'done', refused: 0 });
    expect(await world.count('statement_line')).toBe(broken.added + whole.added);
  });
});

describe('events', () => {
  const event = (id: string, at = NOW.toISOString()) => JSON.stringify({ id, at, about: 'CD-1' });
  const take = (body: string, secret = seed.secret, channel = 1) => {
    const at = NOW.toISOString();
    return takeEvent(world.books, channel, body, { at, signature: sign(body, at, secret) }, NOW);
  };
  const follow = (onEvents: boolean) =>
    world.must(setTiming, { connection: desk, schedule: { ...BY_HAND, onEvents }, mailTo: '' });

  test('are taken once however often they come, and only if signed with the key', async () => {
    expect(await take(event('E-1'))).toEqual({ taken: 'new', fetch: null });
    expect(await take(event('E-1'))).toEqual({ taken: 'again', fetch: null });
    expect(await take(event('E-2'), 'another key')).toEqual({ taken: 'unsigned' });
    expect(await take('{"id":"E-3"}')).toEqual({ taken: 'senseless' });
    expect(await take('not json')).toEqual({ taken: 'senseless' });
    expect(await take(event('E-4'), seed.secret, 99)).toEqual({ taken: 'unknown' });
    expect(await world.count('channel_event')).toBe(1);
  });

  test('in any order they lead to the same books: what changed is fetched, not read off them', async () => {
    await follow(true);
    expect(await take(event('E-9', '2026-11-16T08:59:00.000Z'))).toEqual({ taken: 'new', fetch: desk });
    expect(await take(event('E-1', '2026-11-01T00:00:00.000Z'))).toEqual({ taken: 'new', fetch: desk });
    const open = async () => (await fetchingPage(world.books.reader, NOW)).connections[0]!.eventsOpen;
    expect(await open()).toBe(2);
    await fetchOnce();
    expect(await open()).toBe(0);
    expect(await allIn()).toBe(outside.desk.changesAfter(0).length);
    await follow(false);
    expect(await take(event('E-10'))).toEqual({ taken: 'new', fetch: null });
  });
});

describe('connections', () => {
  const newest = () => world.lastAudit();

  test('one a channel; a timing can be undone, and so can connecting', async () => {
    const again = { channel: 1, account: null, address: 'https://desk.example/api', secret: 'x' };
    expect(await world.refusal(connect, again)).toBe('name-taken');
    expect(await world.refusal(connect, { ...again, channel: 7 })).toBe('not-found');
    expect(await world.refusal(connect, { ...again, address: 'file:///etc/passwd' })).toBe('invalid-input');
    expect(await world.refusal(connect, { ...again, account: await world.account('1010') })).toBe('invalid-input');
    await world.must(setTiming, { connection: desk, schedule: DAILY, mailTo: 'me@books.example' });
    await world.must(undoChange, { audit: await newest() });
    const [row] = (await fetchingPage(world.books.reader, NOW)).connections;
    expect(row).toMatchObject({ scheduleWords: 'by hand', mailTo: '', next: null });
    await world.must(disconnect, { connection: desk });
    expect(await world.count('connection')).toBe(0);
    await world.must(connect, again);
    await world.must(undoChange, { audit: await newest() });
    expect(await world.count('connection')).toBe(0);
  });

  test('the log of a run is mailed where an address is named, and stands in the outbox either way', async () => {
    const sent: string[] = [];
    const post = { send: ({ to }: { to: string }) => Promise.resolve(sent.push(to) > 0) };
    const first = await fetchOnce();
    await mailRun(world.books, first.run, post);
    expect(sent).toEqual([]);
    await world.must(setTiming, { connection: desk, schedule: BY_HAND, mailTo: 'office@kittiwake.example' });
    const second = await fetchOnce();
    await mailRun(world.books, second.run, post);
    await mailRun(world.books, first.run, { send: () => Promise.reject(new Error('no server')) });
    const letters = await outbox(world.books.reader);
    expect(letters.map(({ subject, sentAt }) => [subject, sentAt !== null])).toEqual([
      [`Card desk, 16 Nov 2026: ${first.added} new`, false],
      ['Card desk, 16 Nov 2026: Nothing new', true],
    ]);
    expect(letters[0]!.body).toContain('Began 2026-11-16 18:00:00 UTC');
  });
});
