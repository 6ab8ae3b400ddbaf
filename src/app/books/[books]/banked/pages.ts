/** The pages of this station. */
export const BANKED_PAGES = [
  { path: 'banked', label: 'Statement lines' },
  { path: 'banked/rules', label: 'Statement rules' },
  { path: 'banked/bring-in', label: 'Bring in' },
] as const;
