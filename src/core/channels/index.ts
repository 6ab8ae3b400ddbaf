export * from './fee-schedule';
export * from './receipt-entry';
export * from './tenders';
