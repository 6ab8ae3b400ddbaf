import type { ColumnType } from 'kysely';

/** A column that is written once: an update of it does not compile. */
export type Fixed<T> = ColumnType<T, T, never>;
