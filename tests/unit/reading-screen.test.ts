import {
  AMOUNTS,
  FIELD_WORDS,
  ROW_KINDS,
  rowKind,
  withRowKind,
} from '@/app/books/[books]/collected/bring-in/reading-words';
import { outcomeWords, beganWords } from '@/books/fetching/outcome-words';
import { RECEIPT_FIELDS } from '@/formats/receipts/profile';
import { TILL_PROFILE } from './books/channel-fixtures';

test('every field has a word of its own, and the amounts are among the fields', () => {
  const words = RECEIPT_FIELDS.map((field) => FIELD_WORDS[field]);
  expect(new Set(words).size).toBe(RECEIPT_FIELDS.length);
  for (const field of AMOUNTS) expect(RECEIPT_FIELDS).toContain(field);
});

describe('what rows of a kind are', () => {
  test('is in one list of the profile at most, and none means a receipt', () => {
    let profile = TILL_PROFILE;
    for (const kind of ['refund', 'chargeback', 'payout', 'skip', 'receipt'] as const) {
      profile = withRowKind(profile, 'back', kind);
      expect(rowKind(profile, 'back')).toBe(kind);
      const lists = [profile.refunds, profile.chargebacks, profile.payouts, profile.skipped];
      expect(lists.filter((list) => list.includes('back'))).toHaveLength(kind === 'receipt' ? 0 : 1);
    }
    expect(profile).toEqual(TILL_PROFILE);
  });

  test('of a till’s day is what was sold, how it was paid or tips; refunds are none of its kinds', () => {
    const days = { ...TILL_PROFILE, shape: 'till-days' as const, refunds: ['back'] };
    expect(rowKind(days, 'back')).toBe('sale');
    const tips = withRowKind(withRowKind(days, 'paid', 'tender'), 'extra', 'tip');
    expect([rowKind(tips, 'paid'), rowKind(tips, 'extra'), rowKind(tips, 'tea')]).toEqual(['tender', 'tip', 'sale']);
    expect(Object.keys(ROW_KINDS['till-days'])).toContain(rowKind(tips, 'paid'));
  });
});

describe('a run in words', () => {
  const run = { outcome: 'done', added: 0, changed: 0, refused: 0, posted: 0, why: '' } as const;
  test.each([
    [{}, 'Nothing new'],
    [{ added: 3, changed: 2, posted: 4, refused: 1 }, '3 new, 2 changed, 4 posted, 1 refused'],
    [{ outcome: 'failed', why: 'it did not answer in time' }, 'Failed: it did not answer in time'],
    [{ outcome: 'cancelled' }, 'Cancelled; nothing was taken in'],
    [{ outcome: 'cancelled', added: 5 }, 'Cancelled after 5 new'],
  ] as const)('%j: %s', (change, words) => {
    expect(outcomeWords({ ...run, ...change })).toBe(words);
  });
  test.each([
    ['hand', 'by M. Dunne'],
    ['schedule', 'as scheduled'],
    ['event', 'the channel said so'],
  ] as const)('begun by %s: %s', (beganBy, words) => {
    expect(beganWords({ beganBy, actor: 'M. Dunne' })).toBe(words);
  });
});
