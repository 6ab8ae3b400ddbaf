import fc from 'fast-check';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { sql } from 'kysely';
import { creditInvoice } from '@/books/billing/credit';
import { saveInvoiceDraft } from '@/books/billing/drafts';
import { setFeeStep } from '@/books/channels/set-fee-step';
import { runCommand, type Command } from '@/books/command';
import { addDimension, setDimensionValue } from '@/books/dimensions/dimensions';
import { denyDoubled, mendDoubled } from '@/books/doubled/mend';
import { invoicesImporter } from '@/books/invoices/import';
import { postInvoices } from '@/books/invoices/post';
import { closeThrough } from '@/books/ledger/close';
import { reverseReceipts } from '@/books/ledger/reverse';
import { exportCsv } from '@/books/lists/export';
import { setMapDefault } from '@/books/map/defaults';
import { repostReceipts } from '@/books/map/repost';
import { moveMapRule, removeMapRule, saveMapRule } from '@/books/map/rules';
import { confirmByRules, confirmMatch, confirmProven } from '@/books/matching/confirm';
import { setDayCut } from '@/books/matching/day-cuts';
import { forgetLearnt, keepBankName } from '@/books/matching/learnt';
import { workingSheet } from '@/books/matching/sheet';
import { moveStatementRule, removeStatementRule, saveStatementRule } from '@/books/matching/statement-rules';
import { takeApart } from '@/books/matching/take-apart';
import { mergePayers } from '@/books/payers/same';
import { receiptsImporter } from '@/books/receipts/import';
import { postReceipts } from '@/books/receipts/post';
import { setAside, setLanding, takeBackAside } from '@/books/receipts/set-aside';
import { settleInvoices } from '@/books/settling/settle';
import { keepAccount } from '@/books/setup/accounts';
import { keepTerms } from '@/books/setup/list-commands';
import { statementImporter } from '@/books/statements/import';
import { provenLines } from '@/books/statements/list';
import { setLinesAside, takeLinesBack } from '@/books/statements/set-aside';
import { undoChange } from '@/books/undo';
import { plainDate } from '@/core/calendar';
import type { AccountId } from '@/core/ledger';
import { minor } from '@/core/money';
import { loadDriftline } from '../../../demo/driftline/load';
import { loadLanternHead } from '../../../demo/lantern-head/load';
import { bill } from './bills';
import { DESK, INVOICES, LINES } from './small-books';
import { ACTOR, DESK_HEAD, INVOICE_HEAD, statement, World } from './world';

let world: World;
const db = () => world.books.reader;

const LISTS = ['invoices', 'receipts', 'payers', 'payouts', 'lines', 'ageing', 'trial-balance', 'deposit-income', 'items', 'terms', 'charged-otherwise'] as const; // prettier-ignore
/** The rows of settings, which no list exports: as they are kept, but for when and by whom. */
const KEPT = {
  statement_rule: 'position, name, active, conditions, result',
  map_rule: 'position, name, active, conditions, landing',
  map_default: 'layer, ref_id, field, value',
  dimension: 'id, name',
  dimension_value: 'dimension_id, name, active',
  fee_step: 'channel_id, since, rate, fixed, learnt',
  channel: 'id, name, payout_days, day_cut',
  account: 'code, name, class',
  payer_alias: 'payer_id, name',
  doubled: 'statement_line_id, certainty, denied',
  books: 'closed_through',
} as const;

/** All that the pages show of the books, but for the numbers of journals: what is taken back is written too. */
async function state(): Promise<Record<string, string>> {
  const shown: Record<string, string> = {};
  for (const list of LISTS) {
    const search: Record<string, string> = { state: list === 'lines' ? 'all' : '', channel: '1' };
    if (list !== 'lines') delete search.state;
    const context = { books: world.books, currency: 'EUR' as never, today: plainDate('2026-11-16'), search, fileBytes: () => { throw new Error('no file is asked for'); } }; // prettier-ignore
    let text = '';
    for await (const part of exportCsv(list, context)!) text += part;
    // Of receipts the last column is the journal: whether there is one is what counts. What is taken back was moved, there and back.
    if (list === 'receipts') text = text.replace(/,\d+$/gm, ',posted');
    if (list === 'trial-balance') text = text.replace(/,[\d.]+,[\d.]+,(-?[\d.]+)$/gm, ',$1');
    // An account that entries made stays, since they do; what counts is that nothing is on it.
    shown[list] = text.replace(/^\d+,Transfers in transit,asset,0\.00\r?\n/m, '');
  }
  for (const [table, columns] of Object.entries(KEPT)) {
    const { rows } = await sql`SELECT ${sql.raw(columns)} FROM ${sql.table(table)} ORDER BY ${sql.raw(columns)}`.execute(db()); // prettier-ignore
    shown[table] = JSON.stringify(rows).replace(/\{"code":"\d+","name":"Transfers in transit","class":"asset"\},/, '');
  }
  return shown;
}

