/** The pages of this station. */
export const OWED_PAGES = [
  { path: 'owed', label: 'Invoices' },
  { path: 'owed/plans', label: 'Plans' },
  { path: 'owed/ageing', label: 'Ageing' },
  { path: 'owed/payers', label: 'Payers' },
  { path: 'owed/bring-in', label: 'Bring in' },
] as const;
