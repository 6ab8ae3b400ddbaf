import type { ChannelSettings } from '@/books/channels/channel-settings';
import { plainDate } from '@/core/calendar';
import { minor } from '@/core/money';
import type { ReceiptProfile } from '@/formats/receipts/profile';
import type { World } from './world';

/** A till with two sites; its cash lies in boxes of its own. */
export async function tillSettings(world: World, more: Partial<ChannelSettings> = {}): Promise<ChannelSettings> {
  const use = async (code: string) => ({ use: await world.account(code) });
  return {
    name: 'Pier till',
    kind: 'till',
    currency: 'EUR',
    bank: await world.account('1010'),
    clearing: { code: '1210', name: 'Pier till clearing' },
    payoutDays: 1,
    feeRate: 120,
    feeFixed: minor(0),
    fees: { make: { code: '6120', name: 'Till fees' } },
    refunds: await use('4900'),
    tips: await use('2300'),
    discounts: { make: { code: '4950', name: 'Discounts' } },
    giftCards: null,
    chargebacks: null,
    fx: null,
    income: await world.account('4040'),
    taxCode: 1,
    sites: [
      { code: 'TEA', name: 'Tea hatch', cash: { make: { code: '1030', name: 'Tea hatch box' } }, bank: null },
      { code: 'SLIP', name: 'Slipway', cash: null, bank: null },
    ],
    mode: 'each',
    historyFrom: plainDate('2026-11-01'),
    postsItself: false,
    paidWhen: 'debit-day',
    payer: null,
    outstanding: [],
    cutOver: 'wait',
    openingAgainst: await world.account('3000'),
    ...more,
  };
}

/** How a till's export in semicolons is read: a receipt a row. */
export const TILL_PROFILE: ReceiptProfile = {
  columns: { id: 'Ref', time: 'Day', gross: 'Paid', discount: 'Off', method: 'By', site: 'Where', note: 'What' },
  delimiter: ';',
  above: 0,
  decimal: ',',
  dateOrder: 'DMY',
  zone: 'Europe/Dublin',
  currency: 'EUR',
  feeSign: 'plus',
  refunds: [],
  payouts: [],
  skipped: [],
  chargebacks: [],
  shape: 'receipts',
  tenders: [],
  tips: [],
  taxIn: 'included',
  encoding: 'auto',
};

/** A till's days in lines: what was sold, and in what it was paid. */
export const TILL_DAYS: ReceiptProfile = {
  ...TILL_PROFILE,
  columns: {
    time: 'Day',
    kind: 'Kind',
    item: 'What',
    gross: 'Amount',
    tax: 'Tax',
    units: 'Units',
    discount: 'Off',
    site: 'Site',
  },
  delimiter: ',',
  decimal: '.',
  dateOrder: 'YMD',
  shape: 'till-days',
  tenders: ['paid by'],
  tips: ['tips'],
  taxIn: 'added',
};
export const TILL_DAYS_HEAD = 'Day,Kind,What,Amount,Tax,Units,Off,Site\n';
/** Worked figure D. */
export const TILL_FIGURE_D =
  TILL_DAYS_HEAD +
  [
    '2026-11-14,sale,tea,260.00,35.10,118,,TEA',
    '2026-11-14,tips,,12.00,,,,TEA',
    '2026-11-14,paid by,cash,118.40,,,,TEA',
    '2026-11-14,paid by,card,178.70,,,,TEA',
    '2026-11-14,paid by,gift card,10.00,,,,TEA',
  ].join('\n');

/** Adds an item as the books' own chart would have it. */
export async function addItem(
  world: World,
  item: { readonly code: string; readonly name: string; readonly income: string; readonly taxCode: number },
): Promise<void> {
  const income = await world.account(item.income);
  await world.books.write(
    ({ db }) =>
      db
        .insertInto('item')
        .values({ code: item.code, name: item.name, income_account_id: income, tax_code_id: item.taxCode })
        .execute(),
    () => true,
  );
}
