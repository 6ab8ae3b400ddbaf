import { readRateLines } from '@/books/currencies/rate-lines';
import { listRates, Rates, RATE_STANDS_FOR, setRates } from '@/books/currencies/rates';
import { openChannel } from '@/books/channels/open-channel';
import { restAccounts } from '@/books/matching/rest-accounts';
import { candidates } from '@/books/matching/candidates';
import { workingSheet } from '@/books/matching/sheet';
import { confirmMatch } from '@/books/matching/confirm';
import { takeApart } from '@/books/matching/take-apart';
import { receiptsFrom } from '@/books/receipts/import';
import { postReceipts } from '@/books/receipts/post';
import { statementImporter } from '@/books/statements/import';
import { railOf } from '@/books/today/rail';
import { plainDate } from '@/core/calendar';
import { formatRate, parseRate, type Rate } from '@/core/money';
import { tillSettings } from './channel-fixtures';
import { DESK_HEAD, statement, useWorld } from './world';

const world = useWorld();

const rate = (text: string) => parseRate(text) as Rate;
const on = (day: string, text: string, currency = 'GBP') => ({ currency, day: plainDate(day), rate: rate(text) });
const undo = () => world.undoLast();
const kept = async () =>
  (await listRates(world.books.reader)).map((row) => `${row.day} ${row.currency} ${formatRate(row.rate)}`);

describe('rates of the day', () => {
  test('are kept, corrected and taken back', async () => {
    await world.must(setRates, { rates: [on('2026-11-02', '1.1500'), on('2026-11-09', '1.1600')] });
    await world.must(setRates, { rates: [on('2026-11-09', '1.1650'), on('2026-11-09', '0.0061', 'JPY')] });
    expect(await kept()).toEqual(['2026-11-09 GBP 1.1650', '2026-11-09 JPY 0.0061', '2026-11-02 GBP 1.1500']);
    await undo();
    expect(await kept()).toEqual(['2026-11-09 GBP 1.1600', '2026-11-02 GBP 1.1500']);
    await undo();
    expect(await kept()).toHaveLength(3);
  });

  test('of the books’ own currency, or below zero, are refused', async () => {
    expect(await world.refusal(setRates, { rates: [on('2026-11-02', '1.0000', 'EUR')] })).toBe('invalid-input');
    expect(await world.refusal(setRates, { rates: [{ ...on('2026-11-02', '1'), rate: -5 as Rate }] })).toBe(
      'invalid-input',
    );
    expect(await world.refusal(setRates, { rates: [] })).toBe('invalid-input');
  });

  test('stand for their day and some days after, never before', async () => {
    await world.must(setRates, { rates: [on('2026-11-02', '1.1500'), on('2026-11-04', '1.1600')] });
    const rates = await Rates.load(world.books.reader);
    const at = (day: string) => rates.on('GBP', plainDate(day));
    expect(at('2026-11-01')).toBeNull();
    expect([at('2026-11-02'), at('2026-11-03'), at('2026-11-04')]).toEqual([rate('1.15'), rate('1.15'), rate('1.16')]);
    expect(at(`2026-11-${4 + RATE_STANDS_FOR}`)).toEqual(rate('1.16'));
    expect(at(`2026-11-${5 + RATE_STANDS_FOR}`)).toBeNull();
    expect(rates.on('USD', plainDate('2026-11-04'))).toBeNull();
  });

  test('are read as lines are pasted; the first that cannot be read is named', () => {
    expect(readRateLines('2026-11-02 gbp 1.15\n\n 2026-11-03;GBP;1.16 \n')).toEqual({
      rates: [on('2026-11-02', '1.15'), on('2026-11-03', '1.16')],
    });
    for (const line of ['2026-31-11 GBP 1.15', 'GBP 1.15', '2026-11-02 GBP 0', '2026-11-02 POUND 1.1']) {
      expect(readRateLines(`2026-11-02 GBP 1.15\n${line}`)).toEqual({ unread: line });
    }
  });
});

