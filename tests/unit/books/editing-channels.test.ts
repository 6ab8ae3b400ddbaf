import { channelAsEdit, editChannel } from '@/books/channels/edit-channel';
import type { ChannelEdit } from '@/books/channels/channel-settings';
import { openChannel } from '@/books/channels/open-channel';
import { receiptsFrom } from '@/books/receipts/import';
import { postReceipts } from '@/books/receipts/post';
import { plainDate } from '@/core/calendar';
import { minor } from '@/core/money';
import { TILL_PROFILE, tillSettings } from './channel-fixtures';
import { DESK_HEAD, useWorld } from './world';

const world = useWorld();

const now = async (channel: number) => (await channelAsEdit(world.books.reader, channel))!;
const edit = (channel: number, change: Partial<ChannelEdit>, from: ChannelEdit) =>
  world.run(editChannel, { channel, settings: { ...from, ...change } });
const undo = () => world.undoLast();
const desk = (channel: number, rows: string) => world.bringIn(receiptsFrom({ channel }), DESK_HEAD + rows);

async function openTill(): Promise<number> {
  return (await world.must(openChannel, { draft: null, settings: await tillSettings(world) })).channel;
}

describe('an open channel', () => {
  test('says what is settled of it, and saving that again changes nothing but the audit', async () => {
    const till = await openTill();
    const before = await now(till);
    expect(before).toMatchObject({
      name: 'Pier till',
      payoutDays: 1,
      feeRate: 120,
      sites: [
        { code: 'TEA', name: 'Tea hatch' },
        { code: 'SLIP', name: 'Slipway', cash: null },
      ],
      historyFrom: '2026-11-01',
      paidWhen: 'debit-day',
    });
    expect(await edit(till, {}, before)).toMatchObject({ ok: true });
    expect(await now(till)).toEqual(before);
    expect(await channelAsEdit(world.books.reader, 99)).toBeNull();
  });

  test('is changed in one go and set back in one', async () => {
    const before = await now(1);
    const change = {
      name: 'Front desk',
      feeRate: 210,
      feeFixed: minor(30),
      historyFrom: plainDate('2026-10-01'),
      postsItself: true,
    };
    expect(await edit(1, change, before)).toMatchObject({ ok: true });
    expect(await now(1)).toMatchObject(change);
    await undo();
    expect(await now(1)).toEqual(before);
    await undo();
    expect(await now(1)).toMatchObject(change);
  });

  test('expects payouts on their way by the days it takes now', async () => {
    await desk(1, 'P-1,payout,2026-11-12T05:00:00Z,EUR,-10.00,,-10.00,,,,,,,\n');
    const expected = async () =>
      (await world.books.reader.selectFrom('payout').select('expected_on').executeTakeFirstOrThrow()).expected_on;
    expect(await expected()).toBe('2026-11-16');
    await edit(1, { payoutDays: 4 }, await now(1));
    expect(await expected()).toBe('2026-11-18');
    await undo();
    expect(await expected()).toBe('2026-11-16');
  });

  test.each([
    ['the name of another', async () => ({ name: 'Pier till' }), 'name-taken'],
    ['a payer who is none', async () => ({ payer: 77 }), 'not-found'],
    ['a clearing account for its fees', async () => ({ fees: { use: await world.account('1200') } }), 'account-unfit'],
    ['an income account as its bank', async () => ({ bank: await world.account('4010') }), 'account-unfit'],
  ] as const)('with %s is refused and stays as it was', async (_, change, code) => {
    await openTill();
    const before = await now(1);
    const result = await edit(1, await change(), before);
    expect(result.ok ? 'taken' : result.refusal.code).toBe(code);
    expect(await now(1)).toEqual(before);
  });

  test('that is none is refused', async () => {
    expect(await world.refusal(editChannel, { channel: 42, settings: await now(1) })).toBe('not-found');
  });

  test('can have one payer stand for everyone whose name is not told', async () => {
    await desk(1, 'R-1,receipt,2026-11-05T10:00:00Z,EUR,10.00,0.44,9.56,Walk-in trade,,,parts,,,\n');
    const { id } = await world.books.reader.selectFrom('payer').select('id').executeTakeFirstOrThrow();
    await edit(1, { payer: id }, await now(1));
    await desk(1, 'R-2,receipt,2026-11-06T10:00:00Z,EUR,10.00,0.44,9.56,,,,parts,,,\n');
    const rows = await world.books.reader.selectFrom('receipt').select('payer_id').orderBy('id').execute();
    expect(rows.map((row) => row.payer_id)).toEqual([id, id]);
  });
});

