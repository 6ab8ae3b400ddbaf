export * from './from-note';
