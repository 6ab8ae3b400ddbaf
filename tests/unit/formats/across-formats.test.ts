import fc from 'fast-check';
import { statementImporter } from '@/books/statements/import';
import { undoImport } from '@/books/imports/undo-import';
import { statementFormat, type StatementFormat } from '@/formats/statements';
import { KITTIWAKE } from '../../../demo/kittiwake/books';
import { World } from '../books/world';
import { readSample, readTableSample } from './read-samples';
import { WRITERS, type Written, type WrittenFormat } from './written';

const IBAN = KITTIWAKE.bankAccounts[0]!.iban.replace(/ /g, '');
const FORMATS = Object.keys(WRITERS) as WrittenFormat[];
const READ_AS: Readonly<Record<WrittenFormat, StatementFormat>> = {
  'camt.053': 'camt',
  MT940: 'mt940',
  'OFX 1': 'ofx',
  'OFX 2': 'ofx',
  BAI2: 'bai2',
  CSV: 'table',
};

const word = fc.constantFrom(
  'RENT',
  'CARDS',
  'INVOICE',
  'KS-2041',
  'TERN',
  'HARBOUR',
  'MARCH',
  'DUES',
  '77',
  'A+B',
  'O.K.',
  '(2)',
  'FERRY?',
);
const text = fc.array(word, { minLength: 2, maxLength: 6 }).map((words) => words.join(' '));
const amount = fc
  .oneof(fc.integer({ min: 1, max: 500 }), fc.integer({ min: 501, max: 9_999_999 }))
  .chain((size) => fc.constantFrom(size, -size));
const day = fc.integer({ min: 1, max: 28 }).map((n) => `2026-10-${String(n).padStart(2, '0')}`);

/** Bookings in the order of their days, each with an id of the bank's; the account is never overdrawn. */
const statement: fc.Arbitrary<Written> = fc
  .array(fc.record({ day, amount, text }), { minLength: 1, maxLength: 12 })
  .map((rows) => {
    const bookings = rows
      .sort((a, b) => a.day.localeCompare(b.day))
      .map((row, index) => ({ ...row, id: `B${1_000 + index}` }));
    return { iban: IBAN, opening: 200_000_000, bookings };
  });

async function readBack(format: WrittenFormat, of: Written) {
  const written = WRITERS[format](of);
  const as = statementFormat(new TextEncoder().encode(written));
  expect([format, as]).toEqual([format, READ_AS[format]]);
  return as === 'table' ? readTableSample(written) : readSample(as, written, 57);
}

test.each(FORMATS)('%s: what is written is read back: days, amounts, whole texts, ids and balances', async (format) => {
  await fc.assert(
    fc.asyncProperty(statement, async (of) => {
      const { findings, lines, records } = await readBack(format, of);
      expect(findings).toEqual([]);
      expect(lines.map((line) => [line.bookDate, line.amount, line.text])).toEqual(
        of.bookings.map((booking) => [booking.day, booking.amount, booking.text]),
      );
      const ids = lines.map(({ bankId, reference }) => (format === 'CSV' ? reference : bankId));
      expect(ids).toEqual(of.bookings.map(({ id }) => id));
      expect(new Set(records.map((record) => record.account))).toEqual(new Set([IBAN]));
      const closing = of.bookings.reduce((sum, booking) => sum + booking.amount, of.opening);
      expect(records.at(-1)).toMatchObject({ kind: 'end', closing });
    }),
    { numRuns: 60 },
  );
});

/** Every pair of formats once: the same days first in the one, then in the other. */
const PAIRS = FORMATS.flatMap((first) =>
  FORMATS.filter((other) => other !== first).map((other) => [first, other] as const),
);

test('the same days in another format add nothing, in whichever order they come; more days add just those', async () => {
  const pair = fc.constantFrom(...PAIRS);
  await fc.assert(
    fc.asyncProperty(statement, pair, fc.nat(), async (of, [first, other], cut) => {
      const world = await World.open();
      try {
        // The one has the days up to a booking, the other all of them.
        const until = of.bookings[cut % of.bookings.length]!.day;
        const part = { ...of, bookings: of.bookings.filter((booking) => booking.day <= until) };
        const name = (format: WrittenFormat) => `${format}.txt`;
        const came = await world.bringIn(statementImporter, WRITERS[first](part), false, name(first));
        expect([first, came.added]).toEqual([first, part.bookings.length]);
        const again = await world.bringIn(statementImporter, WRITERS[other](of), false, name(other));
        expect([first, other, again.added]).toEqual([first, other, of.bookings.length - part.bookings.length]);
        const { rows } = {
          rows: await world.books.reader.selectFrom('statement_line').select(['book_date', 'amount']).execute(),
        };
        const sorted = (list: readonly (readonly [string, number])[]) => list.map((one) => one.join(' ')).sort();
        expect(sorted(rows.map((row) => [row.book_date, row.amount]))).toEqual(
          sorted(of.bookings.map((booking) => [booking.day, booking.amount])),
        );
        // Taken back, the second leaves what the first had brought.
        if (again.run !== null) await world.must(undoImport, { run: again.run });
        expect(await world.count('statement_line')).toBe(part.bookings.length);
      } finally {
        await world.close();
      }
    }),
    { numRuns: 30 },
  );
});