const ids = async (from: string): Promise<number[]> =>
  (await sql<{ id: number }>`SELECT id FROM ${sql.raw(from)} ORDER BY id`.execute(db())).rows.map(({ id }) => id);
const one = (list: readonly number[], pick: number) => list[pick % list.length];
const accountOf = async (kind: 'income' | 'expense', pick: number) => one(await ids(`account WHERE class = '${kind}' AND role IS NULL`), pick) as AccountId; // prettier-ignore

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
  // prettier-ignore
  const id = one(list, pick);
  return id === undefined ? null : want(command, input(id));
};

const statementRule = (name: string, text: string, account: AccountId) => ({ id: null, name, active: true, conditions: { texts: [{ how: 'words' as const, text }] }, result: { account, dimensions: {}, taxCode: null, payer: null, byNumber: [] } }); // prettier-ignore

/** Everything somebody may do, of which what fits the moment is done. */
const DEEDS: Readonly<Record<string, (pick: number) => Promise<Wanted>>> = {
  'post receipts': () => Promise.resolve(want(postReceipts, { filter: {} })),
  'reverse one receipt': async (n) => toOne(reverseReceipts, await ids('receipt WHERE journal_id IS NOT NULL'), n, (id) => ({ ids: [id] })), // prettier-ignore
  'set a receipt aside': async (n) => toOne(setAside, await ids('receipt WHERE journal_id IS NULL AND aside IS NULL'), n, (id) => ({ ids: [id], reason: 'a test' })), // prettier-ignore
  'take a receipt back': async (n) => toOne(takeBackAside, await ids('receipt WHERE aside IS NOT NULL'), n, (id) => ({ ids: [id] })), // prettier-ignore
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
    const parts = sheet.parts.map(({ kind, id, net }) => (kind === 'payout' || kind === 'receipt' || kind === 'line' ? { kind, id } : { kind, id, amount: net, dimensions: {}, taxCode: null, rule: null, ruleId: null, payer: null })); // prettier-ignore
    return want(confirmMatch, { line: sheet.line.id, parts: parts as never, restTo: sheet.restTo });
  },
  'book one to income': async (n) => {
    const income = await accountOf('income', 0);
    return toOne(confirmMatch, await ids('statement_line WHERE match_id IS NULL AND aside IS NULL AND amount > 0'), n, (line) => ({ line, parts: [], restTo: income })); // prettier-ignore
  },
  'count one once': async (n) => toOne(mendDoubled, await ids('(SELECT statement_line_id AS id FROM doubled WHERE denied = 0)'), n, (line) => ({ line })), // prettier-ignore
  'say that one is other money': async (n) => toOne(denyDoubled, await ids('(SELECT statement_line_id AS id FROM doubled WHERE denied = 0)'), n, (line) => ({ line, denied: true })), // prettier-ignore
  'take one apart': async (n) => toOne(takeApart, await ids('match WHERE undone_at IS NULL'), n, (match) => ({ match })), // prettier-ignore
  'set a line aside': async (n) => toOne(setLinesAside, await ids('statement_line WHERE match_id IS NULL AND aside IS NULL'), n, (id) => ({ ids: [id], reason: 'private' })), // prettier-ignore
  'take a line back': async (n) => toOne(takeLinesBack, await ids('statement_line WHERE aside IS NOT NULL'), n, (id) => ({ ids: [id] })), // prettier-ignore
  'make a statement rule': async (n) => {
    const [name, text] = ([['Rent', 'rent'], ['Who', 'who knows'], ['Cards', 'cd']] as const)[n % 3]!; // prettier-ignore
    return want(
      saveStatementRule,
      statementRule(`${name} ${n}`, text, await accountOf(n % 2 ? 'expense' : 'income', 0)),
    );
  },
  'move a statement rule': async (n) => toOne(moveStatementRule, await ids('statement_rule'), n, (id) => ({ id, position: 1 })), // prettier-ignore
  'remove a statement rule': async (n) => toOne(removeStatementRule, await ids('statement_rule'), n, (id) => ({ id })),
  'book all by rule': () => Promise.resolve(want(confirmByRules, {})),
  'make a map rule': async (n) => want(saveMapRule, { id: null, name: `Sales ${n}`, active: true, conditions: { amountFrom: minor(1_000 * (1 + (n % 4))) }, landing: { income: await accountOf('income', 1) } }), // prettier-ignore
  'move a map rule': async (n) => toOne(moveMapRule, await ids('map_rule'), n, (id) => ({ id, position: 1 })),
  'remove a map rule': async (n) => toOne(removeMapRule, await ids('map_rule'), n, (id) => ({ id })),
  'set a default': async (n) => want(setMapDefault, { layer: 'channel', ref: 1, field: 'income', value: n % 3 ? await accountOf('income', 1) : null }), // prettier-ignore
  'add a dimension': (n) => Promise.resolve(want(addDimension, { name: `Site ${n}`, values: ['Pier', 'Loft'] })),
  'switch a value off': async (n) => toOne(setDimensionValue, await ids('dimension'), n, (dimension) => ({ dimension, name: 'Pier', active: false })), // prettier-ignore
  'agree to a fee': (n) => Promise.resolve(want(setFeeStep, { channel: 1, since: plainDate(`2026-11-0${1 + (n % 9)}`), schedule: { rate: 200, fixed: 25 } })), // prettier-ignore
  'cut the day': (n) => Promise.resolve(want(setDayCut, { channel: 1, minute: 60 * (n % 24) })),
  'forget what was learnt': () => Promise.resolve(want(forgetLearnt, { channel: 1, upTo: plainDate('2026-11-16') })),
  'keep a bank’s name': async (n) => toOne(keepBankName, await ids('payer WHERE merged_into IS NULL'), n, (payer) => ({ payer, name: `P${n} AT THE BANK`, keep: true })), // prettier-ignore
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
  'credit an invoice': async (n) => toOne(creditInvoice, await ids('invoice WHERE journal_id IS NOT NULL'), n, (invoice) => ({ invoice, lines: null, why: 'a test', issued: null })), // prettier-ignore
  'settle with what is kept': async (n) => {
    const { rows } = await sql<{ receipt: number; left: number }>`
      SELECT receipt_id AS receipt, sum(amount) AS "left" FROM credit_entry WHERE receipt_id IS NOT NULL
      GROUP BY receipt_id HAVING sum(amount) > 0 ORDER BY 1`.execute(db());
    const kept = rows[n % Math.max(1, rows.length)];
    return kept === undefined ? null : toOne(settleInvoices, await ids('invoice WHERE journal_id IS NOT NULL AND paid < gross'), n, (invoice) => ({ from: [{ receipt: kept.receipt }], to: [{ invoice, amount: minor(Math.min(100, kept.left)), discount: false, writeOff: minor(0) }], date: null })); // prettier-ignore
  },
  'close a month': (n) => Promise.resolve(want(closeThrough, { date: plainDate(n % 2 ? '2026-09-30' : '2026-10-31'), reopen: false })), // prettier-ignore
  'keep terms': (n) => Promise.resolve(want(keepTerms, { id: null, name: `${n} days`, due_days: n, discount_rate: 0 as never, discount_days: 0, archived: 0 })), // prettier-ignore
  'keep an account': (n) => Promise.resolve(want(keepAccount, { code: `69${10 + n}`, name: `Sundries ${n}`, class: 'expense' } as never)), // prettier-ignore
};

