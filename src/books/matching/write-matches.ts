import { sql } from 'kysely';
import { formatDay, type PlainDate } from '@/core/calendar';
import {
  depositEntry,
  leftToExplain,
  otherDayEntry,
  reversalDate,
  takenOff,
  type AccountId,
  type Entry,
} from '@/core/ledger';
import type { Currency, Minor } from '@/core/money';
import { Cancelled, type CommandContext, type Refusal } from '../command';
import type { JournalWriter } from '../ledger/journal-writer';
import { pairs } from '../ledger/posting';
import { OwedEntries } from '../settling/owed-entries';
import { namesOf, readPacked, type Reading, type StatementLineTable, type Writing } from '../store';
import type { Selectable } from 'kysely';
import { forgetProposals } from './keep-proposals';
import { keptFor } from './kept-for';
import { payerCreditAccount } from './kept-over';
import { makeTransitAccount } from './line-parts';
import { PartsShelf, type Held } from './load-parts';
import type { PartInput, SheetPart } from './parts';
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
interface Line extends Pick<
  Selectable<StatementLineTable>,
  'id' | 'account_id' | 'book_date' | 'amount' | 'currency' | 'match_id'
> {
  /** Its text, or whom it names where it has none. */
  readonly said: string;
}

/** A sheet that can be confirmed. */
interface PlannedMatch {
  readonly line: Line;
  readonly parts: readonly SheetPart[];
  readonly entry: Entry;
  /** What the parts leave, and where that is booked; null where nothing is left. */
  readonly left: Minor;
  readonly restTo: AccountId | null;
  readonly origin: Origin;
}

export interface WrittenMatch extends Omit<PlannedMatch, 'entry'> {
  readonly match: number;
  readonly journal: number;
  /** Lines that were laid on its sheet, each with what it wrote on its own day, null where that is the day of the sheet. */
  readonly others: readonly { readonly line: number; readonly journal: number | null }[];
  readonly planned: Pick<Entry, 'lines'> & { readonly date: Line['book_date']; readonly memo: string };
}

/** How many sheets are looked up and written together. */
const BATCH = 1_000;

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
interface Batch {
  readonly lines: ReadonlyMap<number, Line & Held>;
  readonly proposals: ReadonlyMap<number, Proposed>;
  readonly accounts: ReadonlyMap<AccountId, { readonly name: string; readonly kept: boolean }>;
  readonly closedThrough: Line['book_date'] | null;
  readonly payerCredit: AccountId;
  readonly shelf: PartsShelf;
}

const LINE_NAMES = namesOf<Line & Held>({
  id: 1,
  account_id: 1,
  book_date: 1,
  amount: 1,
  currency: 1,
  said: 1,
  match_id: 1,
  holder: 1,
});

