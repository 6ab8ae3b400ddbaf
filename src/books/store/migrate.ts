import type Database from 'better-sqlite3';
import { MIGRATIONS } from './migrations';

/** The books were written by a later version of the program. */
export class BooksTooNew extends Error {}

/**
 * Brings a books file up to this program's schema: each step in a transaction of its own. Before a file that holds
 * anything is changed, a whole copy is set beside it.
 */
export function migrate(handle: Database.Database, file: string): void {
  const version = handle.pragma('user_version', { simple: true }) as number;
  if (version > MIGRATIONS.length) {
    throw new BooksTooNew(`${file} has schema ${version}; this program knows ${MIGRATIONS.length}`);
  }
  if (version === MIGRATIONS.length) return;
  if (version > 0) handle.prepare('VACUUM INTO ?').run(`${file}.before-${MIGRATIONS.length}-${Date.now()}`);
  // Tables are rebuilt under references to them; each step is checked as a whole before it is kept.
  handle.pragma('foreign_keys = OFF');
  for (let step = version; step < MIGRATIONS.length; step++) {
    handle.transaction(() => {
      handle.exec(MIGRATIONS[step]!);
      const [broken] = handle.pragma('foreign_key_check') as { table: string; rowid: number }[];
      if (broken)
        throw new Error(`schema ${step + 1} breaks a reference of ${broken.table} ${broken.rowid} in ${file}`);
      handle.pragma(`user_version = ${step + 1}`);
    })();
  }
  handle.pragma('foreign_keys = ON');
}
