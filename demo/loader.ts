import { join } from 'node:path';
import { BlobStore, readBytes } from '@/adapters/blob-store';
import { refusalWords, runCommand, type Command, type Result } from '@/books/command';
import { importFile, type Importer } from '@/books/imports/import-file';
import type { BooksFile } from '@/books/store';
import type { AccountId } from '@/core/ledger';
import { LIMITS } from '@/formats/finding';

/** The bookkeeper of the demo, and the hour at which the work so far was done. */
const ACTOR = { name: 'M. Dunne' };
const NOW = new Date('2026-11-13T16:40:00Z');

function must<T>(what: string, result: Result<T>): T {
  if (result.ok) return result.value;
  throw new Error(`${what}: ${refusalWords(result.refusal).what}`);
}

/** Drives books through the same commands as the pages do. */
export class DemoLoader {
  private readonly blobs: BlobStore;

  constructor(
    readonly books: BooksFile,
    blobFolder: string,
    private readonly files: string,
  ) {
    this.blobs = new BlobStore(blobFolder);
  }

  async run<I, T>(command: Command<I, T>, input: I): Promise<T> {
    return must(command.name, await runCommand(this.books, command, input, { actor: ACTOR, now: NOW }));
  }

  async accountOf(code: string): Promise<AccountId> {
    const row = await this.books.reader
      .selectFrom('account')
      .select('id')
      .where('code', '=', code)
      .executeTakeFirstOrThrow();
    return row.id;
  }

  async bringIn<R>(importer: Importer<R>, name: string): Promise<void> {
    const stored = await this.blobs.put(readBytes(join(this.files, name)), LIMITS.fileBytes);
    const file = { name, sha256: stored.sha256, bytes: stored.bytes, open: () => readBytes(stored.path) };
    const report = must(name, await importFile(this.books, importer, file, { actor: ACTOR, now: NOW, dryRun: false }));
    if (report.fileFinding || report.refused > 0) throw new Error(`${name} was refused`);
  }
}
