import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { SharedProgress } from '@/workers/shared-progress';
import type { Task } from '@/workers/task';
import work from '@/workers/worker';
import { ACTOR, FIGURE_A, World } from './books/world';

let world: World;
beforeEach(async () => {
  world = await World.open();
});
afterEach(() => world.close());

const progress = () => new SharedProgress();
const run = (task: Task, watched = progress()) =>
  work({ books: world.books.path, actor: ACTOR, task, progress: watched.buffer });

function stored(name: string, text: string) {
  const path = join(world.folder, name);
  writeFileSync(path, text);
  return { name, sha256: 'x', bytes: text.length, path };
}

test('the whole way through the worker: import, post, confirm', async () => {
  const bringIn = (what: 'invoices' | 'receipts' | 'statement', text: string) =>
    run({ kind: 'import', what, file: stored(`${what}.csv`, text), dryRun: false });
  expect(await bringIn('invoices', FIGURE_A.invoice)).toMatchObject({ ok: true, value: { added: 1 } });
  expect(await bringIn('receipts', FIGURE_A.desk)).toMatchObject({ ok: true, value: { added: 2 } });
  expect(await bringIn('statement', FIGURE_A.statement)).toMatchObject({ ok: true, value: { added: 1 } });
  expect(await run({ kind: 'post', what: 'invoices', input: { filter: {} }, dryRun: false })).toMatchObject({
    ok: true,
  });

  const dry = await run({ kind: 'post', what: 'receipts', input: { filter: {} }, dryRun: true });
  expect(dry).toMatchObject({ ok: true, change: null, value: { posted: 1 } });
  expect(await world.count('journal')).toBe(2);
  const watched = progress();
  expect(await run({ kind: 'post', what: 'receipts', input: { filter: {} }, dryRun: false }, watched)).toMatchObject({
    ok: true,
  });
  expect(watched.view()).toEqual({ doing: 'Posting receipts', done: 1, total: 1 });

  const line = await world.id('statement_line', 'CD SETTLEMENT');
  expect(await run({ kind: 'confirm-proven', input: { lines: [line] } })).toMatchObject({
    ok: true,
    value: { confirmed: 1 },
  });
  expect((await world.balances())['1200']).toBeUndefined();
});

test('a job that was cancelled rolls back and says so', async () => {
  await world.bringIn((await import('@/books/receipts/import')).receiptsImporter, FIGURE_A.desk);
  const watched = progress();
  watched.cancel();
  const task: Task = { kind: 'post', what: 'receipts', input: { filter: {} }, dryRun: false };
  expect(await run(task, watched)).toEqual({ ok: false, refusal: { code: 'cancelled' } });
  const file = stored('again.csv', FIGURE_A.desk);
  expect(await run({ kind: 'import', what: 'receipts', file, dryRun: false }, watched)).toEqual({
    ok: false,
    refusal: { code: 'cancelled' },
  });
  expect(await world.count('journal')).toBe(1);
});

test('input that makes no sense is refused, not thrown', async () => {
  const nonsense: Task = { kind: 'post', what: 'receipts', input: { ids: [] }, dryRun: false };
  expect(await run(nonsense)).toMatchObject({ ok: false, refusal: { code: 'invalid-input' } });
  expect(await run({ kind: 'confirm-proven', input: null })).toMatchObject({
    ok: false,
    refusal: { code: 'invalid-input' },
  });
});

test('while another job writes, a change waits its turn', async () => {
  const both = await Promise.all([
    run({ kind: 'import', what: 'receipts', file: stored('a.csv', FIGURE_A.desk), dryRun: false }),
    run({ kind: 'import', what: 'invoices', file: stored('b.csv', FIGURE_A.invoice), dryRun: false }),
  ]);
  expect(both).toMatchObject([{ ok: true }, { ok: true }]);
});
