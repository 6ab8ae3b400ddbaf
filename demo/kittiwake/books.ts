import { plainDate } from '@/core/calendar';
import { minor } from '@/core/money';
import type { BooksInput } from '@/books/setup/create-books';

/** Kittiwake Sails & Rigging: a service firm on an invented coast. */
export const KITTIWAKE: BooksInput = {
  name: 'Kittiwake Sails & Rigging',
  currency: 'EUR',
  zone: 'Europe/Dublin',
  country: 'IE',
  fixedToday: plainDate('2026-11-16'),
  accounts: [
    { code: '1010', name: 'Current account', class: 'asset', role: 'bank' },
    { code: '1100', name: 'Accounts receivable', class: 'asset', role: 'receivable' },
    { code: '1200', name: 'Card desk clearing', class: 'asset', role: 'clearing' },
    { code: '2100', name: 'Sales tax', class: 'liability', role: 'sales_tax' },
    { code: '2200', name: 'Payer credit', class: 'liability', role: 'payer_credit' },
    { code: '2300', name: 'Tips payable', class: 'liability', role: 'tips_payable' },
    { code: '3000', name: 'Owners’ capital', class: 'equity', role: null },
    { code: '3100', name: 'Drawings', class: 'equity', role: 'drawings' },
    { code: '4010', name: 'Repairs', class: 'income', role: null },
    { code: '4020', name: 'Rig checks', class: 'income', role: null },
    { code: '4030', name: 'Lessons', class: 'income', role: null },
    { code: '4040', name: 'Parts and workshop sales', class: 'income', role: null },
    { code: '4800', name: 'Discounts given', class: 'income', role: 'discounts' },
    { code: '4900', name: 'Refunds', class: 'income', role: 'refunds' },
    { code: '6010', name: 'Workshop rent', class: 'expense', role: null },
    { code: '6020', name: 'Materials', class: 'expense', role: null },
    { code: '6100', name: 'Card fees', class: 'expense', role: 'fees' },
    { code: '6105', name: 'Cash differences', class: 'expense', role: 'cash_difference' },
    { code: '6110', name: 'Bank charges', class: 'expense', role: null },
    { code: '6800', name: 'Chargebacks', class: 'expense', role: 'chargebacks' },
    { code: '6900', name: 'Rounding', class: 'expense', role: 'rounding' },
  ],
  taxCodes: [
    { code: 'S23', name: 'Standard rate', rate: 2300, account: '2100' },
    { code: 'R13', name: 'Reduced rate', rate: 1350, account: '2100' },
  ],
  items: [
    { code: 'repair', name: 'Sail repair', income: '4010', taxCode: 'S23' },
    { code: 'rig-check', name: 'Rig check', income: '4020', taxCode: 'R13' },
    { code: 'lesson', name: 'Sailing lesson', income: '4030', taxCode: 'R13' },
    { code: 'parts', name: 'Parts', income: '4040', taxCode: 'S23' },
  ],
  bankAccounts: [{ account: '1010', iban: 'IE29 SKER 9311 5212 3456 78' }],
  channels: [
    {
      name: 'Card desk',
      kind: 'card-desk',
      clearing: '1200',
      bank: '1010',
      fees: '6100',
      refunds: '4900',
      tips: '2300',
      chargebacks: '6800',
      income: '4040',
      taxCode: 'S23',
      feeRate: 190,
      feeFixed: minor(25),
      payoutDays: 2,
    },
  ],
  opening: {
    date: plainDate('2026-08-31'),
    against: '3000',
    balances: [{ account: '1010', amount: minor(24_318_60) }],
  },
};
