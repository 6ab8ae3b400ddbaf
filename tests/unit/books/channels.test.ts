import type { ChannelSettings } from '@/books/channels/channel-settings';
import { channelsPage } from '@/books/channels/list';
import { dropChannelDraft, openChannel, saveChannelDraft, setPostingMode } from '@/books/channels/open-channel';
import { addDimension } from '@/books/dimensions/dimensions';
import { saveMapRule } from '@/books/map/rules';
import { confirmProven } from '@/books/matching/confirm';
import { clearingProofs } from '@/books/proof/clearing';
import { postReceipts } from '@/books/receipts/post';
import { receiptsFrom, receiptsImporter } from '@/books/receipts/import';
import { statementImporter } from '@/books/statements/import';
import { certaintyGroups } from '@/books/statements/list';
import { plainDate } from '@/core/calendar';
import { minor } from '@/core/money';
import { TILL_PROFILE, tillSettings } from './channel-fixtures';
import { DESK_HEAD, statement, useWorld } from './world';

const world = useWorld();

const till = (more: Partial<ChannelSettings> = {}) => tillSettings(world, more);
const open = async (settings: ChannelSettings) => (await world.must(openChannel, { draft: null, settings })).channel;

const HEAD = 'Ref;Day;Paid;Off;By;Where;What\n';
const source = (channel: number) => receiptsFrom({ channel, profile: { fingerprint: 'pier', settings: TILL_PROFILE } });

test('opening makes the clearing account and what was said to be made, and nothing twice', async () => {
  const before = await world.count('account');
  const channel = await open(await till());
  expect((await world.count('account')) - before).toBe(4);
  const page = await channelsPage(world.books.reader);
  expect(page.channels.find((one) => one.id === channel)).toMatchObject({ name: 'Pier till', kind: 'till' });
  expect(page.sites.map((site) => site.name)).toEqual(['Slipway', 'Tea hatch']);
  expect(await world.refusal(openChannel, { draft: null, settings: await till() })).toBe('name-taken');
  const again = await till({ name: 'Other till' });
  expect(await world.refusal(openChannel, { draft: null, settings: again })).toBe('name-taken');
  expect((await world.count('account')) - before).toBe(4);
});

test.each<[string, () => Promise<Partial<ChannelSettings>>, string]>([
  ['a currency the books do not have', async () => ({ currency: 'GBP' }), 'invalid-input'],
  ['a bank account that is none', async () => ({ bank: await world.account('1100') }), 'account-unfit'],
  ['fees on an income account', async () => ({ fees: { use: await world.account('4010') } }), 'account-unfit'],
  ['an account that is not there', async () => ({ refunds: { use: 999 as never } }), 'not-found'],
])('%s is refused, and nothing is made', async (_what, more, code) => {
  const before = await world.count('account');
  expect(await world.refusal(openChannel, { draft: null, settings: await till(await more()) })).toBe(code);
  expect(await world.count('account')).toBe(before);
});

test('what is answered so far is kept, changed, taken up and given up', async () => {
  const { draft } = await world.must(saveChannelDraft, { id: null, settings: { name: 'Pier' } });
  await world.must(saveChannelDraft, { id: draft, settings: { name: 'Pier till', kind: 'till' } });
  const { drafts } = await channelsPage(world.books.reader);
  expect(drafts.map((row) => row.settings)).toEqual([{ name: 'Pier till', kind: 'till' }]);
  await world.must(openChannel, { draft, settings: await till() });
  expect((await channelsPage(world.books.reader)).drafts).toEqual([]);
  const other = await world.must(saveChannelDraft, { id: null, settings: { name: 'X' } });
  await world.must(dropChannelDraft, { id: other.draft });
  expect(await world.count('channel_draft')).toBe(0);
});

test('cash taken at a site lies in its box, a discount has its line, and each channel proves for itself', async () => {
  const channel = await open(await till());
  await world.bringIn(
    receiptsImporter,
    `${DESK_HEAD}CD-1,receipt,2026-11-09T10:00:00Z,EUR,123.00,,123.00,A,a@mail.example,,parts,,,\n`,
  );
  const report = await world.bringIn(
    source(channel),
    `${HEAD}T-1;09.11.2026;61,50;0;cash;TEA;Tea\nT-2;09.11.2026;110,70;12,30;card;Slipway;Rope\n` +
      'T-3;31.10.2026;5,00;0;card;Slipway;Old\nT-4;09.11.2026;5,00;0;card;Harbour;Where\n',
  );
  expect(report).toMatchObject({ added: 2, refused: 2 });
  expect(report.findings.map((finding) => [finding.line, finding.code])).toEqual([
    [4, 'before-history'],
    [5, 'unknown-site'],
  ]);
  await world.must(postReceipts, { filter: {} });
  const balances = await world.balances();
  expect(balances).toMatchObject({ '1030': 6150, '1210': 11070, '1200': 12300, '4950': 1000 });
  const proofs = await clearingProofs(world.books.reader);
  expect(proofs.map((proof) => [proof.channel, proof.balance])).toEqual([
    ['Card desk', 12300],
    ['Pier till', 11070],
  ]);
  // What lies in the box is not held by the channel.
  expect(proofs.map((proof) => proof.proves)).toEqual([true, true]);
  await world.expectSound();
});

