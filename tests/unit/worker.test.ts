import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { SharedProgress } from '@/workers/shared-progress';
import type { Task } from '@/workers/task';
import work from '@/workers/worker';
import { saveMapRule } from '@/books/map/rules';
import { receiptsImporter } from '@/books/receipts/import';
import type { ReceiptProfile } from '@/formats/receipts/profile';
import { ACTOR, DESK_HEAD, FIGURE_A, useWorld } from './books/world';

const world = useWorld();

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

test('the map is looked through, a rule tried, and what is posted otherwise listed and posted again', async () => {
  await world.bringIn(
    receiptsImporter,
    DESK_HEAD + 'A,receipt,2026-11-09T10:00:00Z,EUR,12.30,,12.30,P,p@mail.example,,parts,Rope,,\n',
  );
  await run({ kind: 'post', what: 'receipts', input: { filter: {} }, dryRun: false });
  const watched = progress();
  expect(await run({ kind: 'map-layers' }, watched)).toMatchObject({ ok: true, value: { receipts: 1, rules: [] } });
  expect(watched.view()).toEqual({ doing: 'Looking through receipts', done: 1, total: 1 });
  const rule = {
    id: null,
    name: 'Ropes',
    active: true,
    conditions: { text: 'rope' },
    landing: { income: await world.account('4010') },
  };
  expect(await run({ kind: 'try-rule', input: rule })).toMatchObject({ ok: true, value: { moved: 1, movedPosted: 1 } });
  expect(await run({ kind: 'try-rule', input: { id: null } })).toMatchObject({
    ok: false,
    refusal: { code: 'invalid-input' },
  });
  expect(await run({ kind: 'post-again-list' })).toMatchObject({ ok: true, value: { count: 0 } });
  await world.must(saveMapRule, rule);
  const list = await run({ kind: 'post-again-list' });
  expect(list).toMatchObject({ ok: true, value: { count: 1, listed: [{ name: 'A' }] } });
  expect(await run({ kind: 'repost', input: { ids: [1] } })).toMatchObject({ ok: true, value: { posted: 1 } });
  expect((await world.balances())['4010']).toBe(-1000);
  const stopped = progress();
  stopped.cancel();
  expect(await run({ kind: 'map-layers' }, stopped)).toEqual({ ok: false, refusal: { code: 'cancelled' } });
});

test('a file is looked at; a channel that posts by itself posts what it brought in', async () => {
  const text = 'Date,Ref,Amount\n2026-11-09,A,5.00\n';
  const file = stored('other.csv', text);
  const look = await run({ kind: 'look-at-file', path: file.path, channel: 1, said: {} });
  expect(look).toMatchObject({ ok: true, value: { kind: 'read', sniffed: { rows: 1 } } });
  await world.books.write(
    ({ db }) => db.updateTable('channel').set({ posts_itself: 1 }).execute(),
    () => true,
  );
  const { fingerprint, profile: settings } = (
    look as unknown as { value: { sniffed: { fingerprint: string; profile: ReceiptProfile } } }
  ).value.sniffed;
  const receipts = { channel: 1, profile: { fingerprint, settings } };
  expect(await run({ kind: 'import', what: 'receipts', file, receipts, dryRun: true })).toMatchObject({
    ok: true,
    value: { added: 1 },
  });
  expect((await world.balances())['1200']).toBeUndefined();
  expect(await run({ kind: 'import', what: 'receipts', file, receipts, dryRun: false })).toMatchObject({
    ok: true,
    value: { added: 1 },
  });
  expect((await world.balances())['1200']).toBe(500);
});
