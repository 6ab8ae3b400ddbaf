export { BooksFile, type Reading, type Writing } from './books-file';
export { bulkInsert, type BulkInsert } from './bulk';
export { namesOf, readPacked } from './packed';
export { BooksBusy } from './sqlite-dialect';
export { BooksTooNew } from './migrate';
export { CHANNEL_KINDS } from './schema';
export type * from './schema';
