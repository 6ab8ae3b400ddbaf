import { refusedOfRun } from '@/books/imports/runs';
import { refusedOf, type Importer } from '@/books/imports/import-file';
import { invoicesImporter } from '@/books/invoices/import';
import { receiptsFrom, receiptsImporter } from '@/books/receipts/import';
import { lookAtFile } from '@/books/receipts/sniff-file';
import type { ReceiptProfile } from '@/formats/receipts/profile';
import { ACTOR, DESK_HEAD, INVOICE_HEAD, useWorld } from './world';

const world = useWorld();

const source = (data: Uint8Array) =>
  async function* () {
    yield await Promise.resolve(data);
  };

async function joined(lines: AsyncIterable<string>): Promise<string> {
  let text = '';
  for await (const line of lines) text += line;
  return text;
}

/** The refused rows of a file as its dry run finds them, without the byte order mark. */
async function refused<R>(importer: Importer<R>, data: Uint8Array): Promise<string[]> {
  const file = { name: 'file', sha256: 'x', bytes: data.length, open: source(data) };
  const result = await refusedOf(world.books, importer, file, { actor: ACTOR });
  if (!result.ok) throw new Error(result.refusal.code);
  if (result.value === null) return [];
  const text = await joined(result.value);
  expect(text.startsWith('\uFEFF')).toBe(true);
  return text.slice(1).trimEnd().split('\r\n');
}

/** The reading that the form would start from for a file. */
async function guessed(data: Uint8Array, change: Partial<ReceiptProfile> = {}) {
  const look = await lookAtFile(world.books.reader, source(data), 1);
  if (look.kind !== 'read') throw new Error(look.kind);
  const settings = { ...(look.saved ?? look.sniffed.profile), ...change };
  return { fingerprint: look.sniffed.fingerprint, settings };
}

const EXPORT = [
  'Pier shop;;;',
  'Nr;Datum;Betrag;Kunde',
  'A1;12.11.2026;20,00;Zoë Hartmann',
  'A2;31.13.2026;15,00;Bérénice',
  'A3;13.11.2026;zwölf;=cmd',
  'A4;14.11.2026;9,50;Ünal',
].join('\n');

describe('refused rows', () => {
  test('come back with their own cells, can be corrected, and then come in', async () => {
    const data = Buffer.from(EXPORT, 'latin1');
    const profile = await guessed(data);
    expect(profile.settings).toMatchObject({ delimiter: ';', above: 1 });
    const importer = receiptsFrom({ channel: 1, profile });
    const rows = await refused(importer, data);
    expect(rows).toEqual([
      'Nr,Datum,Betrag,Kunde,Refused because',
      expect.stringMatching(/^A2,31\.13\.2026,"15,00",Bérénice,.*31\.13\.2026/),
      expect.stringMatching(/^A3,13\.11\.2026,zwölf,'=cmd,.*zwölf/),
    ]);
    expect(await world.bringInBytes(importer, data, 'shop.csv')).toMatchObject({ added: 2, refused: 2 });

    const corrected = Buffer.from(`\uFEFF${rows.join('\r\n').replace('31.13.', '30.11.')}\r\n`);
    const again = await guessed(corrected);
    // The header is known, the last column apart; how this file is parted is its own.
    expect(again.fingerprint).toBe(profile.fingerprint);
    expect(again.settings).toMatchObject({ delimiter: ',', above: 0, decimal: ',', dateOrder: 'DMY' });
    const second = receiptsFrom({ channel: 1, profile: again });
    const left = await refused(second, corrected);
    expect(left[0]).toBe('Nr,Datum,Betrag,Kunde,Refused because');
    expect(left).toHaveLength(2);
    expect(await world.bringInBytes(second, corrected, 'shop-refused.csv')).toMatchObject({ added: 1, refused: 1 });
    const names = await world.books.reader.selectFrom('payer').select('name').orderBy('name').execute();
    expect(names.map(({ name }) => name)).toEqual(['Bérénice', 'Zoë Hartmann', 'Ünal']);
  });

  test('are read by their mark even where another encoding was said of the file before', async () => {
    const data = Buffer.from(EXPORT, 'latin1');
    const profile = await guessed(data, { encoding: 'windows-1252' });
    const rows = await refused(receiptsFrom({ channel: 1, profile }), data);
    const corrected = Buffer.from(`\uFEFF${rows.join('\r\n').replace('31.13.', '30.11.')}\r\n`);
    const again = await guessed(corrected, { encoding: 'windows-1252' });
    await world.bringInBytes(receiptsFrom({ channel: 1, profile: again }), corrected, 'again.csv');
    const [payer] = await world.books.reader.selectFrom('payer').select('name').execute();
    expect(payer!.name).toBe('Bérénice');
  });

  test('of a till’s day that does not foot are all its rows', async () => {
    const days = [
      'Day,Kind,What,Amount',
      '2026-11-12,sale,Ferry,100.00',
      '2026-11-12,payment,cash,90.00',
      '2026-11-13,sale,Ferry,50.00',
      '2026-11-13,payment,cash,50.00',
    ].join('\n');
    const profile = await guessed(Buffer.from(days));
    expect(profile.settings).toMatchObject({ shape: 'till-days', tenders: ['payment'] });
    const rows = await refused(receiptsFrom({ channel: 1, profile }), Buffer.from(days));
    expect(rows.map((row) => row.split(',').slice(0, 4).join(','))).toEqual([
      'Day,Kind,What,Amount',
      '2026-11-12,sale,Ferry,100.00',
      '2026-11-12,payment,cash,90.00',
    ]);
  });

  test('of our own columns, of invoices and of what was fetched come back too; of a good file there are none', async () => {
    const desk = `${DESK_HEAD}R-1,receipt,2026-11-12T10:00:00Z,EUR,10.00,0.50,9.50,,,,,,,\nR-2,receipt,2026-11-12T10:00:00Z,EUR,10.00,0.50,9.00,,,,,,,\n`;
    expect(await refused(receiptsImporter, Buffer.from(desk))).toEqual([
      `${DESK_HEAD.trim()},Refused because`,
      expect.stringMatching(/^R-2,receipt,2026-11-12T10:00:00Z,EUR,10.00,0.50,9.00,,,,,,,,.*9\.50/),
    ]);
    const invoices = `${INVOICE_HEAD}K-1,Ann,,2026-11-01,2026-11-15,EUR,nothing,10.00,S23,2.30\n`;
    expect(await refused(invoicesImporter, Buffer.from(invoices))).toHaveLength(2);
    const lines =
      '{"change":1}\n{"change":2,"id":"R-9","kind":"receipt","at":"2026-11-12T10:00:00Z","currency":"EUR","gross":900,"fee":0}\n';
    expect(await refused(receiptsFrom({ channel: 1, fetched: true }), Buffer.from(lines))).toEqual([
      'Line,As it came,Refused because',
      expect.stringMatching(/^1,"{""change"":1}",/),
    ]);
    expect(await refused(receiptsImporter, Buffer.from(DESK_HEAD))).toEqual([]);
  });

  test('of a file that came in can be had later, from the file that is kept', async () => {
    const data = Buffer.from(EXPORT, 'latin1');
    const importer = receiptsFrom({ channel: 1, profile: await guessed(data) });
    const { run } = await world.bringInBytes(importer, data, 'shop.csv');
    const now = await refused(importer, data);
    const later = await joined(refusedOfRun(world.books.reader, run!, source(data)));
    expect(later.slice(1).trimEnd().split('\r\n')).toEqual(now);
    expect(await joined(refusedOfRun(world.books.reader, 99, source(data)))).toBe('');
  });
});
