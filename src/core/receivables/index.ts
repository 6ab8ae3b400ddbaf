export * from './invoice';
