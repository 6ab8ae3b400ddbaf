import { mergePayers } from '@/books/payers/same';
import { keepTerms } from '@/books/setup/list-commands';
import { confirmMatch } from '@/books/matching/confirm';
import { bankNames, forgetBankName, keepBankName } from '@/books/matching/bank-names';
import { forgetLearnt, learntLags, useLearntLag } from '@/books/matching/learnt';
import { workingSheet } from '@/books/matching/sheet';
import { chargedOtherwise } from '@/books/proof/charges';
import { feeChecks } from '@/books/proof/fee-check';
import { receiptsImporter } from '@/books/receipts/import';
import { postReceipts } from '@/books/receipts/post';
import { statementImporter } from '@/books/statements/import';
import { undoChange } from '@/books/undo';
import { feeOf } from '@/core/channels';
import { plainDate } from '@/core/calendar';
import { minor } from '@/core/money';
import { bill, issue, payerNamed } from './bills';
import { DESK_HEAD, statement, useWorld } from './world';
import { money } from './written-rows';

const HEAD = 'Account,Booked,Amount,Currency,Text,Counterparty,Balance\n';

const world = useWorld();

const db = () => world.books.reader;
const undo = () => world.undoLast();
const receipt = (id: string, day: string, gross: number, fee: number) =>
  `${id},receipt,${day}T10:00:00Z,EUR,${money(gross)},${money(fee)},${money(gross - fee)},,,,,,,\n`;

describe('the fee check', () => {
  const bySchedule = (gross: number) => feeOf(minor(gross), { rate: 190, fixed: minor(25) });
  test('what is as agreed is not listed; what is otherwise is, with sum, since when, and what it fits', async () => {
    const before = Array.from({ length: 20 }, (_, n) =>
      receipt(`A-${n}`, '2026-10-05', 1_000 + n * 313, bySchedule(1_000 + n * 313)),
    );
    await world.bringIn(receiptsImporter, DESK_HEAD + before.join(''));
    expect(await feeChecks(db())).toMatchObject([
      { charged: 20, otherwise: 0, difference: 0, since: null, learnt: null },
    ]);
    const dearer = (gross: number) => feeOf(minor(gross), { rate: 240, fixed: minor(30) });
    const after = Array.from({ length: 30 }, (_, n) =>
      receipt(`B-${n}`, '2026-11-03', 2_000 + n * 517, dearer(2_000 + n * 517)),
    );
    await world.bringIn(receiptsImporter, DESK_HEAD + after.join(''));
    const more = Array.from({ length: 30 }, (_, n) => dearer(2_000 + n * 517) - bySchedule(2_000 + n * 517)).reduce(
      (a, b) => a + b,
    );
    const [check] = await feeChecks(db());
    expect(check).toMatchObject({
      charged: 50,
      otherwise: 30,
      difference: more,
      since: '2026-11-03',
      last: '2026-11-03',
    });
    expect(check!.learnt).toEqual({ schedule: { rate: 240, fixed: 30 }, fit: 30, of: 30 });
    const rows = await chargedOtherwise(db(), check!.channel, 100);
    expect(rows).toHaveLength(30);
    for (const row of rows) expect(row.bySchedule).toBe(bySchedule(row.gross));
    // Forgotten, it is listed all the same, and no other schedule is told of it.
    await world.must(forgetLearnt, { channel: check!.channel, upTo: plainDate('2026-11-16') });
    expect(await feeChecks(db())).toMatchObject([{ otherwise: 30, learnt: null }]);
    await undo();
    expect((await feeChecks(db()))[0]!.learnt).toEqual(check!.learnt);
  });

  test('two cents less at the bank than the schedule says are flagged (worked figure B)', async () => {
    const rows = [31_000, 8_500, 14_760, 6_240].map(
      (gross, n) => `R-${n},receipt,2026-11-09T1${n}:00:00Z,EUR,${money(gross)},,,,,,,,,\n`,
    );
    await world.bringIn(receiptsImporter, DESK_HEAD + rows.join(''));
    await world.must(postReceipts, { filter: {} });
    await world.bringIn(statementImporter, statement(0, ['2026-11-12', 59_252, 'CD']));
    const ids = (await db().selectFrom('receipt').select('id').execute()).map(({ id }) => ({
      kind: 'receipt' as const,
      id,
    }));
    await world.must(confirmMatch, {
      line: await world.id('statement_line', 'CD'),
      parts: ids,
      restTo: await world.account('6100'),
    });
    const [check] = await feeChecks(db());
    expect(check).toMatchObject({ charged: 0, deposits: { count: 1, difference: -2, since: '2026-11-12' } });
    const line = await world.id('statement_line', 'CD');
    expect(await chargedOtherwise(db(), check!.channel, 10)).toEqual([
      {
        kind: 'deposit',
        id: line,
        name: 'CD',
        date: '2026-11-12',
        payer: null,
        gross: 60_500,
        bySchedule: 1_250,
        charged: 1_248,
      },
    ]);
  });
});

