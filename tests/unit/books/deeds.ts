import { sql } from 'kysely';
import { creditInvoice } from '@/books/billing/credit';
import { saveInvoiceDraft } from '@/books/billing/drafts';
import { setFeeStep } from '@/books/channels/set-fee-step';
import type { Command } from '@/books/command';
import { addDimension, setDimensionValue } from '@/books/dimensions/dimensions';
import { denyDoubled, mendDoubled } from '@/books/doubled/mend';
import { closeThrough } from '@/books/ledger/close';
import { reverseReceipts } from '@/books/ledger/reverse';
import { setMapDefault } from '@/books/map/defaults';
import { repostReceipts } from '@/books/map/repost';
import { moveMapRule, removeMapRule, saveMapRule } from '@/books/map/rules';
import { confirmByRules, confirmMatch, confirmProven } from '@/books/matching/confirm';
import { setDayCut } from '@/books/matching/day-cuts';
import { forgetBankName, keepBankName } from '@/books/matching/bank-names';
import { forgetLearnt } from '@/books/matching/learnt';
import { workingSheet } from '@/books/matching/sheet';
import { moveStatementRule, removeStatementRule, saveStatementRule } from '@/books/matching/statement-rules';
import { takeApart } from '@/books/matching/take-apart';
import { mergePayers } from '@/books/payers/same';
import { postReceipts } from '@/books/receipts/post';
import { setAside, setLanding, takeBackAside } from '@/books/receipts/set-aside';
import { settleInvoices } from '@/books/settling/settle';
import { keepAccount } from '@/books/setup/accounts';
import { keepTerms } from '@/books/setup/list-commands';
import { provenLines } from '@/books/statements/list';
import { setLinesAside, takeLinesBack } from '@/books/statements/set-aside';
import { plainDate } from '@/core/calendar';
import type { AccountId } from '@/core/ledger';
import { minor } from '@/core/money';
import { bill } from './bills';
import type { World } from './world';

const one = (list: readonly number[], pick: number) => list[pick % list.length];

/** A command with its input; null where nothing of the kind can be done just then. */
type Wanted = readonly [Command<never, unknown>, unknown] | null;
const want = <I>(command: Command<I, unknown>, input: NoInfer<I> | undefined): Wanted =>
  input === undefined ? null : [command as unknown as Command<never, unknown>, input];
/** Something that is done to one of these; nothing where there is none. */
const toOne = <I>(
  command: Command<I, unknown>,
  list: readonly number[],
  pick: number,
  input: (id: number) => NoInfer<I>,
): Wanted => {
  const id = one(list, pick);
  return id === undefined ? null : want(command, input(id));
};

const statementRule = (name: string, text: string, account: AccountId) => ({
  id: null,
  name,
  active: true,
  conditions: { texts: [{ how: 'words' as const, text }] },
  result: { account, dimensions: {}, taxCode: null, payer: null, byNumber: [] },
});

