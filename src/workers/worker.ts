import { BlobStore, readBytes } from '@/adapters/blob-store';
import { HttpDoor } from '@/adapters/channel-door';
import { mailer } from '@/adapters/mailer';
import { PATIENCE } from '@/adapters/patience';
import { Cancelled, runCommand, type Command, type Result } from '@/books/command';
import { fetchNow } from '@/books/fetching/fetch';
import { mailRun } from '@/books/fetching/run-log';
import { importFile, refusedOf, type FileToImport, type Importer } from '@/books/imports/import-file';
import { invoicesImporter } from '@/books/invoices/import';
import { postInvoices } from '@/books/invoices/post';
import { reverseReceipts } from '@/books/ledger/reverse';
import { layerReport } from '@/books/map/layers';
import { postAgainList, repostReceipts } from '@/books/map/repost';
import { ruleToTry, tryRule } from '@/books/map/try-rule';
import { confirmNotOurs, confirmProbable, confirmProven } from '@/books/matching/confirm';
import { receiptsFrom } from '@/books/receipts/import';
import { lookAtFile } from '@/books/receipts/sniff-file';
import { postReceipts } from '@/books/receipts/post';
import { statementsFrom } from '@/books/statements/import';
import { seeStatement } from '@/books/statements/read-file';
import { todayOf } from '@/books/setup/today';
import { BooksFile, type Reading } from '@/books/store';
import type { PlainDate } from '@/core/calendar';
import { LIMITS } from '@/formats/finding';
import { SharedProgress } from './shared-progress';
import type { Task, WorkerInput } from './task';

const importerFor = (task: Extract<Task, { kind: 'import' | 'refused-rows' }>) => {
  switch (task.what) {
    case 'invoices':
      return invoicesImporter;
    case 'receipts':
      return receiptsFrom(task.receipts ?? {});
    case 'statement':
      return statementsFrom(task.statements);
  }
};

function fileOf({ file: { path, ...file } }: Extract<Task, { kind: 'import' | 'refused-rows' }>): FileToImport {
  return { ...file, open: () => readBytes(path) };
}

async function* encoded(texts: AsyncIterable<string> | Iterable<string>): AsyncGenerator<Uint8Array> {
  for await (const text of texts) yield new TextEncoder().encode(text);
}

/** The thread's entry: opens the books for this one job, does it, and closes them again. */
export default async function work({ books: path, actor, task, progress }: WorkerInput): Promise<Result<unknown>> {
  const books = new BooksFile(path);
  const options = { actor, progress: new SharedProgress(progress) };
  const run = <I, T>(command: Command<I, T>, input: unknown, dryRun = false) =>
    runCommand(books, command, input, { ...options, dryRun });
  /** Looks through the books on one state of them, and changes nothing. */
  const look = async <T>(query: (db: Reading, today: PlainDate) => Promise<T>): Promise<Result<T>> => {
    try {
      const value = await books.read(async (db) => {
        const row = await db.selectFrom('books').selectAll().executeTakeFirstOrThrow();
        return query(db, todayOf(row, new Date()));
      });
      return { ok: true, value, change: null };
    } catch (error) {
      if (error instanceof Cancelled) return { ok: false, refusal: { code: 'cancelled' } };
      throw error;
    }
  };
  /** Posts what a channel has waiting, where the channel was opened to post by itself. */
  const postByItself = async (wanted: number | undefined): Promise<void> => {
    let query = books.reader.selectFrom('channel').select(['id', 'posts_itself']);
    if (wanted !== undefined) query = query.where('id', '=', wanted);
    const channel = await query.orderBy('id').executeTakeFirstOrThrow();
    if (channel.posts_itself === 1) await run(postReceipts, { filter: { state: 'not-posted', channel: channel.id } });
  };
  try {
    switch (task.kind) {
      case 'import': {
        const importer = importerFor(task) as Importer<unknown>;
        const result = await importFile(books, importer, fileOf(task), { ...options, dryRun: task.dryRun });
        if (result.ok && result.value.run !== null && task.what === 'receipts')
          await postByItself(task.receipts?.channel);
        return result;
      }
      case 'refused-rows': {
        const rows = await refusedOf(books, importerFor(task) as Importer<unknown>, fileOf(task), options);
        if (!rows.ok) return rows;
        const { sha256 } = await new BlobStore(task.blobs).put(encoded(rows.value ?? []), LIMITS.fileBytes);
        return { ok: true, value: { sha256 }, change: null };
      }
      case 'fetch': {
        const report = await fetchNow(books, task.connection, {
          ...options,
          beganBy: task.beganBy,
          blobs: new BlobStore(task.blobs),
          door: (address, secret) => new HttpDoor(new URL(address, task.origin), secret, PATIENCE),
        });
        if (report.ok) {
          await mailRun(books, report.value.run, mailer(process.env.NEST_EGG_SMTP));
        }
        return report;
      }
      case 'look-at-file':
        return await look((db) => lookAtFile(db, () => readBytes(task.path), task.channel, task.said));
      case 'look-at-statement':
        return await look((db) => seeStatement(db, () => readBytes(task.path), task.said));
      case 'post':
        return task.what === 'receipts'
          ? await run(postReceipts, task.input, task.dryRun)
          : await run(postInvoices, task.input, task.dryRun);
      case 'reverse-receipts':
        return await run(reverseReceipts, task.input, task.dryRun);
      case 'confirm-proven':
        return await run(confirmProven, task.input);
      case 'confirm-probable':
        return await run(confirmProbable, task.input);
      case 'confirm-not-ours':
        return await run(confirmNotOurs, task.input);
      case 'repost':
        return await run(repostReceipts, task.input);
      case 'try-rule': {
        const rule = ruleToTry.safeParse(task.input);
        if (!rule.success) {
          const refusal = { code: 'invalid-input', field: 'rule', expected: rule.error.issues[0]!.message } as const;
          return { ok: false, refusal };
        }
        return await look((db, today) => tryRule(db, rule.data, today, options.progress));
      }
      case 'map-layers':
        return await look((db, today) => layerReport(db, today, options.progress));
      case 'post-again-list':
        return await look((db, today) => postAgainList(db, today, options.progress));
    }
  } finally {
    await books.close();
  }
}
