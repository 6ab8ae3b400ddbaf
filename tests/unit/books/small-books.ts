import { money } from './written-rows';

/** Invoices, receipts with payouts, some equal to others, and the bank's lines of them and of other money, as files have them. */

export const day = (n: number) => `2026-11-${String(n).padStart(2, '0')}`;

export const INVOICES = [10_000, 10_000, 7_500, 3_000, 9_900, 5_000].map(
  (net, n) =>
    `KS-${100 + n},Payer ${n % 4},,2026-10-0${1 + (n % 5)},2026-11-0${1 + (n % 5)},EUR,repair,${money(net)},S23,\n`,
);
export const DESK = [
  ...[4_000, 4_000, 6_150, 8_200].flatMap((net, n) => [
    `R-${n},receipt,${day(2 + n)}T10:00:00Z,EUR,${money(net + 100)},1.00,${money(net)},,,,,,P-${n},\n`,
    `P-${n},payout,${day(3 + n)}T05:00:00Z,EUR,-${money(net)},,-${money(net)},,,,,,,\n`,
  ]),
  ...[1_200, 1_300, 1_400].map(
    (gross, n) => `F-${n},receipt,${day(9)}T1${n}:00:00Z,EUR,${money(gross)},0.20,${money(gross - 20)},,,,,,,\n`,
  ),
];
export const LINES = [
  [day(5), 4_000, 'CD A'],
  [day(6), 4_000, 'CD B'],
  [day(7), 6_150, 'CD P-2'],
  [day(9), 8_200, 'CD C'],
  [day(9), 12_300, 'PAYER 0 KS-100'],
  [day(10), 12_300, 'PAYER 1'],
  [day(10), 9_225, 'KS-102'],
  [day(11), 3_840, 'CD RUN'],
  [day(12), -2_500, 'RENT'],
  [day(12), 777, 'WHO KNOWS'],
] as const;
/** The bank's lines in two statements, each with its balances. */
export const SPLIT = 6;
export const opening = LINES.slice(0, SPLIT).reduce((sum, [, amount]) => sum + amount, 0);