async function books(): Promise<void> {
  world = await World.open();
  await world.bringIn(invoicesImporter, INVOICE_HEAD + INVOICES.join(''));
  await world.must(postInvoices, { filter: {} });
  const kept = 'K-1,receipt,2026-11-09T09:00:00Z,EUR,30.00,0.00,30.00,Payer 0,,KS-999,,,,\n';
  await world.bringIn(receiptsImporter, DESK_HEAD + DESK.join('') + kept);
  await world.bringIn(statementImporter, statement(0, ...LINES));
}

const deed = fc.tuple(fc.constantFrom(...Object.keys(DEEDS)), fc.nat(11));

/** Does these, one after the other; what cannot be done just then is refused or left. Gives what is to be taken back, with how it was before. */
async function doAll(deeds: readonly (readonly [string, number])[]) {
  const done: { what: string; audit: number; before: Record<string, string> }[] = [];
  for (const [what, pick] of deeds) {
    const wanted = await DEEDS[what]!(pick);
    if (wanted === null) continue;
    const before = await state();
    const result = await runCommand(world.books, wanted[0], wanted[1], { actor: ACTOR, now: new Date('2026-11-16T09:00:00Z') }); // prettier-ignore
    if (!result.ok) {
      // What is refused has changed nothing.
      expect([what, await state()]).toEqual([what, before]);
      continue;
    }
    if (result.change?.undoLabel) done.push({ what, audit: result.change.audit, before });
  }
  return done;
}

