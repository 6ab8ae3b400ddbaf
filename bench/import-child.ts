import { readBytes } from '@/adapters/blob-store';
import { statSync } from 'node:fs';
import { importFile } from '@/books/imports/import-file';
import { receiptsFrom, type ReceiptSource } from '@/books/receipts/import';
import { BooksFile } from '@/books/store';
import { timed } from './rows';

/** Imports one file in a process of its own, so that its memory is that of the import alone; tells both as JSON. */
async function main(): Promise<void> {
  const [path, file, source] = process.argv.slice(2) as [string, string, string];
  const books = new BooksFile(path);
  const before = process.resourceUsage().maxRSS;
  const importer = receiptsFrom(JSON.parse(source) as ReceiptSource);
  const input = { name: 'file', sha256: 'x', bytes: statSync(file).size, open: () => readBytes(file) };
  const { value, took } = await timed(() =>
    importFile(books, importer, input, { actor: { name: 'bench' }, dryRun: false }),
  );
  await books.close();
  if (!value.ok || value.value.fileFinding || value.value.refused > 0) throw new Error(JSON.stringify(value));
  const rss = process.resourceUsage().maxRSS;
  process.stdout.write(
    JSON.stringify({ took, added: value.value.added, megabytes: rss / 1024, before: before / 1024 }),
  );
}

main().catch((error: unknown) => {
  console.error(error);
  process.exitCode = 1;
});
