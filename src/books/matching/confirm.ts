import { z } from 'zod';
import { depositEntry, leftToExplain, type AccountId } from '@/core/ledger';
import { formatAmount, ZERO, type Minor } from '@/core/money';
import { formatDay } from '@/core/calendar';
import { done, refuse, type Command, type Refusal } from '../command';
import { balanceMoves } from '../ledger/balances';
import { JournalWriter } from '../ledger/journal-writer';
import { entryView } from '../ledger/posting';
import type { EntryView } from '../ledger/entry-view';
import type { Reading, Writing } from '../store';
import { loadParts, partInput, type SheetPart } from './parts';
import { refreshProposals } from './proposals';
import { KEPT_BY_DOCUMENTS } from './rest-accounts';

const restTo = z.custom<AccountId>((value) => Number.isSafeInteger(value), 'an account').nullable();

export const matchInput = z.object({ line: z.number().int(), parts: z.array(partInput).max(5_000), restTo });
export type MatchInput = z.infer<typeof matchInput>;

export interface ConfirmedMatch {
  readonly match: number;
  readonly journal: number;
  readonly entry: EntryView;
  readonly left: Minor;
}

interface Confirmation {
  readonly match: number;
  readonly journal: number;
  readonly date: Parameters<typeof formatDay>[0];
  readonly amount: Minor;
  readonly parts: readonly SheetPart[];
  readonly planned: Parameters<typeof entryView>[1];
}

async function freeLine(db: Reading, id: number) {
  const line = await db.selectFrom('statement_line').selectAll().where('id', '=', id).executeTakeFirst();
  if (!line) return { refusal: { code: 'not-found', what: 'statement line', id: String(id) } satisfies Refusal };
  if (line.match_id === null) return { line };
  const match = await db.selectFrom('match').select('actor').where('id', '=', line.match_id).executeTakeFirstOrThrow();
  return {
    refusal: { code: 'line-taken', date: line.book_date, text: line.text, by: match.actor } satisfies Refusal,
  };
}

async function restRefusal(db: Reading, account: AccountId): Promise<Refusal | null> {
  const row = await db.selectFrom('account').selectAll().where('id', '=', account).executeTakeFirst();
  if (!row) return { code: 'not-found', what: 'account', id: String(account) };
  const kept = KEPT_BY_DOCUMENTS.some((role) => role === row.role);
  return kept ? { code: 'rest-account', account: `${row.code} ${row.name}` } : null;
}

/** What the engine says of a line, with the payout laid on its sheet. */
async function proposalOf(db: Reading, line: number) {
  return db
    .selectFrom('proposal')
    .leftJoin('proposal_payout as laid', (j) =>
      j.onRef('laid.statement_line_id', '=', 'proposal.statement_line_id').on('laid.laid', '=', 1),
    )
    .select(['proposal.certainty', 'proposal.reasons', 'laid.payout_id as payout'])
    .where('proposal.statement_line_id', '=', line)
    .executeTakeFirst();
}

/** How the match came about: as proposed, or put together by hand. */
async function origin(db: Reading, input: MatchInput) {
  const proposal = await proposalOf(db, input.line);
  const [part] = input.parts;
  return proposal && part?.kind === 'payout' && input.parts.length === 1 && part.id === proposal.payout
    ? { certainty: proposal.certainty as string, reasons: proposal.reasons }
    : { certainty: 'by-hand', reasons: '[]' };
}

async function writeMatch(
  tx: Writing,
  input: MatchInput,
  writer: JournalWriter,
  now: Date,
  actor: string,
): Promise<Confirmation | { readonly refusal: Refusal }> {
  const { db } = tx;
  const found = await freeLine(db, input.line);
  if ('refusal' in found) return { refusal: found.refusal! };
  const { line } = found;
  const books = await db.selectFrom('books').selectAll().executeTakeFirstOrThrow();
  if (books.closed_through !== null && line.book_date <= books.closed_through) {
    return { refusal: { code: 'period-closed', date: line.book_date, closedThrough: books.closed_through } };
  }
  if (input.parts.length === 0 && input.restTo === null) return { refusal: { code: 'nothing-laid' } };
  const loaded = await loadParts(db, input.parts, line.currency);
  if ('refusal' in loaded) return loaded;
  const { parts } = loaded;
  const deposit = {
    bank: line.account_id,
    lineId: line.id,
    amount: line.amount,
    parts: parts.map((part) => part.part),
  };
  const left = leftToExplain(deposit);
  const rest = left === 0 ? null : input.restTo;
  const refused = rest === null ? null : await restRefusal(db, rest);
  if (refused) return { refusal: refused };
  const entry = depositEntry({ ...deposit, restTo: rest });
  if ('left' in entry) return { refusal: { code: 'left-to-explain', left: entry.left, currency: line.currency } };

  const { next } = await db
    .selectFrom('match')
    .select((e) => e(e.fn.coalesce(e.fn.max('id'), e.lit(0)), '+', 1).as('next'))
    .executeTakeFirstOrThrow();
  const match = Number(next);
  const planned = {
    date: line.book_date,
    memo: `Bank ${formatDay(line.book_date)}: ${line.text || line.counterparty || line.reference}`.slice(0, 200),
    lines: entry.lines,
  };
  const journal = writer.write({ ...planned, source: { kind: 'match', id: match, revision: 1 } });
  writer.seal();
  await db
    .insertInto('match')
    .values({
      id: match,
      confirmed_at: now.toISOString(),
      actor,
      ...(await origin(db, input)),
      journal_id: journal,
      rest: left,
      rest_account_id: rest,
      undone_at: null,
    })
    .execute();
  await db.insertInto('match_line').values({ match_id: match, statement_line_id: line.id, live: 1 }).execute();
  await db.updateTable('statement_line').set({ match_id: match }).where('id', '=', line.id).execute();
  await db.deleteFrom('proposal').where('statement_line_id', '=', line.id).execute();
  await takeParts(tx, match, journal, parts);
  return { match, journal, date: line.book_date, amount: line.amount, parts, planned };
}

