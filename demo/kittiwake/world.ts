import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { refusalsAsFindings } from '@/formats/finding';
import type { WireMovement } from '@/formats/movements/wire';
import { readCardDeskCsv } from '@/formats/receipts/card-desk-csv';
import { csvRows } from '@/formats/table/rows';
import type { WorldSeed } from '@/standins/world';
import { KITTIWAKE } from './books';
import { PAYERS, emailOf } from './builder';

/** The last day of the demo's files: the simulated desk and bank go on from here. */
const BEGINS = '2026-11-16';
const DESK_FILES = ['card-desk-2026-09-to-10.csv', 'card-desk-2026-11-a.csv', 'card-desk-2026-11-b.csv'];
const LAST_STATEMENT = 'statement-2026-11-b.csv';

async function* bytesOf(path: string) {
  yield readFileSync(path);
}

/** The desk's movements as all its exports together have them, the later word on each. */
async function deskHistory(folder: string): Promise<WireMovement[]> {
  const byId = new Map<string, Omit<WireMovement, 'change'>>();
  for (const name of DESK_FILES) {
    for await (const { records } of refusalsAsFindings(readCardDeskCsv(bytesOf(join(folder, name))))) {
      for (const r of records) {
        byId.set(r.id, {
          id: r.id,
          kind: r.kind,
          at: r.at.toISOString(),
          currency: r.currency,
          gross: r.gross,
          tip: r.tip,
          fee: r.fee,
          payer: { id: '', name: r.payer, email: r.email },
          document: r.document,
          item: r.item,
          note: r.note,
          payout: r.payout,
          takesBack: r.refundOf,
        });
      }
    }
  }
  return [...byId.values()]
    .sort((a, b) => (a.at < b.at ? -1 : a.at > b.at ? 1 : 0))
    .map((movement, index) => ({ change: index + 1, ...movement }));
}

/** Rows of one of the demo's own CSV files, each by its column names. */
async function rowsOf(path: string): Promise<Record<string, string>[]> {
  const rows: (readonly string[])[] = [];
  for await (const batch of csvRows(bytesOf(path), ',')) rows.push(...batch.rows.map((row) => row.fields));
  const [head, ...rest] = rows;
  return rest.map((fields) => Object.fromEntries(head!.map((name, index) => [name, fields[index] ?? ''])));
}

const cents = (text: string) => Math.round(Number(text) * 100);
const highest = (ids: readonly string[], begin: string) =>
  Math.max(...ids.filter((id) => id.startsWith(begin)).map((id) => Number(id.slice(begin.length)) || 0));

/** What Kittiwake's card desk and bank begin with: all that stands in the demo's files, and what was underway then. */
export async function kittiwakeWorld(folder: string): Promise<WorldSeed> {
  const history = await deskHistory(folder);
  const ids = history.map(({ id }) => id);
  const invoices = new Map<string, { number: string; gross: number; payer: string }>();
  for (const name of ['invoices-2026-09-to-10.csv', 'invoices-2026-11-a.csv', 'invoices-2026-11-b.csv']) {
    const inFile: typeof invoices = new Map();
    for (const row of await rowsOf(join(folder, name))) {
      const one = inFile.get(row.Number!) ?? { number: row.Number!, gross: 0, payer: row.Payer! };
      inFile.set(row.Number!, { ...one, gross: one.gross + cents(row.Net!) + cents(row.Tax!) });
    }
    // An invoice that stands in two files is the same in both: the later file's lines are its lines.
    for (const [number, invoice] of inFile) invoices.set(number, invoice);
  }
  const truth = JSON.parse(readFileSync(join(folder, 'truth.json'), 'utf8')) as {
    lines: { kind: string; payout?: string; invoices?: string[] }[];
  };
  const paid = new Set([
    ...history.map((movement) => movement.document ?? ''),
    ...truth.lines.flatMap((line) => line.invoices ?? []),
  ]);
  const landed = new Set(truth.lines.flatMap((line) => (line.payout ? [line.payout] : [])));
  const payoutsUnderway = history.filter(({ kind, id }) => kind === 'payout' && !landed.has(id));
  const closing = (await rowsOf(join(folder, LAST_STATEMENT))).at(-1)!.Balance!;
  return {
    seed: 20_261_116,
    account: 'kittiwake',
    secret: 'kittiwake-desk-key-7f3a',
    begins: BEGINS,
    currency: 'EUR',
    payers: PAYERS.map((name) => ({ name, email: emailOf(name) })),
    documents: [...invoices.values()].filter(({ number }) => number >= 'KS-2045' && !paid.has(number)),
    sales: [
      { item: 'parts', note: 'rope' },
      { item: 'parts', note: 'shackles, Orla M.' },
      { item: 'rig-check', note: 'rig check, berth 14' },
      { item: 'lesson', note: 'lesson, Finn' },
      { item: '', note: 'repair kit' },
    ],
    desk: {
      name: 'Card desk',
      feeRate: KITTIWAKE.channels[0]!.feeRate,
      feeFixed: KITTIWAKE.channels[0]!.feeFixed,
      payoutDays: KITTIWAKE.channels[0]!.payoutDays,
      nextReceipt: highest(ids, 'CD-') + 1,
      nextPayout: highest(ids, 'P-') + 1,
    },
    bank: { iban: KITTIWAKE.bankAccounts[0]!.iban.replace(/ /g, ''), opening: cents(closing) },
    history,
    statements: [{ name: LAST_STATEMENT, body: readFileSync(join(folder, LAST_STATEMENT), 'utf8') }],
    underway: payoutsUnderway.map(({ id, gross }) => ({ id, net: -gross, lands: '2026-11-18' })),
  };
}
