import fc from 'fast-check';
import { addDays, plainDate } from '@/core/calendar';
import { minor } from '@/core/money';
import { referenceKey, referenceKeysIn, type LineWithText, type PayoutOfChannel } from '@/core/matching';

/** Nothing but weekends are days off. */
export const CALENDAR = { holidays: new Set<never>() };
/** Days a payout may be off what is usual, and at the most. */
export const HABIT = { slack: 1, farthest: 8 };
export const FIRST = plainDate('2026-11-02');
/** The books' own accounts at banks. */
export const OWN = [
  { account: 1, number: 'IE29SKER93115212345678', name: '1010 Current account' },
  { account: 2, number: 'IE64SKER93115200001234', name: '1020 Reserve' },
];
/** A day of three weeks. */
export const date = fc.integer({ min: 0, max: 20 }).map((n) => addDays(FIRST, n));
/** Few different amounts, so that equals are common. */
export const amount = fc.constantFrom(1_000, 1_500, 2_000, 2_500, 3_000, 4_000, 7_500).map(minor);

/** Lines of two accounts, in a few amounts, some naming a payout, a receipt or an account. */
export const lines: fc.Arbitrary<LineWithText[]> = fc
  .array(
    fc.record({
      account: fc.constantFrom(1, 2),
      date,
      amount: fc.oneof(
        amount,
        amount.map((n) => minor(-n)),
      ),
      said: fc.constantFrom(
        '',
        'P-1',
        'P-2 P-3',
        'R-1',
        'R-2',
        'FROM IE29SKER93115212345678',
        'TO IE64SKER93115200001234',
        'CASH',
        'ANNA BERG',
        'USD 20.00',
      ),
    }),
    { maxLength: 9 },
  )
  .map((rows) => rows.map(({ said, ...row }, n) => ({ ...row, id: n + 1, text: said, keys: referenceKeysIn(said) })));

/** Payouts of two channels on their way to two accounts. */
export const payouts: fc.Arbitrary<PayoutOfChannel[]> = fc
  .array(fc.record({ left: date, net: amount, account: fc.constantFrom(1, 2), channel: fc.constantFrom(1, 2) }), {
    maxLength: 7,
  })
  .map((rows) =>
    rows.map((row, n) => ({
      ...row,
      id: n + 1,
      reference: `P-${n + 1}`,
      key: referenceKey(`P-${n + 1}`),
      usualLag: 2,
    })),
  );
