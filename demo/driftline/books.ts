import type { BooksInput } from '@/books/setup/create-books';
import { plainDate } from '@/core/calendar';
import { minor } from '@/core/money';

/** Driftline Box: a box of finds from the shore each month, by direct debit, and a few by card. */
export const DRIFTLINE: BooksInput = {
  name: 'Driftline Box',
  currency: 'EUR',
  zone: 'Europe/Dublin',
  country: 'IE',
  fixedToday: plainDate('2026-11-16'),
  accounts: [
    { code: '1010', name: 'Current account', class: 'asset', role: 'bank' },
    { code: '1100', name: 'Accounts receivable', class: 'asset', role: 'receivable' },
    { code: '2100', name: 'Sales tax', class: 'liability', role: 'sales_tax' },
    { code: '2200', name: 'Payer credit', class: 'liability', role: 'payer_credit' },
    { code: '2300', name: 'Tips payable', class: 'liability', role: 'tips_payable' },
    { code: '3000', name: 'Owners’ capital', class: 'equity', role: null },
    { code: '4010', name: 'Small boxes', class: 'income', role: null },
    { code: '4020', name: 'Large boxes', class: 'income', role: null },
    { code: '4030', name: 'Gift boxes', class: 'income', role: null },
    { code: '4900', name: 'Refunds', class: 'income', role: 'refunds' },
    { code: '6010', name: 'Packing and post', class: 'expense', role: null },
    { code: '6100', name: 'Debit fees', class: 'expense', role: 'fees' },
    { code: '6110', name: 'Card fees', class: 'expense', role: 'fees' },
    { code: '6800', name: 'Chargebacks', class: 'expense', role: 'chargebacks' },
    { code: '6950', name: 'Currency difference', class: 'expense', role: 'fx_difference' },
  ],
  taxCodes: [{ code: 'S23', name: 'Standard rate', rate: 2300, account: '2100' }],
  items: [
    { code: 'small', name: 'Small box', income: '4010', taxCode: 'S23' },
    { code: 'large', name: 'Large box', income: '4020', taxCode: 'S23' },
    { code: 'gift', name: 'Gift box', income: '4030', taxCode: 'S23' },
  ],
  bankAccounts: [{ account: '1010', iban: 'IE21 SKER 9311 5266 0042 17' }],
  channels: [],
  opening: {
    date: plainDate('2026-08-31'),
    against: '3000',
    balances: [{ account: '1010', amount: minor(14_206_30) }],
  },
};
