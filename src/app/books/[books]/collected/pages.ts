/** The pages of this station. */
export const COLLECTED_PAGES = [
  { path: 'collected', label: 'Receipts' },
  { path: 'collected/key', label: 'Key one' },
  { path: 'collected/gifts', label: 'Gifts' },
  { path: 'collected/gift-batch', label: 'Gift batch' },
  { path: 'collected/day', label: 'A day' },
  { path: 'collected/readings', label: 'Readings' },
  { path: 'collected/bring-in', label: 'Bring in' },
] as const;
