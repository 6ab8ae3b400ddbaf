import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { runCommand } from '@/books/command';
import { postInvoices } from '@/books/invoices/post';
import { accountBalances } from '@/books/ledger/balances';
import { confirmMatch, confirmProven } from '@/books/matching/confirm';
import { keptReadings } from '@/books/receipts/readings';
import { samePayerQuestions } from '@/books/payers/same';
import { bankProofs, clearingProofs } from '@/books/proof/clearing';
import { postReceipts } from '@/books/receipts/post';
import { provenLines } from '@/books/statements/list';
import { BooksFile } from '@/books/store';
import { SEED } from '../../../demo/generate';
import { driftlineFiles, type DriftlineTruth } from '../../../demo/driftline/files';
import { DRIFTLINE_FILES, loadDriftline } from '../../../demo/driftline/load';
import { driftlineScenario } from '../../../demo/driftline/scenario';
import { ACTOR } from './world';

let folder: string;
let books: BooksFile;
beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'nest-egg-driftline-'));
  await loadDriftline(folder, () => {});
  books = new BooksFile(join(folder, 'books', 'driftline.sqlite'));
}, 60_000);
afterAll(async () => {
  await books.close();
  rmSync(folder, { recursive: true });
});

const truth = JSON.parse(readFileSync(join(DRIFTLINE_FILES, 'truth.json'), 'utf8')) as DriftlineTruth;

test('the files that ship are what the seed gives, to the byte', () => {
  for (const [name, text] of driftlineFiles(driftlineScenario(SEED))) {
    expect([name, readFileSync(join(DRIFTLINE_FILES, name), 'utf8')]).toEqual([name, text]);
  }
});

test('three channels, two currencies, two foreign exports: all of it is in', async () => {
  const count = async (table: 'receipt' | 'payout') =>
    (await books.reader.selectFrom(table).select('id').execute()).length;
  expect([await count('receipt'), await count('payout')]).toEqual([truth.receipts, truth.payouts]);
  const returned = await books.reader
    .selectFrom('receipt')
    .select(['note', 'refund_of'])
    .where('kind', '=', 'chargeback')
    .where('channel_id', '=', 1)
    .execute();
  expect(returned).toHaveLength(truth.returned);
  expect(returned.every(({ note, refund_of: of }) => note !== '' && of.startsWith('D-'))).toBe(true);
  expect(
    (await keptReadings(books.reader)).map(({ settings }) => [settings.delimiter, settings.columns.paidIn]),
  ).toEqual(
    expect.arrayContaining([
      ['\t', undefined],
      [',', 'Money in'],
    ]),
  );
});

test('one name came with another member’s email, and is asked about', async () => {
  const questions = await samePayerQuestions(books.reader);
  expect(questions).toHaveLength(1);
  expect(questions[0]).toMatchObject({ receipts: 1, gross: 4400 });
  expect(questions[0]!.said.startsWith('Cormac ')).toBe(true);
});

test('worked to the middle of November, every channel proves in its own currency', async () => {
  const proofs = await clearingProofs(books.reader);
  expect(proofs.map(({ channel, currency, other }) => [channel, currency, other])).toEqual([
    ['Debit bureau', 'EUR', 0],
    ['Fall-back cards', 'EUR', 0],
    ['Card wallet', 'GBP', 0],
  ]);
});

test('all of it posted and confirmed comes to the truth table, to the cent', async () => {
  const must = async (result: Promise<{ ok: boolean }>) => expect(await result).toMatchObject({ ok: true });
  const account = async (code: string) =>
    (await books.reader.selectFrom('account').select('id').where('code', '=', code).executeTakeFirstOrThrow()).id;
  await must(runCommand(books, postInvoices, { filter: {} }, { actor: ACTOR }));
  await must(runCommand(books, postReceipts, { filter: {} }, { actor: ACTOR }));
  const waiting = await books.reader.selectFrom('receipt').select('id').where('journal_id', 'is', null).execute();
  expect(waiting).toEqual([]);
  const proven = await books.read((db) => provenLines(db));
  await must(runCommand(books, confirmProven, { lines: proven.map((line) => line.id) }, { actor: ACTOR }));
  const left = await books.reader
    .selectFrom('statement_line')
    .select(['id', 'amount'])
    .where('match_id', 'is', null)
    .execute();
  // Only what was paid out is left: every deposit was proven.
  expect(left.filter(({ amount }) => amount > 0)).toEqual([]);
  const restTo = await account('6010');
  for (const { id } of left) {
    await must(runCommand(books, confirmMatch, { line: id, parts: [], restTo }, { actor: ACTOR }));
  }
  const balances = Object.fromEntries((await accountBalances(books.reader)).map((a) => [a.code, a.balance]));
  expect(balances).toMatchObject({
    '1010': truth.bank,
    '1100': truth.receivable,
    '1200': truth.clearing.debit,
    '1210': truth.clearing.card,
    '1220': truth.clearing.wallet,
    '2200': 0,
    '4010': truth.small,
    '4020': truth.large,
    '4030': truth.gifts,
    '4900': truth.refunds,
    '6100': truth.fees.debit,
    '6110': truth.fees.card,
    '6800': 0,
    '6950': truth.fx,
  });
  const proofs = await clearingProofs(books.reader);
  expect(proofs.map(({ balance, proves }) => [balance, proves])).toEqual([
    [truth.clearing.debit, true],
    [truth.clearing.card, true],
    [truth.walletPounds, true],
  ]);
  expect((await bankProofs(books.reader)).map((proof) => proof.difference)).toEqual([0]);
});
