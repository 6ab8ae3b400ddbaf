/** The pages of this station. */
export const IN_TRANSIT_PAGES = [
  { path: 'in-transit', label: 'Payouts' },
  { path: 'in-transit/fees', label: 'Fees' },
] as const;
