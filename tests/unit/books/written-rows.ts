import type { AccountId } from '@/core/ledger';
import { minor } from '@/core/money';

/** Cents as files write them. */
export const money = (cents: number) => (cents / 100).toFixed(2);

/** A receipt as the card desk exports it, in cents; a day alone is that day at ten, a fee of null is not told. */
export function receiptRow(id: string, at: string, gross: number, fee: number | null = 0, payout = ''): string {
  const time = at.includes('T') ? at : `${at}T10:00:00Z`;
  return `${id},receipt,${time},EUR,${money(gross)},${fee === null ? '' : money(fee)},,,,,,,${payout},\n`;
}

/** A payout as the card desk exports it, at the end of its day. */
export const payoutRow = (id: string, day: string, net: number) =>
  `${id},payout,${day}T23:50:00Z,EUR,-${money(net)},,-${money(net)},,,,,,,\n`;

/** Some of a statement line, in cents, booked to an account by hand. */
export const bookedTo = (account: AccountId, cents: number, dimensions: Readonly<Record<number, number>> = {}) =>
  ({
    kind: 'account',
    id: account,
    amount: minor(cents),
    dimensions,
    taxCode: null,
    rule: null,
    ruleId: null,
    payer: null,
  }) as const;
