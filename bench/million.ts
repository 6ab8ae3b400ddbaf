import { execFileSync } from 'node:child_process';
import { createWriteStream, mkdtempSync, rmSync, statSync } from 'node:fs';
import { once } from 'node:events';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { runCommand } from '@/books/command';
import { openChannel } from '@/books/channels/open-channel';
import type { ReceiptSource } from '@/books/receipts/import';
import { createBooks } from '@/books/setup/create-books';
import { BooksFile } from '@/books/store';
import { plainDate } from '@/core/calendar';
import { minor } from '@/core/money';
import type { ReceiptProfile } from '@/formats/receipts/profile';
import { KITTIWAKE } from '../demo/kittiwake/books';
import { rawInsert } from './floor';
import { mapAgainstReading } from './map';
import { printRows, type Row } from './rows';

const COUNT = Number(process.env.LARGE ?? 1_000_000);
const PER_PAYOUT = 16;
const ACTOR = { name: 'bench' };
const folder = mkdtempSync(join(tmpdir(), 'nest-egg-million-'));
const path = join(folder, 'books.sqlite');
const rows: Row[] = [];

const day = (n: number, of: number) =>
  new Date(Date.UTC(2026, 0, 5) + Math.floor((n * 300) / of) * 86_400_000).toISOString().slice(0, 10);
const money = (cents: number) => (cents / 100).toFixed(2);

/** Writes a file line by line, without holding it. */
async function written(name: string, lines: Iterable<string>): Promise<string> {
  const file = join(folder, name);
  const out = createWriteStream(file);
  let text = '';
  for (const line of lines) {
    text += line;
    if (text.length < 1 << 18) continue;
    if (!out.write(text)) await once(out, 'drain');
    text = '';
  }
  out.end(text);
  await once(out, 'finish');
  return file;
}

/** Receipts with fees, and the payouts they are in. */
function* receipts(count: number): Generator<string> {
  yield 'Id,Type,Time,Currency,Gross,Fee,Net,Payer,Email,Document,Item,Note,Payout,Refund of\n';
  let net = 0;
  for (let n = 0; n < count; n++) {
    const gross = 400 + ((n * 7919) % 90_000);
    const fee = Math.round(gross * 0.019) + 25;
    const payer = n % 5_000;
    const payout = `P-${Math.floor(n / PER_PAYOUT)}`;
    net += gross - fee;
    yield `R-${n},receipt,${day(n, count)}T10:00:00Z,EUR,${money(gross)},${money(fee)},${money(gross - fee)},Payer ${payer},p${payer}@mail.example,,parts,rope ${n % 40},${payout},\n`;
    if (n % PER_PAYOUT < PER_PAYOUT - 1 && n < count - 1) continue;
    yield `${payout},payout,${day(n, count)}T23:00:00Z,EUR,-${money(net)},,-${money(net)},,,,,,,\n`;
    net = 0;
  }
}

/** What a day of one till has: things sold, and ways of paying. */
const SOLD = 32;
const DAYS_OF_TILLS = 300;
/** Tills, so that their days have about as many rows as were asked for. */
const SITES = Math.max(1, Math.round(COUNT / (DAYS_OF_TILLS * (SOLD + 2))));

/** Days of tills: a row for each thing sold and each way of paying. */
function* tillRows(): Generator<string> {
  yield 'Day,Kind,What,Amount,Units,Site\n';
  for (let d = 0; d < DAYS_OF_TILLS; d++) {
    for (let site = 0; site < SITES; site++) {
      const at = day(d, DAYS_OF_TILLS);
      for (let line = 0; line < SOLD; line++) yield `${at},sale,thing ${line},12.30,3,S${site}\n`;
      const card = SOLD * 1230 - 4840;
      yield `${at},payment,cash,48.40,,S${site}\n${at},payment,card,${money(card)},,S${site}\n`;
    }
  }
}

interface Measured {
  readonly took: number;
  readonly added: number;
  readonly megabytes: number;
}

/** What imports; it is bundled beside this. */
const CHILD = join(__dirname, 'import-child.js');

