import { refusalWords, type Refusal, type RefusalCode } from '@/books/command';
import { becauseWords, type Because } from '@/core/ledger';
import { reasonWords, type Reason } from '@/core/matching';
import { plainDate } from '@/core/calendar';
import { minor } from '@/core/money';
import { FINDING_CODES, type Finding } from '@/formats/finding';
import { findingWords } from '@/formats/finding-words';

const money = minor(59252);
const EUR = 'EUR';

/** One of each refusal: a code without an example here does not compile. */
const REFUSALS: { readonly [C in RefusalCode]: Extract<Refusal, { code: C }> } = {
  'invalid-input': { code: 'invalid-input', field: 'date', expected: 'a date' },
  'in-collection': { code: 'in-collection', receipt: 'D-1', channel: 'Bureau' },
  'rate-missing': { code: 'rate-missing', currency: 'GBP', day: '2026-11-03', receipt: 'W-9' },
  'not-found': { code: 'not-found', what: 'payout', id: '7' },
  'period-closed': { code: 'period-closed', date: '2026-09-02', closedThrough: '2026-09-30' },
  'already-posted': { code: 'already-posted', what: 'receipt', name: 'CD-1' },
  'not-posted': { code: 'not-posted', what: 'receipt', name: 'CD-1' },
  'invoice-not-posted': { code: 'invoice-not-posted', invoice: 'KS-1', receipt: 'CD-1' },
  'invoice-has-receipts': { code: 'invoice-has-receipts', invoice: 'KS-1', paid: money, currency: EUR },
  'left-to-explain': { code: 'left-to-explain', left: money, currency: EUR },
  'nothing-laid': { code: 'nothing-laid' },
  'line-taken': { code: 'line-taken', date: '2026-11-12', text: 'CD', by: 'A' },
  'part-taken': { code: 'part-taken', part: 'Payout P-1', by: 'A' },
  'part-not-posted': { code: 'part-not-posted', part: 'Receipt CD-1' },
  'part-in-payout': { code: 'part-in-payout', part: 'Receipt CD-1', payout: 'P-1' },
  'part-too-large': { code: 'part-too-large', part: 'Invoice KS-1', open: money, asked: minor(60000), currency: EUR },
  'rest-account': { code: 'rest-account', account: '1200 Clearing' },
  'not-proven': { code: 'not-proven', count: 2, certainty: 'proven' },
  'posted-already': { code: 'posted-already', what: 'receipt', name: 'CD-1' },
  'in-summary': { code: 'in-summary', receipt: 'T-1', date: '2026-11-02' },
  'name-taken': { code: 'name-taken', what: 'dimension', name: 'Fund' },
  'email-taken': { code: 'email-taken', email: 'a@mail.example', payer: 'A. Tern' },
  'dimension-asked': { code: 'dimension-asked', account: '4100 Gifts', dimension: 'Fund' },
  'role-taken': { code: 'role-taken', role: 'sales_tax', account: '2200 Sales tax' },
  'account-differs': { code: 'account-differs', account: '4010 Repairs', is: 'income' },
  merged: { code: 'merged', what: 'item', name: 'HULL', into: 'HULL-CLEAN' },
  'in-use': { code: 'in-use', what: 'dimension', name: 'Fund' },
  'account-unfit': { code: 'account-unfit', account: '1200 Clearing', decides: 'deposit' },
  'nothing-decides': { code: 'nothing-decides', what: 'income account', receipt: 'CD-1' },
  'dimension-missing': { code: 'dimension-missing', dimension: 'fund', account: '4060 Gifts', receipt: 'G-1' },
  'channel-account-missing': { code: 'channel-account-missing', channel: 'Till', account: 'discounts', receipt: 'T-1' },
  'match-undone': { code: 'match-undone', match: 3 },
  'close-backwards': { code: 'close-backwards', date: '2026-09-30', closedThrough: '2026-10-31' },
  'close-ahead': { code: 'close-ahead', date: '2026-11-30', today: '2026-11-16' },
  'part-aside': { code: 'part-aside', part: 'Line of 2 Nov', aside: 'rent' },
  'part-other-currency': { code: 'part-other-currency', part: 'Line of 2 Nov', is: 'USD', currency: 'EUR' },
  'import-rested-on': { code: 'import-rested-on', of: 'receipts', file: 'a.csv', on: ['1 of its receipts was posted'] },
  'import-undone': { code: 'import-undone', file: 'a.csv' },
  'nothing-to-undo': { code: 'nothing-to-undo' },
  'books-exist': { code: 'books-exist', name: 'Kittiwake' },
  'books-busy': { code: 'books-busy' },
  cancelled: { code: 'cancelled' },
  'line-needs-dimension': { code: 'line-needs-dimension', line: 2, dimension: 'Fund', account: '4060 Gifts' },
  'draft-issued': { code: 'draft-issued', invoice: 'K2026-0001' },
  'total-not-positive': { code: 'total-not-positive', gross: minor(-100), currency: EUR },
  'invoice-changed': { code: 'invoice-changed', invoice: 'K2026-0001' },
  'issued-here': { code: 'issued-here', invoice: 'K2026-0001' },
  'paid-more': { code: 'paid-more', invoice: 'K2026-0001', paid: money, currency: EUR },
  'invoice-credited': { code: 'invoice-credited', invoice: 'K2026-0001' },
  'nothing-to-credit': { code: 'nothing-to-credit', invoice: 'K2026-0001' },
  'credit-too-large': { code: 'credit-too-large', invoice: 'K2026-0001', line: 1, left: money, currency: EUR },
  'credit-used': { code: 'credit-used', name: 'KC2026-0001' },
  'not-enough-credit': { code: 'not-enough-credit', name: 'Receipt CD-1', left: minor(0), asked: money, currency: EUR },
  'settles-too-much': { code: 'settles-too-much', invoice: 'K2026-0001', open: minor(0), asked: money, currency: EUR },
  'write-off-limit': { code: 'write-off-limit', asked: money, limit: minor(100), currency: EUR },
  'no-discount': { code: 'no-discount', invoice: 'K2026-0001' },
  'role-missing': { code: 'role-missing', role: 'discounts' },
  'attachment-unlike': { code: 'attachment-unlike', name: 'Report.pdf', found: 'plain text' },
  archived: { code: 'archived', what: 'payer', name: 'A. Tern' },
  'places-gone': { code: 'places-gone', event: 'Open day', left: 0 },
  'page-closed': { code: 'page-closed', title: 'Lens fund' },
  'nothing-asked': { code: 'nothing-asked', invoice: 'K2026-0001' },
  'no-pay-door': { code: 'no-pay-door', channel: 'Card desk' },
};

