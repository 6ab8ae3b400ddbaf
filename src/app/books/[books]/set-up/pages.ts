/** The pages of this station. */
export const SET_UP_PAGES = [
  { path: 'set-up', label: 'These books' },
  { path: 'set-up/lists', label: 'Lists' },
  { path: 'set-up/documents', label: 'Documents' },
  { path: 'set-up/public', label: 'Public pages' },
  { path: 'set-up/channels', label: 'Channels' },
  { path: 'set-up/map', label: 'Account map' },
  { path: 'set-up/dimensions', label: 'Dimensions' },
  { path: 'set-up/rates', label: 'Rates' },
  { path: 'set-up/fetching', label: 'Fetching' },
  { path: 'set-up/stand-ins', label: 'Stand-ins' },
] as const;