/** Everything somebody may do in these books, of which what fits the moment is done. Each is told which one by a number. */
export function deedsIn(world: World): Readonly<Record<string, (pick: number) => Promise<Wanted>>> {
  const db = () => world.books.reader;
  const ids = async (from: string): Promise<number[]> =>
    (await sql<{ id: number }>`SELECT id FROM ${sql.raw(from)} ORDER BY id`.execute(db())).rows.map(({ id }) => id);
  const accountOf = async (kind: 'income' | 'expense', pick: number) =>
    one(await ids(`account WHERE class = '${kind}' AND role IS NULL`), pick) as AccountId;

  return {
    'post receipts': () => Promise.resolve(want(postReceipts, { filter: {} })),
    'reverse one receipt': async (n) =>
      toOne(reverseReceipts, await ids('receipt WHERE journal_id IS NOT NULL'), n, (id) => ({ ids: [id] })),
    'set a receipt aside': async (n) =>
      toOne(setAside, await ids('receipt WHERE journal_id IS NULL AND aside IS NULL'), n, (id) => ({
        ids: [id],
        reason: 'a test',
      })),
    'take a receipt back': async (n) =>
      toOne(takeBackAside, await ids('receipt WHERE aside IS NOT NULL'), n, (id) => ({ ids: [id] })),
    'say where a receipt lands': async (n) => {
      const income = await accountOf('income', n + 1);
      return toOne(setLanding, await ids('receipt'), n, (receipt) => ({ receipt, landing: { income } }));
    },
    'post receipts again by the map': async () => {
      const posted = await ids('receipt WHERE journal_id IS NOT NULL AND match_id IS NULL AND payout_id IS NULL');
      return posted.length === 0 ? null : want(repostReceipts, { ids: posted });
    },
    'confirm all proven': async () => {
      const lines = (await provenLines(db())).map(({ id }) => id);
      return lines.length === 0 ? null : want(confirmProven, { lines });
    },
    'confirm one as it is laid': async (n) => {
      const line = one(await ids('statement_line WHERE match_id IS NULL AND aside IS NULL'), n);
      const sheet = line === undefined ? null : await workingSheet(db(), line);
      if (!sheet || sheet.parts.length === 0) return null;
      const parts = sheet.parts.map(({ kind, id, net }) =>
        kind === 'payout' || kind === 'receipt' || kind === 'line'
          ? { kind, id }
          : { kind, id, amount: net, dimensions: {}, taxCode: null, rule: null, ruleId: null, payer: null },
      );
      return want(confirmMatch, { line: sheet.line.id, parts: parts as never, restTo: sheet.restTo });
    },
    'book one to income': async (n) => {
      const income = await accountOf('income', 0);
      return toOne(
        confirmMatch,
        await ids('statement_line WHERE match_id IS NULL AND aside IS NULL AND amount > 0'),
        n,
        (line) => ({ line, parts: [], restTo: income }),
      );
    },
    'count one once': async (n) =>
      toOne(mendDoubled, await ids('(SELECT statement_line_id AS id FROM doubled WHERE denied = 0)'), n, (line) => ({
        line,
      })),
    'say that one is other money': async (n) =>
      toOne(denyDoubled, await ids('(SELECT statement_line_id AS id FROM doubled WHERE denied = 0)'), n, (line) => ({
        line,
        denied: true,
      })),
    'take one apart': async (n) =>
      toOne(takeApart, await ids('match WHERE undone_at IS NULL'), n, (match) => ({ match })),
    'set a line aside': async (n) =>
      toOne(setLinesAside, await ids('statement_line WHERE match_id IS NULL AND aside IS NULL'), n, (id) => ({
        ids: [id],
        reason: 'private',
      })),
    'take a line back': async (n) =>
      toOne(takeLinesBack, await ids('statement_line WHERE aside IS NOT NULL'), n, (id) => ({ ids: [id] })),
    'make a statement rule': async (n) => {
      const [name, text] = (
        [
          ['Rent', 'rent'],
          ['Who', 'who knows'],
          ['Cards', 'cd'],
        ] as const
      )[n % 3]!;
      return want(
        saveStatementRule,
        statementRule(`${name} ${n}`, text, await accountOf(n % 2 ? 'expense' : 'income', 0)),
      );
    },
    'move a statement rule': async (n) =>
      toOne(moveStatementRule, await ids('statement_rule'), n, (id) => ({ id, position: 1 })),
    'remove a statement rule': async (n) =>
      toOne(removeStatementRule, await ids('statement_rule'), n, (id) => ({ id })),
    'book all by rule': () => Promise.resolve(want(confirmByRules, {})),
    'make a map rule': async (n) =>
      want(saveMapRule, {
        id: null,
        name: `Sales ${n}`,
        active: true,
        conditions: { amountFrom: minor(1_000 * (1 + (n % 4))) },
        landing: { income: await accountOf('income', 1) },
      }),
    'move a map rule': async (n) => toOne(moveMapRule, await ids('map_rule'), n, (id) => ({ id, position: 1 })),
    'remove a map rule': async (n) => toOne(removeMapRule, await ids('map_rule'), n, (id) => ({ id })),
    'set a default': async (n) =>
      want(setMapDefault, {
        layer: 'channel',
        ref: 1,
        field: 'income',
        value: n % 3 ? await accountOf('income', 1) : null,
      }),
    'add a dimension': (n) => Promise.resolve(want(addDimension, { name: `Site ${n}`, values: ['Pier', 'Loft'] })),
    'switch a value off': async (n) =>
      toOne(setDimensionValue, await ids('dimension'), n, (dimension) => ({ dimension, name: 'Pier', active: false })),
    'agree to a fee': (n) =>
      Promise.resolve(
        want(setFeeStep, {
          channel: 1,
          since: plainDate(`2026-11-0${1 + (n % 9)}`),
          schedule: { rate: 200, fixed: 25 },
        }),
      ),
    'cut the day': (n) => Promise.resolve(want(setDayCut, { channel: 1, minute: 60 * (n % 24) })),
    'forget what was learnt': () => Promise.resolve(want(forgetLearnt, { channel: 1, upTo: plainDate('2026-11-16') })),
    'keep a bank’s name': async (n) =>
      toOne(keepBankName, await ids('payer WHERE merged_into IS NULL'), n, (payer) => ({
        payer,
        name: `P${n} AT THE BANK`,
        keep: true,
      })),
    'keep it for another': async (n) => {
      const { rows } = await sql<{
        name: string;
      }>`SELECT name FROM payer_alias WHERE at_bank = 1 ORDER BY name`.execute(db());
      const kept = rows[n % Math.max(1, rows.length)];
      return kept === undefined
        ? null
        : toOne(keepBankName, await ids('payer WHERE merged_into IS NULL'), n, (payer) => ({
            payer,
            name: kept.name,
            keep: true,
          }));
    },
    'do not hear a name again': async (n) =>
      toOne(forgetBankName, await ids('payer'), n, (payer) => ({ payer, name: `P${n}`, forget: n % 3 > 0 })),
    'merge two payers': async (n) => {
      const payers = await ids('payer WHERE merged_into IS NULL');
      const [from, into] = [one(payers, n), one(payers, n + 1)];
      return from === undefined || from === into ? null : want(mergePayers, { from, into: into! });
    },
    'write a draft': async () => {
      const [payer] = await ids('payer');
      const [item] = await ids("item WHERE code = 'repair'");
      return payer === undefined || item === undefined
        ? null
        : want(saveInvoiceDraft, { draft: null, bill: await bill(world, payer, [5_000]) });
    },
    'credit an invoice': async (n) =>
      toOne(creditInvoice, await ids('invoice WHERE journal_id IS NOT NULL'), n, (invoice) => ({
        invoice,
        lines: null,
        why: 'a test',
        issued: null,
      })),
    'settle with what is kept': async (n) => {
      const { rows } = await sql<{ receipt: number; left: number }>`
      SELECT receipt_id AS receipt, sum(amount) AS "left" FROM credit_entry WHERE receipt_id IS NOT NULL
      GROUP BY receipt_id HAVING sum(amount) > 0 ORDER BY 1`.execute(db());
      const kept = rows[n % Math.max(1, rows.length)];
      return kept === undefined
        ? null
        : toOne(settleInvoices, await ids('invoice WHERE journal_id IS NOT NULL AND paid < gross'), n, (invoice) => ({
            from: [{ receipt: kept.receipt }],
            to: [{ invoice, amount: minor(Math.min(100, kept.left)), discount: false, writeOff: minor(0) }],
            date: null,
          }));
    },
    'close a month': (n) =>
      Promise.resolve(want(closeThrough, { date: plainDate(n % 2 ? '2026-09-30' : '2026-10-31'), reopen: false })),
    'keep terms': (n) =>
      Promise.resolve(
        want(keepTerms, {
          id: null,
          name: `${n} days`,
          due_days: n,
          discount_rate: 0 as never,
          discount_days: 0,
          archived: 0,
        }),
      ),
    'keep an account': (n) =>
      Promise.resolve(want(keepAccount, { code: `69${10 + n}`, name: `Sundries ${n}`, class: 'expense' } as never)),
  };
}