/** Imports a file in a process of its own; its memory must not depend on the size of the file. */
function imported(what: string, file: string, source: ReceiptSource): Measured {
  const args = [CHILD, path, file, JSON.stringify(source)];
  const measured = JSON.parse(execFileSync(process.execPath, args, { encoding: 'utf8' })) as Measured;
  const size = (statSync(file).size / 1024 / 1024).toFixed(0);
  console.log(
    `${what}: ${measured.added} records of ${size} MB in a process of ${measured.megabytes.toFixed(0)} MB (aim 512)`,
  );
  return measured;
}

async function run<T>(work: (books: BooksFile) => Promise<T>): Promise<T> {
  const books = new BooksFile(path);
  try {
    return await work(books);
  } finally {
    await books.close();
  }
}

async function openTill(): Promise<number> {
  return run(async (books) => {
    const account = async (code: string) =>
      (await books.reader.selectFrom('account').select('id').where('code', '=', code).executeTakeFirstOrThrow()).id;
    const sites = Array.from({ length: SITES }, (_, n) => ({
      code: `S${n}`,
      name: `Site ${n}`,
      cash: null,
      bank: null,
    }));
    const use = async (code: string) => ({ use: await account(code) });
    const result = await runCommand(
      books,
      openChannel,
      {
        draft: null,
        settings: {
          name: 'Tills',
          kind: 'till',
          currency: 'EUR',
          bank: await account('1010'),
          clearing: { code: '1210', name: 'Tills clearing' },
          payoutDays: 1,
          feeRate: 0,
          feeFixed: minor(0),
          fees: await use('6100'),
          refunds: await use('4900'),
          tips: await use('2300'),
          discounts: null,
          giftCards: null,
          chargebacks: null,
          fx: null,
          income: await account('4040'),
          taxCode: 1,
          sites,
          mode: 'summary',
          historyFrom: null,
          postsItself: false,
          paidWhen: 'debit-day',
          payer: null,
          outstanding: [],
          cutOver: 'wait',
          openingAgainst: null,
        },
      },
      { actor: ACTOR },
    );
    if (!result.ok) throw new Error(JSON.stringify(result.refusal));
    return result.value.channel;
  });
}

const DAYS: ReceiptProfile = {
  columns: { time: 'Day', kind: 'Kind', item: 'What', gross: 'Amount', units: 'Units', site: 'Site' },
  delimiter: ',',
  above: 0,
  decimal: '.',
  dateOrder: 'YMD',
  zone: 'UTC',
  currency: 'EUR',
  feeSign: 'plus',
  refunds: [],
  payouts: [],
  skipped: [],
  chargebacks: [],
  shape: 'till-days',
  tenders: ['payment'],
  tips: [],
  taxIn: 'included',
  encoding: 'auto',
};

async function main(): Promise<void> {
  await run(async (books) => {
    const made = await runCommand(
      books,
      createBooks,
      { ...KITTIWAKE, fixedToday: plainDate('2026-11-16') },
      { actor: ACTOR },
    );
    if (!made.ok) throw new Error(JSON.stringify(made.refusal));
  });
  const one = imported('receipts with fees', await written('receipts.csv', receipts(COUNT)), { channel: 1 });
  const receiptFloor = rawInsert(path, folder, { receipt: '1', payout: '1', payer: '1' });
  rows.push({ what: `import of ${COUNT} receipts with fees`, took: one.took, floor: receiptFloor, aim: '≤ 3×' });
  rows.push(await run((books) => mapAgainstReading(books, plainDate('2026-11-16'), 1)));
  const channel = await openTill();
  const till = imported('till days', await written('till.csv', tillRows()), {
    channel,
    profile: { fingerprint: 'till', settings: DAYS },
  });
  const lineFloor = rawInsert(path, folder, {
    receipt: `channel_id = ${channel}`,
    receipt_line: '1',
    receipt_tender: '1',
  });
  rows.push({
    what: `import of ${till.added * (SOLD + 2)} lines and tenders of ${till.added} till days`,
    took: till.took,
    floor: lineFloor,
    aim: '≤ 3×',
  });
  printRows(rows);
}

main()
  .catch((error: unknown) => {
    console.error(error);
    process.exitCode = 1;
  })
  .finally(() => rmSync(folder, { recursive: true }));
