/** The pages of this station. */
export const COLLECTED_PAGES = [
  { path: 'collected', label: 'Receipts' },
  { path: 'collected/day', label: 'A day' },
  { path: 'collected/readings', label: 'Readings' },
  { path: 'collected/bring-in', label: 'Bring in' },
] as const;
