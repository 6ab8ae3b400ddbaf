import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import Database from 'better-sqlite3';
import { explainTrial, judgeTrial, type TrialCount, type TrialKind } from '../tests/trial/judge';
import { PLAIN_SHAPE, trialWorld, type TrialShape, type TrialWorld } from '../tests/trial/world';
import { reportOwed } from './matching-owed';

const WORLDS: readonly [string, Partial<TrialShape>][] = [
  ['10 a day, cut at the day', { density: 10 }],
  ['100 a day, cut at the day', { density: 100 }],
  ['100 a day, cut within it', { density: 100, cutsWithinDay: true }],
  ['500 a day, cut within it', { density: 500, cutsWithinDay: true, days: 60 }],
  ['100 a day, nothing announced', { density: 100, announced: 0, cutsWithinDay: true }],
  ['500 a day, nothing announced', { density: 500, announced: 0, cutsWithinDay: true, days: 60 }],
  ['equal amounts only', { equal: 100, cutsWithinDay: true }],
  ['1 % held back', { heldBack: 1, density: 20 }],
  ['1 % missing from the books', { missing: 1, density: 20, cutsWithinDay: true }],
  ['1 % with a wrong amount', { wrong: 1, density: 20, cutsWithinDay: true }],
  ['typos in a fifth of the ids', { typos: 20 }],
  ['a third of the lines is other money', { noise: 50 }],
  ['fees by an agreed schedule, not stated', { feesStated: false, density: 20 }],
  ['fees change midway, not stated', { feesStated: false, feeChange: 30, density: 20 }],
];

const percent = (part: number, of: number) => (of === 0 ? '' : `${((100 * part) / of).toFixed(1)} %`);

function report(): void {
  console.log('| world | kind | lines | proven | probable | open | wrong | of these swaps of equals |');
  console.log('| --- | --- | --- | --- | --- | --- | --- | --- |');
  for (const [name, shape] of WORLDS) {
    const total = new Map<TrialKind, TrialCount>();
    for (const seed of [11, 12, 13]) {
      const world = trialWorld({ ...PLAIN_SHAPE, channels: 6, ...shape, seed });
      for (const [kind, count] of judgeTrial(world, explainTrial(world).answers)) {
        const sum = total.get(kind);
        if (!sum) total.set(kind, count);
        else for (const key of Object.keys(count) as (keyof TrialCount)[]) sum[key] += count[key];
      }
    }
    for (const [kind, c] of [...total].sort(([a], [b]) => a.localeCompare(b))) {
      const wrong = c.wrong === 0 ? '0' : `${c.wrong}${c.wrongProven > 0 ? `, ${c.wrongProven} proven` : ''}`;
      console.log(
        `| ${name} | ${kind} | ${c.lines} | ${percent(c.proven, c.lines)} | ${percent(c.probable, c.lines)} | ${percent(c.open, c.lines)} | ${wrong} | ${c.swaps} |`,
      );
    }
  }
}

/** Reads the same columns out of a database, which is the least that explaining them can take. */
function floorOf(world: TrialWorld): number {
  const folder = mkdtempSync(join(tmpdir(), 'nest-egg-bench-'));
  const db = new Database(join(folder, 'floor.sqlite'));
  db.exec(
    'PRAGMA journal_mode = OFF; PRAGMA synchronous = OFF; CREATE TABLE receipt (id INTEGER PRIMARY KEY, channel INTEGER, day INTEGER, gross INTEGER, fee INTEGER, taken INTEGER); CREATE TABLE line (id INTEGER PRIMARY KEY, account INTEGER, day INTEGER, amount INTEGER, text TEXT); CREATE TABLE payout (id INTEGER PRIMARY KEY, day INTEGER, net INTEGER, reference TEXT); BEGIN',
  );
  const receipt = db.prepare('INSERT INTO receipt (channel, day, gross, fee, taken) VALUES (?, ?, ?, ?, ?)');
  world.channels.forEach((channel, n) =>
    channel.gross.forEach((gross, at) => receipt.run(n, channel.day[at], gross, channel.fee[at], channel.told[at])),
  );
  const line = db.prepare('INSERT INTO line VALUES (?, ?, ?, ?, ?)');
  for (const one of world.lines) line.run(one.id, one.account, one.day, one.amount, one.text);
  const payout = db.prepare('INSERT INTO payout (day, net, reference) VALUES (?, ?, ?)');
  for (const one of world.payouts) payout.run(one.day, one.net, one.id);
  db.exec('COMMIT');
  const began = performance.now();
  let sum = 0;
  for (const table of ['receipt', 'line', 'payout']) {
    for (const row of db.prepare(`SELECT * FROM ${table}`).raw().iterate()) sum += (row as number[])[0]!;
  }
  const took = performance.now() - began;
  db.close();
  rmSync(folder, { recursive: true });
  if (sum === 0) throw new Error('nothing was read');
  return took;
}

function sizes(): void {
  const of = [
    [10_000, { channels: 4, days: 365, density: 7 }],
    [100_000, { channels: 35, days: 365, density: 8 }],
    [1_000_000, { channels: 350, days: 365, density: 8 }],
  ] as const;
  console.log('| receipts | lines | explained in | floor | ratio | held beside the world |');
  console.log('| --- | --- | --- | --- | --- | --- |');
  for (const [, shape] of of) {
    const world = trialWorld({ ...PLAIN_SHAPE, ...shape, seed: 5 });
    const receipts = world.channels.reduce((sum, channel) => sum + channel.gross.length, 0);
    const floor = floorOf(world);
    global.gc?.();
    const before = process.memoryUsage();
    const { took } = explainTrial(world);
    const after = process.memoryUsage();
    const most = after.heapUsed + after.arrayBuffers - before.heapUsed - before.arrayBuffers;
    console.log(
      `| ${receipts} | ${world.lines.length} | ${took.toFixed(0)} ms | ${floor.toFixed(0)} ms | ${(took / floor).toFixed(1)} | ${(most / 2 ** 20).toFixed(0)} MB |`,
    );
  }
}

console.log('Matching, trial worlds from seeds');
report();
reportOwed();
sizes();
