import { candidates } from '@/books/matching/candidates';
import { confirmAgain, confirmMatch, confirmProven } from '@/books/matching/confirm';
import { workingSheet } from '@/books/matching/sheet';
import { takeApart } from '@/books/matching/take-apart';
import { closeThrough } from '@/books/ledger/close';
import { bankProofs } from '@/books/proof/clearing';
import { receiptsImporter } from '@/books/receipts/import';
import { postReceipts } from '@/books/receipts/post';
import { statementImporter } from '@/books/statements/import';
import { provenLines } from '@/books/statements/list';
import { setLinesAside } from '@/books/statements/set-aside';
import { trail } from '@/books/trail/trail';
import { KITTIWAKE } from '../../../demo/kittiwake/books';
import { DESK_HEAD, useWorld } from './world';

const CURRENT = KITTIWAKE.bankAccounts[0]!.iban.replace(/ /g, '');
const SAVINGS = 'IE64SKER93115200001234';
const world = useWorld({
  accounts: [...KITTIWAKE.accounts, { ...KITTIWAKE.accounts[0]!, code: '1011', name: 'Savings' }],
  bankAccounts: [...KITTIWAKE.bankAccounts, { account: '1011', iban: SAVINGS }],
  opening: { ...KITTIWAKE.opening, balances: [] },
});

const file = (...rows: readonly (readonly [string, string, string, string])[]) =>
  'Account,Booked,Amount,Currency,Text\n' +
  rows.map(([account, day, amount, text]) => `${account},${day},${amount},EUR,${text}\n`).join('');
const transfer = (arrives: string) =>
  world.bringIn(
    statementImporter,
    file([CURRENT, '2026-11-05', '-500.00', 'TO SAVINGS'], [SAVINGS, arrives, '500.00', `FROM ${CURRENT}`]),
  );
const lineOf = (text: string) => world.id('statement_line', text);
const sheetOf = async (text: string) => (await workingSheet(world.books.reader, await lineOf(text)))!;
const onDay = async (code: string, day: string) => {
  const account = await world.account(code);
  const rows = await world.books.reader
    .selectFrom('account_day')
    .select(['debit', 'credit'])
    .where('account_id', '=', account)
    .where('day', '<=', day as never)
    .execute();
  return rows.reduce((sum, { debit, credit }) => sum + debit - credit, 0);
};

test('a transfer between own accounts is proven on both lines, confirmed once, each bank right on its own day', async () => {
  await transfer('2026-11-06');
  const [out, came] = [await sheetOf('TO SAVINGS'), await sheetOf(`FROM ${CURRENT}`)];
  expect([out.certainty, came.certainty]).toEqual(['proven', 'proven']);
  expect(came.because).toContain('left 1010 Current account and came to 1011 Savings, 1 day later');
  expect(came.parts).toMatchObject([{ kind: 'line', net: 50_000, title: 'Line of 5 Nov · 1010 Current account' }]);
  const lines = (await provenLines(world.books.reader)).map(({ id }) => id);
  expect(lines).toHaveLength(2);
  await world.must(confirmProven, { lines });
  expect(await world.balances()).toEqual({ '1010': -50_000, '1011': 50_000 });
  // In between it is on the account that was made for it, beside the bank.
  expect([
    await onDay('1010', '2026-11-05'),
    await onDay('1011', '2026-11-05'),
    await onDay('1012', '2026-11-05'),
  ]).toEqual([-50_000, 0, 50_000]);
  expect([await onDay('1011', '2026-11-06'), await onDay('1012', '2026-11-06')]).toEqual([50_000, 0]);
  for (const proof of await bankProofs(world.books.reader)) expect(proof).toMatchObject({ difference: 0 });
});

test('each of the two lines shows the other, its own entry, and takes both apart', async () => {
  await transfer('2026-11-06');
  const { match } = await world.must(confirmMatch, {
    line: await lineOf(`FROM ${CURRENT}`),
    parts: [{ kind: 'line', id: await lineOf('TO SAVINGS') }],
    restTo: null,
  });
  const [out, came] = [await sheetOf('TO SAVINGS'), await sheetOf(`FROM ${CURRENT}`)];
  expect(came.parts).toMatchObject([{ net: 50_000, title: 'Line of 5 Nov · 1010 Current account' }]);
  expect(out.parts).toMatchObject([{ net: -50_000, title: 'Line of 6 Nov · 1011 Savings' }]);
  expect(out.confirmed!.journal.id).not.toBe(came.confirmed!.journal.id);
  expect(out.confirmed!.match).toBe(match);
  const found = await trail(world.books.reader, 'journal', out.confirmed!.journal.id);
  expect(found?.stops.find(({ station }) => station === 'Banked')?.steps).toHaveLength(1);
  const apart = await world.must(takeApart, { match });
  expect(apart).toMatchObject({ matches: 1, freed: { line: 1, payout: 0 } });
  expect(await world.balances()).toEqual({});
  expect((await sheetOf('TO SAVINGS')).certainty).toBe('proven');
  await world.must(confirmAgain, { matches: [match] });
  expect(await world.balances()).toEqual({ '1010': -50_000, '1011': 50_000 });
});

