import fc from 'fast-check';
import { receiptEntry } from '../../channels';
import { minor, sum } from '../../money';
import type { AccountId } from '../account';
import { becauseWords } from '../because';
import { imbalance, type Entry } from '../entry';
import { addUp } from '../summary';
import {
  account,
  BANK,
  CLEARING,
  RECEIVABLE,
  TAX,
  TIPS,
  REPAIRS,
  FEES,
  HELD,
  ACCOUNTS,
  S23,
  sold,
  figures,
  entry,
} from './fixtures';
import { chargeback, depositEntry, paidSale, type DepositPart, type SaleLine } from '.';

describe('worked figure D: a till’s day', () => {
  const CASH = account(1030);
  const GIFT_CARDS = account(2400);
  const TEA = account(4050);
  const R13 = { account: TAX, code: 'R13', rate: 1350 };
  const tender = (on: AccountId, amount: number, name: string) => ({
    account: on,
    amount: minor(amount),
    because: { why: 'taken-in', tender: name, site: 'Tea hatch' } as const,
  });

  test('tenders on one side; income, the till’s own tax figure and tips on the other', () => {
    const tea = sold(29510, R13, { income: TEA });
    const day = paidSale({
      tenders: [tender(CASH, 11840, 'cash'), tender(CLEARING, 17870, 'card'), tender(GIFT_CARDS, 1000, 'gift card')],
      lines: [{ ...tea, tax: { ...tea.tax!, given: minor(3510) } }],
      tip: minor(1200),
      tipsPayable: TIPS,
      discounts: null,
    });
    expect(figures(day)).toEqual([
      [CASH, 11840],
      [CLEARING, 17870],
      [GIFT_CARDS, 1000],
      [TEA, -26000],
      [TAX, -3510],
      [TIPS, -1200],
    ]);
  });

  test('a discount leaves income gross and takes its share of the tax along (recipe 4)', () => {
    const entry = paidSale({
      tenders: [tender(CLEARING, 11070, 'card')],
      lines: [sold(11070, S23, { discount: minor(1230) })],
      tip: minor(0),
      tipsPayable: TIPS,
      discounts: account(4800),
    });
    expect(figures(entry)).toEqual([
      [CLEARING, 11070],
      [account(4800), 1000],
      [REPAIRS, -10000],
      [TAX, -2070],
    ]);
  });

  test('a discount without an account to book it on is never booked elsewhere', () => {
    const lines = [sold(11070, S23, { discount: minor(1230) })];
    expect(() =>
      paidSale({
        tenders: [tender(CLEARING, 11070, 'card')],
        lines,
        tip: minor(0),
        tipsPayable: TIPS,
        discounts: null,
      }),
    ).toThrow();
  });
});

describe('worked figure G: a gift batch from outside', () => {
  const GIFTS = account(4060);
  const fund = (value: number) => [[1, value]] as const;
  const gift = (gross: number, value: number): SaleLine =>
    sold(gross, S23, { income: GIFTS, tax: null, dimensions: fund(value) });

  test('gifts are income under their fund, all of them gross', () => {
    const batch = paidSale({
      tenders: [
        { account: CLEARING, amount: minor(70000), because: { why: 'held-by-channel', channel: 'Giving page' } },
      ],
      lines: [gift(48000, 11), gift(22000, 12)],
      tip: minor(0),
      tipsPayable: TIPS,
      discounts: null,
    });
    expect(batch.lines.map((line) => [line.account, line.amount, line.dimensions ?? []])).toEqual([
      [CLEARING, 70000, []],
      [GIFTS, -48000, fund(11)],
      [GIFTS, -22000, fund(12)],
    ]);
  });

  test('the fee known at the bank is shared over the funds by gross, the largest remainder first', () => {
    const part = (reference: string, gross: number, value: number): DepositPart => ({
      kind: 'receipt',
      reference,
      clearing: CLEARING,
      fees: FEES,
      held: minor(gross),
      scheduleFee: minor(0),
      dimensions: fund(value),
    });
    const deposit = {
      bank: BANK,
      lineId: 1,
      amount: minor(68190),
      parts: [part('G-1', 48000, 11), part('G-2', 20000, 12), part('G-3', 2000, 12)],
      restTo: FEES,
    };
    expect(
      entry(depositEntry(deposit)).lines.map((line) => [line.account, line.amount, line.dimensions ?? []]),
    ).toEqual([
      [BANK, 68190, []],
      [FEES, 1241, fund(11)],
      [FEES, 569, fund(12)],
      [CLEARING, -48000, []],
      [CLEARING, -20000, []],
      [CLEARING, -2000, []],
    ]);
  });
});

