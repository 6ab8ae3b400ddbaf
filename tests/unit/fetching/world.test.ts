import { join } from 'node:path';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { readCamt } from '@/formats/statements/camt';
import { Answers } from '@/standins/answers';
import { eventsOf } from '@/standins/card-desk/deliver';
import { dayAfter, nextWorkingDay } from '@/standins/days';
import { World, type WorldSeed } from '@/standins/world';
import { Worlds } from '@/standins/worlds';
import { FILES } from '../../../demo/load';
import { kittiwakeWorld } from '../../../demo/kittiwake/world';

let seed: WorldSeed;
beforeAll(async () => {
  seed = await kittiwakeWorld(FILES);
});

const LATER = '2027-03-31';
const later = () => new World(seed, LATER);

describe('a simulated world', () => {
  test('goes through the same days whenever it is gone through again', () => {
    const [one, other] = [later(), later()];
    expect(other.desk.changesAfter(0)).toEqual(one.desk.changesAfter(0));
    expect(other.bank.statementsAfter(0)).toEqual(one.bank.statementsAfter(0));
    expect(other.days).toEqual(one.days);
    expect(new World({ ...seed, seed: seed.seed + 1 }, LATER).days).not.toEqual(one.days);
  });

  test('never unsays what it said: a later day only adds changes', () => {
    const early = new World(seed, '2026-12-01').desk.changesAfter(0);
    const numbers = new Map(
      later()
        .desk.changesAfter(0)
        .map((one) => [one.id, one.change]),
    );
    for (const { id, change } of early) expect(numbers.get(id)).toBeGreaterThanOrEqual(change);
  });

  test('knows refunds, chargebacks won and lost, corrected fees, busy days and closed ones', () => {
    const world = later();
    const kinds = world.desk.changesAfter(0).map(({ kind, gross }) => `${kind} ${gross > 0 ? '+' : '-'}`);
    expect(new Set(kinds)).toEqual(new Set(['receipt +', 'refund -', 'payout -', 'chargeback -', 'chargeback +']));
    expect(new Set(world.days.map(({ weather }) => weather))).toEqual(new Set(['fine', 'shaky', 'down']));
  });

  test('every payout is to the cent what the movements in it come to, and lands once', () => {
    const movements = later().desk.changesAfter(0);
    const sums = new Map<string, number>();
    for (const { payout, gross, fee } of movements) {
      if (payout !== '') sums.set(payout, (sums.get(payout) ?? 0) + gross - (fee ?? 0));
    }
    const made = movements.filter(({ kind, at }) => kind === 'payout' && at.slice(0, 10) > seed.begins);
    expect(made.length).toBeGreaterThan(60);
    for (const { id, gross } of made) expect([id, sums.get(id)]).toEqual([id, -gross]);
  });

  test('what the desk says it holds is what came in less what went out', () => {
    for (const day of ['2026-11-17', '2026-12-24', LATER]) {
      const { desk } = new World(seed, day);
      const open = desk.changesAfter(0).filter(({ kind, payout }) => kind !== 'payout' && payout === '');
      const held = open.reduce((sum, { gross, fee }) => sum + gross - (fee ?? 0), 0);
      expect(desk.reading(day).amount).toBe(held);
    }
  });

  test('statements of the bank follow each other, and our own reader takes them', async () => {
    let balance: number = seed.bank.opening;
    const files = new World(seed, '2026-12-31').bank.statementsAfter(seed.statements.length);
    expect(files.length).toBeGreaterThan(20);
    for (const { body } of files) {
      const source = (async function* () {
        yield new TextEncoder().encode(body);
      })();
      for await (const batch of readCamt(source)) {
        expect(batch.findings).toEqual([]);
        for (const record of batch.records) {
          if (record.kind === 'statement') expect(record.opening).toBe(balance);
          if (record.kind === 'line') balance += record.amount;
          if (record.kind === 'end') expect(record.closing).toBe(balance);
        }
      }
    }
  });

  test('its events are about what changed that day, some twice, in no order', () => {
    const world = new World(seed, nextWorkingDay(seed.begins));
    const events = eventsOf(world);
    const ids = new Set(events.map(({ id }) => id));
    expect(events.length).toBeGreaterThan(ids.size);
    const order = events.map(({ id }) => Number(id.slice(2)));
    expect(order).not.toEqual([...order].sort((a, b) => a - b));
    const known = new Set(world.desk.changesAfter(0).map(({ id }) => id));
    for (const { about } of events) expect(known).toContain(about);
  });
});

describe('how it answers', () => {
  const ask = (what: string, since = 0, key = seed.secret) =>
    new Request(`http://stand-in.example/${what}?since=${since}`, { headers: { authorization: `Bearer ${key}` } });
  const fineDay = () => new World(seed, seed.begins);

  test('to its own key only, a hundred at a time', async () => {
    const answers = new Answers();
    expect(answers.answer(fineDay(), 'desk/movements', ask('desk/movements', 0, 'another')).status).toBe(401);
    const page = (await answers.answer(fineDay(), 'desk/movements', ask('desk/movements')).json()) as {
      items: unknown[];
      more: boolean;
    };
    expect(page.items).toHaveLength(100);
    expect(page.more).toBe(true);
    expect(answers.answer(fineDay(), 'desk/weather', ask('desk/weather')).status).toBe(404);
    expect(answers.answer(fineDay(), 'desk/movements', ask('desk/movements', -1)).status).toBe(400);
  });

  test('who asks too much has to wait', () => {
    let now = 0;
    const answers = new Answers(() => now);
    const status = () => answers.answer(fineDay(), 'desk/balance', ask('desk/balance')).status;
    const first = Array.from({ length: 8 }, status);
    expect(first).toEqual([200, 200, 200, 200, 200, 200, 429, 429]);
    now += 1000;
    expect(status()).toBe(200);
  });

  test('a busy day answers after a few questions, a closed one never', () => {
    const days = later().days;
    const on = (weather: string) => new World(seed, days.find((day) => day.weather === weather)!.day);
    const answers = new Answers();
    const asked = (world: World) =>
      Array.from({ length: 4 }, () => answers.answer(world, 'desk/balance', ask('desk/balance')).status);
    expect(asked(on('shaky'))).toEqual([503, 503, 200, 200]);
    expect(new Answers().answer(on('down'), 'desk/balance', ask('desk/balance')).status).toBe(503);
    expect(new Answers().answer(on('down'), 'bank/statements', ask('bank/statements')).status).toBe(200);
  });
});

test('worlds stand in a folder: each has its own day, turned to the next working one', () => {
  const folder = mkdtempSync(join(tmpdir(), 'nest-egg-worlds-'));
  try {
    Worlds.found(folder, seed);
    const worlds = new Worlds(folder);
    expect(worlds.names()).toEqual(['kittiwake']);
    expect(worlds.find('kittiwake')!.day).toBe(seed.begins);
    expect(worlds.turn('kittiwake')!.day).toBe('2026-11-17');
    for (let n = 0; n < 4; n++) worlds.turn('kittiwake');
    // A weekend is gone through in one turn, with what happened on it.
    expect(new Worlds(folder).find('kittiwake')!.day).toBe('2026-11-23');
    expect(new Worlds(folder).find('kittiwake')!.days).toHaveLength(7);
    expect(worlds.find('../kittiwake')).toBeNull();
    expect(worlds.turn('nobody')).toBeNull();
  } finally {
    rmSync(folder, { recursive: true });
  }
  expect(dayAfter('2026-12-31', 1)).toBe('2027-01-01');
});