describe('a wallet in pounds', () => {
  let wallet: number;
  beforeEach(async () => {
    const settings = await tillSettings(world, {
      name: 'Card wallet',
      kind: 'card-desk',
      currency: 'GBP',
      clearing: { code: '1220', name: 'Card wallet clearing' },
      fx: { make: { code: '6950', name: 'Currency difference' } },
      sites: [],
      taxCode: null,
    });
    wallet = (await world.must(openChannel, { draft: null, settings })).channel;
    await world.must(setRates, { rates: [on('2026-11-02', '1.1500'), on('2026-11-09', '1.2000')] });
  });
  const bringIn = (...rows: string[]) =>
    world.bringIn(receiptsFrom({ channel: wallet }), DESK_HEAD + rows.map((row) => `${row}\n`).join(''));
  const sale = (id: string, day: string, gross: string, fee: string, net: string, payout = '') =>
    `${id},receipt,${day}T10:00:00Z,GBP,${gross},${fee},${net},,,,parts,,${payout},`;

  test('is opened only with an account for the difference, and its exports have to be in its currency', async () => {
    const settings = await tillSettings(world, {
      name: 'Other',
      currency: 'USD',
      clearing: { code: '1240', name: 'Other clearing' },
      fx: null,
      sites: [],
    });
    expect((await world.run(openChannel, { draft: null, settings })).ok).toBe(false);
    const euro = sale('W-9', '2026-11-05', '10.00', '0.10', '9.90').replace('GBP', 'EUR');
    expect(await bringIn(euro)).toMatchObject({ added: 0, refused: 1, findings: [{ code: 'other-currency' }] });
  });

  test('shows on the rail what is not posted at the rate of the day, and clearing in the books’ own', async () => {
    await bringIn(sale('W-1', '2026-11-05', '100.00', '2.00', '98.00'));
    const rail = () => railOf(world.books.reader, new Date());
    expect((await rail()).collected).toEqual({ amount: 12000, notPosted: 1 });
    await world.must(postReceipts, { filter: {} });
    expect((await rail()).inTransit.amount).toBe(11500 - 230);
    expect((await rail()).collected).toEqual({ amount: 0, notPosted: 0 });
  });

  test('gives money back at the rate of that day; clearing holds what is left in both currencies', async () => {
    await bringIn(
      sale('W-1', '2026-11-05', '100.00', '2.00', '98.00'),
      'W-2,refund,2026-11-10T10:00:00Z,GBP,-50.00,0.00,-50.00,,,,parts,,,W-1',
    );
    await world.must(postReceipts, { filter: {} });
    const { rows } = {
      rows: await world.books.reader.selectFrom('receipt').select(['external_id', 'carried']).orderBy('id').execute(),
    };
    expect(rows).toEqual([
      { external_id: 'W-1', carried: 11270 },
      { external_id: 'W-2', carried: -6000 },
    ]);
    expect((await world.balances())['1220']).toBe(11270 - 6000);
  });

  test('has its payout laid by hand; taken apart, clearing carries it again', async () => {
    await bringIn(
      sale('W-1', '2026-11-05', '100.00', '2.00', '98.00', 'WP-1'),
      'WP-1,payout,2026-11-10T05:00:00Z,GBP,-98.00,,-98.00,,,,,,,',
    );
    await world.must(postReceipts, { filter: {} });
    await world.bringIn(statementImporter, statement(0, ['2026-11-12', 11800, 'WALLET CONVERTED']));
    const line = await world.id('statement_line', 'WALLET CONVERTED');
    const sheet = (await workingSheet(world.books.reader, line))!;
    expect([sheet.certainty, sheet.parts, sheet.line.amount]).toEqual(['none', [], 11800]);
    const found = await candidates(world.books.reader, line, { text: '', amount: null });
    expect(found.payouts).toMatchObject([
      { kind: 'payout', id: await world.id('payout', 'WP-1'), net: 11270, restTo: await world.account('6950') },
    ]);
    expect(found.receipts).toEqual([]);
    const rest = await restAccounts(world.books.reader);
    expect(rest.map(({ code }) => code)).toEqual(expect.arrayContaining(['6950', '6110', '3100']));
    expect(rest.filter(({ code }) => ['1010', '1100', '1200', '2100', '2200'].includes(code))).toEqual([]);

    const before = await world.balances();
    const restTo = await world.account('6950');
    const parts = [{ kind: 'payout' as const, id: await world.id('payout', 'WP-1') }];
    await world.must(confirmMatch, { line, parts, restTo });
    // The bank gave more than was carried: a gain.
    expect(await world.balances()).toMatchObject({ '6950': -530 });
    const confirmed = (await workingSheet(world.books.reader, line))!.confirmed!;
    expect(confirmed).toMatchObject({ rest: 530, restAccount: '6950 Currency difference' });
    await world.must(takeApart, { match: confirmed.match });
    expect(await world.balances()).toEqual(before);
  });
});
