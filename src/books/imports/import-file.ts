import { sql } from 'kysely';
import { plural } from '@/core/words';
import type { PlainDate } from '@/core/calendar';
import type { Currency, Minor } from '@/core/money';
import type { Batch, ByteSource, Finding } from '@/formats/finding';
import {
  Cancelled,
  NO_PROGRESS,
  writeAudit,
  type Change,
  type CommandContext,
  type Result,
  type RunOptions,
} from '../command';
import { BooksBusy, type BooksFile, type Reading, type RunKind, type Writing } from '../store';
import { refusedRows, type TableReading } from './refused-rows';
import { allFindings, countFindings, fileFinding, recordFindings, Stage } from './stage';

/** The file to bring in: where its bytes are, and what it is called. */
export interface FileToImport {
  readonly name: string;
  readonly sha256: string;
  readonly bytes: number;
  readonly open: () => ByteSource;
}

/** What one kind of record in the file comes to. */
export interface ImportGroup {
  readonly label: string;
  readonly added: number;
  /** Minor units, of what is new. */
  readonly amount: Minor;
}

export interface ImportCounts {
  /** New, so brought in. */
  readonly added: number;
  /** Already here and now known to be in a payout. */
  readonly updated: number;
  /** Already here with other figures, which are kept beside them until someone takes them over. */
  readonly changed: number;
  /** Already here, nothing to do. */
  readonly known: number;
}

export interface ImportReport extends ImportCounts {
  readonly kind: RunKind;
  readonly fileName: string;
  readonly sha256: string;
  /** Set where the file as a whole is refused; then nothing else counts. */
  readonly fileFinding: Finding | null;
  readonly refused: number;
  readonly groups: readonly ImportGroup[];
  readonly currency: Currency;
  readonly from: PlainDate | null;
  readonly to: PlainDate | null;
  /** The first of the refused records, each with line and reason. */
  readonly findings: readonly Finding[];
  /** Null in a dry run, and where nothing was new. */
  readonly run: number | null;
}

/** One kind of file: how it is read, staged, judged against the books, and written into them. It serves one file at a time. */
export interface Importer<R> {
  readonly kind: RunKind;
  readonly noun: { readonly one: string; readonly many: string };
  /** Where its table begins; null where the file is none. */
  readonly reading: TableReading | null;
  /** Reads the file, which may be opened more than once. Called after {@link stage}. */
  read(open: () => ByteSource, db: Reading): AsyncGenerator<Batch<R>>;
  /** Makes the staging tables and gives what stages one record. Now is for what may not lie ahead. */
  stage(stage: Stage, db: Reading, now: Date): Promise<(record: R) => void>;
  /** Called once all is staged, before anything is judged. */
  staged?(stage: Stage): void;
  /** Marks each staged record new, known, updated or refused; writes to temporary tables only. */
  judge(db: Reading): Promise<ImportCounts>;
  groups(db: Reading): Promise<Pick<ImportReport, 'groups' | 'from' | 'to'>>;
  /** Writes what is new into the books, all set-based. */
  apply(tx: Writing, run: number, context: CommandContext): Promise<void>;
}

export interface ImportOptions extends RunOptions {
  readonly dryRun: boolean;
}

async function stageFile<R>(
  books: BooksFile,
  importer: Importer<R>,
  file: FileToImport,
  { progress, now }: CommandContext,
): Promise<void> {
  const { handle, db } = books.staging();
  const stage = new Stage(handle);
  const put = await importer.stage(stage, db, now);
  await stage.filling(async () => {
    for await (const batch of importer.read(file.open, db)) {
      for (const record of batch.records) put(record);
      for (const finding of batch.findings) stage.find(finding);
      progress.report('Reading', batch.bytes, file.bytes);
      if (progress.cancelled) throw new Cancelled();
    }
  });
  importer.staged?.(stage);
  stage.flush();
}

async function reportOn<R>(db: Reading, importer: Importer<R>, file: FileToImport): Promise<Omit<ImportReport, 'run'>> {
  const { currency } = await db.selectFrom('books').select('currency').executeTakeFirstOrThrow();
  const head = { kind: importer.kind, fileName: file.name, sha256: file.sha256, currency };
  const nothing = {
    added: 0,
    updated: 0,
    changed: 0,
    known: 0,
    refused: 0,
    groups: [],
    from: null,
    to: null,
    findings: [],
  };
  const before = await fileFinding(db);
  if (before) return { ...head, ...nothing, fileFinding: before };
  const counts = await importer.judge(db);
  const judged = await fileFinding(db);
  if (judged) return { ...head, ...nothing, fileFinding: judged };
  return {
    ...head,
    ...counts,
    ...(await importer.groups(db)),
    fileFinding: null,
    refused: await countFindings(db),
    findings: await recordFindings(db),
  };
}