test('whatever is done is taken back step by step, and each time all lists and settings are as they were', async () => {
  const counts = new Map<string, number>();
  await fc.assert(
    fc.asyncProperty(fc.array(deed, { minLength: 6, maxLength: 10 }), async (deeds) => {
      await books();
      try {
        const done = await doAll([['post receipts', 0], ...deeds]);
        for (const { what, audit, before } of done.reverse()) {
          counts.set(what, (counts.get(what) ?? 0) + 1);
          await world.must(undoChange, { audit });
          expect([`${what}, taken back`, await state()]).toEqual([`${what}, taken back`, before]);
        }
        await world.expectSound();
      } finally {
        await world.close();
      }
    }),
    { numRuns: Number(process.env.RUNS ?? 25), seed: Number(process.env.SEED ?? 20261127), endOnFailure: true },
  );
  // Most kinds of change came about; a pool that fits nothing would hold nothing.
  expect(counts.size).toBeGreaterThan(20);
});

test('whatever is taken back can be done again, and then all lists and settings are as they were after it', async () => {
  let again = 0;
  await fc.assert(
    fc.asyncProperty(fc.array(deed, { minLength: 4, maxLength: 7 }), async (deeds) => {
      await books();
      try {
        for (const one of [['post receipts', 0] as const, ...deeds]) {
          const [done] = await doAll([one]);
          if (!done) continue;
          const after = await state();
          await world.must(undoChange, { audit: done.audit });
          expect([`${done.what}, taken back`, await state()]).toEqual([`${done.what}, taken back`, done.before]);
          const last = await db().selectFrom('audit').select(['id', 'undo']).orderBy('id', 'desc').executeTakeFirstOrThrow(); // prettier-ignore
          if (last.undo === null) continue;
          await world.must(undoChange, { audit: last.id });
          expect([`${done.what}, done again`, await state()]).toEqual([`${done.what}, done again`, after]);
          again++;
        }
        await world.expectSound();
      } finally {
        await world.close();
      }
    }),
    { numRuns: Number(process.env.RUNS ?? 15), seed: Number(process.env.SEED ?? 20261128), endOnFailure: true },
  );
  expect(again).toBeGreaterThan(20);
});

describe('in books with several channels, daily entries, funds and another currency', () => {
  const folder = mkdtempSync(join(tmpdir(), 'nest-egg-'));
  const quiet = () => undefined;
  beforeAll(async () => {
    await loadLanternHead(folder, quiet);
    await loadDriftline(folder, quiet);
  }, 120_000);
  afterAll(() => rmSync(folder, { recursive: true }));

  test.each(['lantern-head', 'driftline'])('%s: each change is taken back, and done again', async (name) => {
    let back = 0;
    await fc.assert(
      fc.asyncProperty(fc.array(deed, { minLength: 3, maxLength: 6 }), async (deeds) => {
        world = World.copyOf(join(folder, 'books', `${name}.sqlite`));
        try {
          const done = await doAll(deeds);
          const after = await state();
          for (const { what, audit, before } of done.reverse()) {
            await world.must(undoChange, { audit });
            expect([`${what}, taken back`, await state()]).toEqual([`${what}, taken back`, before]);
            back++;
          }
          // Done again from the first to the last: the undoing of each is what is undone now.
          const { rows } = await sql<{ id: number }>`
            SELECT id FROM audit WHERE undoes IS NOT NULL AND undo IS NOT NULL ORDER BY id DESC LIMIT ${done.length}`.execute(db()); // prettier-ignore
          if (rows.length === done.length) {
            for (const { id } of rows) await world.must(undoChange, { audit: id });
            expect(await state()).toEqual(after);
          }
        } finally {
          await world.close();
        }
      }),
      { numRuns: Number(process.env.RUNS ?? 5), seed: Number(process.env.SEED ?? 20261129), endOnFailure: true },
    );
    expect(back).toBeGreaterThan(5);
  });
});
