/** The pages of this station. */
export const BANKED_PAGES = [
  { path: 'banked', label: 'Statement lines' },
  { path: 'banked/rules', label: 'Statement rules' },
  { path: 'banked/income', label: 'Deposits alone' },
  { path: 'banked/learnt', label: 'Learnt' },
  { path: 'banked/bring-in', label: 'Bring in' },
] as const;
