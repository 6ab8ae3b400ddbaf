import { sql, type Selectable } from 'kysely';
import type { PlainDate } from '@/core/calendar';
import { depositEntry, leftToExplain, type AccountId, type Entry } from '@/core/ledger';
import type { Currency, Minor } from '@/core/money';
import type { Refusal } from '../command';
import { namesOf, readPacked, type Reading, type StatementLineTable } from '../store';
import { keptFor } from './kept-for';
import { payerCreditAccount } from './kept-over';
import { PartsShelf, type Held } from './load-parts';
import type { PartInput } from './part-input';
import type { SheetPart } from './parts';
import { KEPT_BY_DOCUMENTS } from './rest-accounts';

/** One sheet to be confirmed: a statement line, what is laid on it, and where the rest goes. */
export interface SheetToConfirm {
  readonly line: number;
  readonly parts: readonly PartInput[];
  readonly restTo: AccountId | null;
  /** How sure it was and why, where it is confirmed as it was laid; looked up where it is not said. */
  readonly laid?: Origin;
  /** It is put back: in a closed month its entry is of the first day after it, as that of taking it apart was. */
  readonly again?: true;
}

/** How sure a match was, and why, as JSON. */
interface Origin {
  readonly certainty: string;
  readonly reasons: string;
}

/** What of a statement line its entry and its match need. */
export interface LineToMatch extends Pick<
  Selectable<StatementLineTable>,
  'id' | 'account_id' | 'book_date' | 'amount' | 'currency' | 'match_id'
> {
  /** Its text, or whom it names where it has none. */
  readonly said: string;
}

/** A sheet that can be confirmed. */
export interface PlannedMatch {
  readonly line: LineToMatch;
  readonly parts: readonly SheetPart[];
  readonly entry: Entry;
  /** What the parts leave, and where that is booked; null where nothing is left. */
  readonly left: Minor;
  readonly restTo: AccountId | null;
  readonly origin: Origin;
}

interface Proposed extends Origin {
  readonly line: number;
  /** What is laid, as {@link laidKey} writes it; null where nothing is. */
  readonly laid: string | null;
}

/** Parts as one text, so that what is confirmed can be told from what was laid. */
const laidKey = (parts: readonly PartInput[]) =>
  parts
    .map((part) => `${part.kind}/${part.id}/${'amount' in part ? part.amount : ''}`)
    .sort()
    .join(' ');

/** What a batch of sheets is confirmed against, looked up at once. */
export interface Batch {
  readonly lines: ReadonlyMap<number, LineToMatch & Held>;
  readonly proposals: ReadonlyMap<number, Proposed>;
  readonly accounts: ReadonlyMap<AccountId, { readonly name: string; readonly kept: boolean }>;
  readonly closedThrough: PlainDate | null;
  readonly payerCredit: AccountId;
  readonly shelf: PartsShelf;
}

const LINE_NAMES = namesOf<LineToMatch & Held>({
  id: 1,
  account_id: 1,
  book_date: 1,
  amount: 1,
  currency: 1,
  said: 1,
  match_id: 1,
  holder: 1,
});

