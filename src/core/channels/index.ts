export * from './fee-schedule';
export * from './movement-words';
export * from './receipt-entry';
export * from './tenders';
