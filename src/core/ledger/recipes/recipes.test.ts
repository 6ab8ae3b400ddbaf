import fc from 'fast-check';
import { feeOf, receiptEntry } from '../../channels';
import { add, minor, sum, type Minor } from '../../money';
import { imbalance } from '../entry';
import {
  account,
  BANK,
  RECEIVABLE,
  CLEARING,
  TAX,
  CREDIT,
  TIPS,
  REPAIRS,
  REFUNDS,
  FEES,
  ROUNDING,
  HELD,
  ACCOUNTS,
  S23,
  sold,
  SCHEDULE,
  figures,
  entry,
  receipt,
} from './fixtures';
import { depositEntry, invoiceIssued, leftToExplain, refund, reversal, reversalDate, type DepositPart } from '.';

describe('worked figure A: one receipt, known fee', () => {
  const issued = invoiceIssued({
    document: 'KS-2041',
    receivable: RECEIVABLE,
    lines: [{ item: 'repair', income: REPAIRS, net: minor(12000), tax: { ...S23, amount: minor(2760) } }],
  });
  const fee = feeOf(minor(14760), SCHEDULE);
  const paid = receiptEntry(
    { gross: minor(14760), tip: minor(0), fee },
    { kind: 'invoice', document: 'KS-2041', open: minor(14760) },
    ACCOUNTS,
  );
  const payout = entry(
    depositEntry({
      bank: BANK,
      lineId: 1,
      amount: minor(14455),
      parts: [{ kind: 'payout', reference: 'P-1', clearing: CLEARING, net: minor(14455) }],
      restTo: null,
    }),
  );

  test('the fee is 2.80 + 0.25', () => expect(fee).toBe(305));
  test('issue', () => {
    expect(figures(issued)).toEqual([
      [RECEIVABLE, 14760],
      [REPAIRS, -12000],
      [TAX, -2760],
    ]);
  });
  test('receipt and fee, gross on lines of its own', () => {
    expect(figures(paid)).toEqual([
      [CLEARING, 14760],
      [RECEIVABLE, -14760],
      [FEES, 305],
      [CLEARING, -305],
    ]);
  });
  test('payout', () => {
    expect(figures(payout)).toEqual([
      [BANK, 14455],
      [CLEARING, -14455],
    ]);
  });
  test('clearing after it all is 0.00', () => {
    const lines = [issued, paid, payout].flatMap((e) => e.lines).filter((line) => line.account === CLEARING);
    expect(imbalance(lines)).toBe(0);
  });
});

describe('worked figure B: four receipts in one deposit, fee not given', () => {
  const parts = [receipt('R1', 31000), receipt('R2', 8500), receipt('R3', 14760), receipt('R4', 6240)];
  const deposit = { bank: BANK, lineId: 1, amount: minor(59252), parts };

  test('fees by schedule: 6.14, 1.87, 3.05, 1.44', () => {
    expect(parts.map((part) => part.kind === 'receipt' && part.scheduleFee)).toEqual([614, 187, 305, 144]);
  });
  test('left to explain is 0.02', () => expect(leftToExplain(deposit)).toBe(2));
  test('without an account for it there is no entry', () => {
    expect(depositEntry({ ...deposit, restTo: null })).toEqual({ left: 2 });
  });
  test('booked as fee, the fee is 12.48', () => {
    expect(figures(entry(depositEntry({ ...deposit, restTo: FEES })))).toEqual([
      [BANK, 59252],
      [FEES, 1248],
      [CLEARING, -31000],
      [CLEARING, -8500],
      [CLEARING, -14760],
      [CLEARING, -6240],
    ]);
  });
  test('booked elsewhere, the schedule stays the fee', () => {
    expect(figures(entry(depositEntry({ ...deposit, restTo: ROUNDING }))).slice(0, 3)).toEqual([
      [BANK, 59252],
      [FEES, 1250],
      [ROUNDING, -2],
    ]);
  });
});

describe('paid sale and refund', () => {
  test('tax is inside the price, a tip carries none', () => {
    const sale = receiptEntry(
      { gross: minor(6450), tip: minor(300), fee: null },
      { kind: 'sale', lines: [sold(6150)] },
      ACCOUNTS,
    );
    expect(figures(sale)).toEqual([
      [CLEARING, 6450],
      [REPAIRS, -5000],
      [TAX, -1150],
      [TIPS, -300],
    ]);
  });

  test('a refund with its fee given back takes out what the sale and its fee put in', () => {
    const fee = feeOf(minor(12300), SCHEDULE);
    const sale = receiptEntry(
      { gross: minor(12300), tip: minor(0), fee },
      { kind: 'sale', lines: [sold(12300)] },
      ACCOUNTS,
    );
    const back = receiptEntry(
      { gross: minor(-12300), tip: minor(0), fee: minor(-fee) },
      { kind: 'refund', of: 'CD-1', taxed: [{ ...S23, weight: minor(1) }], dimensions: [], fromCredit: minor(0) },
      ACCOUNTS,
    );
    const all = [...sale.lines, ...back.lines];
    for (const id of [CLEARING, TAX, FEES]) {
      expect(imbalance(all.filter((line) => line.account === id))).toBe(0);
    }
    expect(imbalance(all.filter((line) => line.account === REFUNDS))).toBe(10000);
  });

  test('a part of a mixed invoice gives back each code’s share', () => {
    const entry = refund({
      ...ACCOUNTS,
      from: HELD,
      fromCredit: minor(0),
      amount: minor(5000),
      tip: minor(0),
      of: 'KS-1',
      taxed: [
        { account: TAX, code: 'S23', rate: 2300, weight: minor(12300) },
        { account: TAX, code: 'R13', rate: 1350, weight: minor(11350) },
      ],
    });
    // 50.00 split 26.00 and 24.00 by gross; 4.86 and 2.85 of it are tax.
    expect(figures(entry)).toEqual([
      [REFUNDS, 4229],
      [TAX, 486],
      [TAX, 285],
      [CLEARING, -5000],
    ]);
  });
});