/** A sentence for a person: begins upright, ends, and has no hole where a value should be. */
function expectSentence(text: string): void {
  expect(text).toMatch(/^[\p{Lu}\d−“].*[.]$/u);
  expect(text).not.toMatch(/undefined|null|NaN|\[object|“”/);
}

test.each(Object.values(REFUSALS))('refusal $code says what and what to do', (refusal) => {
  const { what, next } = refusalWords(refusal);
  expectSentence(what);
  expectSentence(next);
});

test('a refusal carries its figures', () => {
  expect(refusalWords(REFUSALS['left-to-explain']).what).toBe('592.52 is left to explain.');
  expect(refusalWords(REFUSALS['period-closed']).what).toContain('closed through 30 Sep 2026');
  expect(refusalWords(REFUSALS['part-too-large']).what).toContain('592.52 open, less than the 600.00 asked');
});

test.each(FINDING_CODES)('finding %s says where, what and what to do', (code) => {
  const finding: Finding = {
    scope: 'record',
    code,
    line: 12,
    subject: 'KS-1',
    field: 'Net',
    expected: 'x',
    found: 'y',
  };
  const { what, next } = findingWords(finding);
  expect(what).toMatch(/^Line 12, KS-1: /);
  expectSentence(what);
  expectSentence(next);
  const bare = findingWords({ scope: 'file', code, line: null, field: 'Net', expected: 'x', found: 'y' });
  expectSentence(bare.what);
});

test('every because reads as a phrase', () => {
  const all: readonly Because[] = [
    { why: 'opening' },
    { why: 'owed-on-invoice', document: 'KS-1' },
    { why: 'income-of-item', item: 'repair' },
    { why: 'income-of-channel', channel: 'Card desk' },
    { why: 'tax-code', code: 'S23', rate: 2300 },
    { why: 'held-by-channel', channel: 'Card desk' },
    { why: 'settles-invoice', document: 'KS-1' },
    { why: 'over-invoice', document: 'KS-1' },
    { why: 'unknown-document', document: 'KS-1' },
    { why: 'tip' },
    { why: 'fee-in-export', channel: 'Card desk' },
    { why: 'fee-given-back', channel: 'Card desk' },
    { why: 'refund', of: 'KS-1' },
    { why: 'refund', of: '' },
    { why: 'refund-tax', code: 'R13', rate: 1350 },
    { why: 'refund-tip' },
    { why: 'reached-bank', line: 4 },
    { why: 'payout-left', payout: 'P-1' },
    { why: 'receipt-left', receipt: 'CD-1' },
    { why: 'fee-at-bank', schedule: 1250, rest: 2 },
    { why: 'fee-by-schedule' },
    { why: 'rest-chosen' },
    { why: 'booked-on-sheet' },
    { why: 'between-lines', line: 4 },
    { why: 'statement-rule', rule: 'Rent' },
    { why: 'reverses', journal: 9 },
  ];
  for (const because of all) {
    const words = becauseWords(because);
    expect(words).not.toMatch(/undefined|\.$/);
    expect(words.length).toBeGreaterThan(2);
  }
  expect(becauseWords({ why: 'tax-code', code: 'R13', rate: 1350 })).toBe('tax code R13, 13.5 %');
});

test('every reason of a proposal reads as a phrase with its figures', () => {
  const day = plainDate('2026-11-09');
  const all: readonly [Reason, string][] = [
    [{ kind: 'reference-in-text', reference: 'P-1' }, 'payout id P-1 stands in the bank’s text'],
    [{ kind: 'equal-to-the-cent' }, 'equal to the cent'],
    [{ kind: 'arrived', lag: 1, usual: 2 }, '1 working day after it left, 2 is usual'],
    [{ kind: 'outside-usual-lag', lag: 5, usual: 2 }, '5 working days after it left, 2 is usual'],
    [
      { kind: 'only-one', from: day, to: day },
      'the only payout and the only deposit of this amount from 9 Nov to 9 Nov',
    ],
    [{ kind: 'several-payouts', count: 2 }, '2 payouts of this amount fit'],
    [{ kind: 'several-lines', count: 3 }, '3 deposits of this amount compete'],
    [{ kind: 'reference-but-amount', reference: 'P-1', net: money }, 'payout P-1 is named, but its net is 592.52'],
    [{ kind: 'only-way', payouts: 3 }, 'the only way in which 3 payouts of this amount arrive at their usual time'],
    [{ kind: 'payouts-together', count: 2 }, '2 payouts, one after the other, come to it'],
    [{ kind: 'numbers-in-text', numbers: ['KS-1', 'KS-2'] }, 'the bank’s text names KS-1, KS-2'],
    [{ kind: 'name-in-text', name: 'A. Tern' }, 'A. Tern stands in the bank’s text'],
    [{ kind: 'amount-of-one', number: 'KS-1' }, 'KS-1 has this amount open'],
    [{ kind: 'all-open', count: 2 }, 'all 2 invoices that are open'],
    [{ kind: 'oldest-first', count: 1 }, 'the oldest invoice'],
    [{ kind: 'taken-early', amount: money }, '592.52 taken off for paying early'],
    [{ kind: 'in-part', open: money }, 'part of 592.52 that is open'],
    [{ kind: 'over', amount: money }, '592.52 more than is open'],
    [
      { kind: 'owes-otherwise', name: 'A. Tern', count: 2, open: money },
      'A. Tern owes 2 invoices, 592.52, which do not come to this amount',
    ],
    [{ kind: 'several-fit', count: 2, searched: 5 }, '2 ways come to this amount'],
    [{ kind: 'no-other-of', searched: 5 }, 'no other of the 5 open invoices come to it'],
    [{ kind: 'also-claimed', number: 'KS-1' }, 'KS-1 is claimed by another deposit too'],
    [{ kind: 'payments-of-sum', count: 3, found: 2 }, 'a sum of 3 payments, 2 of them explained'],
    [
      { kind: 'run-of-receipts', channel: 'Card desk', count: 14, from: day, to: day },
      'exactly 14 receipts of Card desk, from 9 Nov to 9 Nov',
    ],
    [{ kind: 'joins', before: true, after: true }, 'begins where one deposit ends and ends where the next begins'],
    [{ kind: 'joins', before: true, after: false }, 'begins where the deposit before ends'],
    [{ kind: 'joins', before: false, after: true }, 'ends where the next deposit begins'],
    [{ kind: 'by-rule', rule: 'Rent' }, 'statement rule “Rent”'],
    [{ kind: 'rule-collides', rule: 'Rent', others: ['All'] }, 'rule “Rent” comes first; “All” would say otherwise'],
    [
      { kind: 'double-count', rule: 'Gifts' },
      'rule “Gifts” would book it as income, but receipts that are in the books explain it: booked so it would count twice',
    ],
    [{ kind: 'between-payouts' }, 'all that lies between two known payouts'],
    [{ kind: 'held-back', count: 1, amount: money }, 'without 1 receipt of 592.52 held back'],
    [{ kind: 'came-late', count: 1, amount: money }, 'with 1 receipt of 592.52 from before'],
    [{ kind: 'by-chance', oneIn: 40 }, 'any other way is 40 times less likely'],
    [{ kind: 'by-chance', oneIn: 4000 }, 'any other way is a thousand times less likely'],
    [
      { kind: 'rule-waits', rule: 'Cards' },
      'rule “Cards” would book it as income; with the receipts of its channel it would count twice',
    ],
    [{ kind: 'between-own', from: 'Giro', to: 'Savings', days: 0 }, 'left Giro and came to Savings on the same day'],
    [{ kind: 'between-own', from: 'Giro', to: 'Savings', days: -1 }, 'left Giro and came to Savings, 1 day before'],
    [{ kind: 'account-in-text', number: 'IE29' }, 'account IE29 stands in the bank’s text'],
    [
      { kind: 'payout-in-parts', reference: 'P-1', net: money, both: true },
      'with another deposit it comes to payout P-1, 592.52',
    ],
    [{ kind: 'lines-fit', count: 1 }, 'another line fits it, but nothing names the two'],
    [{ kind: 'lines-fit', count: 3 }, '3 pairs of lines fit'],
    [{ kind: 'cash-on-hand', name: 'Cash box', balance: money, day }, 'Cash box came to 592.52 at the end of 9 Nov'],
    [
      { kind: 'cash-takings', name: 'Cash box', amount: money, from: day, to: day },
      '592.52 came into Cash box on 9 Nov',
    ],
    [
      { kind: 'cash-takings', name: 'Cash box', amount: money, from: day, to: plainDate('2026-11-11') },
      '592.52 came into Cash box from 9 Nov to 11 Nov',
    ],
    [{ kind: 'cash-gap', amount: minor(-340) }, '3.40 of it is missing'],
    [{ kind: 'cash-gap', amount: minor(20) }, '0.20 more was banked'],
    [{ kind: 'wording' }, 'the bank’s text is that of such deposits'],
    [
      { kind: 'whole-days', channel: 'Terminal', from: day, to: day, count: 1 },
      'the only receipt of Terminal of 9 Nov',
    ],
    [
      { kind: 'fee-unstated', amount: minor(340), rate: 170, usual: null },
      'the fee would be 3.40, 1.7 %; what is usual is not known yet',
    ],
    [
      { kind: 'fee-unstated', amount: minor(340), rate: 170, usual: 168 },
      'the fee would be 3.40, 1.7 %; 1.68 % is usual',
    ],
    [{ kind: 'foreign-in-text', currency: EUR, amount: money }, 'EUR 592.52 stands in the bank’s text'],
    [
      {
        kind: 'converted',
        currency: 'GBP' as typeof EUR,
        foreign: minor(10_000),
        amount: minor(11_500),
        carried: minor(11_600),
      },
      'converted at 1.1500; 1.00 loss against the rates of its days',
    ],
    [
      {
        kind: 'converted',
        currency: 'JPY' as typeof EUR,
        foreign: minor(10_000),
        amount: minor(6_100),
        carried: minor(6_100),
      },
      'converted at 0.0061; neither gain nor loss',
    ],
    [{ kind: 'near', count: 1 }, 'one way comes near, and nothing else speaks for it'],
    [{ kind: 'near', count: 2 }, '2 ways come near'],
    [
      { kind: 'not-known-yet', channel: 'Card desk', upTo: null },
      'it is of Card desk, of which nothing is in the books yet',
    ],
    [{ kind: 'claimed-twice', what: 'payout' }, 'a payout of what fits is claimed by another line too'],
    [{ kind: 'receipt-in-text', reference: 'TR-1' }, 'TR-1 stands in the bank’s text'],
    [
      { kind: 'nearly-in-text', said: 'KS2083', reference: 'KS-2038' },
      'KS2083 stands in the bank’s text, one letter off KS-2038',
    ],
    [{ kind: 'days-after', lag: 0 }, 'on the same day'],
    [{ kind: 'days-after', lag: -1 }, '1 working day before it was received'],
    [
      { kind: 'some-of-pool', channel: 'Counter', count: 2, searched: 4, only: true },
      '2 receipts of Counter, and no other of the 4 it holds come to it',
    ],
    [
      { kind: 'some-of-pool', channel: 'Counter', count: 2, searched: 12, only: false },
      '2 receipts of Counter, of 12 it holds',
    ],
  ];
  for (const [reason, words] of all) expect(reasonWords(reason, EUR)).toBe(words);
});
