import type { BooksInput } from '@/books/setup/create-books';
import { plainDate } from '@/core/calendar';
import { minor } from '@/core/money';

/** Lantern Head Lighthouse Trust: gifts, a gift shop and a tea hatch on the same invented coast. */
export const LANTERN_HEAD: BooksInput = {
  name: 'Lantern Head Lighthouse Trust',
  currency: 'EUR',
  zone: 'Europe/Dublin',
  country: 'IE',
  fixedToday: plainDate('2026-11-16'),
  accounts: [
    { code: '1010', name: 'Current account', class: 'asset', role: 'bank' },
    { code: '1020', name: 'Reserve account', class: 'asset', role: 'bank' },
    { code: '1030', name: 'Gift shop box', class: 'asset', role: 'cash_on_hand' },
    { code: '1040', name: 'Tea hatch box', class: 'asset', role: 'cash_on_hand' },
    { code: '1100', name: 'Dues receivable', class: 'asset', role: 'receivable' },
    { code: '2100', name: 'Sales tax', class: 'liability', role: 'sales_tax' },
    { code: '2200', name: 'Payer credit', class: 'liability', role: 'payer_credit' },
    { code: '2300', name: 'Tips payable', class: 'liability', role: 'tips_payable' },
    { code: '3000', name: 'Accumulated funds', class: 'equity', role: null },
    { code: '4010', name: 'Gifts', class: 'income', role: null },
    { code: '4030', name: 'Gift shop', class: 'income', role: null },
    { code: '4040', name: 'Tea hatch', class: 'income', role: null },
    { code: '4900', name: 'Refunds', class: 'income', role: 'refunds' },
    { code: '6010', name: 'Upkeep of the tower', class: 'expense', role: null },
    { code: '6100', name: 'Giving page fees', class: 'expense', role: 'fees' },
    { code: '6900', name: 'Cash difference', class: 'expense', role: 'cash_difference' },
    { code: '1050', name: 'Cheques to be banked', class: 'asset', role: 'cheques_on_hand' },
    { code: '1060', name: 'Collection envelopes', class: 'asset', role: 'cash_on_hand' },
    { code: '4050', name: 'Open-day tickets', class: 'income', role: null },
    { code: '6120', name: 'Ticket fees', class: 'expense', role: 'fees' },
  ],
  taxCodes: [
    { code: 'S23', name: 'Standard rate', rate: 2300, account: '2100' },
    { code: 'R13', name: 'Reduced rate', rate: 1350, account: '2100' },
  ],
  items: [
    { code: 'shop', name: 'Gift shop', income: '4030', taxCode: 'S23' },
    { code: 'tea', name: 'Tea and cake', income: '4040', taxCode: 'R13' },
    { code: 'ticket', name: 'Open-day ticket', income: '4050', taxCode: 'R13' },
  ],
  bankAccounts: [
    { account: '1010', iban: 'IE64 SKER 9311 5287 6543 21' },
    { account: '1020', iban: 'IE48 SKER 9311 5290 0010 02' },
  ],
  channels: [],
  opening: {
    date: plainDate('2026-08-31'),
    against: '3000',
    balances: [
      { account: '1010', amount: minor(9_870_45) },
      { account: '1020', amount: minor(12_000_00) },
    ],
  },
};

/** What a gift can be bound to. */
export const FUNDS = [
  { name: 'General', restricted: false },
  { name: 'Lens restoration', restricted: true },
  { name: 'Foghorn', restricted: true },
] as const;
