import { createReadStream, existsSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { basename, join } from 'node:path';
import { BlobStore, readBytes } from '@/adapters/blob-store';
import { runCommand, type Command, type Result } from '@/books/command';
import { importFile, type Importer, type ImportReport } from '@/books/imports/import-file';
import { BooksFile, type Reading } from '@/books/store';
import { LIMITS } from '@/formats/finding';
import { UsageError } from './output';

/** The folder of data, and the books in it that are open. */
export class Place {
  private readonly books = new Map<string, BooksFile>();

  constructor(
    private readonly data: string,
    private readonly actor: string,
  ) {}

  ids(): string[] {
    const folder = join(this.data, 'books');
    if (!existsSync(folder)) return [];
    return readdirSync(folder)
      .filter((file) => file.endsWith('.sqlite'))
      .map((file) => file.slice(0, -'.sqlite'.length))
      .sort();
  }

  /** The books by their id; `make` lets them be new. */
  open(id: string | undefined, make = false): BooksFile {
    const known = this.ids();
    const only = id ?? (known.length === 1 ? known[0] : undefined);
    if (only === undefined)
      throw new UsageError(`Say which books with --books: ${known.join(', ') || 'there are none'}.`);
    if (!/^[a-z0-9][a-z0-9-]{0,60}$/.test(only)) {
      throw new UsageError(`${only} is no id of books: small letters, digits and dashes.`);
    }
    if (!make && !known.includes(only)) throw new UsageError(`There are no books ${only} in ${this.data}.`);
    let books = this.books.get(only);
    if (!books) this.books.set(only, (books = new BooksFile(join(this.data, 'books', `${only}.sqlite`))));
    return books;
  }

  run<I, T>(books: BooksFile, command: Command<I, T>, input: unknown, dryRun: boolean): Promise<Result<T>> {
    return runCommand(books, command, input, { actor: { name: this.actor }, dryRun });
  }

  read<T>(id: string | undefined, query: (db: Reading) => Promise<T>): Promise<T> {
    return this.open(id).read(query);
  }

  /** Keeps the file beside the books and brings it in from there, as the pages do. */
  async bringIn<R>(
    id: string | undefined,
    importer: Importer<R>,
    path: string,
    dryRun: boolean,
  ): Promise<Result<ImportReport>> {
    const books = this.open(id);
    const blobs = new BlobStore(join(this.data, 'files', id ?? this.ids()[0]!));
    if (!existsSync(path)) throw new UsageError(`There is no file ${path}.`);
    const stored = await blobs.put(createReadStream(path), LIMITS.fileBytes);
    const { path: kept, ...file } = { ...stored, ...(await blobs.find(stored.sha256))! };
    const open = () => readBytes(kept);
    return importFile(
      books,
      importer as Importer<unknown>,
      { ...file, name: basename(path), open },
      { actor: { name: this.actor }, dryRun },
    );
  }

  /** A small file as text; “-” is standard input. */
  text(path: string | undefined): string {
    if (path === undefined) throw new UsageError('Say which file with --file.');
    try {
      return readFileSync(path === '-' ? 0 : path, 'utf8');
    } catch {
      throw new UsageError(`The file ${path} cannot be read.`);
    }
  }

  json(path: string | undefined): unknown {
    try {
      return JSON.parse(this.text(path)) as unknown;
    } catch (error) {
      if (error instanceof UsageError) throw error;
      throw new UsageError(`${path ?? 'The file'} is no JSON.`);
    }
  }

  /** Takes books away again that were only just begun. */
  async drop(id: string): Promise<void> {
    await this.books.get(id)?.close();
    this.books.delete(id);
    for (const end of ['', '-wal', '-shm']) rmSync(join(this.data, 'books', `${id}.sqlite${end}`), { force: true });
  }

  async close(): Promise<void> {
    for (const books of this.books.values()) await books.close();
  }
}
