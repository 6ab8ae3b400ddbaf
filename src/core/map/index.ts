export * from './decide';
export * from './review';
export * from './rule';
export * from './rule-index';
export * from './subject';
