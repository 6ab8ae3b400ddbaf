import { sql } from 'kysely';
import {
  FileRefused,
  refusalsAsFindings,
  refuseFile,
  type Batch,
  type ByteSource,
  type Finding,
} from '@/formats/finding';
import { statementProfile, type StatementProfile } from '@/formats/statements/profile';
import { sniffStatement, type SniffedStatement } from '@/formats/statements/sniff';
import { readStatementTable } from '@/formats/statements/statement-table';
import { readStatement, statementFormat, type StatementFormat, type StatementRecord } from '@/formats/statements';
import { formatOf, peek } from '@/formats/table/rows';
import { sniffDelimiterOf } from '@/formats/table/survey';
import { rowsOf } from '../imports/rows-of';
import type { SaidOfFile } from '../receipts/sniff-file';
import type { Reading } from '../store';

/** How a bank's table is read, as it was said or confirmed before. */
export interface StatementReading {
  readonly fingerprint: string;
  readonly settings: StatementProfile;
}

/** The only bank account of the books as its IBAN; empty where there are several, and one must be said. */
async function onlyAccount(db: Reading): Promise<string> {
  const accounts = await db.selectFrom('bank_account').select('iban').execute();
  return accounts.length === 1 ? accounts[0]!.iban : '';
}

export type StatementLook =
  | { readonly format: Exclude<StatementFormat, 'table'> }
  | {
      readonly format: 'table';
      readonly sniffed: SniffedStatement;
      /** The reading that was confirmed for this header before. */
      readonly saved: StatementProfile | null;
    };

/** What a file is by its content; of a table also what its columns seem to be. Refusals of the file are thrown. */
export async function lookAtStatement(
  db: Reading,
  open: () => ByteSource,
  said: SaidOfFile = {},
): Promise<StatementLook> {
  const { head } = await peek(open());
  const packed = formatOf(head) === 'xlsx';
  const format = packed ? 'table' : statementFormat(head);
  if (format !== 'table') return { format };
  const { currency } = await db.selectFrom('books').select('currency').executeTakeFirstOrThrow();
  const delimiter = packed ? ',' : (said.delimiter ?? (await sniffDelimiterOf(open())));
  const rows = rowsOf(open(), delimiter, said.encoding);
  const guessed = await sniffStatement(rows, delimiter, { currency, account: await onlyAccount(db) });
  const sniffed = { ...guessed, profile: { ...guessed.profile, encoding: said.encoding ?? 'auto' } };
  const { rows: kept } = await sql<{ settings: string }>`
    SELECT settings FROM statement_profile WHERE fingerprint = ${sniffed.fingerprint}
  `.execute(db);
  const saved = kept[0] ? statementProfile.safeParse(JSON.parse(kept[0].settings)) : null;
  // Where the table begins, how its columns are parted and which end is newest is this file's own.
  const { above, newestFirst } = sniffed.profile;
  return {
    format,
    sniffed,
    saved: saved?.success
      ? { ...saved.data, delimiter, above, newestFirst, encoding: said.encoding ?? saved.data.encoding }
      : null,
  };
}

/** As {@link lookAtStatement} for whoever brings a file in: what needs no reading, a table, or why it is refused. */
export async function seeStatement(
  db: Reading,
  open: () => ByteSource,
  said: SaidOfFile,
): Promise<
  | { readonly kind: 'refused'; readonly finding: Finding }
  | { readonly kind: 'own' }
  | { readonly kind: 'read'; readonly sniffed: SniffedStatement; readonly saved: StatementProfile | null }
> {
  try {
    const look = await lookAtStatement(db, open, said);
    if (look.format !== 'table' || isOwn(look.sniffed)) return { kind: 'own' };
    return { kind: 'read', sniffed: look.sniffed, saved: look.saved };
  } catch (error) {
    if (error instanceof FileRefused) return { kind: 'refused', finding: error.finding };
    throw error;
  }
}

/** The columns of a table that needs no reading: they say all there is to say. */
const OWN = ['account', 'booked', 'amount', 'currency', 'text', 'balance'];
const isOwn = ({ fingerprint, profile }: SniffedStatement) =>
  profile.above === 0 && profile.dateOrder === 'YMD' && OWN.every((name) => fingerprint.split('|').includes(name));

/** Whether a first reading of a table leaves nothing to be asked. */
export function isComplete({ profile, ambiguousDates }: SniffedStatement): boolean {
  const { columns, account } = profile;
  const amount = columns.amount ?? columns.paidIn ?? columns.paidOut;
  return (
    !ambiguousDates &&
    columns.booked !== undefined &&
    amount !== undefined &&
    (columns.account !== undefined || account !== '')
  );
}

async function* read(
  open: () => ByteSource,
  db: Reading,
  reading: StatementReading | undefined,
): AsyncGenerator<Batch<StatementRecord>> {
  const look = reading ? null : await lookAtStatement(db, open);
  if (look && look.format !== 'table') return yield* readStatement(look.format, open());
  const profile = reading?.settings ?? look?.saved ?? look!.sniffed.profile;
  if (look && !look.saved) {
    const { columns } = profile;
    if (look.sniffed.ambiguousDates) refuseFile('dates-unclear', null);
    if (columns.booked === undefined)
      refuseFile('missing-columns', 1, { expected: 'a date', found: look.sniffed.header.join(', ').slice(0, 200) });
    if (!isComplete(look.sniffed) && (columns.amount ?? columns.paidIn ?? columns.paidOut) === undefined) {
      refuseFile('missing-columns', 1, { expected: 'an amount', found: look.sniffed.header.join(', ').slice(0, 200) });
    }
  }
  yield* readStatementTable(rowsOf(open(), profile.delimiter, profile.encoding), profile);
}

/**
 * Reads a statement of any of the formats, told apart by content. A table is read as it was said, as its header was read
 * before, or as its columns seem to be where nothing is left to ask; else the file is refused with what is to be said.
 */
export function readStatementFile(open: () => ByteSource, db: Reading, reading?: StatementReading) {
  return refusalsAsFindings(read(open, db, reading));
}
