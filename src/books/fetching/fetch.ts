import type { BlobStore, StoredFile } from '@/adapters/blob-store';
import { readBytes, TooManyBytes } from '@/adapters/blob-store';
import type { ChannelDoor } from '@/adapters/channel-door';
import { DoorShut, shutWords } from '@/adapters/patience';
import { bookDates, formatDate } from '@/core/calendar';
import type { Minor } from '@/core/money';
import { LIMITS, type Finding } from '@/formats/finding';
import { findingWords } from '@/formats/finding-words';
import { Cancelled, NO_PROGRESS, refusalWords, runCommand, type Result, type RunOptions } from '../command';
import { importFile, type Importer, type ImportReport } from '../imports/import-file';
import { receiptsFrom } from '../receipts/import';
import { postReceipts } from '../receipts/post';
import { clockOf, todayOf } from '../setup/today';
import { statementImporter } from '../statements/import';
import type { BeganBy, BooksFile } from '../store';

/** What came of a run, as it stands in the log. */
export interface FetchReport {
  readonly run: number;
  readonly outcome: 'done' | 'failed' | 'cancelled';
  readonly added: number;
  readonly changed: number;
  readonly refused: number;
  readonly posted: number;
  readonly retries: number;
  readonly why: string;
}

export interface FetchOptions extends RunOptions {
  readonly beganBy: BeganBy;
  readonly blobs: BlobStore;
  /** Opens the way to an address with its key. */
  readonly door: (address: string, secret: string) => ChannelDoor;
}

/** What was gathered while a run goes on. */
interface Gathered {
  cursor: number;
  added: number;
  changed: number;
  refused: number;
  posted: number;
  importRun: number | null;
  readonly refusals: string[];
  reading: { readonly at: string; readonly currency: string; readonly amount: number } | null;
}

/** Refusals told in the log; all of them stand with the file brought in. */
const REFUSALS_TOLD = 20;

/** The run cannot go on for a reason of these books' own. */
class Halted extends Error {}

function take(gathered: Gathered, report: ImportReport): void {
  if (report.fileFinding) throw new Halted(findingWords(report.fileFinding).what);
  gathered.added += report.added;
  gathered.changed += report.changed + report.updated;
  gathered.refused += report.refused;
  gathered.importRun = report.run ?? gathered.importRun;
  const told = (finding: Finding) => findingWords(finding).what;
  gathered.refusals.push(...report.findings.slice(0, REFUSALS_TOLD - gathered.refusals.length).map(told));
}

class FetchRun {
  readonly gathered: Gathered;

  constructor(
    private readonly books: BooksFile,
    private readonly door: ChannelDoor,
    private readonly options: FetchOptions,
    cursor: number,
  ) {
    const nothing = { added: 0, changed: 0, refused: 0, posted: 0, importRun: null, refusals: [], reading: null };
    this.gathered = { cursor, ...nothing };
  }

  private get progress() {
    return this.options.progress ?? NO_PROGRESS;
  }

  private async bringIn<R>(importer: Importer<R>, name: string, stored: StoredFile): Promise<void> {
    const { sha256, bytes, path } = stored;
    const file = { name, sha256, bytes, open: () => readBytes(path) };
    const result = await importFile(this.books, importer, file, { ...this.options, dryRun: false });
    if (!result.ok) {
      if (result.refusal.code === 'cancelled') throw new Cancelled();
      throw new Halted(refusalWords(result.refusal).what);
    }
    take(this.gathered, result.value);
  }

  /** Movements as they come, one a line: kept as a file, so that they can be read again and taken back like one. */
  private async *lines(): AsyncGenerator<Uint8Array> {
    const encoder = new TextEncoder();
    let count = 0;
    for await (const { items, next } of this.door.movementsSince(this.gathered.cursor)) {
      this.gathered.cursor = next;
      count += items.length;
      this.progress.report('Fetching', count, 0);
      if (this.progress.cancelled) throw new Cancelled();
      yield encoder.encode(items.map((item) => `${JSON.stringify(item)}\n`).join(''));
    }
  }

  async channel(id: number, name: string, postsItself: boolean): Promise<void> {
    const stored = await this.options.blobs.put(this.lines(), LIMITS.fileBytes);
    if (stored.bytes > 0) await this.bringIn(receiptsFrom({ channel: id, fetched: true }), name, stored);
    this.gathered.reading = await this.door.reading();
    if (!postsItself) return;
    const input = { filter: { state: 'not-posted' as const, channel: id } };
    const posted = await runCommand(this.books, postReceipts, input, { ...this.options, dryRun: false });
    if (posted.ok) this.gathered.posted = posted.value.posted;
  }

