export * from './fee-schedule';
export * from './fee-steps';
export { learnFees, type ChargedFee, type LearntFees } from './learn-fees';
export * from './learn-steps';
export * from './movement-words';
export * from './receipt-entry';
export * from './tenders';
export * from './learn-cut';
export * from './schedule-words';