async function takeParts(tx: Writing, match: number, journal: number, parts: readonly SheetPart[]): Promise<void> {
  const { db } = tx;
  const insert = tx.bulk('match_part', ['match_id', 'part_no', 'kind', 'ref_id', 'gross', 'fee', 'live']);
  for (const [index, part] of parts.entries()) {
    insert.add(match, index + 1, part.kind, part.id, part.gross, part.fee, 1);
    if (part.kind === 'invoice') {
      await db
        .insertInto('allocation')
        .values({ invoice_id: part.id, journal_id: journal, amount: part.net })
        .execute();
      await db
        .updateTable('invoice')
        .set((e) => ({ paid: e('paid', '+', part.net) }))
        .where('id', '=', part.id)
        .execute();
    } else {
      await db.updateTable(part.kind).set({ match_id: match }).where('id', '=', part.id).execute();
    }
  }
  insert.flush();
}

function touchedAmounts({ amount, parts }: Confirmation): Minor[] {
  return [amount, ...parts.filter((part) => part.kind === 'payout').map((part) => part.net)];
}

/**
 * Confirms what explains a statement line, once nothing is left to explain: writes its entry (recipes 9, 12, 21) and
 * ties line and parts together. A line, a payout and a receipt are used once.
 */
export const confirmMatch: Command<MatchInput, ConfirmedMatch> = {
  name: 'confirm-match',
  input: matchInput,
  async run(tx, input, context) {
    const { now, actor } = context;
    const writer = await JournalWriter.open(tx, context);
    const written = await writeMatch(tx, input, writer, now, actor.name);
    if ('refusal' in written) return refuse(written.refusal);
    const moves = await balanceMoves(tx.db, await writer.finish());
    await refreshProposals(tx, { amounts: touchedAmounts(written) });
    const { currency } = await tx.db.selectFrom('books').select('currency').executeTakeFirstOrThrow();
    const { match, journal } = written;
    return done(
      { match, journal, entry: await entryView(tx.db, written.planned, moves), left: ZERO },
      `Confirmed ${formatAmount(written.amount, currency)} of ${formatDay(written.date)}`,
      { command: 'take-apart', input: { match }, label: 'take the match apart' },
    );
  },
};

/** Confirms every line named that is still proven, as proposed; one that is not any more refuses all. */
export const confirmProven: Command<{ lines: number[] }, { confirmed: number; amount: Minor }> = {
  name: 'confirm-proven',
  input: z.object({ lines: z.array(z.number().int()).min(1).max(20_000) }),
  async run(tx, { lines }, { now, actor, progress }) {
    const { db } = tx;
    const writer = await JournalWriter.open(tx, { now, actor, progress });
    const matches: number[] = [];
    const amounts: Minor[] = [];
    let total = 0;
    for (const line of lines) {
      const proposal = await proposalOf(db, line);
      if (proposal?.certainty !== 'proven') return refuse({ code: 'not-proven', count: 1 });
      const input: MatchInput = { line, parts: [{ kind: 'payout', id: proposal.payout! }], restTo: null };
      const written = await writeMatch(tx, input, writer, now, actor.name);
      if ('refusal' in written) return refuse(written.refusal);
      matches.push(written.match);
      amounts.push(...touchedAmounts(written));
      total += written.amount;
      progress.report('Confirming', matches.length, lines.length);
    }
    await writer.finish();
    await refreshProposals(tx, { amounts });
    const { currency } = await db.selectFrom('books').select('currency').executeTakeFirstOrThrow();
    const what = `${matches.length} proven ${matches.length === 1 ? 'deposit' : 'deposits'}`;
    return done(
      { confirmed: matches.length, amount: total as Minor },
      `Confirmed ${what}, ${formatAmount(total as Minor, currency)}`,
      { command: 'take-apart', input: { matches }, label: `take ${what} apart` },
    );
  },
};

/** Confirms again what was taken apart, line by line with the same parts and the same account for the rest. */
export const confirmAgain: Command<{ matches: number[] }, { confirmed: number }> = {
  name: 'confirm-again',
  input: z.object({ matches: z.array(z.number().int()).min(1).max(20_000) }),
  async run(tx, { matches }, context) {
    const { db } = tx;
    const writer = await JournalWriter.open(tx, context);
    const again: number[] = [];
    const amounts: Minor[] = [];
    for (const id of matches) {
      const match = await db
        .selectFrom('match')
        .innerJoin('match_line', 'match_line.match_id', 'match.id')
        .select(['match.rest_account_id', 'match_line.statement_line_id'])
        .where('match.id', '=', id)
        .executeTakeFirst();
      if (!match) return refuse({ code: 'not-found', what: 'match', id: String(id) });
      const parts = await db
        .selectFrom('match_part')
        .select(['kind', 'ref_id as id', 'gross as amount'])
        .where('match_id', '=', id)
        .orderBy('part_no')
        .execute();
      const input = { line: match.statement_line_id, parts, restTo: match.rest_account_id };
      const written = await writeMatch(tx, input, writer, context.now, context.actor.name);
      if ('refusal' in written) return refuse(written.refusal);
      again.push(written.match);
      amounts.push(...touchedAmounts(written));
    }
    await writer.finish();
    await refreshProposals(tx, { amounts });
    const what = again.length === 1 ? 'the match' : `${again.length} matches`;
    return done({ confirmed: again.length }, `Confirmed ${what} again`, {
      command: 'take-apart',
      input: { matches: again },
      label: `take ${what} apart`,
    });
  },
};
