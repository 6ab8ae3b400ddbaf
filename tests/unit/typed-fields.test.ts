import fc from 'fast-check';
import { besideFund, fundDimension, readKeyed, type KeyFields } from '@/app/books/[books]/collected/key/key-fields';
import type { KeyLists } from '@/app/books/[books]/collected/key/key-lists';
import {
  EMPTY_LINE,
  emptyBill,
  fieldsOf,
  readBill,
  readPercent,
  type BillFields,
} from '@/app/books/[books]/owed/bill/bill-fields';
import { newPlanFields, planFieldsOf, readPlan } from '@/app/books/[books]/owed/plans/[plan]/plan-fields';
import { fieldsFor, readRow, valuesOf } from '@/app/books/[books]/set-up/lists/row-fields';
import { newPage, pageFieldsOf, readPage } from '@/app/books/[books]/set-up/public/[page]/page-fields';
import type { Plan } from '@/books/billing/plans';
import type { PublicPage } from '@/books/public/pages';
import { plainDate } from '@/core/calendar';
import { minor, type BasisPoints } from '@/core/money';

/** What people type into forms: read as it was meant, shown again as it was typed, or faulted at its own field. */

const TODAY = plainDate('2026-11-16');
const LISTS: KeyLists = {
  currency: 'EUR',
  items: [
    { id: 3, code: 'splice', name: 'Splicing', description: '', price: minor(1_850), taxCode: 1, dimensions: [] },
  ],
  taxCodes: [{ id: 1, code: 'S23', name: 'Standard', rate: 2_300 as BasisPoints }],
  terms: [{ id: 5, name: '14 days', due_days: 14, discount_rate: 0 as BasisPoints, discount_days: 0 }],
  dimensions: [
    {
      id: 7,
      name: 'Fund',
      values: [
        { id: 70, name: 'General' },
        { id: 71, name: 'Foghorn' },
      ],
    },
    { id: 8, name: 'Site', values: [{ id: 80, name: 'Pier' }] },
  ],
  places: [{ channel: 2, site: null, method: 'cash', label: 'Till, cash' }] as unknown as KeyLists['places'],
  funds: ['General', 'Foghorn'],
  takesTransfers: false,
  channels: [{ id: 2, name: 'Till' }],
};

describe('a bill', () => {
  const line = {
    ...EMPTY_LINE,
    item: '3',
    quantity: '1.5',
    price: '120.00',
    discount: '12.5',
    taxCode: '1',
    dimensions: { '8': '80', '7': '' },
  };
  const typed = (more: Partial<BillFields> = {}): BillFields => ({
    ...emptyBill(TODAY),
    payer: { id: 9, name: 'A. Tern' },
    lines: [line],
    ...more,
  });

  test('is read into minor units, thousandths and basis points, and shown again as it was typed', () => {
    const { bill, faults } = readBill(typed({ terms: '5', due: '2026-12-01' }), LISTS);
    expect(faults).toEqual({});
    expect(bill).toMatchObject({ payer: 9, issued: TODAY, due: '2026-12-01', terms: 5 });
    expect(bill.lines).toEqual([
      { item: 3, description: '', quantity: 1_500, price: 12_000, discount: 1_250, taxCode: 1, dimensions: [[8, 80]] },
    ]);
    const again = fieldsOf(bill, { id: 9, name: 'A. Tern' }, 'EUR');
    expect(again.lines[0]).toEqual({ ...line, dimensions: { '8': '80' } });
    expect(readBill(again, LISTS).bill).toEqual(bill);
  });

  test('lines that are blank are left out, and none at all is a fault', () => {
    expect(readBill(typed({ lines: [line, EMPTY_LINE, line] }), LISTS).bill.lines).toHaveLength(2);
    expect(readBill(typed({ lines: [EMPTY_LINE] }), LISTS).faults).toEqual({
      'lines.0.item': 'Write at least one line.',
    });
  });

  test.each<[string, Partial<BillFields>, string]>([
    ['a price of letters', { lines: [{ ...line, price: 'a lot' }] }, 'lines.0.price'],
    ['a price of three decimals', { lines: [{ ...line, price: '1.005' }] }, 'lines.0.price'],
    ['a quantity of four decimals', { lines: [{ ...line, quantity: '1.0005' }] }, 'lines.0.quantity'],
    ['no quantity', { lines: [{ ...line, quantity: '' }] }, 'lines.0.quantity'],
    ['a discount of more than all', { lines: [{ ...line, discount: '100.5' }] }, 'lines.0.discount'],
    ['no item', { lines: [line, { ...line, item: '' }] }, 'lines.1.item'],
    ['no tax code', { lines: [{ ...line, taxCode: '' }] }, 'lines.0.taxCode'],
    ['a day that is none', { issued: '2026-02-30' }, 'issued'],
    ['a due day that is none', { due: 'soon' }, 'due'],
    ['nobody who owes it', { payer: null }, 'payer'],
  ])('%s is faulted where it stands', (_what, change, field) => {
    expect(Object.keys(readBill(typed(change), LISTS).faults)).toEqual([field]);
  });

  test('percentages are read to a hundredth of a percent, with a point or a comma', () => {
    expect(['', '0', '12,5', '13.75', '100'].map(readPercent)).toEqual([0, 0, 1_250, 1_375, 10_000]);
    expect(['-1', '100.01', '1.005', 'x', 'Infinity'].map(readPercent)).toEqual([null, null, null, null, null]);
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 10_000 }), (points) =>
        expect(readPercent(String(points / 100))).toBe(points),
      ),
    );
  });
});

