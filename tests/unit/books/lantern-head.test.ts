import { KEYED_BATCH } from '../../../demo/lantern-head/public';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { NO_PROGRESS, runCommand } from '@/books/command';
import { sql } from 'kysely';
import { listFeeSteps } from '@/books/channels/fee-steps';
import { accountBalances, accountBalancesUnder } from '@/books/ledger/balances';
import { accountRegister, parseRegisterCursor, registerValues, valuesInUse } from '@/books/ledger/register';
import { layerReport } from '@/books/map/layers';
import { confirmMatch, confirmProven } from '@/books/matching/confirm';
import { bankProofs, clearingProofs } from '@/books/proof/clearing';
import { doubledLines } from '@/books/doubled/list';
import { mendDoubled } from '@/books/doubled/mend';
import { postReceipts } from '@/books/receipts/post';
import { provenLines } from '@/books/statements/list';
import { BooksFile } from '@/books/store';
import { plainDate } from '@/core/calendar';
import { SEED } from '../../../demo/generate';
import { lanternHeadFiles, type LanternTruth } from '../../../demo/lantern-head/files';
import { LANTERN_FILES, loadLanternHead } from '../../../demo/lantern-head/load';
import { lanternHeadScenario } from '../../../demo/lantern-head/scenario';
import { ACTOR } from './world';

let folder: string;
let books: BooksFile;
beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'nest-egg-lantern-'));
  await loadLanternHead(folder, () => {});
  books = new BooksFile(join(folder, 'books', 'lantern-head.sqlite'));
});
afterAll(async () => {
  await books.close();
  rmSync(folder, { recursive: true });
});

const truth = JSON.parse(readFileSync(join(LANTERN_FILES, 'truth.json'), 'utf8')) as LanternTruth;

const under = (code: string) =>
  books.reader
    .selectFrom('journal_line as l')
    .innerJoin('account as a', 'a.id', 'l.account_id')
    .innerJoin('journal_line_dimension as d', (j) =>
      j.onRef('d.journal_id', '=', 'l.journal_id').onRef('d.line_no', '=', 'l.line_no'),
    )
    .innerJoin('dimension_value as v', 'v.id', 'd.value_id')
    .innerJoin('dimension', (j) => j.onRef('dimension.id', '=', 'v.dimension_id').on('dimension.name', '=', 'Fund'))
    .select((e) => ['v.name', e.fn.sum<number>('l.amount').as('amount')])
    .where('a.code', '=', code)
    .groupBy('v.name')
    .orderBy('v.name')
    .execute();

test('the files that ship are what the seed gives, to the byte', () => {
  for (const [name, text] of lanternHeadFiles(lanternHeadScenario(SEED))) {
    expect(readFileSync(join(LANTERN_FILES, name), 'utf8')).toBe(text);
  }
});

test('worked to the middle of November, every channel proves and every deposit of theirs is proven', async () => {
  const proofs = await clearingProofs(books.reader);
  expect(proofs.map((proof) => [proof.channel, proof.proves || proof.notPosted.count > 0])).toEqual([
    ['Giving page', true],
    ['Tower till', true],
    ['Cheques and envelopes', true],
    ['Open-day tickets', true],
  ]);
  const lines = await books.reader
    .selectFrom('proposal')
    .select(['certainty', 'amount'])
    .where('amount', '>', 0 as never)
    .execute();
  expect(lines.every((line) => line.certainty === 'proven')).toBe(true);
  expect(lines.length).toBeGreaterThan(3);
});

/** Lines that are laid on each other's sheets, by what the bank says of them. */
async function laidTogether() {
  const { rows } = await sql<{ text: string; certainty: string; other: string }>`
    SELECT l.text, q.certainty, o.text AS other FROM proposal q JOIN statement_line l ON l.id = q.statement_line_id
    JOIN proposal_part x ON x.statement_line_id = l.id AND x.rank = 0 AND x.kind = 'line'
    JOIN statement_line o ON o.id = x.ref_id ORDER BY l.text
  `.execute(books.reader);
  return rows;
}

test('what is put by and a batch that came in two parts are proven as lines that belong together', async () => {
  const pairs = await laidTogether();
  expect(pairs.map(({ certainty }) => certainty)).toEqual(['proven', 'proven', 'proven', 'proven']);
  expect(pairs.map(({ text, other }) => [text.split(' ')[0], other.split(' ')[0]])).toEqual([
    ['GIVING', 'GIVING'],
    ['GIVING', 'GIVING'],
    ['TRANSFER', 'TRANSFER'],
    ['TRANSFER', 'TRANSFER'],
  ]);
});

test('channels that round once a batch or a day charge as agreed: nothing is learnt of them', async () => {
  expect(await listFeeSteps(books.reader)).toEqual([]);
});

test('gifts are decided by their rules, the till by its items: nothing falls through', async () => {
  const { shares, rules, fallen } = await layerReport(books.reader, plainDate('2026-11-16'), NO_PROGRESS);
  expect(rules).toHaveLength(3);
  // A gift's account is the giving page's own; its fund is what the rules decide.
  expect(new Set(shares.filter((share) => share.field === 'income').map((share) => share.layer))).toEqual(
    new Set(['channel', 'item']),
  );
  // Gifts: by the giving page, and by post.
  expect(fallen.every((row) => row.channel === 1 || row.channel === 3)).toBe(true);
});

