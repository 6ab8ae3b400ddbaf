import fc from 'fast-check';
import { imbalance, type AccountId } from '..';
import { add, minor, subtract, sum } from '../../money';
import { account, BANK, CREDIT, entry, figures, RECEIVABLE, REPAIRS, ROUNDING, S23, TAX } from './fixtures';
import {
  creditApplied,
  creditNoteIssued,
  creditShared,
  depositEntry,
  invoiceCorrected,
  invoiceIssued,
  receiptOnInvoice,
  type InvoiceIssued,
} from '.';

const DISCOUNTS = account(4800);
const LESSONS = account(4020);
const SHARE = { net: minor(400), tax: minor(92), taxAccount: TAX, taxCode: 'S23', rate: 2300 };

const issued = (...lines: (readonly [income: AccountId, net: number, tax: number])[]): InvoiceIssued => ({
  document: 'KS-1',
  receivable: RECEIVABLE,
  lines: lines.map(([income, net, tax]) => ({
    item: 'repair',
    income,
    net: minor(net),
    tax: { ...S23, amount: minor(tax) },
  })),
});

test('figure E: two invoices by transfer, one in time', () => {
  const invoice = (reference: string, applied: number, shares: (typeof SHARE)[]) => ({
    kind: 'invoice' as const,
    reference,
    receivable: RECEIVABLE,
    applied: minor(applied),
    early: shares.length ? { discounts: DISCOUNTS, shares } : null,
  });
  const parts = [invoice('KS-1', 24108, [SHARE]), invoice('KS-2', 6150, [])];
  const made = entry(depositEntry({ bank: BANK, lineId: 1, amount: minor(30258), parts, restTo: null }));
  expect(figures(made)).toEqual([
    [BANK, 30258],
    [DISCOUNTS, 400],
    [TAX, 92],
    [RECEIVABLE, -24600],
    [RECEIVABLE, -6150],
  ]);
});

test('figure E by card: the receipt in time settles all of its invoice', () => {
  const held = { account: account(1200), because: { why: 'held-by-channel', channel: 'Card desk' } } as const;
  const event = { into: held, gross: minor(24108), document: 'KS-1', receivable: RECEIVABLE, payerCredit: CREDIT };
  const made = receiptOnInvoice({ ...event, open: minor(24600), early: { discounts: DISCOUNTS, shares: [SHARE] } });
  expect(figures(made)).toEqual([
    [1200, 24108],
    [DISCOUNTS, 400],
    [TAX, 92],
    [RECEIVABLE, -24600],
  ]);
});

test('a correction books the difference, account by account; a changed text books nothing', () => {
  const before = issued([REPAIRS, 12000, 2760], [LESSONS, 5000, 1150]);
  const after = issued([REPAIRS, 10000, 2300], [LESSONS, 5000, 1150]);
  expect(figures(invoiceCorrected(before, after)!)).toEqual([
    [RECEIVABLE, -2460],
    [REPAIRS, 2000],
    [TAX, 460],
  ]);
  expect(
    invoiceCorrected(before, { ...before, lines: before.lines.map((line) => ({ ...line, item: 'other' })) }),
  ).toBeNull();
});

test('issued and corrected any number of times, the ledger stands as if issued so at once', () => {
  const line = fc.tuple(fc.constantFrom(REPAIRS, LESSONS), fc.integer({ min: 1, max: 9e6 }), fc.nat(9e5));
  const versions = fc.array(fc.array(line, { minLength: 1, maxLength: 5 }), { minLength: 2, maxLength: 5 });
  fc.assert(
    fc.property(versions, (list) => {
      const events = list.map((lines) => issued(...lines));
      const all = invoiceIssued(events[0]!).lines.slice();
      for (let at = 1; at < events.length; at++)
        all.push(...(invoiceCorrected(events[at - 1]!, events[at]!)?.lines ?? []));
      const last = invoiceIssued(events.at(-1)!).lines;
      for (const id of [RECEIVABLE, REPAIRS, LESSONS, TAX]) {
        const on = (lines: typeof last) => imbalance(lines.filter((one) => one.account === id));
        expect(on(all)).toBe(on(last));
      }
    }),
  );
});

test.each([
  [14760, 14760, 0],
  [5000, 5000, 9760],
  [0, 0, 14760],
])('with %d open a credit note of 147.60 settles %d and leaves %d with the payer', (open, settles, kept) => {
  const event = { ...issued([REPAIRS, 12000, 2760]), invoice: 'KS-1', open: minor(open), payerCredit: CREDIT };
  expect(creditShared(event)).toEqual({ settles, kept });
  const lines = figures(creditNoteIssued(event));
  expect(lines.slice(0, 2)).toEqual([
    [REPAIRS, 12000],
    [TAX, 2760],
  ]);
  expect(sum(lines.slice(2).map(([, amount]) => minor(amount!)))).toBe(-14760);
});

test('credit put to invoices: money, discount and a remainder each on a line of their own', () => {
  const made = creditApplied({
    payerCredit: CREDIT,
    receivable: RECEIVABLE,
    discounts: DISCOUNTS,
    rounding: ROUNDING,
    settled: [
      { document: 'KS-1', amount: minor(24108), discount: [SHARE], writtenOff: minor(0) },
      { document: 'KS-2', amount: minor(6148), discount: [], writtenOff: minor(2) },
    ],
  });
  expect(figures(made)).toEqual([
    [CREDIT, 30256],
    [DISCOUNTS, 400],
    [TAX, 92],
    [ROUNDING, 2],
    [RECEIVABLE, -24600],
    [RECEIVABLE, -6150],
  ]);
  expect(subtract(add(minor(24600), minor(6150)), minor(30750))).toBe(0);
});