function summaryOf({ noun }: Pick<Importer<never>, 'noun'>, report: Omit<ImportReport, 'run'>): string {
  const { added, updated, changed } = report;
  const what = plural(added, noun.one, noun.many);
  const also = updated > 0 ? `, ${updated} now known to be paid out` : '';
  const since = changed > 0 ? `, ${changed} changed since` : '';
  return `Brought in ${what}${also}${since} from ${report.fileName}`;
}

async function writeRun(
  tx: Writing,
  file: FileToImport,
  report: Omit<ImportReport, 'run'>,
  reading: TableReading | null,
  context: CommandContext,
): Promise<number> {
  const { id } = await tx.db
    .insertInto('run')
    .values({
      kind: report.kind,
      file_name: file.name,
      sha256: file.sha256,
      bytes: file.bytes,
      started_at: context.now.toISOString(),
      ended_at: new Date().toISOString(),
      actor: context.actor.name,
      added: report.added,
      updated: report.updated,
      changed: report.changed,
      known: report.known,
      refused: report.refused,
      undone_at: null,
      reading: reading === null ? '' : JSON.stringify(reading),
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  await sql`
    INSERT INTO run_finding (run_id, finding_no, line, finding)
    SELECT ${id}, row_number() OVER (ORDER BY line, rowid), line,
           json_object('line', line, 'scope', scope, 'code', code, 'subject', subject, 'field', field,
                       'expected', expected, 'found', found, 'until', until)
    FROM temp.stage_finding WHERE scope = 'record'
  `.execute(tx.db);
  return id;
}

/**
 * Brings a file in: its bytes are read as a stream into temporary tables, judged there against the books set-based, and
 * what is new is written in one transaction with a run in the log and an audit row. A dry run ends after the judging
 * and gives the same report. A file that holds nothing new changes nothing.
 */
export async function importFile<R>(
  books: BooksFile,
  importer: Importer<R>,
  file: FileToImport,
  options: ImportOptions,
): Promise<Result<ImportReport>> {
  const progress = options.progress ?? NO_PROGRESS;
  const context: CommandContext = { actor: options.actor, now: options.now ?? new Date(), progress };
  try {
    await stageFile(books, importer, file, context);
    progress.report('Comparing with the books', 0, 0);
    if (options.dryRun) {
      const report = await reportOn(books.staging().db, importer, file);
      return { ok: true, value: { ...report, run: null }, change: null };
    }
    const written = await books.write<{ report: ImportReport; change: Change | null }>(
      async (tx) => {
        const report = await reportOn(tx.db, importer, file);
        if (report.fileFinding || report.added + report.updated + report.changed === 0) {
          return { report: { ...report, run: null }, change: null };
        }
        progress.report('Writing to the books', 0, 0);
        const run = await writeRun(tx, file, report, importer.reading, context);
        await importer.apply(tx, run, context);
        if (progress.cancelled) throw new Cancelled();
        const change = await writeAudit(
          tx.db,
          `import-${importer.kind}`,
          { file: file.name, sha256: file.sha256, run },
          {
            summary: summaryOf(importer, report),
            undo: { command: 'undo-import', input: { run }, label: `take back ${file.name}` },
          },
          context,
        );
        return { report: { ...report, run }, change };
      },
      ({ report }) => report.run !== null,
    );
    return { ok: true, value: written.report, change: written.change };
  } catch (error) {
    if (error instanceof Cancelled) return { ok: false, refusal: { code: 'cancelled' } };
    if (error instanceof BooksBusy) return { ok: false, refusal: { code: 'books-busy' } };
    throw error;
  }
}

/**
 * The refused rows of a file as CSV, as a dry run finds them now; null where there are none.
 * @see refusedRows
 */
export async function refusedOf<R>(
  books: BooksFile,
  importer: Importer<R>,
  file: FileToImport,
  options: RunOptions,
): Promise<Result<AsyncGenerator<string> | null>> {
  const dry = await importFile(books, importer, file, { ...options, dryRun: true });
  if (!dry.ok) return dry;
  const findings = dry.value.refused > 0 ? await allFindings(books.staging().db) : [];
  const value = findings.length === 0 ? null : refusedRows(file.open, importer.reading, findings);
  return { ok: true, value, change: null };
}