test('a register shows one fund alone, with the balance of just that, page by page', async () => {
  const db = books.reader;
  const { id } = await db.selectFrom('account').select('id').where('code', '=', '4010').executeTakeFirstOrThrow();
  const values = await registerValues(db, id);
  expect(values.map((value) => value.name)).toEqual([
    'Fund Foghorn',
    'Fund General',
    'Fund Lens restoration',
    'Restriction Restricted',
    'Restriction Unrestricted',
  ]);
  const lens = values.find((value) => value.name === 'Fund Lens restoration')!;
  const expected = (await under('4010')).find((row) => row.name === 'Lens restoration')!;
  const first = (await accountRegister(db, id, null, lens.id))!;
  expect(first.account.balance).toBe(expected.amount);
  expect(first.rows[0]!.running).toBe(expected.amount);
  const all = [...first.rows];
  for (let next = first.next; next;) {
    const page = (await accountRegister(db, id, parseRegisterCursor(next), lens.id))!;
    all.push(...page.rows);
    next = page.next;
  }
  expect(all).toHaveLength(first.count);
  expect(all.at(-1)!.running).toBe(all.at(-1)!.amount);
});

test('a trial balance of one fund is what its registers hold, and the funds together are the account', async () => {
  const db = books.reader;
  const day = plainDate('2026-12-31');
  const gifts = (balances: readonly { code: string; balance: number }[]) =>
    balances.find(({ code }) => code === '4010')!.balance;
  const values = await valuesInUse(db);
  const funds = values.filter(({ name }) => name.startsWith('Fund '));
  let together = 0;
  for (const { id } of funds) together += gifts(await accountBalancesUnder(db, day, id));
  expect(together).toBe(gifts(await accountBalances(db, day)));
  const lens = funds.find(({ name }) => name === 'Fund Lens restoration')!;
  const expected = (await under('4010')).find((row) => row.name === 'Lens restoration')!;
  expect(gifts(await accountBalancesUnder(db, day, lens.id))).toBe(expected.amount);
  expect(gifts(await accountBalancesUnder(db, plainDate('2026-08-01'), lens.id))).toBe(0);
});

test('all of it posted and confirmed comes to the truth table, to the cent', async () => {
  const must = async (result: Promise<{ ok: boolean }>) => expect(await result).toMatchObject({ ok: true });
  await must(runCommand(books, postReceipts, { filter: {} }, { actor: ACTOR }));
  const [twice, ...others] = await books.read((db) => doubledLines(db, 10));
  expect([twice!.first, twice!.date, others]).toEqual(['payout LH-44', '2026-11-04', []]);
  await must(runCommand(books, mendDoubled, { line: twice!.line }, { actor: ACTOR }));
  const proven = await books.read((db) => provenLines(db));
  await must(runCommand(books, confirmProven, { lines: proven.map((line) => line.id) }, { actor: ACTOR }));
  const upkeep = await books.reader
    .selectFrom('account')
    .select('id')
    .where('code', '=', '6010')
    .executeTakeFirstOrThrow();
  const left = await books.reader.selectFrom('statement_line').select('id').where('match_id', 'is', null).execute();
  for (const { id } of left) {
    await must(runCommand(books, confirmMatch, { line: id, parts: [], restTo: upkeep.id }, { actor: ACTOR }));
  }

  const balances = Object.fromEntries((await accountBalances(books.reader)).map((a) => [a.code, a.balance]));
  expect(balances).toMatchObject({
    '1010': truth.bank,
    '1020': truth.reserve,
    '1030': truth.boxes['Gift shop'],
    '1040': truth.boxes['Tea hatch'],
    '1050': truth.cheques,
    '1060': truth.envelopes,
    '1200': truth.giving + Object.values(KEYED_BATCH).reduce((sum, amount) => sum + amount, 0),
    '1210': truth.till,
    '1220': 0,
    '1230': truth.ticketsHeld,
    '6120': truth.ticketFees,
  });
  expect(balances['6100']! + balances['6110']!).toBe(truth.fees);
  expect((await under('4010')).map((row) => [row.name, -row.amount])).toEqual(
    Object.entries(truth.gifts).map(([fund, amount]) => [fund, amount + (KEYED_BATCH[fund] ?? 0)]),
  );
  expect((await clearingProofs(books.reader)).map((proof) => proof.proves)).toEqual([true, true, true, true]);
  // What was put by left one account a day before it came to the other, and each account is right on its own day.
  const between = await accountBalances(books.reader, plainDate('2026-11-09'));
  const transit = between.find(({ role }) => role === 'bank_transit');
  expect(transit).toMatchObject({ balance: 2_500_00 });
  expect(balances[transit!.code]).toBe(0);
  expect((await bankProofs(books.reader)).map((proof) => proof.difference)).toEqual([0, 0]);
  // The giving page's fees are shared over the funds, and come to what the account has.
  const shared = await under('6100');
  expect(shared.reduce((sum, row) => sum + row.amount, 0)).toBe(balances['6100']);
});
