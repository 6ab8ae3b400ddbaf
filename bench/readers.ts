import { spawnSync } from 'node:child_process';
import { createReadStream, mkdtempSync, rmSync, statSync, writeFileSync, appendFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { readStatement, type StatementRecord } from '@/formats/statements';
import { sniffStatement } from '@/formats/statements/sniff';
import { readStatementTable } from '@/formats/statements/statement-table';
import type { Batch } from '@/formats/finding';
import { csvRows } from '@/formats/table/rows';
import { decodeLenient, decodeText } from '@/formats/text';
import { XmlTokenizer } from '@/formats/xml/tokenizer';
import { CsvTokenizer } from '@/formats/csv/tokenizer';
import { camt053 } from '@/standins/bank/camt053-writer';
import { printRows, timed, TRIES, type Row } from './rows';

const LINES = Number(process.env.LINES ?? 100_000);
/** A file as large as one may be. */
const LARGE_LINES = 550_000;
const IBAN = 'IE29SKER93115212345678';
const folder = mkdtempSync(join(tmpdir(), 'nest-egg-bench-'));

interface Line {
  readonly date: string;
  readonly amount: number;
  readonly text: string;
}

function linesOf(count: number): Line[] {
  return Array.from({ length: count }, (_, n) => ({
    date: `2026-${String(1 + Math.floor((n * 12) / count)).padStart(2, '0')}-${String(1 + (n % 28)).padStart(2, '0')}`,
    amount: (n % 7 === 0 ? -1 : 1) * (100 + ((n * 7919) % 90_000)),
    text: `CREDIT TRANSFER SETTLEMENT REF P-${n} OF OUR BEST CUSTOMERS`,
  }));
}

const money = (cents: number) => (Math.abs(cents) / 100).toFixed(2);

/** The same lines as each format writes them. */
function write(format: string, lines: readonly Line[]): string {
  const path = join(folder, `${lines.length}.${format}`);
  const total = lines.reduce((sum, { amount }) => sum + amount, 0);
  writeFileSync(path, '');
  let held = '';
  const put = (text: string) => {
    held += text;
    if (held.length > 1 << 20) {
      appendFileSync(path, held);
      held = '';
    }
  };
  switch (format) {
    case 'camt':
      for (const piece of camt053({
        id: 'B',
        iban: IBAN,
        currency: 'EUR',
        opening: 0,
        from: '2026-01-01',
        to: '2026-12-31',
        lines: lines.map((line, n) => ({ ...line, counterparty: 'SOMEBODY', reference: `R${n}` })),
      } as never))
        put(piece);
      break;
    case 'mt940':
      put(`:20:B\n:25:${IBAN}\n:60F:C260101EUR0,00\n`);
      lines.forEach(({ date, amount, text }, n) =>
        put(
          `:61:${date.slice(2).replaceAll('-', '')}${amount > 0 ? 'C' : 'D'}${money(amount).replace('.', ',')}NTRFNONREF//R${n}\n:86:${text}\n`,
        ),
      );
      put(`:62F:${total < 0 ? 'D' : 'C'}261231EUR${money(total).replace('.', ',')}\n`);
      break;
    case 'ofx':
      put(
        `OFXHEADER:100\nDATA:OFXSGML\n\n<OFX><STMTRS><CURDEF>EUR<BANKACCTFROM><ACCTID>${IBAN}</BANKACCTFROM><BANKTRANLIST>\n`,
      );
      lines.forEach(({ date, amount, text }, n) =>
        put(
          `<STMTTRN><TRNTYPE>OTHER<DTPOSTED>${date.replaceAll('-', '')}<TRNAMT>${amount < 0 ? '-' : ''}${money(amount)}<FITID>R${n}<MEMO>${text}</STMTTRN>\n`,
        ),
      );
      put('</BANKTRANLIST></STMTRS></OFX>\n');
      break;
    case 'bai2': {
      const sum = lines.reduce((all, { amount }) => all + Math.abs(amount), 0);
      put('01,A,B,261231,0700,1,,,2/\n02,B,A,1,261231,,EUR,2/\n03,93115212345678,EUR/\n');
      lines.forEach(({ amount, text }, n) =>
        put(`16,${amount > 0 ? 165 : 475},${Math.abs(amount)},Z,R${n},,${text}/\n`),
      );
      put(`49,${sum},${lines.length + 2}/\n98,${sum},1,${lines.length + 4}/\n99,${sum},1,${lines.length + 6}/\n`);
      break;
    }
    case 'csv':
      put('Account,Booked,Amount,Currency,Text,Reference\n');
      lines.forEach(({ date, amount, text }, n) =>
        put(`${IBAN},${date},${amount < 0 ? '-' : ''}${money(amount)},EUR,${text},R${n}\n`),
      );
  }
  appendFileSync(path, held);
  return path;
}

async function count(batches: AsyncIterable<Batch<StatementRecord>>): Promise<number> {
  let lines = 0;
  for await (const { records, findings } of batches) {
    if (findings.length > 0) throw new Error(JSON.stringify(findings[0]));
    for (const record of records) if (record.kind === 'line') lines++;
  }
  return lines;
}

/** The floor: the same bytes decoded and gone through by the same tokenizer, and nothing made of them. */
async function scan(format: string, path: string): Promise<void> {
  if (format === 'camt') {
    const xml = new XmlTokenizer({ open: () => undefined, close: () => undefined, text: () => undefined }, 1 << 20);
    for await (const { text } of decodeText(createReadStream(path))) xml.write(text);
    xml.end();
  } else if (format === 'csv') {
    const csv = new CsvTokenizer(',');
    for await (const { text } of decodeLenient(createReadStream(path))) csv.feed(text);
    csv.end();
  } else for await (const { text } of decodeLenient(createReadStream(path))) text.split('\n');
}

/** Looks a table through for how it is to be read, as is done once for a new header. */
const lookThrough = (path: string) =>
  sniffStatement(csvRows(createReadStream(path), ','), ',', { currency: 'EUR', account: IBAN });

/** What reads a file of this format; a table by its profile. */
async function readerOf(format: string, path: string): Promise<() => Promise<number>> {
  if (format !== 'csv') return () => count(readStatement(format as 'camt', createReadStream(path)));
  const { profile } = await lookThrough(path);
  return () => count(readStatementTable(csvRows(createReadStream(path), ','), profile));
}

/** The best of some tries of each, taken in turn: a machine that is shared is slow for a while, and then for all of them. */
async function best(...works: (() => Promise<unknown>)[]): Promise<number[]> {
  const took = works.map(() => Infinity);
  for (let n = 0; n < 2 * TRIES; n++) {
    for (const [index, work] of works.entries()) took[index] = Math.min(took[index]!, (await timed(work)).took);
  }
  return took;
}

async function main(): Promise<void> {
  if (process.argv[2] === 'large') {
    const lines = await (await readerOf('camt', process.argv[3]!))();
    console.log(
      `${lines} lines of ${(statSync(process.argv[3]!).size / 2 ** 20).toFixed(0)} MB in a process of ${(process.resourceUsage().maxRSS / 1024).toFixed(0)} MB (aim 300)`,
    );
    return;
  }
  const rows: Row[] = [];
  const lines = linesOf(LINES);
  for (const format of ['camt', 'mt940', 'ofx', 'bai2', 'csv']) {
    const path = write(format, lines);
    const read = await readerOf(format, path);
    if ((await read()) !== LINES) throw new Error(`${format} lost lines`);
    const works = [() => scan(format, path), read, ...(format === 'csv' ? [() => lookThrough(path)] : [])];
    const [floor, took, looked] = await best(...works);
    const aim = format === 'camt' || format === 'csv' ? '≤ 3×' : '';
    rows.push({
      what: `${format}, ${LINES} lines, ${(statSync(path).size / 2 ** 20).toFixed(0)} MB`,
      took: took!,
      floor: floor!,
      aim,
    });
    if (looked !== undefined)
      rows.push({ what: 'csv, looked through for a first reading', took: looked, floor: floor!, aim });
  }
  printRows(rows);
  const large = write('camt', linesOf(LARGE_LINES));
  const child = spawnSync(process.execPath, [__filename, 'large', large], { encoding: 'utf8' });
  console.log(child.stdout.trim() || child.stderr);
}

main()
  .catch((error: unknown) => {
    console.error(error);
    process.exitCode = 1;
  })
  .finally(() => rmSync(folder, { recursive: true, force: true }));
