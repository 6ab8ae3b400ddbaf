import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { sql } from 'kysely';
import { invoicesImporter } from '@/books/invoices/import';
import { postInvoices } from '@/books/invoices/post';
import { accountBalances } from '@/books/ledger/balances';
import { bankProofs, clearingProofs } from '@/books/proof/clearing';
import { receiptsImporter } from '@/books/receipts/import';
import { postReceipts } from '@/books/receipts/post';
import { statementImporter } from '@/books/statements/import';
import { dayDocument } from '@/books/receipts/day-document';
import { railOf } from '@/books/today/rail';
import { plainDate } from '@/core/calendar';
import { worklist } from '@/books/today/worklist';
import { BooksFile } from '@/books/store';
import { SEED } from '../../../demo/generate';
import { kittiwakeFiles } from '../../../demo/kittiwake/files';
import { kittiwakeScenario } from '../../../demo/kittiwake/scenario';
import { counterDays, counterTruth, takings, tillFiles } from '../../../demo/kittiwake/till';
import { KittiwakeLoader, FILES, loadKittiwake, readTruth } from '../../../demo/load';

let folder: string;
let books: BooksFile;
let demo: KittiwakeLoader;
beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'nest-egg-demo-'));
  await loadKittiwake(folder, () => {});
  books = new BooksFile(join(folder, 'books', 'kittiwake.sqlite'));
  demo = new KittiwakeLoader(books, join(folder, 'files', 'kittiwake'));
});
afterAll(async () => {
  await books.close();
  rmSync(folder, { recursive: true });
});

const truth = readTruth();
const key = (line: { date: string; amount: number; text: string }) => `${line.date}|${line.amount}|${line.text}`;
const truthOf = new Map(truth.lines.map((line) => [key(line), line]));

/** Lines to explain, each with what is laid on its sheet, said as the truth table says it. */
async function proposals() {
  const { rows } = await sql<{
    certainty: string;
    date: string;
    amount: number;
    text: string;
    kind: string | null;
    names: string;
  }>`
    SELECT q.certainty, l.book_date AS date, l.amount, l.text, min(x.kind) AS kind, json_group_array(CASE x.kind
      WHEN 'payout' THEN (SELECT external_id FROM payout WHERE id = x.ref_id)
      WHEN 'receipt' THEN (SELECT external_id FROM receipt WHERE id = x.ref_id)
      WHEN 'invoice' THEN (SELECT number FROM invoice WHERE id = x.ref_id) END) AS names
    FROM proposal q JOIN statement_line l ON l.id = q.statement_line_id
    LEFT JOIN proposal_part x ON x.statement_line_id = l.id AND x.rank = 0 GROUP BY l.id ORDER BY l.id
  `.execute(books.reader);
  return rows.map(({ kind, names, ...line }) => ({
    ...line,
    laid: laidAs(kind, (JSON.parse(names) as string[]).sort()),
  }));
}

function laidAs(kind: string | null, names: string[]) {
  if (kind === 'payout') return { kind: 'payout', payout: names[0] };
  return kind === null ? null : { kind: `${kind}s`, [`${kind}s`]: names };
}

test('the files that ship are what the seed gives, to the byte', () => {
  for (const [name, text] of [...kittiwakeFiles(kittiwakeScenario(SEED)), ...tillFiles(counterDays(SEED))]) {
    expect(readFileSync(join(FILES, name), 'utf8')).toBe(text);
  }
});

test('what is proven is true, and what cannot be told apart is open', async () => {
  const found = await proposals();
  const proven = found.filter((p) => p.certainty === 'proven');
  expect(proven.length).toBeGreaterThanOrEqual(4);
  for (const p of proven) expect(truthOf.get(key(p))).toMatchObject(p.laid!);
  // A transfer that names its invoice is as sure as a payout that is named.
  expect(new Set(proven.map(({ laid }) => laid!.kind))).toEqual(new Set(['payout', 'invoices']));
  // Two payouts of one amount, and two invoices of one payer and amount, each with two deposits.
  const open = found.filter((p) => p.certainty === 'open');
  expect(open.map(({ amount, laid }) => [amount, laid])).toEqual(
    [8313, 8560, 8313, 8560].map((amount) => [amount, null]),
  );
});