describe('a plan', () => {
  const { bill } = readBill(
    {
      ...emptyBill(TODAY),
      payer: { id: 9, name: 'A. Tern' },
      lines: [{ ...EMPTY_LINE, item: '3', price: '48.00', taxCode: '1' }],
    },
    LISTS,
  );
  const typed = (more: object = {}) => ({ ...newPlanFields(TODAY), name: 'Monthly box', ...more });
  const read = (more: object = {}) => readPlan(null, typed(more), bill, 'EUR');

  test('is read with its price changes, and shown again as it was typed', () => {
    const fields = typed({ ends: '2027-06-30', prices: [{ line: '1', from: '2027-01-01', price: '52.00' }] });
    const found = readPlan(4, fields, bill, 'EUR') as { plan: object };
    expect(found.plan).toMatchObject({
      plan: 4,
      name: 'Monthly box',
      prices: [{ line: 0, from: '2027-01-01', price: 5_200 }],
      recurrence: { every: 'month', starts: TODAY, ends: '2027-06-30', pausedFrom: null },
    });
    expect(planFieldsOf(found.plan as unknown as Plan, 'EUR')).toEqual(fields);
  });

  test('begun on the last of a month it stays there; begun on another day it cannot', () => {
    expect(newPlanFields(plainDate('2027-02-28')).lastDay).toBe(true);
    expect(newPlanFields(plainDate('2028-02-28')).lastDay).toBe(false);
    expect(read({ lastDay: true })).toMatchObject({ plan: { recurrence: { lastDay: false } } });
  });

  test.each([
    ['no name', { name: ' ' }, 'Give the plan a name.'],
    [
      'a price of a line that is not there',
      { prices: [{ line: '2', from: '2027-01-01', price: '1.00' }] },
      'A price change needs the number of a line, a day and an amount.',
    ],
    [
      'a price from no day',
      { prices: [{ line: '1', from: '', price: '1.00' }] },
      'A price change needs the number of a line, a day and an amount.',
    ],
    [
      'a price that is none',
      { prices: [{ line: '1', from: '2027-01-01', price: 'more' }] },
      'A price change needs the number of a line, a day and an amount.',
    ],
  ])('%s is faulted', (_what, change, fault) => {
    expect(read(change)).toEqual({ fault });
  });
});

describe('money that is keyed', () => {
  const typed = (more: Partial<KeyFields> = {}): KeyFields => ({
    place: '0',
    date: TODAY,
    payer: null,
    reference: 'K-1',
    fund: ' foghorn ',
    note: '',
    dimensions: { '8': '80' },
    lines: [{ item: '', description: 'In memory', amount: '25.00' }],
    ...more,
  });

  test('a gift is for its fund, which is a dimension where there is one of that name', () => {
    expect(readKeyed(typed(), LISTS, true)).toEqual({
      keyed: {
        place: { channel: 2, site: null, method: 'cash' },
        date: TODAY,
        payer: null,
        reference: 'K-1',
        lines: [{ item: null, description: 'In memory', amount: 2_500 }],
        dimensions: [
          [7, 71],
          [8, 80],
        ],
        fund: ' foghorn ',
        note: '',
        paysBack: null,
      },
    });
    expect(fundDimension(LISTS, 'Nothing')).toEqual([]);
    expect(besideFund(LISTS).map(({ name }) => name)).toEqual(['Site']);
  });

  test('a sale has no fund; lines after the first may be blank', () => {
    const lines = [
      { item: '3', description: '', amount: '18.50' },
      { item: '', description: '', amount: '' },
    ];
    expect(readKeyed(typed({ lines, fund: '' }), LISTS, false)).toMatchObject({
      keyed: { fund: '', dimensions: [[8, 80]], lines: [{ item: 3, amount: 1_850 }] },
    });
  });

  test.each<[string, Partial<KeyFields>, string]>([
    ['nowhere', { place: '7' }, 'place'],
    ['on no day', { date: '16.11.' }, 'date'],
    ['of nothing', { lines: [{ item: '', description: '', amount: '0.00' }] }, 'lines.0.amount'],
    ['of less than nothing', { lines: [{ item: '', description: '', amount: '-5' }] }, 'lines.0.amount'],
    ['for no fund', { fund: ' ' }, 'fund'],
  ])('%s is faulted at its field', (_what, change, field) => {
    expect(readKeyed(typed(change), LISTS, true)).toMatchObject({ field });
  });
});

