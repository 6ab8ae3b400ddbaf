import { editChannel, channelAsEdit } from '@/books/channels/edit-channel';
import { openChannel } from '@/books/channels/open-channel';
import { setRates } from '@/books/currencies/rates';
import { invoicesImporter } from '@/books/invoices/import';
import { postInvoices } from '@/books/invoices/post';
import { confirmMatch } from '@/books/matching/confirm';
import { clearingProofs } from '@/books/proof/clearing';
import { dayCells, dayDocument, lastDay } from '@/books/receipts/day-document';
import { receiptsFrom } from '@/books/receipts/import';
import { listReceipts } from '@/books/receipts/list';
import { postReceipts } from '@/books/receipts/post';
import { statementImporter } from '@/books/statements/import';
import { plainDate } from '@/core/calendar';
import { parseRate } from '@/core/money';
import { addItem, TILL_DAYS, TILL_DAYS_HEAD, TILL_FIGURE_D, tillSettings } from './channel-fixtures';
import { DESK_HEAD, FIGURE_A, statement, useWorld } from './world';

const world = useWorld();

const movement = async (name: string) => {
  const before = await world.balances();
  await world.must(postReceipts, { ids: [await world.id('receipt', name)] });
  const after = await world.balances();
  const codes = [...new Set([...Object.keys(before), ...Object.keys(after)])].sort();
  return Object.fromEntries(
    codes.map((code) => [code, (after[code] ?? 0) - (before[code] ?? 0)]).filter(([, moved]) => moved !== 0),
  ) as Record<string, number>;
};

describe('a till’s day (worked figure D), from the export to the bank', () => {
  let channel: number;
  let importer: ReturnType<typeof receiptsFrom>;
  beforeEach(async () => {
    await addItem(world, { code: 'tea', name: 'Tea', income: '4040', taxCode: 2 });
    const giftCards = { make: { code: '2400', name: 'Gift cards not used yet' } };
    const settings = await tillSettings(world, { giftCards });
    channel = (await world.must(openChannel, { draft: null, settings })).channel;
    importer = receiptsFrom({ channel, profile: { fingerprint: 'days', settings: TILL_DAYS } });
  });

  test('lands as the figure says; what was lodged leaves the box, its gap stays in it', async () => {
    expect(await world.bringIn(importer, TILL_FIGURE_D)).toMatchObject({ added: 1, refused: 0 });
    expect(await movement('day TEA 2026-11-14')).toEqual({
      '1030': 11840,
      '1210': 17870,
      '2100': -3510,
      '2300': -1200,
      '2400': 1000,
      '4040': -26000,
    });
    const [, proof] = await clearingProofs(world.books.reader);
    expect(proof).toMatchObject({ balance: 17870, proves: true, other: 0 });
    await world.bringIn(statementImporter, statement(0, ['2026-11-16', 11500, 'CASH LODGED']));
    const box = await world.account('1030');
    const line = await world.id('statement_line', 'CASH LODGED');
    await world.must(confirmMatch, { line, parts: [], restTo: box });
    // What is short of the day's cash is left in the box, to be counted.
    expect(await world.balances()).toMatchObject({ '1030': 340, '1210': 17870 });
  });

  test('stands as a document of the day, beside the till’s own report', async () => {
    await world.bringIn(importer, TILL_FIGURE_D);
    const day = (await dayDocument(world.books.reader, channel, plainDate('2026-11-14')))!;
    expect(day.sites).toHaveLength(1);
    expect(day.sites[0]).toMatchObject({
      site: 'Tea hatch',
      items: [{ name: 'Tea', units: 118_000, gross: 29510, discount: 0, tax: 3510, paid: 29510 }],
      total: { units: 118_000, paid: 29510, tax: 3510 },
      tips: 1200,
      tenders: [
        { name: 'cash', amount: 11840 },
        { name: 'card', amount: 17870 },
        { name: 'gift card', amount: 1000 },
      ],
      tendered: 30710,
      differs: 0,
      receipts: 1,
      notPosted: 1,
    });
    expect(dayCells(day)).toContainEqual(['Tea hatch', 'Tea', '118', '295.10', '0.00', '35.10', '295.10']);
    expect(dayCells(day)).toContainEqual(['Tea hatch', 'Paid by cash', '', '', '', '', '118.40']);
    expect(await lastDay(world.books.reader, channel)).toBe('2026-11-14');
    expect(await dayDocument(world.books.reader, 99, plainDate('2026-11-14'))).toBeNull();
  });

  test('days and sites are receipts of their own, and lead to each other', async () => {
    const rows = [
      '2026-11-12,sale,tea,20.00,2.70,8,,TEA',
      '2026-11-12,paid by,cash,22.70,,,,TEA',
      '2026-11-12,sale,tea,10.00,1.35,4,1.00,SLIP',
      '2026-11-12,paid by,card,10.35,,,,SLIP',
      '2026-11-14,sale,tea,5.00,0.68,2,,SLIP',
      '2026-11-14,paid by,card,5.68,,,,SLIP',
    ];
    expect(await world.bringIn(importer, TILL_DAYS_HEAD + rows.join('\n'))).toMatchObject({ added: 3, refused: 0 });
    const day = (await dayDocument(world.books.reader, channel, plainDate('2026-11-12')))!;
    expect(
      day.sites.map(({ site, total, differs }) => [site, total.gross, total.discount, total.paid, differs]),
    ).toEqual([
      ['Slipway', 1135, 100, 1035, 0],
      ['Tea hatch', 2270, 0, 2270, 0],
    ]);
    expect([day.before, day.after]).toEqual([null, '2026-11-14']);
    await world.must(postReceipts, { filter: {} });
    const posted = (await dayDocument(world.books.reader, channel, plainDate('2026-11-12')))!;
    expect(posted.sites.map(({ notPosted }) => notPosted)).toEqual([0, 0]);
  });

  test('tenders that are not what was sold refuse the day with both figures; the others come in', async () => {
    const rows = ['2026-11-13,sale,tea,20.00,2.70,8,,TEA', '2026-11-13,paid by,cash,20.00,,,,TEA'];
    const report = await world.bringIn(importer, `${TILL_FIGURE_D}\n${rows.join('\n')}`);
    expect(report).toMatchObject({ added: 1, refused: 1 });
    expect(report.findings[0]).toMatchObject({ code: 'tenders-differ', expected: '22.70', found: '20.00' });
  });
});

