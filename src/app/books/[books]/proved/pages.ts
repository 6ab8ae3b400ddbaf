/** The pages of this station. */
export const PROVED_PAGES = [
  { path: 'proved', label: 'Proofs' },
  { path: 'proved/trial-balance', label: 'Trial balance' },
  { path: 'proved/close', label: 'Close' },
] as const;