describe('a public page', () => {
  const giving = { ...newPage('giving', 2, ['General', 'Foghorn'], TODAY), title: 'Light the lamp' };
  const event = {
    ...newPage('registration', 2, [], TODAY),
    title: 'Open day',
    tickets: [{ name: 'Grown-up', item: '3', taxCode: '1', price: '12.00' }],
  };
  const shown = (page: object): PublicPage =>
    ({
      id: 1,
      token: 't',
      open: true,
      title: (page as { title: string }).title,
      channel: 2,
      offer: { kind: (page as { kind: string }).kind, ...(page as { content: object }).content },
    }) as PublicPage;

  test.each([
    ['giving', giving],
    ['an event', event],
  ])('of %s is read and shown again as it was typed', (_what, fields) => {
    const read = readPage(1, fields, 'EUR') as { page: object };
    const again = pageFieldsOf(shown(read.page), 'EUR');
    expect(readPage(1, again, 'EUR')).toEqual(read);
  });

  test.each([
    ['no title', { ...giving, title: '' }, 'Give the page a title.'],
    ['no fund', { ...giving, funds: ' \n ' }, 'Name at least one fund.'],
    ['amounts that are none', { ...giving, amounts: '10, lots' }, 'Write amounts to choose from like 10.00, 25.00.'],
    ['no day', { ...event, day: '' }, 'Write the day of the event and how many places it has.'],
    ['no places', { ...event, places: 'some' }, 'Write the day of the event and how many places it has.'],
    [
      'a ticket without an item',
      { ...event, tickets: [{ ...event.tickets[0]!, item: '' }] },
      'A ticket needs a name, an item, a tax code and a net price.',
    ],
  ])('%s is faulted', (_what, fields, fault) => {
    expect(readPage(null, fields, 'EUR')).toEqual({ fault });
  });
});

describe('rows of lists', () => {
  const choices = {
    income: [{ value: '40', label: 'Repairs' }],
    taxAccounts: [{ value: '21', label: 'Sales tax' }],
    taxCodes: LISTS.taxCodes,
    dimensions: LISTS.dimensions,
  };

  test('an item with its price and dimensions', () => {
    const fields = fieldsFor('items', choices);
    const values = {
      code: 'splice',
      name: 'Splicing',
      description: '',
      income_account_id: '40',
      tax_code_id: '1',
      price: '18.50',
      unit: 'HUR',
      'dimension:7': '71',
      'dimension:8': '',
    };
    expect(readRow(fields, values, 'EUR')).toEqual({
      row: {
        code: 'splice',
        name: 'Splicing',
        description: '',
        income_account_id: 40,
        tax_code_id: 1,
        price: 1_850,
        unit: 'HUR',
        dimensions: { '7': 71, '8': null },
      },
    });
    expect(readRow(fields, { ...values, price: '' }, 'EUR')).toMatchObject({ row: { price: null } });
    expect(readRow(fields, { ...values, price: 'dear' }, 'EUR')).toEqual({
      field: 'price',
      fault: 'Net price of one: write an amount, like 48.00.',
    });
  });

  test('tax codes and terms are shown as they are read', () => {
    const terms = { name: '14 days', due_days: 14, discount_rate: 250, discount_days: 7 };
    const fields = fieldsFor('terms', choices);
    expect(readRow(fields, valuesOf(fields, terms, 'EUR'), 'EUR')).toEqual({ row: terms });
    expect(readRow(fields, { name: 'x', due_days: '1.5' }, 'EUR')).toMatchObject({ field: 'due_days' });
    const code = { code: 'L9', name: 'Low', rate: 950, account_id: 21, category: 'S' };
    const taxed = fieldsFor('tax-codes', choices);
    expect(readRow(taxed, valuesOf(taxed, code, 'EUR'), 'EUR')).toEqual({ row: code });
    expect(readRow(taxed, { ...valuesOf(taxed, code, 'EUR'), rate: 'half' }, 'EUR')).toMatchObject({ field: 'rate' });
  });
});
