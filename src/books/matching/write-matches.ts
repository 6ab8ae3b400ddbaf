import { sql } from 'kysely';
import { formatDay, type PlainDate } from '@/core/calendar';
import { otherDayEntry, reversalDate, takenOff, type AccountId, type Entry } from '@/core/ledger';
import { Cancelled, type CommandContext, type Refusal } from '../command';
import type { JournalWriter } from '../ledger/journal-writer';
import { pairs } from '../ledger/posting';
import { OwedEntries } from '../settling/owed-entries';
import type { Writing } from '../store';
import { forgetProposals } from './keep-proposals';
import { keptFor } from './kept-for';
import { makeTransitAccount } from './line-parts';
import { lookUp, planMatch, type LineToMatch, type PlannedMatch, type SheetToConfirm } from './match-plan';
import type { SheetPart } from './parts';

/** A match that was written, with its journal. */
export interface WrittenMatch extends Omit<PlannedMatch, 'entry'> {
  readonly match: number;
  readonly journal: number;
  /** Lines that were laid on its sheet, each with what it wrote on its own day, null where that is the day of the sheet. */
  readonly others: readonly { readonly line: number; readonly journal: number | null }[];
  readonly planned: Pick<Entry, 'lines'> & { readonly date: PlainDate; readonly memo: string };
}

/** How many sheets are looked up and written together. */
const BATCH = 1_000;

const memoOf = (line: LineToMatch) => `Bank ${formatDay(line.book_date)}: ${line.said}`.slice(0, 200);

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
    await sql`
      UPDATE ${sql.table(table)} SET match_id = t.b FROM ${pairs(rows)} AS t WHERE ${sql.table(table)}.id = t.a
    `.execute(db);
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
      const made = planMatch(sheet, batch);
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