async function lookUp(db: Reading, sheets: readonly SheetToConfirm[]): Promise<Batch> {
  const among = (of: readonly SheetToConfirm[]) =>
    sql`(SELECT value FROM json_each(${JSON.stringify(of.map((sheet) => sheet.line))}))`;
  const lines = await readPacked(
    db,
    LINE_NAMES,
    sql<Line & Held>`
    SELECT l.id, l.account_id, l.book_date, l.amount, l.currency, l.match_id,
      coalesce(nullif(l.text, ''), nullif(l.counterparty, ''), l.reference) AS said, m.actor AS holder
    FROM statement_line l LEFT JOIN match m ON m.id = l.match_id WHERE l.id IN ${among(sheets)}
  `,
  );
  const proposals = await sql<Proposed>`
    SELECT q.statement_line_id AS line, q.certainty, q.reasons, (
      SELECT group_concat(k, ' ') FROM (SELECT x.kind || '/' || x.ref_id || '/' || CASE WHEN x.kind IN ('invoice', 'account') THEN x.amount ELSE '' END AS k FROM proposal_part x
        WHERE x.statement_line_id = q.statement_line_id AND x.rank = 0 ORDER BY k)) AS laid
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
function plan(sheet: SheetToConfirm, batch: Batch): PlannedMatch | { readonly refusal: Refusal } {
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

const memoOf = (line: Line) => `Bank ${formatDay(line.book_date)}: ${line.said}`.slice(0, 200);

type Tied = readonly [id: number, match: number];

/** Marks lines, payouts and receipts as explained, in one statement for each table. */
async function tie(tx: Writing, written: readonly WrittenMatch[]): Promise<void> {
  const { db } = tx;
  const held = { line: [] as Tied[], payout: [] as Tied[], receipt: [] as Tied[] };
  for (const { match, line, parts } of written) {
    held.line.push([line.id, match]);
    for (const { kind, id } of parts) if (kind in held) held[kind as keyof typeof held].push([id, match]);
  }
  const { line: lines, payout, receipt } = held;
  const tables = [
    ['statement_line', lines],
    ['payout', payout],
    ['receipt', receipt],
  ] as const;
  for (const [table, rows] of tables) {
    if (rows.length === 0) continue;
    await sql`UPDATE ${sql.table(table)} SET match_id = t.b FROM ${pairs(rows)} AS t WHERE ${sql.table(table)}.id = t.a`.execute(
      db,
    );
  }
  await forgetProposals(db, sql`SELECT value FROM json_each(${JSON.stringify(lines.map(([line]) => line))})`);
}

/** Lines of other days write on those days that they reached the bank. */
function writeOtherDays(
  writer: JournalWriter,
  match: number,
  parts: readonly SheetPart[],
  closedThrough: PlainDate | null,
): WrittenMatch['others'] {
  return parts.flatMap(({ kind, id, date, note, part }, index): WrittenMatch['others'] => {
    if (kind !== 'line' || part.kind !== 'line') return [];
    const { transit } = part;
    if (transit === null) return [{ line: id, journal: null }];
    const source = { kind: 'match', id: match, revision: index + 2 } as const;
    const memo = `Bank ${formatDay(date)}: ${note}`.slice(0, 200);
    return [
      {
        line: id,
        journal: writer.write({
          date: reversalDate(date, closedThrough),
          memo,
          source,
          lines: otherDayEntry({ ...part, transit }).lines,
        }),
      },
    ];
  });
}

/** Where a line of another day is laid, an account has to hold what is in between. */
async function holdBetween(tx: Writing, sheets: readonly SheetToConfirm[]): Promise<void> {
  if (!sheets.some(({ parts }) => parts.some(({ kind }) => kind === 'line'))) return;
  const pairsOf = sheets.flatMap(({ line, parts }) =>
    parts.flatMap(({ kind, id }) => (kind === 'line' ? [[line, id] as const] : [])),
  );
  const { rows } = await sql<{ bank: AccountId }>`
    SELECT a.account_id AS bank FROM ${pairs(pairsOf)} AS t JOIN statement_line a ON a.id = t.a
    JOIN statement_line b ON b.id = t.b AND b.book_date <> a.book_date LIMIT 1
  `.execute(tx.db);
  if (rows[0]) await makeTransitAccount(tx, rows[0].bank);
}

/**
 * Confirms sheets: their entries, what ties line and parts together, and what they settle, set-based. The first sheet
 * that cannot be confirmed refuses all. The caller seals and works the proposals out again.
 */
export async function writeMatches(
  tx: Writing,
  sheets: readonly SheetToConfirm[],
  writer: JournalWriter,
  context: CommandContext,
): Promise<{ readonly written: WrittenMatch[] } | { readonly refusal: Refusal }> {
  const { db } = tx;
  const { last } = await db
    .selectFrom('match')
    .select((e) => e.fn.coalesce(e.fn.max('id'), e.lit(0)).as('last'))
    .executeTakeFirstOrThrow();
  const into = {
    match: tx.bulk('match', [
      'id',
      'confirmed_at',
      'actor',
      'certainty',
      'reasons',
      'journal_id',
      'rest',
      'rest_account_id',
      'undone_at',
    ]),
    line: tx.bulk('match_line', ['match_id', 'statement_line_id', 'live', 'place', 'journal_id']),
    part: tx.bulk('match_part', ['match_id', 'part_no', 'kind', 'ref_id', 'gross', 'fee', 'live', 'detail']),
    owed: new OwedEntries(tx),
  };
  const all: WrittenMatch[] = [];
  const at = context.now.toISOString();
  for (let from = 0; from < sheets.length; from += BATCH) {
    const part = sheets.slice(from, from + BATCH);
    await holdBetween(tx, part);
    const batch = await lookUp(db, part);
    const written: WrittenMatch[] = [];
    for (const sheet of part) {
      const made = plan(sheet, batch);
      if ('refusal' in made) return made;
      const { line, parts, entry, left, restTo, origin } = made;
      const match = Number(last) + all.length + written.length + 1;
      const date = reversalDate(line.book_date, batch.closedThrough);
      const source = { kind: 'match', id: match, revision: 1 } as const;
      const planned = { date, memo: memoOf(line), source, lines: entry.lines };
      const journal = writer.write(planned);
      const others = writeOtherDays(writer, match, parts, batch.closedThrough);
      written.push({ line, parts, left, restTo, origin, match, journal, others, planned });
    }
    writer.flush();
    for (const { match, journal, line, origin, left, restTo, others } of written) {
      const { certainty, reasons } = origin;
      into.match.add(match, at, context.actor.name, certainty, reasons, journal, left, restTo, null);
      into.line.add(match, line.id, 1, 1, null);
      others.forEach((other, at) => into.line.add(match, other.line, 1, at + 2, other.journal));
    }
    into.match.flush();
    into.line.flush();
    for (const { journal, line, parts, planned, left, restTo } of written) {
      if (restTo !== batch.payerCredit) continue;
      into.owed.keep({ line: line.id, payer: keptFor(parts)!.id }, journal, planned.date, left);
    }
    for (const { match, journal, parts, planned } of written) {
      let no = 0;
      for (const { kind, id, gross, fee, net, part: booked, detail } of parts) {
        into.part.add(match, ++no, kind, id, gross, fee, 1, detail ? JSON.stringify(detail) : '{}');
        if (booked.kind !== 'invoice') continue;
        into.owed.settle(id, journal, planned.date, net);
        into.owed.settle(id, journal, planned.date, takenOff(booked), 'discount');
      }
    }
    into.part.flush();
    await into.owed.flush();
    await tie(tx, written);
    all.push(...written);
    context.progress.report('Confirming', all.length, sheets.length);
    if (context.progress.cancelled) throw new Cancelled();
  }
  return { written: all };
}
