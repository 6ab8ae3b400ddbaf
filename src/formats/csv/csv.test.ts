import { parse } from 'csv-parse';
import fc from 'fast-check';
import { CsvTokenizer, csvLine, readTable, sniffDelimiter } from '.';
import { FileRefused, type ByteSource } from '../finding';

async function* bytes(...chunks: (string | Uint8Array)[]): ByteSource {
  for (const chunk of chunks) yield typeof chunk === 'string' ? new TextEncoder().encode(chunk) : chunk;
}

/** Cuts a text at the places given, to see that chunk borders do not matter. */
function pieces(text: string, cuts: readonly number[]): string[] {
  const at = [...new Set(cuts.map((cut) => cut % (text.length + 1)))].sort((a, b) => a - b);
  return [...at, text.length].map((end, i) => text.slice(i === 0 ? 0 : at[i - 1], end));
}

function tokenize(text: string, cuts: readonly number[] = []): string[][] {
  const tokenizer = new CsvTokenizer(',');
  return [...pieces(text, cuts).flatMap((piece) => tokenizer.feed(piece)), ...tokenizer.end()].map((row) => row.fields);
}

/** The reference reader, slower and well kept. */
function oracle(text: string): Promise<string[][]> {
  return new Promise((resolve, reject) => {
    const options = {
      delimiter: ',',
      relax_column_count: true,
      skip_empty_lines: true,
      record_delimiter: ['\r\n', '\n'],
    };
    parse(text, options, (error, rows: string[][]) => (error ? reject(error) : resolve(rows)));
  });
}

const cell = fc.string({ unit: fc.constantFrom('a', 'é', ' ', ',', '"', '\n', '\r\n', '1', ';'), maxLength: 6 });
const table = fc.array(fc.array(cell, { minLength: 2, maxLength: 4 }), { maxLength: 8 });
const cuts = fc.array(fc.nat(), { maxLength: 6 });
const write = (rows: string[][], end: string) =>
  rows
    .map((row) => row.map((text) => (/[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text)).join(','))
    .join(end);

test('reads what the reference reader reads, wherever the chunks are cut', async () => {
  await fc.assert(
    fc.asyncProperty(table, fc.constantFrom('\n', '\r\n'), cuts, fc.boolean(), async (rows, end, at, closed) => {
      const text = write(rows, end) + (closed ? end : '');
      expect(tokenize(text, at)).toEqual(await oracle(text));
    }),
    { numRuns: 300 },
  );
});

test('any text ends in rows or in a refusal', () => {
  fc.assert(
    fc.property(fc.string({ unit: fc.constantFrom('"', ',', '\n', '\r', 'x'), maxLength: 40 }), cuts, (text, at) => {
      try {
        tokenize(text, at);
      } catch (error) {
        expect(error).toBeInstanceOf(FileRefused);
      }
    }),
  );
});

test('lines are counted over quoted line ends', () => {
  const tokenizer = new CsvTokenizer(',');
  const rows = tokenizer.feed('a,"b\nc",d\n\ne,f\n');
  expect(rows.map((row) => row.line)).toEqual([1, 4]);
});

test.each([
  ['a,"b', 'unclosed-quote'],
  ['a,"b"c\n', 'stray-quote'],
])('%j is refused: %s', (text, code) => {
  expect(() => tokenize(text)).toThrow(expect.objectContaining({ finding: expect.objectContaining({ code }) }));
});

test('a line without an end is not held', () => {
  const tokenizer = new CsvTokenizer(',');
  const feed = () => {
    for (let n = 0; n < 40; n++) tokenizer.feed('x'.repeat(64 * 1024));
  };
  expect(feed).toThrow(expect.objectContaining({ finding: expect.objectContaining({ code: 'line-too-long' }) }));
});

test('the delimiter is the one the header uses most', () => {
  expect(sniffDelimiter('a;b;c,d')).toBe(';');
  expect(sniffDelimiter('a\tb')).toBe('\t');
  expect(sniffDelimiter('a')).toBe(',');
});

describe('tables', () => {
  const read = async (source: ByteSource) => {
    const rows: string[][] = [];
    const findings: unknown[] = [];
    for await (const batch of readTable(source, { required: ['Id', 'Net'], optional: ['Note'] })) {
      rows.push(...batch.rows.map((row) => [row.fields[batch.at.Id]!, row.fields[batch.at.Net]!]));
      findings.push(...batch.findings);
    }
    return { rows, findings };
  };
  const refusal = (code: string) => expect.objectContaining({ finding: expect.objectContaining({ code }) });

  test('columns are found by name, in any order, any case, behind a byte order mark', async () => {
    expect(await read(bytes('\uFEFFNET;note;iD\n5;x;1\n'))).toEqual({ rows: [['1', '5']], findings: [] });
  });
  test('UTF-16 by its mark', async () => {
    const text = Buffer.from('\uFEFFId,Net\n1,5\n', 'utf16le');
    expect((await read(bytes(text.subarray(0, 3), text.subarray(3)))).rows).toEqual([['1', '5']]);
  });
  test('a missing column is named, with what there is', async () => {
    await expect(read(bytes('Id,Amount\n1,2\n'))).rejects.toEqual(
      expect.objectContaining({
        finding: expect.objectContaining({ code: 'missing-columns', expected: 'Net', found: 'Id, Amount' }),
      }),
    );
  });
  test('a column twice, nothing at all, wrong bytes, NUL', async () => {
    await expect(read(bytes('Id,Net,Net\n'))).rejects.toEqual(refusal('repeated-column'));
    await expect(read(bytes(''))).rejects.toEqual(refusal('empty-file'));
    await expect(read(bytes('Id,Net\n', new Uint8Array([0xff, 0xfe, 0x41])))).rejects.toEqual(refusal('encoding'));
    await expect(read(bytes('Id,Net\n1\0,2\n'))).rejects.toEqual(refusal('not-text'));
  });
  test('a row of another width is refused alone', async () => {
    const { rows, findings } = await read(bytes('Id,Net\n1,2\n3\n,\n4,5'));
    expect(rows).toEqual([
      ['1', '2'],
      ['4', '5'],
    ]);
    expect(findings).toEqual([{ scope: 'record', code: 'field-count', line: 3, expected: '2', found: '1' }]);
  });
});

test('cells that a spreadsheet would run are written as text', () => {
  expect(csvLine(['=1+1', '@x', '-5.00', '-x', 'a "b"', null, 3])).toBe(`'=1+1,'@x,-5.00,'-x,"a ""b""",,3\r\n`);
});
