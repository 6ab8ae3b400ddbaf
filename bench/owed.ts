import { createHash } from 'node:crypto';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { sql } from 'kysely';
import { readBytes } from '@/adapters/blob-store';
import { runCommand } from '@/books/command';
import { importFile } from '@/books/imports/import-file';
import { invoicesImporter } from '@/books/invoices/import';
import { listInvoices } from '@/books/invoices/list';
import { postInvoices } from '@/books/invoices/post';
import { agedInvoices, ageing } from '@/books/settling/ageing';
import { createBooks } from '@/books/setup/create-books';
import { BooksFile, type Reading } from '@/books/store';
import { addDays, plainDate } from '@/core/calendar';
import { Chance } from '@/standins/chance';
import { KITTIWAKE } from '../demo/kittiwake/books';
import { printRows, timed, TRIES, type Row } from './rows';

const INVOICES = Number(process.env.INVOICES ?? 50_000);
const PAYERS = 2_000;
const ACTOR = { name: 'bench' };
const folder = mkdtempSync(join(tmpdir(), 'nest-egg-bench-'));

/** Invoices of a year and a half, all open, of two thousand payers. */
function invoicesCsv(): string {
  const chance = new Chance(INVOICES);
  const lines = ['Number,Payer,Email,Issued,Due,Currency,Item,Net,Tax code,Tax'];
  for (let n = 0; n < INVOICES; n++) {
    const issued = addDays(plainDate('2025-06-01'), chance.int(0, 530));
    const payer = chance.int(1, PAYERS);
    const net = chance.int(100, 90_000);
    lines.push(
      `B-${n},Payer ${payer},p${payer}@mail.example,${issued},${addDays(issued, 30)},EUR,repair,${(net / 100).toFixed(2)},S23,`,
    );
  }
  return lines.join('\n');
}

async function main(): Promise<void> {
  console.log(`Making ${INVOICES} open invoices`);
  const books = new BooksFile(join(folder, 'owed.sqlite'));
  const options = { actor: ACTOR };
  await runCommand(
    books,
    createBooks,
    { ...KITTIWAKE, opening: { ...KITTIWAKE.opening, date: plainDate('2025-05-31') } },
    options,
  );
  const path = join(folder, 'invoices.csv');
  const data = Buffer.from(invoicesCsv());
  writeFileSync(path, data);
  const file = {
    name: 'invoices.csv',
    sha256: createHash('sha256').update(data).digest('hex'),
    bytes: data.length,
    open: () => readBytes(path),
  };
  const brought = await importFile(books, invoicesImporter, file, { ...options, dryRun: false });
  if (!brought.ok || brought.value.added !== INVOICES) throw new Error('invoices were refused');
  const posted = await runCommand(books, postInvoices, { filter: {} }, options);
  if (!posted.ok) throw new Error('invoices were not posted');

  const rows: Row[] = [];
  const today = plainDate('2026-11-16');
  const best = async (work: (db: Reading) => Promise<unknown>) => {
    await books.read(work);
    let took = Infinity;
    for (let n = 0; n < TRIES; n++) took = Math.min(took, (await timed(() => books.read(work))).took);
    return took;
  };
  const measure = async (what: string, floor: ReturnType<typeof sql>, work: (db: Reading) => Promise<unknown>) =>
    rows.push({ what, took: await best(work), floor: await best((db) => floor.execute(db)), aim: '≤ 100 ms' });
  const newest = sql`SELECT * FROM invoice ORDER BY id DESC LIMIT 50`;
  const entries = sql`SELECT sum(amount) FROM invoice_entry`;
  await measure('open invoices, first page', newest, (db) => listInvoices(db, { state: 'open' }, today, null));
  await measure('overdue invoices, first page', newest, (db) => listInvoices(db, { state: 'overdue' }, today, null));
  await measure('ageing today', entries, (db) => ageing(db, today));
  await measure('ageing a year ago', entries, (db) => ageing(db, plainDate('2025-11-16')));
  await measure('invoices of one payer on a day', newest, (db) => agedInvoices(db, 7, today));
  await books.close();
  printRows(rows);
}

main()
  .catch((error: unknown) => {
    console.error(error);
    process.exitCode = 1;
  })
  .finally(() => rmSync(folder, { recursive: true }));
