import { sql } from 'kysely';
import { z } from 'zod';
import { NO_TAX } from '@/core/map';
import { wordingOf } from '@/core/matching';
import type { PlainDate } from '@/core/calendar';
import { formatAmount, sum, type Minor } from '@/core/money';
import { plural } from '@/core/words';
import { postKeyed, writeKeyed } from '../by-hand/key-receipt';
import { takeKeyedBack } from '../by-hand/take-back';
import { done, refuse, type Command, type Refusal } from '../command';
import { beginHandRun } from '../imports/hand-run';
import { accountBalances, movesSince, type BalanceMove } from '../ledger/balances';
import type { Reading, Writing } from '../store';
import { matchParts, partInputs } from './kept-parts';
import type { AccountPartInput } from './part-input';
import { confirmAgain, confirmSheets } from './confirm';
import { takeApart } from './take-apart';
import type { SheetToConfirm } from './match-plan';

/** A deposit that was booked as income by itself: no receipt stands behind it. */
export interface DepositIncome {
  readonly match: number;
  readonly line: number;
  readonly date: PlainDate;
  readonly text: string;
  readonly amount: Minor;
  readonly account: string;
  readonly payer: number | null;
}

/** Such deposits of one payer, of one rule, or that the bank words alike. */
export interface DepositIncomeGroup {
  readonly by: 'payer' | 'rule' | 'wording';
  readonly name: string;
  readonly amount: Minor;
  readonly first: PlainDate;
  readonly last: PlainDate;
  readonly deposits: readonly DepositIncome[];
}

const MOST = 5_000;

/** Matches that are nothing but amounts on income accounts, money in; `wanted` narrows them to some. */
async function incomeMatches(db: Reading, wanted: ReturnType<typeof sql>) {
  const { rows } = await sql<{
    match: number;
    line: number;
    date: PlainDate;
    text: string;
    counterparty: string;
    amount: Minor;
    account: string;
    detail: string;
    payer: number | null;
    payerName: string | null;
  }>`
    SELECT m.id AS match, l.id AS line, l.book_date AS date, l.text, l.counterparty, l.amount,
      a.code || ' ' || a.name AS account, p.detail, y.id AS payer, y.name AS payerName
    FROM match m JOIN match_line x ON x.match_id = m.id AND x.live = 1 AND x.place = 1
    JOIN statement_line l ON l.id = x.statement_line_id AND l.amount > 0
    JOIN match_part p ON p.match_id = m.id AND p.part_no = 1 JOIN account a ON a.id = p.ref_id
    LEFT JOIN payer said ON said.id = p.detail ->> 'payer'
    LEFT JOIN payer y ON y.id = coalesce(said.merged_into, said.id)
    WHERE m.undone_at IS NULL AND m.rest = 0 AND p.kind = 'account' AND ${wanted}
      AND NOT EXISTS (SELECT 1 FROM match_part o LEFT JOIN account b ON b.id = o.ref_id AND o.kind = 'account'
        WHERE o.match_id = m.id AND (b.class IS NULL OR b.class <> 'income' OR o.gross < 0))
    ORDER BY l.book_date DESC, l.id DESC LIMIT ${MOST}
  `.execute(db);
  return rows;
}

/** Income kept from deposits alone, by payer, else by the rule that booked it, else by how the bank words it. */
export async function depositIncome(db: Reading): Promise<DepositIncomeGroup[]> {
  const groups = new Map<string, { by: DepositIncomeGroup['by']; name: string; deposits: DepositIncome[] }>();
  for (const row of await incomeMatches(db, sql`1`)) {
    const { rule } = JSON.parse(row.detail) as { rule?: string | null };
    const [by, name] =
      row.payerName !== null
        ? (['payer', row.payerName] as const)
        : rule
          ? (['rule', rule] as const)
          : (['wording', row.counterparty || wordingOf(row.text) || row.text] as const);
    const key = `${by}/${row.payer ?? name}`;
    const group = groups.get(key) ?? { by, name, deposits: [] };
    groups.set(key, group);
    const { match, line, date, text, amount, account, payer } = row;
    group.deposits.push({ match, line, date, text, amount, account, payer });
  }
  return [...groups.values()]
    .map((group) => ({
      ...group,
      amount: sum(group.deposits.map(({ amount }) => amount)),
      first: group.deposits.at(-1)!.date,
      last: group.deposits[0]!.date,
    }))
    .sort((a, b) => b.amount - a.amount);
}

/** Channels that such deposits can have come by: in the books' own currency. */
export async function channelsForDeposits(db: Reading): Promise<{ id: number; name: string }[]> {
  const { currency } = await db.selectFrom('books').select('currency').executeTakeFirstOrThrow();
  return db.selectFrom('channel').select(['id', 'name']).where('currency', '=', currency).orderBy('name').execute();
}

export interface TurnedIntoReceipts {
  readonly receipts: number;
  readonly amount: Minor;
  /** What moves by it: nothing, where the account map says the same as the deposits did. */
  readonly moves: readonly BalanceMove[];
}

interface Turned {
  readonly match: number;
  readonly line: number;
  readonly date: PlainDate;
  readonly text: string;
  readonly parts: readonly AccountPartInput[];
}