/** Payouts that leave on these days and are confirmed at the bank on those. */
async function paidOut(days: readonly (readonly [left: string, at: string])[]) {
  const rows = days.map(
    ([left], n) => `P-${n},payout,${left}T05:00:00Z,EUR,-${money(5_000 + n)},,-${money(5_000 + n)},,,,,,,\n`,
  );
  await world.bringIn(receiptsImporter, DESK_HEAD + rows.join(''));
  await world.bringIn(
    statementImporter,
    statement(0, ...days.map(([, at], n) => [at, 5_000 + n, `CD P-${n}`] as const)),
  );
  for (const [n] of days.entries()) {
    await world.must(confirmMatch, {
      line: await world.id('statement_line', `CD P-${n}`),
      parts: [{ kind: 'payout', id: await world.id('payout', `P-${n}`) }],
      restTo: null,
    });
  }
}

test('how long a channel takes is told by confirmed matches; taken over, forgotten, and both undone', async () => {
  await paidOut([
    ['2026-11-02', '2026-11-05'],
    ['2026-11-03', '2026-11-06'],
    ['2026-11-04', '2026-11-09'],
    ['2026-11-05', '2026-11-10'],
    ['2026-11-06', '2026-11-10'],
  ]);
  const [lag] = await learntLags(db());
  expect(lag).toMatchObject({
    set: 2,
    of: 5,
    better: 3,
    lags: [
      { days: 3, count: 4 },
      { days: 2, count: 1 },
    ],
  });
  await world.must(useLearntLag, { channel: lag!.channel, days: 3 });
  expect((await learntLags(db()))[0]).toMatchObject({ set: 3, better: null });
  await undo();
  expect((await learntLags(db()))[0]).toMatchObject({ set: 2, better: 3 });
  await world.must(forgetLearnt, { channel: lag!.channel, upTo: plainDate('2026-11-09') });
  expect((await learntLags(db()))[0]).toMatchObject({ of: 2, better: null });
  await undo();
  expect((await learntLags(db()))[0]).toMatchObject({ of: 5 });
  expect(await world.refusal(forgetLearnt, { channel: 99, upTo: null })).toBe('not-found');
  expect(await world.refusal(useLearntLag, { channel: 99, days: 1 })).toBe('not-found');
});

