import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { invoicesImporter } from '@/books/invoices/import';
import { postInvoices } from '@/books/invoices/post';
import { closeThrough } from '@/books/ledger/close';
import { confirmMatch } from '@/books/matching/confirm';
import type { PartInput } from '@/books/matching/part-input';
import { receiptsImporter } from '@/books/receipts/import';
import { postReceipts } from '@/books/receipts/post';
import { createBooks } from '@/books/setup/create-books';
import { statementImporter } from '@/books/statements/import';
import type { BooksFile } from '@/books/store';
import { loadDriftline } from './driftline/load';
import { DemoLoader, inFreshBooks } from './loader';
import { connect, setTiming } from '@/books/fetching/connections';
import { Worlds } from '@/standins/worlds';
import { kittiwakeWorld } from './kittiwake/world';
import { loadLanternHead } from './lantern-head/load';
import { KITTIWAKE } from './kittiwake/books';
import { openWorkshopTill } from './kittiwake/open-till';
import { writeOwnInvoices } from './kittiwake/own-invoices';
import type { LineTruth } from './kittiwake/builder';

export const FILES = join(__dirname, 'kittiwake', 'files');

/** What the demo's history is worked through to: later days wait for the user. */
const POSTED_THROUGH = '2026-11-08';
const CONFIRMED_THROUGH = '2026-11-03';

export interface TruthLine {
  readonly date: string;
  readonly amount: number;
  readonly text: string;
}

export type Truth = {
  readonly lines: readonly (TruthLine & LineTruth)[];
  readonly payouts: readonly { readonly id: string; readonly net: number; readonly receipts: readonly string[] }[];
  readonly end: { readonly bank: number; readonly clearing: number; readonly fees: number };
};

export function readTruth(): Truth {
  return JSON.parse(readFileSync(join(FILES, 'truth.json'), 'utf8')) as Truth;
}

/** Drives Kittiwake's books, and confirms their lines as the truth table has them. */
export class KittiwakeLoader extends DemoLoader {
  constructor(books: BooksFile, blobFolder: string) {
    super(books, blobFolder, FILES);
  }

  /** Confirms a line as the truth table has it. */
  async confirm(truth: TruthLine & LineTruth): Promise<void> {
    const db = this.books.reader;
    const line = await db
      .selectFrom('statement_line')
      .select('id')
      .where('book_date', '=', truth.date as never)
      .where('amount', '=', truth.amount as never)
      .where('text', '=', truth.text)
      .where('match_id', 'is', null)
      .executeTakeFirst();
    if (!line) return;
    const { parts, restTo } = await this.explanation(truth);
    await this.run(confirmMatch, { line: line.id, parts, restTo });
  }

  private async explanation(truth: LineTruth): Promise<{ parts: PartInput[]; restTo: never | null }> {
    const db = this.books.reader;
    const account = async (code: string) =>
      (await db.selectFrom('account').select('id').where('code', '=', code).executeTakeFirstOrThrow()).id as never;
    switch (truth.kind) {
      case 'payout': {
        const { id } = await db
          .selectFrom('payout')
          .select('id')
          .where('external_id', '=', truth.payout)
          .executeTakeFirstOrThrow();
        return { parts: [{ kind: 'payout', id }], restTo: null };
      }
      case 'receipts': {
        const rows = await db.selectFrom('receipt').select('id').where('external_id', 'in', truth.receipts).execute();
        return { parts: rows.map(({ id }) => ({ kind: 'receipt', id })), restTo: await account('6100') };
      }
      case 'invoices': {
        const rows = await db
          .selectFrom('invoice')
          .select(['id', 'gross as amount'])
          .where('number', 'in', truth.invoices)
          .execute();
        return { parts: rows.map((row) => ({ kind: 'invoice', ...row })), restTo: null };
      }
      case 'account':
        return { parts: [], restTo: await account(truth.account) };
    }
  }
}

/** Makes Kittiwake's books anew and works them to the middle of November. */
export async function loadKittiwake(data: string, say: (doing: string) => void): Promise<void> {
  const loader = (books: BooksFile, blobs: string) => new KittiwakeLoader(books, blobs);
  await inFreshBooks(data, 'kittiwake', loader, async (demo) => {
    say('chart, items, channel');
    await demo.run(createBooks, KITTIWAKE);
    say('invoices');
    await demo.bringIn(invoicesImporter, 'invoices-2026-09-to-10.csv');
    await demo.bringIn(invoicesImporter, 'invoices-2026-11-a.csv');
    await demo.run(postInvoices, { filter: { to: POSTED_THROUGH as never } });
    say('card desk');
    await demo.bringIn(receiptsImporter, 'card-desk-2026-09-to-10.csv');
    await demo.bringIn(receiptsImporter, 'card-desk-2026-11-a.csv');
    await demo.run(postReceipts, { filter: { to: POSTED_THROUGH as never } });
    say('workshop till');
    const till = await openWorkshopTill(demo);
    for (const cut of ['2026-09-to-10', '2026-11']) await demo.bringInExport(till, `workshop-till-${cut}.csv`);
    await demo.run(postReceipts, { filter: { channel: till } });
    say('own invoices');
    await writeOwnInvoices(demo);
    say('bank statements');
    for (const name of ['statement-2026-09.xml', 'statement-2026-10.xml', 'statement-2026-11-a.xml']) {
      await demo.bringIn(statementImporter, name);
    }
    say('matches');
    await demo.confirmProven(CONFIRMED_THROUGH);
    for (const line of readTruth().lines) if (line.date <= CONFIRMED_THROUGH) await demo.confirm(line);
    await demo.statementRule('Workshop rent', 'workshop rent', '6010');
    await demo.statementRule('Canvas and thread', 'canvas and thread', '6020');
    say('simulated desk and bank');
    const world = await kittiwakeWorld(FILES);
    Worlds.found(join(data, 'standins'), world);
    const { secret } = world;
    const desk = await demo.run(connect, { channel: 1, account: null, address: '/standins/kittiwake/desk', secret });
    await demo.run(setTiming, {
      connection: desk.connection,
      schedule: { every: 'day' as const, at: '06:30', weekday: 1, monthday: 1, onEvents: false },
      mailTo: 'office@kittiwake.example',
    });
    const bank = await demo.accountOf('1010');
    await demo.run(connect, { channel: null, account: bank, address: '/standins/kittiwake/bank', secret });
    await demo.run(closeThrough, { date: '2026-09-30' as never, reopen: false });
  });
}

async function main(): Promise<void> {
  const data = process.env.NEST_EGG_DATA ?? 'data';
  const say = (books: string) => (doing: string) => process.stdout.write(`  ${books}: ${doing}\n`);
  await loadKittiwake(data, say('Kittiwake'));
  await loadDriftline(data, say('Driftline'));
  await loadLanternHead(data, say('Lantern Head'));
}

if (require.main === module) {
  main().catch((error: unknown) => {
    console.error(error);
    process.exitCode = 1;
  });
}
