export * from './fee-schedule';
export * from './learn-fees';
export * from './movement-words';
export * from './receipt-entry';
export * from './tenders';
export * from './learn-cut';
