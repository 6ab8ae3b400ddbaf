export * from './plain-date';
export * from './working-days';
export * from './book-date';
export * from './format';
