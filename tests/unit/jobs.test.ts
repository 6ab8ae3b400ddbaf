import { build } from 'esbuild';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Jobs } from '@/workers/jobs';
import type { Task } from '@/workers/task';
import { ACTOR, DESK_HEAD, FIGURE_A, useWorld } from './books/world';

/** The worker as it ships: bundled, in a thread of its own. */
let folder: string;
const world = useWorld();
let jobs: Jobs;
beforeAll(async () => {
  // Beside the packages that stay outside of the bundle.
  folder = mkdtempSync(join(process.cwd(), 'node_modules', '.nest-egg-jobs-'));
  const outfile = join(folder, 'worker.js');
  await build({
    entryPoints: ['src/workers/worker.ts'],
    outfile,
    bundle: true,
    platform: 'node',
    target: 'node20',
    format: 'cjs',
    external: ['better-sqlite3', 'date-holidays', 'exceljs', 'nodemailer'],
    logLevel: 'warning',
  });
  process.env.NEST_EGG_WORKER = outfile;
});
afterAll(() => {
  delete process.env.NEST_EGG_WORKER;
  rmSync(folder, { recursive: true });
});
beforeEach(async () => {
  jobs = new Jobs();
});

function stored(name: string, text: string) {
  const path = join(world.folder, name);
  writeFileSync(path, text);
  return { name, sha256: 'x', bytes: text.length, path };
}

const begin = (task: Task) => jobs.start('kw', world.books.path, ACTOR, task);
const receipts = (name: string, text: string): Task => ({
  kind: 'import',
  what: 'receipts',
  file: stored(name, text),
  dryRun: false,
});

test('a job runs beside the page, is looked at, and keeps its answer', async () => {
  const id = begin(receipts('desk.csv', FIGURE_A.desk));
  expect(jobs.look('kw', id)).toMatchObject({ state: 'running' });
  await jobs.finish(id);
  expect(jobs.look('kw', id)).toMatchObject({ state: 'done', result: { ok: true, value: { added: 2 } } });
  // Asked again it is still there.
  expect(jobs.look('kw', id)).toMatchObject({ state: 'done' });
  expect(await world.count('receipt')).toBe(1);
  expect(await world.count('payout')).toBe(1);
});

test('only the books it is of can look at it or stop it; an id that is none is nothing', async () => {
  const id = begin(receipts('desk.csv', FIGURE_A.desk));
  expect(jobs.look('others', id)).toBeNull();
  expect(jobs.cancel('others', id)).toBe(false);
  expect(jobs.look('kw', 'no-such-job')).toBeNull();
  expect(jobs.cancel('kw', 'no-such-job')).toBe(false);
  await jobs.finish('no-such-job');
  await jobs.finish(id);
  expect(jobs.look('kw', id)).toMatchObject({ state: 'done', result: { ok: true } });
});

test('cancelled, it rolls all of it back and says so', async () => {
  const many = Array.from(
    { length: 60_000 },
    (_, n) => `C-${n},receipt,2026-11-09T10:00:00Z,EUR,5.00,0.10,4.90,,,,,,,\n`,
  );
  const id = begin(receipts('many.csv', DESK_HEAD + many.join('')));
  expect(jobs.cancel('kw', id)).toBe(true);
  await jobs.finish(id);
  expect(jobs.look('kw', id)).toEqual({ state: 'done', result: { ok: false, refusal: { code: 'cancelled' } } });
  expect(await world.count('receipt')).toBe(0);
  expect(await world.count('run')).toBe(0);
});

test('two at once wait for each other where they write, and both are done', async () => {
  const one = begin(receipts('one.csv', `${DESK_HEAD}A-1,receipt,2026-11-09T10:00:00Z,EUR,5.00,0.10,4.90,,,,,,,\n`));
  const two = begin(receipts('two.csv', `${DESK_HEAD}A-2,receipt,2026-11-09T11:00:00Z,EUR,7.00,0.10,6.90,,,,,,,\n`));
  await Promise.all([jobs.finish(one), jobs.finish(two)]);
  for (const id of [one, two])
    expect(jobs.look('kw', id)).toMatchObject({ state: 'done', result: { ok: true, value: { added: 1 } } });
  expect(await world.count('receipt')).toBe(2);
});

test('one that breaks fails alone, and what it wrote is gone', async () => {
  const said = jest.spyOn(console, 'error').mockImplementation(() => undefined);
  const id = begin({
    kind: 'import',
    what: 'receipts',
    file: { name: 'gone.csv', sha256: 'x', bytes: 1, path: join(tmpdir(), 'no-such-folder', 'gone.csv') },
    dryRun: false,
  });
  await jobs.finish(id);
  expect(jobs.look('kw', id)).toEqual({ state: 'failed' });
  expect(said).toHaveBeenCalled();
  said.mockRestore();
  expect(await world.count('receipt')).toBe(0);
  const after = begin(receipts('desk.csv', FIGURE_A.desk));
  await jobs.finish(after);
  expect(jobs.look('kw', after)).toMatchObject({ state: 'done', result: { ok: true } });
});
