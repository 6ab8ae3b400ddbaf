export * from './account';
export * from './because';
export * from './entry';
export * from './recipes';
export * from './summary';