/** Looks up what these sheets are confirmed against. */
export async function lookUp(db: Reading, sheets: readonly SheetToConfirm[]): Promise<Batch> {
  const among = (of: readonly SheetToConfirm[]) =>
    sql`(SELECT value FROM json_each(${JSON.stringify(of.map((sheet) => sheet.line))}))`;
  const lines = await readPacked(
    db,
    LINE_NAMES,
    sql<LineToMatch & Held>`
    SELECT l.id, l.account_id, l.book_date, l.amount, l.currency, l.match_id,
      coalesce(nullif(l.text, ''), nullif(l.counterparty, ''), l.reference) AS said, m.actor AS holder
    FROM statement_line l LEFT JOIN match m ON m.id = l.match_id WHERE l.id IN ${among(sheets)}
  `,
  );
  const proposals = await sql<Proposed>`
    SELECT q.statement_line_id AS line, q.certainty, q.reasons, (
      SELECT group_concat(k, ' ') FROM (
        SELECT kind || '/' || ref_id || '/' || CASE WHEN kind IN ('invoice', 'account') THEN amount ELSE '' END AS k
        FROM proposal_part WHERE statement_line_id = q.statement_line_id AND rank = 0 ORDER BY k)) AS laid
    FROM proposal q WHERE q.statement_line_id IN ${among(sheets.filter(({ laid }) => !laid))}
  `.execute(db);
  const books = await db.selectFrom('books').selectAll().executeTakeFirstOrThrow();
  const accounts = await db.selectFrom('account').select(['id', 'code', 'name', 'role']).execute();
  const parts = sheets.flatMap((sheet) => sheet.parts);
  return {
    lines: new Map(lines.map((line) => [line.id, line])),
    proposals: new Map(proposals.rows.map((proposal) => [proposal.line, proposal])),
    accounts: new Map(
      accounts.map(({ id, code, name, role }) => [
        id,
        { name: `${code} ${name}`, kept: KEPT_BY_DOCUMENTS.some((kept) => kept === role) },
      ]),
    ),
    closedThrough: books.closed_through,
    payerCredit: await payerCreditAccount(db),
    shelf: await PartsShelf.of(db, parts, books.currency as Currency, 'entries'),
  };
}

/** A sheet that is as it was proposed is as sure as that was; any other is laid by hand. */
function originOf({ parts }: SheetToConfirm, proposal: Proposed | undefined): Origin {
  const asProposed = proposal && parts.length > 0 && laidKey(parts) === proposal.laid;
  return asProposed ? proposal : { certainty: 'by-hand', reasons: '[]' };
}

/** Checks one sheet and works its entry out (recipes 9, 12, 21), or says why it cannot be confirmed. */
export function planMatch(sheet: SheetToConfirm, batch: Batch): PlannedMatch | { readonly refusal: Refusal } {
  const line = batch.lines.get(sheet.line);
  if (!line) return { refusal: { code: 'not-found', what: 'statement line', id: String(sheet.line) } };
  if (line.match_id !== null) {
    return { refusal: { code: 'line-taken', date: line.book_date, text: line.said, by: line.holder! } };
  }
  const { closedThrough } = batch;
  if (!sheet.again && closedThrough !== null && line.book_date <= closedThrough) {
    return { refusal: { code: 'period-closed', date: line.book_date, closedThrough } };
  }
  if (sheet.parts.length === 0 && sheet.restTo === null) return { refusal: { code: 'nothing-laid' } };
  if (!batch.shelf.takeLine(line.id))
    return { refusal: { code: 'invalid-input', field: 'parts', expected: 'each line once' } };
  const taken = batch.shelf.take(sheet.parts, line.book_date);
  if ('refusal' in taken) return taken;
  const { parts } = taken;
  const otherDay = parts.find((part) => part.kind === 'line' && closedThrough !== null && part.date <= closedThrough);
  if (otherDay && !sheet.again)
    return { refusal: { code: 'period-closed', date: otherDay.date, closedThrough: closedThrough! } };
  const { account_id: bank, id: lineId, amount } = line;
  const explained = parts.map(({ part }) => part);
  const left = leftToExplain({ amount, parts: explained });
  const restTo = left === 0 ? null : sheet.restTo;
  if (restTo !== null) {
    const account = batch.accounts.get(restTo);
    if (!account) return { refusal: { code: 'not-found', what: 'account', id: String(restTo) } };
    const over = restTo === batch.payerCredit && left > 0 && keptFor(parts) !== null;
    if (account.kept && !over) return { refusal: { code: 'rest-account', account: account.name } };
  }
  const kept = restTo === batch.payerCredit;
  const entry = depositEntry({ bank, lineId, amount, parts: explained, restTo, kept });
  if ('left' in entry) return { refusal: { code: 'left-to-explain', left: entry.left, currency: line.currency } };
  return { line, parts, entry, left, restTo, origin: sheet.laid ?? originOf(sheet, batch.proposals.get(line.id)) };
}