test('each payout of the books has the receipts and the net of the truth table', async () => {
  const { rows } = { rows: await books.reader.selectFrom('payout').selectAll().execute() };
  for (const payout of rows) {
    const real = truth.payouts.find((p) => p.id === payout.external_id)!;
    expect([payout.net, payout.receipt_count]).toEqual([real.net, real.receipts.length]);
    expect(payout.receipt_gross - payout.receipt_fee).toBe(payout.net);
  }
});

test('the demo waits with work of every kind', async () => {
  const work = await worklist(books.reader, await railOf(books.reader, new Date()));
  const titles = work.map((item) => item.title).join('\n');
  for (const part of [
    'has not reached the bank',
    'not in the books',
    'proven',
    'need a decision',
    'not posted',
    'overdue',
    'can be closed',
  ]) {
    expect(titles).toContain(part);
  }
});

test('brought in whole, posted and explained as the truth has it, every account ends to the cent', async () => {
  await demo.bringIn(invoicesImporter, 'invoices-2026-11-b.csv');
  await demo.bringIn(receiptsImporter, 'card-desk-2026-11-b.csv');
  await demo.bringIn(statementImporter, 'statement-2026-11-b.csv');
  await demo.run(postInvoices, { filter: {} });
  await demo.run(postReceipts, { filter: {} });
  const late = (await proposals()).filter((p) => p.certainty === 'probable');
  expect(late.length).toBeGreaterThan(0);
  for (const p of late) expect(truthOf.get(key(p))).toMatchObject(p.laid!);
  for (const line of truth.lines) await demo.confirm(line);

  expect(await proposals()).toEqual([]);
  const accounts = await accountBalances(books.reader);
  const balance = (code: string) => accounts.find((a) => a.code === code)!.balance;
  expect({ bank: balance('1010'), clearing: balance('1200'), fees: balance('6100') }).toEqual(truth.end);
  expect(accounts.reduce((total, a) => total + a.balance, 0)).toBe(0);
  expect(await clearingProofs(books.reader)).toEqual([
    expect.objectContaining({ proves: true, balance: truth.end.clearing, other: 0 }),
    expect.objectContaining({ channel: 'Workshop till', balance: 0, other: 0, proves: true }),
  ]);
  expect(await bankProofs(books.reader)).toEqual([
    expect.objectContaining({ difference: 0, toExplain: { count: 0, amount: 0 } }),
  ]);
});

test('the workshop’s till came in by the day, each as its report has it, and lands to the cent', async () => {
  const days = counterDays(SEED);
  const expected = counterTruth(days);
  const rows = await books.reader
    .selectFrom('journal')
    .innerJoin('journal_line', 'journal_line.journal_id', 'journal.id')
    .innerJoin('account', 'account.id', 'journal_line.account_id')
    .select((e) => ['account.code', 'account.class', e.fn.sum<number>('base_amount').as('amount')])
    .where('source_kind', '=', 'summary')
    .groupBy('account.id')
    .execute();
  const of = (code: string) => rows.find((row) => row.code === code)?.amount ?? 0;
  expect([of('1090'), -of('2100'), -of('2300'), of('1290')]).toEqual([expected.box, expected.tax, expected.tips, 0]);
  const income = rows.filter((row) => row.class === 'income').reduce((sum, row) => sum + row.amount, 0);
  expect(-income).toBe(expected.net);
  expect(await books.reader.selectFrom('summary').select('id').execute()).toHaveLength(expected.days);
  for (const one of [days[0]!, days.at(-1)!]) {
    const [site] = (await dayDocument(books.reader, 2, plainDate(one.day)))!.sites;
    expect(site).toMatchObject({ site: 'Workshop', tendered: takings(one), differs: 0, tips: one.tips, notPosted: 0 });
    expect(site!.items.reduce((sum, item) => sum + item.units, 0)).toBe(
      1000 * one.sales.reduce((n, s) => n + s.units, 0),
    );
  }
});
