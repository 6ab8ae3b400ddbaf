import { movementWord, tenderKind } from '.';

test.each([
  ['Cash', 'cash'],
  ['notes and coins', 'cash'],
  ['CHECK', 'cheque'],
  ['Gift-Card', 'gift-card'],
  ['gift_voucher', 'gift-card'],
  [' gift  card ', 'gift-card'],
  ['card', 'channel'],
  ['debit', 'channel'],
  ['', 'channel'],
] as const)('paid by %j is %s', (method, kind) => {
  expect(tenderKind(method)).toBe(kind);
});

test('a debit bureau collects debits and has them returned; what is given back is a refund everywhere', () => {
  const words = (byDebit: boolean) =>
    (['receipt', 'refund', 'chargeback'] as const).map((kind) => movementWord(kind, byDebit));
  expect(words(false)).toEqual(['Receipt', 'Refund', 'Chargeback']);
  expect(words(true)).toEqual(['Debit', 'Refund', 'Returned debit']);
});
