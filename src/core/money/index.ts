export * from './minor';
export * from './currency';
export * from './parse';
export * from './format';
export * from './round';
export * from './rate';