test('on one day it is one entry, and no account is needed in between', async () => {
  await transfer('2026-11-05');
  await world.must(confirmProven, { lines: (await provenLines(world.books.reader)).map(({ id }) => id) });
  expect(await world.balances()).toEqual({ '1010': -50_000, '1011': 50_000 });
  expect(await world.count('journal')).toBe(1);
  expect(
    await world.books.reader.selectFrom('account').select('id').where('role', '=', 'bank_transit').execute(),
  ).toEqual([]);
});

test('one payout in two deposits: proven where both name it, and clearing proves', async () => {
  await world.bringIn(
    receiptsImporter,
    DESK_HEAD +
      'CD-1,receipt,2026-11-03T10:00:00Z,EUR,102.00,2.00,,,,,,,P-2209,\nP-2209,payout,2026-11-03T20:00:00Z,EUR,-100.00,,-100.00,,,,,,,\n',
  );
  await world.must(postReceipts, { filter: {} });
  await world.bringIn(
    statementImporter,
    file([CURRENT, '2026-11-05', '60.00', 'CARDS P-2209 A'], [CURRENT, '2026-11-06', '40.00', 'CARDS P-2209 B']),
  );
  const sheet = await sheetOf('CARDS P-2209 B');
  expect(sheet).toMatchObject({
    certainty: 'proven',
    parts: [
      { kind: 'payout', net: 10_000 },
      { kind: 'line', net: -6_000 },
    ],
  });
  expect(sheet.because).toContain('with another deposit it comes to payout P-2209, 100.00');
  await world.must(confirmProven, { lines: [sheet.line.id] });
  expect((await world.balances())['1200']).toBeUndefined();
  expect((await world.balances())['1010']).toBe(10_000);
  expect([await onDay('1010', '2026-11-05'), await onDay('1010', '2026-11-06')]).toEqual([6_000, 10_000]);
});

describe('what cannot be laid is said', () => {
  test('a line that is matched, set aside, laid twice, or of a closed day', async () => {
    await transfer('2026-11-06');
    const [out, came] = [await lineOf('TO SAVINGS'), await lineOf(`FROM ${CURRENT}`)];
    const laying = (line: number, id: number) => ({ line, parts: [{ kind: 'line' as const, id }], restTo: null });
    expect(await world.refusal(confirmMatch, laying(came, came))).toBe('invalid-input');
    expect(await world.refusal(confirmMatch, laying(came, 999))).toBe('not-found');
    await world.must(setLinesAside, { ids: [out], reason: 'private' });
    expect(await world.refusal(confirmMatch, laying(came, out))).toBe('part-aside');
    expect((await sheetOf(`FROM ${CURRENT}`)).parts).toEqual([]);
  });

  test('a closed day of the earlier line refuses it; one that is taken says by whom', async () => {
    await transfer('2026-11-06');
    const [out, came] = [await lineOf('TO SAVINGS'), await lineOf(`FROM ${CURRENT}`)];
    const laid = { line: came, parts: [{ kind: 'line' as const, id: out }], restTo: null };
    await world.must(closeThrough, { date: '2026-11-05' as never, reopen: false });
    expect(await world.refusal(confirmMatch, laid)).toBe('period-closed');
    await world.must(closeThrough, { date: null, reopen: true });
    await world.must(confirmMatch, { line: out, parts: [], restTo: await world.account('6110') });
    expect(await world.refusal(confirmMatch, laid)).toBe('part-taken');
  });
});

test('they are offered among what can be laid: the same amount first, then the nearest day', async () => {
  await transfer('2026-11-06');
  await world.bringIn(
    statementImporter,
    file([CURRENT, '2026-11-06', '-1.00', 'CHARGE'], [CURRENT, '2026-10-01', '-500.00', 'LONG AGO']),
  );
  const offered = await candidates(world.books.reader, await lineOf(`FROM ${CURRENT}`), { text: '', amount: null });
  expect(offered.lines.map(({ note }) => note)).toEqual(['TO SAVINGS', 'CHARGE']);
  const sought = await candidates(world.books.reader, await lineOf(`FROM ${CURRENT}`), { text: 'long', amount: null });
  expect(sought.lines.map(({ note }) => note)).toEqual(['LONG AGO']);
});
