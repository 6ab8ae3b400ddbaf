import { readBytes } from '@/adapters/blob-store';
import { runCommand, type Command, type Result } from '@/books/command';
import { importFile, type Importer } from '@/books/imports/import-file';
import { invoicesImporter } from '@/books/invoices/import';
import { postInvoices } from '@/books/invoices/post';
import { confirmProven } from '@/books/matching/confirm';
import { receiptsImporter } from '@/books/receipts/import';
import { postReceipts } from '@/books/receipts/post';
import { statementImporter } from '@/books/statements/import';
import { BooksFile } from '@/books/store';
import { SharedProgress } from './shared-progress';
import type { WorkerInput } from './task';

const IMPORTERS = { invoices: invoicesImporter, receipts: receiptsImporter, statement: statementImporter };

/** The thread's entry: opens the books for this one job, does it, and closes them again. */
export default async function work({ books: path, actor, task, progress }: WorkerInput): Promise<Result<unknown>> {
  const books = new BooksFile(path);
  const options = { actor, progress: new SharedProgress(progress) };
  const run = <I, T>(command: Command<I, T>, input: unknown, dryRun = false) =>
    runCommand(books, command, input, { ...options, dryRun });
  try {
    switch (task.kind) {
      case 'import': {
        const { name, sha256, bytes, path: from } = task.file;
        const file = { name, sha256, bytes, open: () => readBytes(from) };
        const importer = IMPORTERS[task.what] as Importer<unknown>;
        return await importFile(books, importer, file, { ...options, dryRun: task.dryRun });
      }
      case 'post':
        return task.what === 'receipts'
          ? await run(postReceipts, task.input, task.dryRun)
          : await run(postInvoices, task.input, task.dryRun);
      case 'confirm-proven':
        return await run(confirmProven, task.input);
    }
  } finally {
    await books.close();
  }
}
