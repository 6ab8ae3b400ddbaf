import fc from 'fast-check';
import { sql } from 'kysely';
import { invoicesImporter } from '@/books/invoices/import';
import { postInvoices } from '@/books/invoices/post';
import { confirmMatch, confirmProven } from '@/books/matching/confirm';
import { proposeAgain } from '@/books/matching/propose-again';
import { workingSheet } from '@/books/matching/sheet';
import { takeApart } from '@/books/matching/take-apart';
import { receiptsImporter } from '@/books/receipts/import';
import { postReceipts } from '@/books/receipts/post';
import { statementImporter } from '@/books/statements/import';
import { setLinesAside, takeLinesBack } from '@/books/statements/set-aside';
import { provenLines } from '@/books/statements/list';
import { addDays, plainDate } from '@/core/calendar';
import { minor } from '@/core/money';
import { day, DESK, INVOICES, LINES } from './small-books';
import { money } from './written-rows';
import { DESK_HEAD, INVOICE_HEAD, statement, useWorld } from './world';

const world = useWorld();
const db = () => world.books.reader;

/** All that is proposed, line by line, in an order of its own. */
async function proposed(): Promise<unknown[]> {
  const heads = await sql`SELECT statement_line_id, certainty, reasons FROM proposal ORDER BY 1`.execute(db());
  const parts = await sql`
    SELECT statement_line_id, rank, kind, ref_id, amount FROM proposal_part ORDER BY 1, 2, 3, 4
  `.execute(db());
  return [heads.rows, parts.rows];
}

/** The small books, with all of it posted before the bank's lines came; other lines that wait stand before them. */
async function smallBooks(others: readonly (readonly [string, number, string])[] = []): Promise<void> {
  await world.begin();
  await world.bringIn(invoicesImporter, INVOICE_HEAD + INVOICES.join(''));
  await world.must(postInvoices, { filter: {} });
  await world.bringIn(receiptsImporter, DESK_HEAD + DESK.join(''));
  await world.must(postReceipts, { filter: {} });
  await world.bringIn(statementImporter, statement(0, ...others, ...LINES));
}

/** One thing that somebody does; what cannot be done just then is not done. */
type Deed = (pick: number) => Promise<unknown>;
const lines = async (where: 'free' | 'aside') =>
  (
    await sql<{
      id: number;
    }>`
      SELECT id FROM statement_line
      WHERE match_id IS NULL AND aside IS ${where === 'free' ? sql`NULL` : sql`NOT NULL`} ORDER BY id
    `.execute(db())
  ).rows.map(({ id }) => id);
const DEEDS: Readonly<Record<string, Deed>> = {
  'confirm one as it is laid': async (pick) => {
    const free = await lines('free');
    const sheet = free.length === 0 ? null : await workingSheet(db(), free[pick % free.length]!);
    if (!sheet || sheet.parts.length === 0) return;
    const parts = sheet.parts.map(({ kind, id, net }) =>
      kind === 'invoice' ? { kind, id, amount: net } : { kind, id },
    ) as never;
    await world.run(confirmMatch, { line: sheet.line.id, parts, restTo: sheet.restTo });
  },
  'confirm all proven': async () => {
    const proven = (await provenLines(db())).map(({ id }) => id);
    if (proven.length > 0) await world.run(confirmProven, { lines: proven });
  },
  'take one apart': async (pick) => {
    const { rows } = await sql<{ id: number }>`SELECT id FROM match WHERE undone_at IS NULL ORDER BY id`.execute(db());
    if (rows.length > 0) await world.run(takeApart, { match: rows[pick % rows.length]!.id });
  },
  'set one aside': async (pick) => {
    const free = await lines('free');
    if (free.length > 0) await world.run(setLinesAside, { ids: [free[pick % free.length]!], reason: 'not ours' });
  },
  'take one back': async (pick) => {
    const aside = await lines('aside');
    if (aside.length > 0) await world.run(takeLinesBack, { ids: [aside[pick % aside.length]!] });
  },
  'take the last change back': async () => {
    await world.undoLast().catch(() => undefined);
  },
};

test('whatever is done, what is proposed is what asking all again would propose', async () => {
  const deed = fc.tuple(fc.constantFrom(...Object.keys(DEEDS)), fc.nat(20));
  await fc.assert(
    fc.asyncProperty(fc.array(deed, { minLength: 1, maxLength: 6 }), async (deeds) => {
      await smallBooks();
      for (const [what, pick] of deeds) {
        await DEEDS[what]!(pick);
        const kept = await proposed();
        await world.must(proposeAgain, {});
        expect([what, await proposed()]).toEqual([what, kept]);
      }
      await world.expectSound();
    }),
    { numRuns: 20 },
  );
});

