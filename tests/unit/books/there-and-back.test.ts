import fc from 'fast-check';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { sql } from 'kysely';
import { runCommand } from '@/books/command';
import { invoicesImporter } from '@/books/invoices/import';
import { postInvoices } from '@/books/invoices/post';
import { receiptsImporter } from '@/books/receipts/import';
import { statementImporter } from '@/books/statements/import';
import { undoChange } from '@/books/undo';
import { loadDriftline } from '../../../demo/driftline/load';
import { loadLanternHead } from '../../../demo/lantern-head/load';
import { DESK, INVOICES, LINES } from './small-books';
import { ACTOR, DESK_HEAD, INVOICE_HEAD, statement } from './world';
import { allShown } from './all-shown';
import { deedsIn } from './deeds';
import { useWorld } from './world';

const world = useWorld();
const db = () => world.books.reader;
const deeds = deedsIn(world);

async function books(): Promise<void> {
  await world.begin();
  await world.bringIn(invoicesImporter, INVOICE_HEAD + INVOICES.join(''));
  await world.must(postInvoices, { filter: {} });
  const kept = 'K-1,receipt,2026-11-09T09:00:00Z,EUR,30.00,0.00,30.00,Payer 0,,KS-999,,,,\n';
  await world.bringIn(receiptsImporter, DESK_HEAD + DESK.join('') + kept);
  await world.bringIn(statementImporter, statement(0, ...LINES));
}

const deed = fc.tuple(fc.constantFrom(...Object.keys(deeds)), fc.nat(11));

/** Does these, one after the other; what cannot be done just then is refused or left. Gives what is to be taken back, with how it was before. */
async function doAll(list: readonly (readonly [string, number])[]) {
  const done: { what: string; audit: number; before: Record<string, string> }[] = [];
  for (const [what, pick] of list) {
    const wanted = await deeds[what]!(pick);
    if (wanted === null) continue;
    const before = await allShown(world);
    const result = await runCommand(world.books, wanted[0], wanted[1], {
      actor: ACTOR,
      now: new Date('2026-11-16T09:00:00Z'),
    });
    if (!result.ok) {
      // What is refused has changed nothing.
      expect([what, await allShown(world)]).toEqual([what, before]);
      continue;
    }
    if (result.change?.undoLabel) done.push({ what, audit: result.change.audit, before });
  }
  return done;
}

test('whatever is done is taken back step by step, and each time all lists and settings are as they were', async () => {
  const counts = new Map<string, number>();
  await fc.assert(
    fc.asyncProperty(fc.array(deed, { minLength: 6, maxLength: 10 }), async (list) => {
      await books();
      const done = await doAll([['post receipts', 0], ...list]);
      for (const { what, audit, before } of done.reverse()) {
        counts.set(what, (counts.get(what) ?? 0) + 1);
        await world.must(undoChange, { audit });
        expect([`${what}, taken back`, await allShown(world)]).toEqual([`${what}, taken back`, before]);
      }
      await world.expectSound();
    }),
    { numRuns: Number(process.env.RUNS ?? 25), seed: Number(process.env.SEED ?? 20261127), endOnFailure: true },
  );
  // Most kinds of change came about; a pool that fits nothing would hold nothing.
  expect(counts.size).toBeGreaterThan(20);
});

test('whatever is taken back can be done again, and then all lists and settings are as they were after it', async () => {
  let again = 0;
  await fc.assert(
    fc.asyncProperty(fc.array(deed, { minLength: 4, maxLength: 7 }), async (list) => {
      await books();
      for (const one of [['post receipts', 0] as const, ...list]) {
        const [done] = await doAll([one]);
        if (!done) continue;
        const after = await allShown(world);
        await world.must(undoChange, { audit: done.audit });
        expect([`${done.what}, taken back`, await allShown(world)]).toEqual([`${done.what}, taken back`, done.before]);
        const last = await db()
          .selectFrom('audit')
          .select(['id', 'undo'])
          .orderBy('id', 'desc')
          .executeTakeFirstOrThrow();
        if (last.undo === null) continue;
        await world.must(undoChange, { audit: last.id });
        expect([`${done.what}, done again`, await allShown(world)]).toEqual([`${done.what}, done again`, after]);
        again++;
      }
      await world.expectSound();
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
      fc.asyncProperty(fc.array(deed, { minLength: 3, maxLength: 6 }), async (list) => {
        await world.beginCopyOf(join(folder, 'books', `${name}.sqlite`));
        const done = await doAll(list);
        const after = await allShown(world);
        for (const { what, audit, before } of done.reverse()) {
          await world.must(undoChange, { audit });
          expect([`${what}, taken back`, await allShown(world)]).toEqual([`${what}, taken back`, before]);
          back++;
        }
        // Done again from the first to the last: the undoing of each is what is undone now.
        const { rows } = await sql<{ id: number }>`
          SELECT id FROM audit WHERE undoes IS NOT NULL AND undo IS NOT NULL
          ORDER BY id DESC LIMIT ${done.length}
        `.execute(db());
        if (rows.length === done.length) {
          for (const { id } of rows) await world.must(undoChange, { audit: id });
          expect(await allShown(world)).toEqual(after);
        }
      }),
      { numRuns: Number(process.env.RUNS ?? 5), seed: Number(process.env.SEED ?? 20261129), endOnFailure: true },
    );
    expect(back).toBeGreaterThan(5);
  });
});