test('a payer whom the bank calls otherwise is learnt, kept, and found by it from then on', async () => {
  const payer = await payerNamed(world, 'Cormorant Boatyard');
  await world.must(keepTerms, { id: null, name: 'x', due_days: 1, discount_rate: 0, discount_days: 0, archived: 0 });
  const first = await issue(world, await bill(world, payer, [10_000]));
  const second = await issue(world, await bill(world, payer, [20_000]));
  const line = (day: string, cents: number, balance: number) =>
    `IE29SKER93115212345678,${day},${money(cents)},EUR,TRANSFER,CB HOLDINGS,${money(balance)}\n`;
  await world.bringIn(statementImporter, HEAD + line('2026-11-10', 12_300, 12_300));
  const id = async (amount: number) =>
    (await db().selectFrom('statement_line').select('id').where('amount', '=', minor(amount)).executeTakeFirstOrThrow())
      .id;
  await world.must(confirmMatch, {
    line: await id(12_300),
    parts: [{ kind: 'invoice', id: first.invoice, amount: minor(12_300) }],
    restTo: null,
  });
  const told = { payer, said: 'CB HOLDINGS', state: 'told', count: 1, last: '2026-11-10' };
  expect(await bankNames(db())).toMatchObject([told]);
  await world.must(keepBankName, { payer, name: 'CB HOLDINGS', keep: true });
  expect(await bankNames(db())).toMatchObject([{ ...told, state: 'kept' }]);
  await world.bringIn(statementImporter, HEAD + line('2026-11-11', 24_600, 36_900));
  const sheet = async () => (await workingSheet(db(), await id(24_600)))!;
  expect(await sheet()).toMatchObject({ certainty: 'probable', parts: [{ kind: 'invoice', id: second.invoice }] });
  expect((await sheet()).because[0]).toBe('CB HOLDINGS stands in the bank’s text');
  expect(await world.refusal(keepBankName, { payer, name: 'CB HOLDINGS', keep: true })).toBe('name-taken');
  // Corrected, it is somebody else's, whose invoices it does not come to; undone, it is theirs again.
  const other = await payerNamed(world, 'Dunlin Dinghies');
  await issue(world, await bill(world, other, [30_000]));
  await world.must(keepBankName, { payer: other, name: 'CB HOLDINGS', keep: true });
  expect(await bankNames(db())).toMatchObject([{ payer: other, state: 'kept', count: 0, last: null }, told]);
  expect(await sheet()).toMatchObject({ certainty: 'none', parts: [] });
  await undo();
  expect(await sheet()).toMatchObject({ certainty: 'probable' });
  // Forgotten, nothing goes by it; it is still told by the deposit, until that is not to be heard again either.
  await world.must(keepBankName, { payer, name: 'CB HOLDINGS', keep: false });
  const forgotten = await world.lastAudit();
  expect((await sheet()).certainty).toBe('open');
  expect(await bankNames(db())).toMatchObject([told]);
  await world.must(forgetBankName, { payer, name: 'CB HOLDINGS', forget: true });
  expect(await bankNames(db())).toMatchObject([{ ...told, state: 'forgotten' }]);
  await undo();
  expect(await bankNames(db())).toMatchObject([told]);
  await world.must(undoChange, { audit: forgotten });
  expect(await sheet()).toMatchObject({ certainty: 'probable' });
});

test('one deposit for several invoices tells a name once; a payer’s own other names are not the bank’s to take', async () => {
  const payer = await payerNamed(world, 'Cormorant Boatyard');
  const first = await issue(world, await bill(world, payer, [10_000]));
  const second = await issue(world, await bill(world, payer, [20_000]));
  await world.bringIn(
    statementImporter,
    `${HEAD}IE29SKER93115212345678,2026-11-10,369.00,EUR,TRANSFER,CB HOLDINGS,369.00\n`,
  );
  const parts = [first, second].map(({ invoice }, n) => ({
    kind: 'invoice' as const,
    id: invoice,
    amount: minor(12_300 * (n + 1)),
  }));
  await world.must(confirmMatch, { line: await world.id('statement_line', 'TRANSFER'), parts, restTo: null });
  expect(await bankNames(db())).toMatchObject([{ said: 'CB HOLDINGS', count: 1 }]);
  const [from, into] = [await payerNamed(world, 'Tern Tours', ''), await payerNamed(world, 'Tern Tours Ltd')];
  await world.must(mergePayers, { from, into });
  expect(await world.refusal(keepBankName, { payer, name: 'Tern Tours', keep: true })).toBe('name-taken');
  await world.must(keepBankName, { payer: into, name: 'Tern Tours', keep: false });
  expect(await db().selectFrom('payer_alias').select('name').where('payer_id', '=', into).execute()).toHaveLength(1);
  expect(await world.refusal(keepBankName, { payer: 999, name: 'X', keep: true })).toBe('not-found');
  expect(await world.refusal(forgetBankName, { payer: 999, name: 'X', forget: true })).toBe('not-found');
});

test('what is issued, settled or taken back after the statement came is asked again at once', async () => {
  const payer = await payerNamed(world, 'Orla Marrable');
  await world.bringIn(statementImporter, statement(0, ['2026-11-10', 12_300, 'ORLA MARRABLE']));
  const sheet = async () => (await workingSheet(db(), await world.id('statement_line', 'ORLA MARRABLE')))!;
  expect((await sheet()).certainty).toBe('none');
  const { invoice } = await issue(world, await bill(world, payer, [10_000]));
  expect(await sheet()).toMatchObject({ certainty: 'probable', parts: [{ kind: 'invoice', id: invoice }] });
  await undo();
  expect((await sheet()).certainty).toBe('none');
  await undo();
  expect((await sheet()).certainty).toBe('probable');
});