/** Lines that nothing explains, more than are asked again for every change. */
const FILLER = Array.from({ length: 1_100 }, (_, n) => [day(1 + (n % 14)), 500_000 + n, `FILLER ${n}`] as const);

test('nor is anything else proposed where many lines wait and few are asked: statements of any days, and what is done with them', async () => {
  const line = fc.tuple(fc.nat(40), fc.constantFrom(...LINES));
  const deed = fc.tuple(fc.constantFrom(...Object.keys(DEEDS)), fc.nat(FILLER.length + 20));
  const step = fc.tuple(fc.array(line, { minLength: 1, maxLength: 4 }), deed);
  await fc.assert(
    fc.asyncProperty(fc.array(step, { minLength: 1, maxLength: 3 }), async (steps) => {
      await smallBooks(FILLER);
      let no = 0;
      const same = async (what: string) => {
        const kept = await proposed();
        await world.must(proposeAgain, {});
        expect([what, await proposed()]).toEqual([what, kept]);
      };
      for (const [lines, [what, pick]] of steps) {
        // The same money again, up to four months before.
        const rows = lines.map(
          ([back, [, amount, text]]) =>
            [addDays(plainDate('2026-11-14'), -3 * back), amount, `${text} ${no++}`] as const,
        );
        await world.bringIn(statementImporter, statement(0, ...rows.sort(([a], [b]) => (a < b ? -1 : 1))));
        await same('a statement');
        await DEEDS[what]!(pick);
        await same(what);
      }
      await world.expectSound();
    }),
    { numRuns: 6 },
  );
});

