import Database from 'better-sqlite3';
import { join } from 'node:path';
import { expect, test } from './books';
import type { Server } from './server';

test.use({ booksOf: 'crash' });

const ROWS = 60_000;

function bigExport(): string {
  const rows = ['Id,Type,Time,Currency,Gross,Fee,Net,Payer,Document,Payout\n'];
  for (let n = 0; n < ROWS; n++) {
    const day = String((n % 9) + 1).padStart(2, '0');
    rows.push(`BIG-${n},receipt,2026-11-${day}T10:00:00Z,EUR,${(n % 400) + 1}.00,0.25,,Payer ${n % 900},,\n`);
  }
  return rows.join('');
}

/** Counts straight from the file, as whoever opens it next would find it. */
function counts(server: Server) {
  const db = new Database(join(server.data, 'books', 'kittiwake.sqlite'), { readonly: true });
  const one = (sql: string) => (db.prepare(sql).get() as { n: number }).n;
  const found = {
    receipts: one("SELECT count(*) AS n FROM receipt WHERE external_id LIKE 'BIG-%'"),
    posted: one("SELECT count(*) AS n FROM receipt WHERE external_id LIKE 'BIG-%' AND journal_id IS NOT NULL"),
    runs: one('SELECT count(*) AS n FROM run'),
    audit: one('SELECT count(*) AS n FROM audit'),
    journals: one('SELECT count(*) AS n FROM journal'),
    payers: one('SELECT count(*) AS n FROM payer'),
    orphans: one('SELECT count(*) AS n FROM journal_line WHERE journal_id NOT IN (SELECT id FROM journal)'),
    off: one('SELECT coalesce(sum(debit - credit), 0) AS n FROM account_day'),
  };
  expect(one("SELECT count(*) AS n FROM pragma_integrity_check WHERE integrity_check <> 'ok'")).toBe(0);
  db.close();
  return found;
}

type Job = {
  state: string;
  progress?: { doing: string };
  answer?: { ok: boolean; value: { added: number; posted: number } };
};

const api = (server: Server) => `${server.address}/api/books/kittiwake`;

async function start(server: Server, task: object): Promise<string> {
  const answer = await fetch(`${api(server)}/jobs`, { method: 'POST', body: JSON.stringify(task) });
  return ((await answer.json()) as { job: string }).job;
}

const look = async (server: Server, job: string) => (await (await fetch(`${api(server)}/jobs/${job}`)).json()) as Job;

/** Watches a job until it is writing, lets it write a little, and cuts the power. True where it was still writing. */
async function killWhile(server: Server, job: string, doing: string, after: number): Promise<boolean> {
  for (;;) {
    const seen = await look(server, job);
    if (seen.state !== 'running') return false;
    if (seen.progress!.doing === doing) break;
  }
  await new Promise((resolve) => setTimeout(resolve, after));
  await server.kill();
  return true;
}

async function finish(server: Server, task: object): Promise<NonNullable<Job['answer']>> {
  const job = await start(server, task);
  for (;;) {
    const seen = await look(server, job);
    if (seen.state !== 'running') return seen.answer!;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
}

test('SIGKILL in the middle of an import or a posting leaves nothing half there, and the retry completes', async ({
  server,
}) => {
  test.setTimeout(240_000);
  const sent = await fetch(`${api(server)}/files`, { method: 'POST', body: bigExport() });
  const { sha256 } = (await sent.json()) as { sha256: string };
  const before = counts(server);
  const bringIn = { kind: 'import', what: 'receipts', name: 'big.csv', sha256, dryRun: false };

  let cut = 0;
  for (const after of [0, 150, 400]) {
    if (await killWhile(server, await start(server, bringIn), 'Writing to the books', after)) cut++;
    const found = counts(server);
    if (found.receipts !== 0) break;
    expect(found).toEqual(before);
    await server.up();
  }
  expect(cut).toBeGreaterThan(0);

  const brought = await finish(server, bringIn);
  expect(brought).toMatchObject({ ok: true, value: { added: ROWS } });
  const here = counts(server);
  expect(here).toMatchObject({ receipts: ROWS, posted: 0, runs: before.runs + 1, audit: before.audit + 1 });

  const post = { kind: 'post', what: 'receipts', input: { filter: { text: 'BIG-' } }, dryRun: false };
  expect(await killWhile(server, await start(server, post), 'Posting receipts', 300)).toBe(true);
  expect(counts(server)).toEqual(here);
  await server.up();
  expect(await finish(server, post)).toMatchObject({ ok: true, value: { posted: ROWS } });
  expect(counts(server)).toMatchObject({ posted: ROWS, journals: here.journals + ROWS, orphans: 0, off: 0 });
});

test('cancel leaves the books as they were', async ({ server }) => {
  test.setTimeout(120_000);
  const sent = await fetch(`${api(server)}/files`, { method: 'POST', body: bigExport().replaceAll('BIG-', 'NEW-') });
  const { sha256 } = (await sent.json()) as { sha256: string };
  const before = counts(server);
  const job = await start(server, { kind: 'import', what: 'receipts', name: 'new.csv', sha256, dryRun: false });
  await fetch(`${api(server)}/jobs/${job}`, { method: 'DELETE' });
  let seen = await look(server, job);
  for (; seen.state === 'running'; seen = await look(server, job))
    await new Promise((resolve) => setTimeout(resolve, 50));
  expect(seen.answer).toMatchObject({
    ok: false,
    what: 'It was cancelled.',
    next: 'The books are as they were before.',
  });
  expect(counts(server)).toEqual(before);
});
