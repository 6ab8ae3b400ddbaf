export * from './text';
export * from './payouts';
export * from './reason-words';