  async bank(): Promise<void> {
    for await (const { items } of this.door.statementsSince(this.gathered.cursor)) {
      for (const { change, name, body } of items) {
        if (this.progress.cancelled) throw new Cancelled();
        const bytes = new TextEncoder().encode(body);
        const stored = await this.options.blobs.put(
          (async function* () {
            yield bytes;
          })(),
          LIMITS.fileBytes,
        );
        await this.bringIn(statementImporter, name, stored);
        this.gathered.cursor = change;
      }
    }
  }
}

function outcomeOf(error: unknown): { readonly outcome: 'failed' | 'cancelled'; readonly why: string } {
  if (error instanceof Cancelled) return { outcome: 'cancelled', why: '' };
  if (error instanceof DoorShut) return { outcome: 'failed', why: shutWords(error.reason) };
  if (error instanceof Halted) return { outcome: 'failed', why: error.message };
  if (error instanceof TooManyBytes) return { outcome: 'failed', why: 'it sent more than one file may hold' };
  throw error;
}

/**
 * Fetches what is new from a channel or a bank, brings it in as any file, keeps what the channel says it holds, and writes
 * the run into the log, whatever came of it. What was read before a failure is asked for again by the next run, and known
 * then: nothing is lost and nothing comes in twice.
 */
export async function fetchNow(
  books: BooksFile,
  connection: number,
  options: FetchOptions,
): Promise<Result<FetchReport>> {
  const row = await books.reader
    .selectFrom('connection')
    .leftJoin('channel', 'channel.id', 'connection.channel_id')
    .select(['connection.id', 'channel_id', 'address', 'secret', 'cursor', 'channel.name', 'channel.posts_itself'])
    .where('connection.id', '=', connection)
    .executeTakeFirst();
  if (!row) return { ok: false, refusal: { code: 'not-found', what: 'connection', id: String(connection) } };
  const settings = await books.reader.selectFrom('books').selectAll().executeTakeFirstOrThrow();
  const real = options.now ?? new Date();
  const started = clockOf(settings, real);
  const door = options.door(row.address, row.secret);
  const run = new FetchRun(books, door, options, row.cursor);
  const { gathered } = run;
  const today = todayOf(settings, real);
  let ended: ReturnType<typeof outcomeOf> | null = null;
  try {
    if (row.channel_id === null) await run.bank();
    else await run.channel(row.channel_id, `${row.name}, fetched ${formatDate(today)}`, row.posts_itself === 1);
  } catch (error) {
    ended = outcomeOf(error);
  }
  const { added, changed, refused, posted, refusals, reading, importRun } = gathered;
  const { outcome, why } = ended ?? { outcome: 'done' as const, why: refusals.join('\n') };
  // A channel is read from where its last complete run ended; a bank's statements come in one by one.
  const cursor = outcome === 'done' || row.channel_id === null ? gathered.cursor : row.cursor;
  const id = await books.write(
    async ({ db }) => {
      const { id: log } = await db
        .insertInto('fetch_run')
        .values({
          connection_id: connection,
          began_by: options.beganBy,
          actor: options.actor.name,
          started_at: started.toISOString(),
          ended_at: new Date(started.getTime() + Math.max(0, Date.now() - real.getTime())).toISOString(),
          outcome,
          added,
          changed,
          refused,
          posted,
          retries: door.retries,
          why,
          run_id: importRun,
          mailed_to: '',
        })
        .returning('id')
        .executeTakeFirstOrThrow();
      await db.updateTable('connection').set({ cursor }).where('id', '=', connection).execute();
      if (outcome === 'done' && row.channel_id !== null) {
        await db
          .updateTable('channel_event')
          .set({ fetch_run_id: log })
          .where('channel_id', '=', row.channel_id)
          .where('fetch_run_id', 'is', null)
          .where('received_at', '<=', real.toISOString())
          .execute();
      }
      if (reading !== null) {
        await db
          .insertInto('reading')
          .values({
            channel_id: row.channel_id!,
            read_at: reading.at,
            book_date: bookDates(settings.zone)(new Date(reading.at)),
            currency: reading.currency,
            amount: reading.amount as Minor,
          })
          .execute();
      }
      return log;
    },
    () => true,
  );
  const value = { run: id, outcome, added, changed, refused, posted, retries: door.retries, why };
  return { ok: true, value, change: null };
}
