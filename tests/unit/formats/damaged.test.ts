import { camt053 } from '@/standins/bank/camt053-writer';
import type { StatementFormat } from '@/formats/statements';
import { readSample, readTableSample } from './read-samples';
import { BAI2, CAMT054, CSV_NEWEST_FIRST, IBAN, MT940, OFX1, OFX2 } from './statement-files';

const CAMT053 = [
  ...camt053({
    id: 'B',
    iban: IBAN,
    currency: 'EUR',
    opening: 100_000,
    from: '2026-11-01',
    to: '2026-11-30',
    lines: [
      { date: '2026-11-02', amount: -85_000, text: 'RENT OF THE SLIP', party: 'Slip & Yard', reference: 'R1' },
      { date: '2026-11-12', amount: 59_252, text: 'CD SETTLEMENT P-2231', party: 'Card Desk', reference: 'R2' },
    ],
  }),
].join('');

type Told = Exclude<StatementFormat, 'table'>;
const FORMATS: readonly (readonly [name: string, format: Told, text: string])[] = [
  ['MT940', 'mt940', MT940],
  ['OFX 1.x', 'ofx', OFX1],
  ['OFX 2.x', 'ofx', OFX2],
  ['BAI2', 'bai2', BAI2],
  ['camt.053', 'camt', CAMT053],
  ['camt.054', 'camt', CAMT054],
];
/** Formats whose balances or totals must be what their lines come to. */
const FOOTING = FORMATS.filter(([name]) => ['MT940', 'BAI2', 'camt.053'].includes(name));

/** What is read of a text: how many lines, or the code that refuses it. */
async function told(format: Told, text: string): Promise<number | string> {
  const { findings, lines } = await readSample(format, text);
  return findings[0]?.code ?? lines.length;
}

describe('a file that ends early is refused, wherever it ends', () => {
  test.each(FORMATS)('%s', async (_name, format, text) => {
    const whole = (await told(format, text)) as number;
    expect(whole).toBeGreaterThan(0);
    const taken: string[] = [];
    for (let cut = 0; cut < text.length; cut++) {
      const what = await told(format, text.slice(0, cut));
      // Nothing is lost but what closes the file: then all of its lines are there.
      if (typeof what === 'number' && what !== whole)
        taken.push(`${what} lines of ${text.slice(Math.max(0, cut - 30), cut)}`);
    }
    expect(taken).toEqual([]);
  });
});

describe('a line that is lost or doubled is noticed', () => {
  /** Each movement of a sample by itself. */
  const movements = (format: Told, text: string): RegExpMatchArray[] => {
    const pattern = {
      mt940: /:61:.*\n:86:(?:.*\n)*?(?=:6)/g,
      bai2: /^16,.*\n(?:88,.*\n)*/gm,
      camt: /<Ntry>[\s\S]*?<\/Ntry>/g,
      ofx: /never/g,
    }[format];
    return [...text.matchAll(pattern)];
  };

  test.each(FOOTING)('%s', async (_name, format, text) => {
    const found = movements(format, text);
    expect(found.length).toBeGreaterThan(1);
    for (const { 0: movement, index } of found) {
      const before = text.slice(0, index);
      const after = text.slice(index! + movement.length);
      expect(['does-not-foot', 'control-total']).toContain(await told(format, before + after));
      expect(['does-not-foot', 'control-total']).toContain(await told(format, before + movement + movement + after));
    }
  });
});

describe('a figure that was changed is noticed', () => {
  /** Where amounts stand, of lines and of balances. */
  const AMOUNTS = {
    mt940: /(?<=[CD])\d+,\d*(?=NTRF|NMSC|NCHG)|(?<=EUR)\d+,\d*/g,
    bai2: /(?<=^16,\d{3},)\d+|(?<=010,)\d+|(?<=015,)\d+/gm,
    camt: /(?<=Ccy="EUR">)[\d.]+/g,
  };

  test.each(FOOTING)('%s', async (_name, format, text) => {
    const amounts = [...text.matchAll(AMOUNTS[format as keyof typeof AMOUNTS])];
    expect(amounts.length).toBeGreaterThan(3);
    for (const { 0: amount, index } of amounts) {
      const digit = amount.search(/\d/);
      const changed = String((Number(amount[digit]) + 1) % 10);
      const text2 = text.slice(0, index + digit) + changed + text.slice(index + digit + 1);
      expect([amount, typeof (await told(format, text2))]).toEqual([amount, 'string']);
    }
  });
});

describe('a table with balances', () => {
  test('is refused with a row lost from within, doubled, or changed', async () => {
    const rows = CSV_NEWEST_FIRST.trimEnd().split('\n');
    const broken = async (list: readonly string[]) => (await readTableSample(`${list.join('\n')}\n`)).findings[0]?.code;
    expect(await broken(rows)).toBeUndefined();
    expect(await broken(rows.filter((_, n) => n !== 4))).toBe('balance-breaks');
    expect(await broken([...rows.slice(0, 5), rows[4]!, ...rows.slice(5)])).toBe('balance-breaks');
    expect(await broken(rows.map((row) => row.replace('592,52', '592,53')))).toBe('balance-breaks');
    // Out of its order it does not follow either.
    expect(await broken([...rows.slice(0, 3), rows[4]!, rows[3]!, rows[5]!])).toBe('balance-breaks');
  });
});

describe('whatever stands in place of one character, nothing is taken but whole files', () => {
  const ODD = ['\0', '<', '&', '"', ',', ':', '/', '9', '\uFFFF', '\u202E', '\r'];

  test.each(FORMATS)('%s', async (_name, format, text) => {
    const whole = (await told(format, text)) as number;
    const wrong: string[] = [];
    for (let at = 0; at < text.length; at += 3) {
      const odd = ODD[at % ODD.length]!;
      const what = await told(format, text.slice(0, at) + odd + text.slice(at + 1));
      // Read with fewer lines, some of it would have been lost without a word.
      if (typeof what === 'number' && what < whole)
        wrong.push(`${what} of ${whole} at ${at}: ${JSON.stringify(text.slice(Math.max(0, at - 20), at))}`);
    }
    expect(wrong).toEqual([]);
  });
});