describe('its sites', () => {
  const sheet = (rows: string) => `Ref;Day;Paid;Off;By;Where;What\n${rows}`;
  const till = (channel: number, rows: string) =>
    world.bringIn(receiptsFrom({ channel, profile: { fingerprint: 'till', settings: TILL_PROFILE } }), sheet(rows));

  test('are added, renamed and taken out; one that receipts name stays', async () => {
    const channel = await openTill();
    const before = await now(channel);
    const [tea, slip] = before.sites;
    const pier = { code: 'PIER', name: 'Pier end', cash: { make: { code: '1050', name: 'Pier end box' } }, bank: null };
    expect(await edit(channel, { sites: [{ ...tea!, name: 'Tea room' }, pier] }, before)).toMatchObject({ ok: true });
    expect((await now(channel)).sites.map(({ code, name }) => [code, name])).toEqual([
      ['TEA', 'Tea room'],
      ['PIER', 'Pier end'],
    ]);
    expect(await till(channel, 'T-1;12.11.2026;10,00;;cash;Pier end;tea\n')).toMatchObject({ added: 1, refused: 0 });
    expect(await till(channel, 'T-2;12.11.2026;10,00;;cash;Slipway;tea\n')).toMatchObject({ added: 0, refused: 1 });
    const used = await edit(channel, { sites: [tea!, slip!] }, await now(channel));
    expect(used).toMatchObject({ ok: false, refusal: { code: 'in-use', name: 'Pier end' } });
    await world.must(postReceipts, { filter: {} });
    expect(await world.balances()).toMatchObject({ '1050': 1000 });
  });

  test('taken out come back by undo as they were, and what is new gets no old id', async () => {
    const channel = await openTill();
    const before = await now(channel);
    const pier = { code: 'PIER', name: 'Pier end', cash: null, bank: null };
    await edit(channel, { sites: [before.sites[0]!, pier] }, before);
    expect((await now(channel)).sites[1]!.id).not.toBe(before.sites[1]!.id);
    await undo();
    expect(await now(channel)).toEqual(before);
  });

  test('have a code once, and a bank account of the books’ currency or the channel’s', async () => {
    const channel = await openTill();
    const before = await now(channel);
    const [tea] = before.sites;
    const twice = await edit(channel, { sites: [tea!, { ...tea!, id: null, code: 'tea' }] }, before);
    expect(twice).toMatchObject({ ok: false, refusal: { code: 'name-taken', what: 'site' } });
    const income = await world.account('4010');
    const unfit = await edit(channel, { sites: [{ ...tea!, bank: income }] }, before);
    expect(unfit).toMatchObject({ ok: false, refusal: { code: 'account-unfit', decides: 'bank' } });
    expect(await now(channel)).toEqual(before);
    const bank = await world.account('1010');
    expect(await edit(channel, { sites: [{ ...tea!, bank }] }, before)).toMatchObject({ ok: true });
  });
});

describe('a debit bureau that counts as paid when collected', () => {
  test('has a debit wait until it is in a payout, and books it on that day', async () => {
    const settings = await tillSettings(world, {
      name: 'Debits',
      kind: 'debit-bureau',
      clearing: { code: '1230', name: 'Debits clearing' },
      discounts: null,
      sites: [],
      paidWhen: 'collected',
    });
    const { channel } = await world.must(openChannel, { draft: null, settings });
    const row = (payout: string) => `D-1,receipt,2026-11-03T06:00:00Z,EUR,28.00,0.20,27.80,,,,parts,,${payout},\n`;
    await desk(channel, row(''));
    const id = await world.id('receipt', 'D-1');
    expect(await world.refusal(postReceipts, { ids: [id] })).toBe('in-collection');
    await desk(channel, `${row('DP-1')}DP-1,payout,2026-11-09T05:00:00Z,EUR,-27.80,,-27.80,,,,,,,\n`);
    const { entry } = await world.must(postReceipts, { ids: [id] });
    expect([entry!.date, entry!.memo]).toEqual(['2026-11-09', 'Debit D-1, parts']);
    expect(await world.balances()).toMatchObject({ '1230': 2780, '6120': 20 });
  });
});
