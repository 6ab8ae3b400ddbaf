import { denyDoubled, mendDoubled } from '@/books/doubled/mend';
import { invoicesImporter } from '@/books/invoices/import';
import { postInvoices } from '@/books/invoices/post';
import { confirmMatch } from '@/books/matching/confirm';
import { proposeAgain } from '@/books/matching/propose-again';
import { workingSheet } from '@/books/matching/sheet';
import { receiptsImporter } from '@/books/receipts/import';
import { postReceipts } from '@/books/receipts/post';
import { statementImporter } from '@/books/statements/import';
import { lineRows } from '@/books/statements/list';
import type { AccountId } from '@/core/ledger';
import fc from 'fast-check';
import { sql } from 'kysely';
import { DESK as SMALL_DESK, INVOICES, LINES } from './small-books';
import { DESK_HEAD, INVOICE_HEAD, statement, useWorld } from './world';
import { bookedTo, payoutRow, receiptRow } from './written-rows';

const world = useWorld();
let income: AccountId;
beforeEach(async () => {
  income = await world.account('4010');
});

const db = () => world.books.reader;
const lineOf = (text: string) => world.id('statement_line', text);
/** Books a deposit to an account by itself, past what explains it. */
const bookTo = async (text: string, amount: number, account = income) =>
  (await world.must(confirmMatch, { line: await lineOf(text), parts: [bookedTo(account, amount)], restTo: null }))
    .match;
/** A receipt and the payout that it went in, of the same day. */
const paidOut = (no: number, day: string, gross: number, fee: number) =>
  receiptRow(`R-${no}`, day, gross, fee, `P-${no}`) + payoutRow(`P-${no}`, day, gross - fee);

test('in whichever order things come and are said, no payout and no receipt counts twice with two deposits', async () => {
  // Deposits of two amounts, two of them naming a payout; two payouts of the one amount, one of the other.
  const deposits = [
    ['CARDS P-1', 9_785],
    ['TAKINGS', 9_785],
    ['MORE TAKINGS', 9_785],
    ['CARDS P-3', 4_000],
    ['SHOP', 4_000],
  ] as const;
  const desk = [
    paidOut(1, '2026-11-02', 10_000, 215),
    paidOut(2, '2026-11-03', 10_000, 215),
    paidOut(3, '2026-11-03', 4_100, 100),
  ];
  const steps: Readonly<Record<string, (n: number) => Promise<unknown>>> = {
    'one is booked to income': async (n) => {
      const [text, amount] = deposits[n % 5]!;
      const { rows } = await sql<{
        id: number;
      }>`SELECT id FROM statement_line WHERE text = ${text} AND match_id IS NULL`.execute(db());
      if (rows[0])
        await world.must(confirmMatch, {
          line: rows[0].id,
          parts: [bookedTo(income, amount)],
          restTo: null,
        });
    },
    'receipts come': async (n) => {
      await world.bringIn(receiptsImporter, DESK_HEAD + desk[n % 3]!);
      await world.must(postReceipts, { filter: {} });
    },
    'one is other money': async (n) => {
      const found = await lineRows(db(), { state: 'doubled' }, null, 10);
      if (found.length > 0) await world.must(denyDoubled, { line: found[n % found.length]!.id, denied: true });
    },
    'the last is taken back': () => world.undoLast().catch(() => undefined),
    'all is asked again': () => world.must(proposeAgain, {}),
  };
  const step = fc.tuple(fc.constantFrom(...Object.keys(steps)), fc.nat(14));
  let seen = 0;
  await fc.assert(
    fc.asyncProperty(
      fc.array(fc.nat(4), { maxLength: 5 }),
      fc.array(step, { minLength: 4, maxLength: 12 }),
      async (booked, list) => {
        await world.begin();
        await world.bringIn(
          statementImporter,
          statement(0, ...deposits.map(([text, amount]) => ['2026-11-05', amount, text] as const)),
        );
        for (const n of booked) await steps['one is booked to income']!(n);
        for (const [what, n] of list) {
          await steps[what]!(n);
          const { rows } = await sql<{ thing: string; deposits: number }>`
          SELECT x.kind || ' ' || x.ref_id AS thing, count(*) AS deposits FROM doubled d
          JOIN doubled_part x ON x.statement_line_id = d.statement_line_id
          WHERE d.denied = 0 AND x.kind <> 'invoice' GROUP BY 1 HAVING count(*) > 1
        `.execute(db());
          expect([what, rows]).toEqual([what, []]);
          seen += (await lineRows(db(), { state: 'doubled' }, null, 10)).length;
        }
      },
    ),
    { numRuns: 15 },
  );
  // It came to it at all.
  expect(seen).toBeGreaterThan(0);
});

describe('whichever deposits were booked first', () => {
  /** What a line is made of, by kind and name, where that is sure enough to count. */
  const laidNow = async (text: string): Promise<readonly string[] | null> => {
    const sheet = (await workingSheet(db(), await lineOf(text)))!;
    if (sheet.confirmed) return sheet.confirmed.doubled?.parts.map(({ title }) => title) ?? null;
    return sheet.certainty === 'proven' || sheet.certainty === 'probable'
      ? sheet.parts.map(({ title }) => title)
      : null;
  };
  const into = LINES.filter(([, amount]) => amount > 0).map(([, , text]) => text);
  const amountOf = new Map(LINES.map(([, amount, text]) => [text as string, amount]));
  const bringInAll = async (booked: readonly string[]) => {
    await world.bringIn(statementImporter, statement(0, ...LINES));
    for (const text of booked) await bookTo(text, amountOf.get(text)!);
    await world.bringIn(invoicesImporter, INVOICE_HEAD + INVOICES.join(''));
    await world.must(postInvoices, { filter: {} });
    await world.bringIn(receiptsImporter, DESK_HEAD + SMALL_DESK.join(''));
    await world.must(postReceipts, { filter: {} });
  };

  test('each that may count twice is named with just what would have been laid, and counted once it is as if it had been', async () => {
    await bringInAll([]);
    const free = new Map(await Promise.all(into.map(async (text) => [text, await laidNow(text)] as const)));
    const once = (await world.balances())['4010'];
    const named = into.filter((text) => /P-\d|KS-\d/.test(text));
    expect(named.length).toBeGreaterThan(1);
    await fc.assert(
      fc.asyncProperty(fc.subarray(into, { minLength: 1 }), async (booked) => {
        await world.begin();
        await bringInAll(booked);
        const found = new Map(await Promise.all(booked.map(async (text) => [text, await laidNow(text)] as const)));
        for (const [text, parts] of found) if (parts) expect([text, parts]).toEqual([text, free.get(text)]);
        // What the bank names is found, whatever else was booked.
        for (const text of booked.filter((one) => named.includes(one)))
          expect([text, found.get(text)]).toEqual([text, free.get(text)]);
        for (const text of booked) if (await laidNow(text)) await world.must(mendDoubled, { line: await lineOf(text) });
        const left = booked.filter((text) => !found.get(text)).reduce((sum, text) => sum + amountOf.get(text)!, 0);
        expect((await world.balances())['4010']).toBe(once! - left);
        await world.expectSound();
      }),
      { numRuns: 15 },
    );
  });
});
