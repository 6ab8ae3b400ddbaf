export { BooksFile, type Reading, type Writing } from './books-file';
export { BooksBusy } from './sqlite-dialect';
export { BooksTooNew } from './migrate';
export type * from './schema';
