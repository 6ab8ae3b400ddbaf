import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { trail } from '@/books/trail/trail';
import { trailRef, type TrailKind } from '@/books/trail/ref';
import { railOf } from '@/books/today/rail';
import { worklist } from '@/books/today/worklist';
import { BooksFile } from '@/books/store';
import { loadDriftline } from '../../../demo/driftline/load';
import { loadLanternHead } from '../../../demo/lantern-head/load';
import { loadKittiwake } from '../../../demo/load';

const NOON = new Date('2026-11-16T12:00:00Z');
const DEMOS = [
  ['kittiwake', loadKittiwake],
  ['driftline', loadDriftline],
  ['lantern-head', loadLanternHead],
] as const;

let folder: string;
const opened = new Map<string, BooksFile>();
beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'nest-egg-trails-'));
  for (const [name, load] of DEMOS) {
    await load(folder, () => {});
    opened.set(name, new BooksFile(join(folder, 'books', `${name}.sqlite`)));
  }
}, 120_000);
afterAll(async () => {
  for (const books of opened.values()) await books.close();
  rmSync(folder, { recursive: true });
});

const db = (name: string) => opened.get(name)!.reader;
/** Some of a table's rows, spread over all of it. */
async function spread(
  name: string,
  table: 'invoice' | 'receipt' | 'payout' | 'statement_line' | 'journal',
  most: number,
) {
  const all = await db(name).selectFrom(table).select('id').orderBy('id').execute();
  const step = Math.max(1, Math.floor(all.length / most));
  return all.filter((_, n) => n % step === 0).map(({ id }) => id);
}

const refs = async (name: string, kind: TrailKind, id: number) =>
  (await trail(db(name), kind, id))!.stops.flatMap(({ steps, more }) => (more > 0 ? [] : steps.map(({ ref }) => ref)));

describe.each(DEMOS.map(([name]) => [name]))('the trails of %s', (name) => {
  test('whatever stands on a trail leads back to where it was entered', async () => {
    const kinds = [
      ['invoice', 'invoice'],
      ['receipt', 'receipt'],
      ['payout', 'payout'],
      ['statement_line', 'line'],
    ] as const;
    let followed = 0;
    for (const [table, kind] of kinds) {
      for (const id of await spread(name, table, 15)) {
        for (const ref of await refs(name, kind, id)) {
          const other = trailRef.parse(ref);
          // A payout or a line of very many receipts lists only some of them.
          const back = (await trail(db(name), other.kind, other.id))!;
          if (back.stops.some(({ more }) => more > 0)) continue;
          const all = back.stops.flatMap(({ steps }) => steps.map((step) => step.ref));
          expect([ref, all.includes(`${kind}:${id}`)]).toEqual([ref, true]);
          followed++;
        }
      }
    }
    expect(followed).toBeGreaterThan(20);
  });

  test('every journal of a document leads to it, and what has no document leads nowhere', async () => {
    const sources = new Map(
      (await db(name).selectFrom('journal').select(['id', 'source_kind']).execute()).map((row) => [
        row.id,
        row.source_kind,
      ]),
    );
    for (const id of await spread(name, 'journal', 80)) {
      const found = await trail(db(name), 'journal', id);
      const kind = sources.get(id)!;
      if (kind === 'opening' || kind === 'summary') continue;
      expect([id, kind, found !== null]).toEqual([id, kind, true]);
    }
  });

  test('each stop says what is there or what is awaited, and its figures are figures', async () => {
    for (const id of await spread(name, 'receipt', 25)) {
      const { stops, title } = (await trail(db(name), 'receipt', id))!;
      expect(title).not.toBe('');
      for (const { steps, gap } of stops) {
        expect(steps.length > 0 || gap !== null).toBe(true);
        for (const step of steps) {
          expect(Number.isSafeInteger(step.amount)).toBe(true);
          expect(step.date).toMatch(/^\d{4}-\d{2}-\d{2}$/);
        }
      }
      expect(stops.map(({ station }) => station)).toContain('Collected');
    }
  });

  test('what Today tells leads to a page of these books, worst first, with what is to be done', async () => {
    const items = await worklist(db(name), await railOf(db(name), NOON));
    expect(items.length).toBeGreaterThan(3);
    const risks = items.map(({ risk }) => ['trouble', 'waiting', 'new'].indexOf(risk));
    expect(risks).toEqual([...risks].sort((a, b) => a - b));
    for (const { title, action, href, amount } of items) {
      expect(title).not.toBe('');
      expect(action).not.toBe('');
      expect(href).toMatch(/^(owed|collected|in-transit|banked|proved|set-up)/);
      expect(amount === null || Number.isSafeInteger(amount)).toBe(true);
    }
  });
});
