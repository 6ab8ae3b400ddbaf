import fc from 'fast-check';
import { minor } from '../money';
import { invoiceState, invoiceTotals, lineTax, taxIsPlausible } from '.';

const state = (posted: boolean, paid: number, today = '2026-11-16') =>
  invoiceState({ posted, gross: minor(14760), paid: minor(paid), credited: minor(0), due: '2026-11-15' }, today);

test.each([
  [false, 0, '2026-11-16', 'new'],
  [true, 0, '2026-11-15', 'posted'],
  [true, 0, '2026-11-16', 'overdue'],
  [true, 5000, '2026-11-15', 'partly-paid'],
  [true, 5000, '2026-11-16', 'overdue'],
  [true, 14760, '2026-11-16', 'paid'],
  [true, 20000, '2026-11-16', 'paid'],
] as const)('posted %s, %d paid, on %s: %s', (posted, paid, today, expected) => {
  expect(state(posted, paid, today)).toBe(expected);
});

test('the tax of a line is rounded half away from zero, and a cent either way is the source’s to decide', () => {
  expect([12000, 50, -50].map((net) => lineTax(minor(net), 2300))).toEqual([2760, 12, -12]);
  expect([2759, 2760, 2761, 2762].map((tax) => taxIsPlausible(minor(12000), 2300, minor(tax)))).toEqual([
    true,
    true,
    true,
    false,
  ]);
});

test('an invoice is the sum of its lines', () => {
  const line = fc.record({ net: fc.integer({ min: -1e6, max: 1e6 }), tax: fc.integer({ min: -1e6, max: 1e6 }) });
  fc.assert(
    fc.property(fc.array(line, { maxLength: 20 }), (lines) => {
      const totals = invoiceTotals(lines.map(({ net, tax }) => ({ net: minor(net), tax: minor(tax) })));
      expect(totals.gross).toBe(totals.net + totals.tax);
      expect(totals.net).toBe(lines.reduce((sum, { net }) => sum + net, 0));
    }),
  );
});
