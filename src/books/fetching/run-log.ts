import { plural } from '@/core/words';
import type { Mailer } from '@/adapters/mailer';
import { formatDate, utcDay } from '@/core/calendar';
import type { BeganBy, BooksFile, FetchRunTable, Reading } from '../store';
import { beganWords, outcomeWords } from './outcome-words';

export interface FetchRunRow {
  readonly id: number;
  readonly connection: number;
  readonly name: string;
  readonly beganBy: BeganBy;
  readonly actor: string;
  readonly startedAt: string;
  readonly endedAt: string;
  readonly outcome: FetchRunTable['outcome'];
  readonly added: number;
  readonly changed: number;
  readonly refused: number;
  readonly posted: number;
  readonly retries: number;
  readonly why: string;
  readonly run: number | null;
  readonly mailedTo: string;
}

const RUNS_LISTED = 100;

/** The newest runs, of one connection or of all. */
export async function fetchRuns(db: Reading, connection: number | null = null): Promise<FetchRunRow[]> {
  let query = db
    .selectFrom('fetch_run')
    .innerJoin('connection', 'connection.id', 'fetch_run.connection_id')
    .leftJoin('channel', 'channel.id', 'connection.channel_id')
    .leftJoin('account', 'account.id', 'connection.account_id')
    .select((e) => [
      'fetch_run.id',
      'connection_id as connection',
      e.fn.coalesce('channel.name', 'account.name').$castTo<string>().as('name'),
      'began_by as beganBy',
      'actor',
      'started_at as startedAt',
      'ended_at as endedAt',
      'outcome',
      'added',
      'changed',
      'refused',
      'posted',
      'retries',
      'why',
      'run_id as run',
      'mailed_to as mailedTo',
    ]);
  if (connection !== null) query = query.where('connection_id', '=', connection);
  return query.orderBy('fetch_run.id', 'desc').limit(RUNS_LISTED).execute();
}

/** The letter that tells of a run. */
export function runLetter(run: FetchRunRow, books: string): { readonly subject: string; readonly text: string } {
  const day = formatDate(utcDay(new Date(run.startedAt)));
  return {
    subject: `${run.name}, ${day}: ${outcomeWords(run)}`,
    text: [
      `${books}: ${run.name} was fetched on ${day}, ${beganWords(run)}.`,
      '',
      `Began ${run.startedAt.slice(0, 19).replace('T', ' ')} UTC, ended ${run.endedAt.slice(0, 19).replace('T', ' ')} UTC.`,
      `${outcomeWords(run)}.`,
      ...(run.retries > 0 ? [`It had to be asked again ${plural(run.retries, 'time')}.`] : []),
      ...(run.outcome === 'done' && run.why !== '' ? ['', 'Refused:', run.why] : []),
      '',
    ].join('\n'),
  };
}

/** Mails the log of a run where its connection names an address; the letter is kept in the outbox either way. */
export async function mailRun(books: BooksFile, runId: number, mailer: Mailer): Promise<void> {
  const run = (await fetchRuns(books.reader)).find(({ id }) => id === runId);
  if (!run) return;
  const connection = await books.reader
    .selectFrom('connection')
    .select('mail_to')
    .where('id', '=', run.connection)
    .executeTakeFirstOrThrow();
  if (connection.mail_to === '') return;
  const { name } = await books.reader.selectFrom('books').select('name').executeTakeFirstOrThrow();
  const { subject, text } = runLetter(run, name);
  const sent = await mailer.send({ to: connection.mail_to, subject, text }).catch(() => false);
  await books.write(
    async ({ db }) => {
      const at = run.endedAt;
      await db
        .insertInto('mail')
        .values({ made_at: at, recipient: connection.mail_to, subject, body: text, sent_at: sent ? at : null })
        .execute();
      await db.updateTable('fetch_run').set({ mailed_to: connection.mail_to }).where('id', '=', runId).execute();
    },
    () => true,
  );
}

export interface MailRow {
  readonly id: number;
  readonly madeAt: string;
  readonly recipient: string;
  readonly subject: string;
  readonly body: string;
  readonly sentAt: string | null;
}

const MAIL_LISTED = 100;

/** The outbox: the newest letters, whether they were handed on to a mail server or not. */
export async function outbox(db: Reading): Promise<MailRow[]> {
  return db
    .selectFrom('mail')
    .select(['id', 'made_at as madeAt', 'recipient', 'subject', 'body', 'sent_at as sentAt'])
    .orderBy('id', 'desc')
    .limit(MAIL_LISTED)
    .execute();
}
