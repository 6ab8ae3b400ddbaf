/** The pages of this station. */
export const OWED_PAGES = [
  { path: 'owed', label: 'Invoices' },
  { path: 'owed/bring-in', label: 'Bring in' },
] as const;