describe('with more lines waiting than are asked for every change', () => {
  beforeEach(async () => {
    const invoice = (n: number) =>
      `KS-${900 + n},Payer ${n},,2026-10-01,2026-11-01,EUR,repair,${money(10_000 + n)},S23,\n`;
    await world.bringIn(invoicesImporter, INVOICE_HEAD + [0, 1, 2].map(invoice).join(''));
    await world.must(postInvoices, { filter: {} });
    const desk = [0, 1].map(
      (n) =>
        `R-${n},receipt,2026-11-05T1${n}:00:00Z,EUR,41.00,1.00,40.00,,,,,,P-${n},\nP-${n},payout,2026-11-06T05:0${n}:00Z,EUR,-40.00,,-40.00,,,,,,,\n`,
    );
    await world.bringIn(receiptsImporter, DESK_HEAD + desk.join(''));
    await world.must(postReceipts, { filter: {} });
    await world.bringIn(
      statementImporter,
      statement(
        0,
        ...FILLER,
        [day(10), 4_000, 'CD ONE'],
        [day(10), 4_000, 'CD TWO'],
        [day(11), 12_300, 'SOMEBODY KS-900 X'],
      ),
    );
  });

  const sheetOf = async (text: string) => (await workingSheet(db(), await world.id('statement_line', text)))!;

  test('two equal deposits of two equal payouts: once one is decided, the other is told', async () => {
    expect((await sheetOf('CD ONE')).certainty).toBe('open');
    const [first, second] = [await world.id('payout', 'P-0'), await world.id('payout', 'P-1')];
    const { match } = await world.must(confirmMatch, {
      line: await world.id('statement_line', 'CD ONE'),
      parts: [{ kind: 'payout', id: first }],
      restTo: null,
    });
    const other = await sheetOf('CD TWO');
    expect(other.certainty).toBe('proven');
    expect(other.parts.map(({ id }) => id)).toEqual([second]);
    await world.must(takeApart, { match });
    expect((await sheetOf('CD TWO')).certainty).toBe('open');
    expect((await sheetOf('CD ONE')).certainty).toBe('open');
  });

  test('a line that is set aside leaves the other of its amount alone with what it may be', async () => {
    await world.must(setLinesAside, { ids: [await world.id('statement_line', 'CD ONE')], reason: 'a slip' });
    expect((await sheetOf('CD TWO')).certainty).toBe('open');
    await world.undoLast();
    expect((await sheetOf('CD ONE')).certainty).toBe('open');
  });

  test('a line of the same amount, of weeks before, takes nothing from the sheet', async () => {
    const before = await sheetOf('SOMEBODY KS-900 X');
    expect([before.certainty, before.parts.map(({ title }) => title)]).toEqual([
      'proven',
      ['Invoice KS-900 · Payer 0'],
    ]);
    await world.bringIn(statementImporter, statement(0, ['2026-09-20', 12_300, 'SOMETHING ELSE']));
    const after = await sheetOf('SOMEBODY KS-900 X');
    expect([after.certainty, after.parts, after.because]).toEqual([before.certainty, before.parts, before.because]);
    expect((await sheetOf('SOMETHING ELSE')).parts).toEqual([]);
  });

  test('two lines that want one invoice are weighed together, however far apart', async () => {
    await world.bringIn(statementImporter, statement(0, ['2026-10-05', 12_300, 'PAID KS-900']));
    const told = await Promise.all(
      ['SOMEBODY KS-900 X', 'PAID KS-900'].map(async (text) => (await sheetOf(text)).certainty),
    );
    expect(told).toEqual(['open', 'open']);
    const kept = await proposed();
    await world.must(proposeAgain, {});
    expect(await proposed()).toEqual(kept);
    // One of them settles it, and what the other is then is asked.
    const invoice = await world.id('invoice', 'KS-900');
    await world.must(confirmMatch, {
      line: await world.id('statement_line', 'PAID KS-900'),
      parts: [{ kind: 'invoice', id: invoice, amount: minor(12_300) }],
      restTo: null,
    });
    expect((await sheetOf('SOMEBODY KS-900 X')).parts).toEqual([]);
  });

  test('what is asked again and is as it was is not written again', async () => {
    const { handle } = world.books.staging();
    handle.exec(`
      CREATE TEMP TABLE written (line INTEGER, what TEXT);
      CREATE TEMP TRIGGER said AFTER INSERT ON main.proposal BEGIN INSERT INTO temp.written VALUES (NEW.statement_line_id, 'said'); END;
      CREATE TEMP TRIGGER unsaid AFTER DELETE ON main.proposal BEGIN INSERT INTO temp.written VALUES (OLD.statement_line_id, 'unsaid'); END;
    `);
    const written = () => handle.prepare('SELECT line, what FROM temp.written ORDER BY rowid').raw().all();
    await world.must(proposeAgain, {});
    expect(written()).toEqual([]);
    const [one, two] = [await world.id('statement_line', 'CD ONE'), await world.id('statement_line', 'CD TWO')];
    await world.must(confirmMatch, {
      line: one,
      parts: [{ kind: 'payout', id: await world.id('payout', 'P-0') }],
      restTo: null,
    });
    // What is confirmed is said no more; of what is left, the other deposit has but one payout.
    expect(written()).toEqual([
      [one, 'unsaid'],
      [two, 'unsaid'],
      [two, 'said'],
    ]);
  });

  test('what lies on another sheet is asked again, and nothing else is touched', async () => {
    const before = await sql`
      SELECT statement_line_id, certainty, reasons FROM proposal WHERE amount >= 500000 ORDER BY 1
    `.execute(db());
    const invoice = await db()
      .selectFrom('invoice')
      .selectAll()
      .where('number', '=', 'KS-900')
      .executeTakeFirstOrThrow();
    expect((await sheetOf('SOMEBODY KS-900 X')).parts).toMatchObject([{ kind: 'invoice', id: invoice.id }]);
    // Settled by a line that does not name it, it is nobody else's any more.
    await world.must(confirmMatch, {
      line: await world.id('statement_line', 'FILLER 7'),
      parts: [{ kind: 'invoice', id: invoice.id, amount: minor(invoice.gross) }],
      restTo: await world.account('6110'),
    });
    expect((await sheetOf('SOMEBODY KS-900 X')).parts).toEqual([]);
    const after = await sql`
      SELECT statement_line_id, certainty, reasons FROM proposal WHERE amount >= 500000 ORDER BY 1
    `.execute(db());
    const confirmed = await world.id('statement_line', 'FILLER 7');
    expect(after.rows).toEqual(
      before.rows.filter((row) => (row as { statement_line_id: number }).statement_line_id !== confirmed),
    );
  });
});

test('lines that were set aside for different reasons get them back when they are taken back and that is undone', async () => {
  await smallBooks();
  const [rent, who] = [await world.id('statement_line', 'RENT'), await world.id('statement_line', 'WHO KNOWS')];
  await world.must(setLinesAside, { ids: [rent], reason: 'rent' });
  await world.must(setLinesAside, { ids: [who], reason: 'a riddle' });
  await world.must(takeLinesBack, { ids: [rent, who] });
  await world.undoLast();
  const asides = await sql<{
    id: number;
    aside: string;
  }>`SELECT id, aside FROM statement_line WHERE aside IS NOT NULL ORDER BY id`.execute(db());
  expect(asides.rows).toEqual([
    { id: rent, aside: 'rent' },
    { id: who, aside: 'a riddle' },
  ]);
  await world.undoLast();
  expect(await lines('aside')).toEqual([]);
});
