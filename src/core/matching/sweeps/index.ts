export * from './receipts';
export * from './candidates';
export * from './sweeps';