describe('what is over an invoice', () => {
  const on = (open: Minor | null) =>
    figures(
      receiptEntry(
        { gross: minor(10000), tip: minor(0), fee: null },
        { kind: 'invoice', document: 'KS-1', open },
        ACCOUNTS,
      ),
    );
  test('is kept for the payer', () => {
    expect(on(minor(8000))).toEqual([
      [CLEARING, 10000],
      [RECEIVABLE, -8000],
      [CREDIT, -2000],
    ]);
  });
  test('all of it where the invoice is paid or unknown', () => {
    const kept = [
      [CLEARING, 10000],
      [CREDIT, -10000],
    ];
    expect(on(minor(0))).toEqual(kept);
    expect(on(null)).toEqual(kept);
  });
});

test('a transfer settles invoices straight at the bank', () => {
  const invoice = (reference: string, applied: number): DepositPart => ({
    kind: 'invoice',
    reference,
    receivable: RECEIVABLE,
    applied: minor(applied),
  });
  const deposit = { bank: BANK, lineId: 1, amount: minor(30750), parts: [invoice('A', 24600), invoice('B', 6150)] };
  expect(figures(entry(depositEntry({ ...deposit, restTo: null })))).toEqual([
    [BANK, 30750],
    [RECEIVABLE, -24600],
    [RECEIVABLE, -6150],
  ]);
});

test('money that left is booked to the account chosen', () => {
  const rent = entry(depositEntry({ bank: BANK, lineId: 1, amount: minor(-85000), parts: [], restTo: account(6010) }));
  expect(figures(rent)).toEqual([
    [BANK, -85000],
    [account(6010), 85000],
  ]);
});

describe('properties', () => {
  const cents = fc.integer({ min: 1, max: 5_000_000 }).map(minor);
  const rate = fc.integer({ min: 0, max: 10_000 });

  test('every receipt balances, whatever it pays', () => {
    fc.assert(
      fc.property(
        cents,
        fc.option(cents),
        fc.option(fc.integer({ min: -9_999, max: 9_999 }).map(minor)),
        rate,
        (gross, open, fee, tax) => {
          const taxPart = { account: TAX, code: 'X', rate: tax };
          for (const e of [
            receiptEntry({ gross, tip: minor(0), fee }, { kind: 'invoice', document: 'D', open }, ACCOUNTS),
            receiptEntry(
              { gross, tip: minor(gross >> 3), fee },
              { kind: 'sale', lines: [sold(gross - (gross >> 3), taxPart)] },
              ACCOUNTS,
            ),
            receiptEntry(
              { gross: minor(-gross), tip: minor(0), fee },
              {
                kind: 'refund',
                of: '',
                dimensions: [],
                fromCredit: minor(0),
                taxed: [
                  { ...taxPart, weight: minor(3) },
                  { ...S23, weight: minor(4) },
                ],
              },
              ACCOUNTS,
            ),
          ]) {
            expect(imbalance(e.lines)).toBe(0);
          }
        },
      ),
    );
  });

  test('a deposit with its rest booked balances and empties clearing of what was picked', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -5_000_000, max: 5_000_000 }).map(minor),
        fc.array(cents, { maxLength: 8 }),
        (amount, grosses) => {
          fc.pre(amount !== 0);
          const parts = grosses.map((gross, i) => receipt(`R${i}`, gross));
          const e = entry(depositEntry({ bank: BANK, lineId: 1, amount, parts, restTo: FEES }));
          expect(imbalance(e.lines)).toBe(0);
          const clearing = e.lines.filter((line) => line.account === CLEARING).map((line) => line.amount);
          expect(sum(clearing)).toBe(minor(-sum(grosses)));
        },
      ),
    );
  });

  test('post then reverse leaves every balance as it was', () => {
    fc.assert(
      fc.property(cents, cents, (gross, open) => {
        const e = receiptEntry(
          { gross, tip: minor(0), fee: minor(30) },
          { kind: 'invoice', document: 'D', open },
          ACCOUNTS,
        );
        const both = [...e.lines, ...reversal(e, 7).lines];
        for (const id of new Set(both.map((line) => line.account))) {
          expect(imbalance(both.filter((line) => line.account === id))).toBe(0);
        }
      }),
    );
  });
});

test('a reversal is dated the same day, or the first open one', () => {
  const day = '2026-09-15' as Parameters<typeof reversalDate>[0];
  expect(reversalDate(day, null)).toBe('2026-09-15');
  expect(reversalDate(day, '2026-09-14' as typeof day)).toBe('2026-09-15');
  expect(reversalDate(day, '2026-09-30' as typeof day)).toBe('2026-10-01');
});

test('amounts add up as integers only', () => {
  expect(add(minor(1), minor(2))).toBe(3);
});