test('a reading is kept with the header it was confirmed for', async () => {
  const channel = await open(await till());
  await world.bringIn(source(channel), `${HEAD}T-1;09.11.2026;61,50;0;cash;TEA;Tea\n`);
  const row = await world.books.reader.selectFrom('profile').selectAll().executeTakeFirstOrThrow();
  expect([row.fingerprint, JSON.parse(row.settings)]).toEqual(['pier', TILL_PROFILE]);
});

test('payouts on their way at the cut-over are a balance in transit, and are proven as they land', async () => {
  await open(
    await till({
      cutOver: 'opening',
      outstanding: [
        { id: 'TP-1', date: plainDate('2026-11-09'), net: minor(50_00) },
        { id: 'TP-2', date: plainDate('2026-11-10'), net: minor(70_00) },
      ],
    }),
  );
  expect((await world.balances())['1210']).toBe(12000);
  await world.bringIn(
    statementImporter,
    statement(100_000, ['2026-11-10', 5000, 'TILL TP-1'], ['2026-11-11', 7000, 'TILL TP-2']),
  );
  expect((await certaintyGroups(world.books.reader)).proven).toMatchObject({ count: 2, amount: 12000 });
  await world.expectSound();
});

test('switching to one entry a day holds from its day on and leaves what is posted', async () => {
  const row = (id: string, day: string) =>
    `${id},receipt,${day}T10:00:00Z,EUR,12.30,,12.30,A,a@mail.example,,parts,,,\n`;
  await world.bringIn(
    receiptsImporter,
    DESK_HEAD + row('A', '2026-11-09') + row('B', '2026-11-10') + row('C', '2026-11-10'),
  );
  await world.must(postReceipts, { ids: [await world.id('receipt', 'B')] });
  await world.must(setPostingMode, { channel: 1, mode: 'summary', from: plainDate('2026-11-10') });
  await world.must(postReceipts, { filter: {} });
  const kinds = async () =>
    (await world.books.reader.selectFrom('journal').select('source_kind').orderBy('id').execute()).map(
      (j) => j.source_kind,
    );
  expect(await kinds()).toEqual(['opening', 'receipt', 'receipt', 'summary']);
  await world.undoLast('set-posting-mode');
  await world.bringIn(receiptsImporter, DESK_HEAD + row('D', '2026-11-11'));
  await world.must(postReceipts, { filter: {} });
  expect((await kinds()).at(-1)).toBe('receipt');
});

test('a channel that gives only totals: the fee is what the bank is short of, shared over the funds (figure G)', async () => {
  const channel = await open(
    await till({ name: 'Giving page', kind: 'giving-page', sites: [], taxCode: null, historyFrom: null }),
  );
  const { dimension } = await world.must(addDimension, { name: 'Fund', values: ['General', 'Lens'] });
  const values = await world.books.reader.selectFrom('dimension_value').selectAll().orderBy('id').execute();
  for (const { id, name } of values) {
    const conditions = { funds: [name] };
    const landing = { dimensions: { [dimension]: id } };
    await world.must(saveMapRule, { id: null, name, active: true, conditions, landing });
  }
  const columns = { id: 'Ref', time: 'Day', gross: 'Amount', kind: 'Kind', fund: 'Fund', payout: 'Batch' };
  const settings = { ...TILL_PROFILE, columns, decimal: '.' as const, payouts: ['batch'] };
  await world.bringIn(
    receiptsFrom({ channel, profile: { fingerprint: 'gifts', settings } }),
    'Ref;Day;Amount;Kind;Fund;Batch\nG-1;08.09.2026;480.00;gift;General;B-37\nG-2;09.09.2026;200.00;gift;Lens;B-37\n' +
      'G-3;10.09.2026;20.00;gift;Lens;B-37\nB-37;13.09.2026;681.90;batch;;\n',
  );
  await world.must(postReceipts, { filter: { channel } });
  const proof = async () => (await clearingProofs(world.books.reader)).find((one) => one.channel === 'Giving page')!;
  expect(await proof()).toMatchObject({ balance: 70000, proves: true });
  await world.bringIn(statementImporter, statement(100_000, ['2026-09-14', 68190, 'GIVING B-37']));
  const line = await world.id('statement_line', 'GIVING B-37');
  await world.must(confirmProven, { lines: [line] });
  expect(await proof()).toMatchObject({ balance: 0, proves: true });
  const fees = await world.books.reader
    .selectFrom('journal_line as l')
    .innerJoin('journal_line_dimension as d', (j) =>
      j.onRef('d.journal_id', '=', 'l.journal_id').onRef('d.line_no', '=', 'l.line_no'),
    )
    .innerJoin('dimension_value as v', 'v.id', 'd.value_id')
    .select(['v.name', 'l.amount'])
    .where('l.account_id', '=', await world.account('6120'))
    .orderBy('l.line_no')
    .execute();
  expect(fees).toEqual([
    { name: 'General', amount: 1241 },
    { name: 'Lens', amount: 569 },
  ]);
  await world.expectSound();
});