describe('the daily summary', () => {
  const entries = fc.array(
    fc.tuple(
      fc.integer({ min: 1, max: 99_999 }),
      fc.integer({ min: 0, max: 10_000 }),
      fc.option(fc.integer({ min: -50, max: 50 })),
    ),
    { minLength: 1, maxLength: 20 },
  );

  test('is to the cent what its receipts say one by one, on every account, and balances', () => {
    fc.assert(
      fc.property(entries, (list) => {
        const single = list.map(([gross, rate, fee]) =>
          receiptEntry(
            { gross: minor(gross), tip: minor(gross >> 4), fee: fee === null ? null : minor(fee) },
            { kind: 'sale', lines: [sold(gross - (gross >> 4), { account: TAX, code: `T${rate}`, rate })] },
            ACCOUNTS,
          ),
        );
        const summary = addUp(single);
        expect(imbalance(summary.lines)).toBe(0);
        for (const id of new Set(single.flatMap(({ lines }) => lines.map((line) => line.account)))) {
          const on = (lines: Entry['lines']) =>
            sum(lines.filter((line) => line.account === id).map((line) => line.amount));
          expect(on(summary.lines)).toBe(on(single.flatMap(({ lines }) => lines)));
        }
      }),
    );
  });

  test('keeps gross and fee, tax codes and dimensions apart, and says how many are in each line', () => {
    const one = receiptEntry(
      { gross: minor(12300), tip: minor(0), fee: minor(259) },
      { kind: 'sale', lines: [sold(12300)] },
      ACCOUNTS,
    );
    const summary = addUp([one, one, one]);
    expect(summary.lines.map((line) => [line.account, line.amount, line.because])).toEqual([
      [CLEARING, 36900, { why: 'summary', count: 3, of: HELD.because, others: 0 }],
      [FEES, 777, { why: 'summary', count: 3, of: ACCOUNTS.fees.because, others: 0 }],
      [REPAIRS, -30000, { why: 'summary', count: 3, of: { why: 'mapped', layer: 'item', name: 'parts' }, others: 0 }],
      [TAX, -6900, { why: 'summary', count: 3, of: { why: 'tax-code', code: 'S23', rate: 2300 }, others: 0 }],
      [CLEARING, -777, { why: 'summary', count: 3, of: ACCOUNTS.fees.because, others: 0 }],
    ]);
  });
});

describe('worked figure C: a debit returned', () => {
  test('its invoice is owed again, clearing gives it up, and the returning costs a fee', () => {
    const event = { amount: minor(2800), of: 'D-3', receivable: RECEIVABLE, chargebacks: null, invoice: minor(2800) };
    const from = { account: CLEARING, because: { why: 'held-by-channel', channel: 'Debit bureau' } as const };
    const entry = chargeback({ ...event, from, byDebit: true });
    expect(figures(entry)).toEqual([
      [RECEIVABLE, 2800],
      [CLEARING, -2800],
    ]);
    expect(becauseWords(entry.lines[0]!.because)).toBe('debit D-3 returned');
    const won = chargeback({ ...event, from, amount: minor(-2800), byDebit: false });
    expect(figures(won)).toEqual([
      [RECEIVABLE, -2800],
      [CLEARING, 2800],
    ]);
    expect(() => chargeback({ ...event, from, invoice: minor(1000), byDebit: true })).toThrow('no account');
  });
});