describe('another currency (worked figure F), from the export to the bank', () => {
  let wallet: number;
  beforeEach(async () => {
    const settings = await tillSettings(world, {
      name: 'Card wallet',
      kind: 'card-desk',
      currency: 'GBP',
      clearing: { code: '1220', name: 'Card wallet clearing' },
      fx: { make: { code: '6950', name: 'Currency difference' } },
      feeRate: 170,
      sites: [],
      taxCode: null,
    });
    wallet = (await world.must(openChannel, { draft: null, settings })).channel;
    const row = 'W-1,receipt,2026-11-05T10:00:00Z,GBP,200.00,3.40,196.60,Ann Weir,,,,Box,WP-1,\n';
    const payout = 'WP-1,payout,2026-11-09T05:00:00Z,GBP,-196.60,,-196.60,,,,,,,\n';
    expect(await world.bringIn(receiptsFrom({ channel: wallet }), DESK_HEAD + row + payout)).toMatchObject({
      added: 2,
    });
  });
  const rate = (text: string) => {
    const parsed = parseRate(text);
    if (parsed === null) throw new Error(text);
    return parsed;
  };

  test('waits for the rate of its day, then is carried at it; the bank’s other rate is a difference', async () => {
    const id = await world.id('receipt', 'W-1');
    expect(await world.refusal(postReceipts, { ids: [id] })).toBe('rate-missing');
    await world.must(setRates, { rates: [{ currency: 'GBP', day: plainDate('2026-11-04'), rate: rate('1.1700') }] });
    expect(await movement('W-1')).toEqual({ '1220': 23002, '4040': -23400, '6120': 398 });
    const [, proof] = await clearingProofs(world.books.reader);
    expect(proof).toMatchObject({ currency: 'GBP', balance: 19660, proves: true });
    await world.bringIn(statementImporter, statement(0, ['2026-11-12', 22904, 'WALLET WP-1']));
    await world.must(confirmMatch, {
      line: await world.id('statement_line', 'WALLET WP-1'),
      parts: [{ kind: 'payout', id: await world.id('payout', 'WP-1') }],
      restTo: await world.account('6950'),
    });
    expect(await world.balances()).toMatchObject({ '6950': 98 });
    expect((await world.balances())['1220']).toBeUndefined();
    expect((await clearingProofs(world.books.reader))[1]).toMatchObject({ balance: 0, proves: true });
  });

  test('is never added to the books’ own currency in a list', async () => {
    await world.bringIn(
      receiptsFrom({ channel: 1 }),
      `${DESK_HEAD}R-1,receipt,2026-11-05T10:00:00Z,EUR,10.00,0.00,10.00,,,,,,,\n`,
    );
    const { totals } = await listReceipts(world.books.reader, {}, null);
    expect(totals).toEqual({ count: 2, gross: 1000, fee: 0, others: [{ currency: 'GBP', gross: 20000, fee: 340 }] });
  });
});

describe('chargebacks', () => {
  const row = (id: string, gross: string, fee: string, net: string) =>
    `${id},chargeback,2026-11-10T10:00:00Z,EUR,${gross},${fee},${net},Ann Weir,,,,,,CD-1\n`;
  const desk = (rows: string) => world.bringIn(receiptsFrom({ channel: 1 }), DESK_HEAD + rows);
  const paid = async () =>
    (await world.books.reader.selectFrom('invoice').select('paid').executeTakeFirstOrThrow()).paid;

  test('reopen the invoice that was paid; won, they settle it again (recipe 8)', async () => {
    await world.bringIn(invoicesImporter, FIGURE_A.invoice);
    await world.bringIn(receiptsFrom({ channel: 1 }), FIGURE_A.desk);
    await world.must(postInvoices, { filter: {} });
    await world.must(postReceipts, { filter: {} });
    expect(await paid()).toBe(14760);
    await desk(row('CB-1', '-147.60', '15.00', '-162.60'));
    expect(await movement('CB-1')).toEqual({ '1100': 14760, '1200': -16260, '6100': 1500 });
    expect(await paid()).toBe(0);
    await desk(row('CB-1-W', '147.60', '0.00', '147.60'));
    expect(await movement('CB-1-W')).toEqual({ '1100': -14760, '1200': 14760 });
    expect(await paid()).toBe(14760);
  });

  test('of a paid sale are borne by their own account, and need one', async () => {
    await desk('CD-1,receipt,2026-11-05T09:12:00Z,EUR,40.00,1.01,38.99,Ann Weir,,,parts,,,\n');
    await world.must(postReceipts, { filter: {} });
    await desk(row('CB-1', '-40.00', '15.00', '-55.00'));
    const { fees, ...settings } = (await channelAsEdit(world.books.reader, 1))!;
    await world.must(editChannel, { channel: 1, settings: { ...settings, fees, chargebacks: null } });
    const id = await world.id('receipt', 'CB-1');
    expect(await world.refusal(postReceipts, { ids: [id] })).toBe('channel-account-missing');
    await world.undoLast();
    expect(await movement('CB-1')).toEqual({ '1200': -5500, '6100': 1500, '6800': 4000 });
  });
});