async function toTurn(db: Reading, matches: readonly number[]): Promise<Turned[] | Refusal> {
  const wanted = sql`(SELECT value FROM json_each(${JSON.stringify(matches)}))`;
  const rows = await incomeMatches(db, sql`m.id IN ${wanted}`);
  const missing = matches.find((id) => !rows.some(({ match }) => match === id));
  if (missing !== undefined) return { code: 'not-found', what: 'deposit booked as income', id: String(missing) };
  const { rows: made } = await sql<{ match: number; parts: string }>`
    SELECT m.id AS match, ${matchParts(sql`m.id`)} AS parts FROM match m WHERE m.id IN ${wanted}
  `.execute(db);
  const partsOf = new Map(made.map(({ match, parts }) => [match, partInputs(parts) as AccountPartInput[]]));
  return rows.reverse().map(({ match, line, date, text, counterparty }) => ({
    match,
    line,
    date,
    text: text || counterparty,
    parts: partsOf.get(match)!,
  }));
}

/** Keys the receipts of one deposit; each lands where the deposit had it, all else the account map decides. */
async function keyFor(tx: Writing, run: number, channel: number, turned: Turned): Promise<number[] | Refusal> {
  const receipts: number[] = [];
  for (const [index, part] of turned.parts.entries()) {
    const keyed = {
      place: { channel, site: null, method: '' as const },
      date: turned.date,
      payer: part.payer,
      reference: '',
      lines: [{ item: null, description: turned.text.slice(0, 200), amount: part.amount }],
      dimensions: [],
      fund: '',
      note: '',
      paysBack: null,
    };
    const name = `D-${turned.match}${turned.parts.length > 1 ? `/${index + 1}` : ''}`;
    const written = await writeKeyed(tx, run, keyed, name);
    if ('refusal' in written) return written.refusal;
    const landing = {
      income: part.id,
      taxCode: part.taxCode ?? NO_TAX,
      ...(Object.keys(part.dimensions).length > 0 && { dimensions: part.dimensions }),
    };
    // All of it reached the bank: nobody took a fee.
    await tx.db
      .updateTable('receipt')
      .set({ landing: JSON.stringify(landing), fee: 0 as Minor })
      .where('id', '=', written.receipt)
      .execute();
    receipts.push(written.receipt);
  }
  return receipts;
}

/**
 * Turns deposits that were booked as income by themselves into receipts of a channel, each matched with its deposit again: so
 * books that began with deposits alone know their payers, and go on as any other.
 */
export const turnIntoReceipts: Command<{ matches: number[]; channel: number }, TurnedIntoReceipts> = {
  name: 'turn-into-receipts',
  input: z.object({ matches: z.array(z.number().int()).min(1).max(MOST), channel: z.number().int() }),
  async run(tx, { matches, channel }, context) {
    const turning = await toTurn(tx.db, matches);
    if ('code' in turning) return refuse(turning);
    const before = await accountBalances(tx.db);
    const apart = await takeApart.run(tx, { matches }, context);
    if ('refusal' in apart) return apart;
    const run = await beginHandRun(tx.db, context, turning.length);
    const sheets: SheetToConfirm[] = [];
    for (const turned of turning) {
      const receipts = await keyFor(tx, run, channel, turned);
      if ('code' in receipts) return refuse(receipts);
      sheets.push({ line: turned.line, parts: receipts.map((id) => ({ kind: 'receipt' as const, id })), restTo: null });
    }
    const ids = sheets.flatMap(({ parts }) => parts.map(({ id }) => id as number));
    const posting = await postKeyed(tx, ids, context);
    if ('refusal' in posting) return refuse(posting.refusal);
    const confirmed = await confirmSheets(tx, sheets, context);
    if ('refusal' in confirmed) return refuse(confirmed.refusal);
    const made = confirmed.written.map(({ match }) => match);
    const amount = sum(turning.flatMap(({ parts }) => parts.map((part) => part.amount)));
    const { currency } = await tx.db.selectFrom('books').select('currency').executeTakeFirstOrThrow();
    return done(
      { receipts: ids.length, amount, moves: await movesSince(tx.db, before) },
      `Turned ${plural(turning.length, 'deposit')}, ${formatAmount(amount, currency)}, into receipts`,
      {
        command: 'turn-back-into-deposits',
        input: { matches: made, receipts: ids, before: turning.map(({ match }) => match), channel },
        label: 'make them deposits again',
      },
    );
  },
};

/** The way back of {@link turnIntoReceipts}: the receipts are reversed and set aside, and the deposits booked as they were. */
export const turnBackIntoDeposits: Command<
  { matches: number[]; receipts: number[]; before: number[]; channel: number },
  null
> = {
  name: 'turn-back-into-deposits',
  input: z.object({
    matches: z.array(z.number().int()).min(1).max(MOST),
    receipts: z
      .array(z.number().int())
      .min(1)
      .max(2 * MOST),
    before: z.array(z.number().int()).min(1).max(MOST),
    channel: z.number().int(),
  }),
  async run(tx, { matches, receipts, before, channel }, context) {
    const apart = await takeApart.run(tx, { matches }, context);
    if ('refusal' in apart) return apart;
    const back = await takeKeyedBack.run(tx, { receipts }, context);
    if ('refusal' in back) return back;
    const again = await confirmAgain.run(tx, { matches: before }, context);
    if ('refusal' in again) return again;
    return done(null, `Made ${plural(before.length, 'deposit')} deposits alone again`, {
      command: 'turn-into-receipts',
      input: { matches: again.done.value.matches, channel },
      label: 'turn them into receipts again',
    });
  },
};
