import fc from 'fast-check';
import { sql } from 'kysely';
import { confirmMatch } from '@/books/matching/confirm';
import { setLinesAside } from '@/books/statements/set-aside';
import {
  certaintyGroups,
  countAside,
  countMatched,
  lineRows,
  listLines,
  parseLineCursor,
  type LineFilter,
  type LineListRow,
} from '@/books/statements/list';
import { statementImporter } from '@/books/statements/import';
import { CERTAINTIES } from '@/core/matching';
import { KITTIWAKE } from '../../../demo/kittiwake/books';
import { World } from './world';
import { bookedTo } from './written-rows';

/** One entry of the bank; of a sum also the payments in it, each of its own sender. */
interface Entry {
  readonly day: number;
  readonly amount: number;
  readonly text: string;
  readonly party: string;
  readonly reference: string;
  readonly payments: readonly { readonly amount: number; readonly party: string; readonly text: string }[];
}

const WORDS = [
  'RENT',
  'Harbour',
  '100%',
  'A_B',
  'back\\slash',
  'ÖRTLICH',
  'müller',
  'KS-2041',
  '12,50',
  'dues',
  "O'Hara",
  '12.50',
  '7',
];
const xml = (text: string) => text.replace(/&/g, '&amp;').replace(/</g, '&lt;');
const OPENING = 10_000_000;
const money = (cents: number) => (Math.abs(cents) / 100).toFixed(2);

function camt(entries: readonly Entry[]): string {
  const party = (name: string, amount: number) =>
    `<RltdPties><${amount < 0 ? 'Cdtr' : 'Dbtr'}><Nm>${xml(name)}</Nm></${amount < 0 ? 'Cdtr' : 'Dbtr'}></RltdPties>`;
  const said = (text: string) => `<RmtInf><Ustrd>${xml(text)}</Ustrd></RmtInf>`;
  const details = ({ amount, text, party: name, reference, payments }: Entry) =>
    payments.length === 0
      ? `<TxDtls><Refs><EndToEndId>${xml(reference)}</EndToEndId></Refs>${party(name, amount)}${said(text)}</TxDtls>`
      : payments
          .map(
            (one) =>
              `<TxDtls><AmtDtls><TxAmt><Amt Ccy="EUR">${money(one.amount)}</Amt></TxAmt></AmtDtls>${party(one.party, amount)}${said(one.text)}</TxDtls>`,
          )
          .join('');
  const rows = entries.map(
    (entry, no) =>
      `<Ntry><Amt Ccy="EUR">${money(entry.amount)}</Amt><CdtDbtInd>${entry.amount < 0 ? 'DBIT' : 'CRDT'}</CdtDbtInd><Sts><Cd>BOOK</Cd></Sts><BookgDt><Dt>2026-11-${String(entry.day).padStart(2, '0')}</Dt></BookgDt><AcctSvcrRef>ENTRY${no}</AcctSvcrRef><NtryDtls>${details(entry)}</NtryDtls></Ntry>`,
  );
  const closing = entries.reduce((sum, { amount }) => sum + amount, OPENING);
  const balance = (code: string, amount: number) =>
    `<Bal><Tp><CdOrPrtry><Cd>${code}</Cd></CdOrPrtry></Tp><Amt Ccy="EUR">${money(amount)}</Amt><CdtDbtInd>CRDT</CdtDbtInd><Dt><Dt>2026-11-14</Dt></Dt></Bal>`;
  return `<?xml version="1.0" encoding="UTF-8"?>\n<Document xmlns="urn:iso:std:iso:20022:tech:xsd:camt.053.001.08"><BkToCstmrStmt><GrpHdr><MsgId>M</MsgId></GrpHdr><Stmt><Id>S</Id><Acct><Id><IBAN>${KITTIWAKE.bankAccounts[0]!.iban.replace(/ /g, '')}</IBAN></Id><Ccy>EUR</Ccy></Acct>${balance('OPBD', OPENING)}${balance('CLBD', closing)}${rows.join('\n')}</Stmt></BkToCstmrStmt></Document>`;
}

const words = fc.array(fc.constantFrom(...WORDS), { minLength: 1, maxLength: 4 }).map((list) => list.join(' '));
const payment = fc.record({ amount: fc.integer({ min: 1, max: 9_999 }), party: words, text: words });
const entry: fc.Arbitrary<Entry> = fc
  .record({
    day: fc.integer({ min: 1, max: 14 }),
    amount: fc.oneof(
      fc.integer({ min: -9_999, max: -1 }),
      fc.integer({ min: 1, max: 9_999 }),
      fc.constantFrom(1_250, -1_250, 700),
    ),
    text: words,
    party: words,
    reference: fc.constantFrom('REF-1', 'REF_2', 'REF%3'),
    payments: fc.oneof(
      { weight: 3, arbitrary: fc.constant<Entry['payments']>([]) },
      { weight: 1, arbitrary: fc.array(payment, { minLength: 2, maxLength: 3 }) },
    ),
  })
  .map((one: Entry): Entry => {
    const sum = one.payments.reduce((total, { amount }) => total + amount, 0);
    return one.payments.length === 0 ? one : { ...one, amount: sum };
  });

/** A line as it stands in its tables, with all that it says. */
interface Raw {
  readonly id: number;
  readonly date: string;
  readonly amount: number;
  readonly state: 'to-explain' | 'matched' | 'aside';
  readonly certainty: string | null;
  readonly says: readonly string[];
}

async function rawLines(world: World): Promise<Raw[]> {
  const { rows } = await sql<Omit<Raw, 'says'> & { says: string }>`
    SELECT l.id, l.book_date AS date, l.amount, q.certainty,
      CASE WHEN l.match_id IS NOT NULL THEN 'matched' WHEN l.aside IS NOT NULL THEN 'aside' ELSE 'to-explain' END AS state,
      json_array(l.text, l.counterparty, l.reference, l.bank_id, coalesce(l.aside, ''), (
        SELECT json_group_array(json_array(d.text, d.counterparty, d.reference)) FROM statement_line_detail d WHERE d.line_id = l.id)) AS says
    FROM statement_line l LEFT JOIN proposal q ON q.statement_line_id = l.id
  `.execute(world.books.reader);
  const flat = (says: unknown): string[] => (Array.isArray(says) ? says.flatMap(flat) : [String(says)]);
  return rows.map((row) => ({ ...row, says: flat(JSON.parse(row.says)) }));
}

/** What the list promises, said the slow way: any part of what a line says, in capitals or not, or its amount. */
const finds = (text: string, amount: number | null) => (line: Raw) =>
  line.says.some((said) => said.toLowerCase().includes(text.toLowerCase())) ||
  (amount !== null && Math.abs(line.amount) === amount);

/** All pages of a list, of this many rows. */
async function pages(world: World, filter: LineFilter, size: number): Promise<LineListRow[]> {
  const all: LineListRow[] = [];
  for (let cursor = null as ReturnType<typeof parseLineCursor>; ;) {
    const rows = await lineRows(world.books.reader, filter, cursor, size);
    all.push(...rows);
    const last = rows.at(-1);
    if (!last || rows.length < size) return all;
    const certainty = filter.state === 'to-explain' ? `${last.certainty}_` : '';
    cursor = parseLineCursor(`${certainty}${last.date}_${last.id}`);
    expect(cursor).toMatchObject({ date: last.date, id: last.id });
  }
}

/** Surest first where lines are to be explained; the newest first in any case. */
const inOrder = (filter: LineFilter) => (a: Raw, b: Raw) => {
  const rank = (line: Raw) => CERTAINTIES.indexOf(line.certainty as never);
  const surer = filter.state === 'to-explain' ? rank(a) - rank(b) : 0;
  return surer || (a.date < b.date ? 1 : a.date > b.date ? -1 : b.id - a.id);
};

/** What is typed, read as an amount of cents with a point or a comma, as somebody would who sees it; null where it is none. */
function amountOf(text: string): number | null {
  const plain = text.replace(',', '.').replace('-', '');
  return /^(\d+|\d*\.\d{1,2})$/.test(plain) ? Math.round(Number(plain) * 100) : null;
}

/** What somebody types. */
const typed = fc.oneof(
  fc
    .tuple(fc.constantFrom(...WORDS), fc.nat(6), fc.integer({ min: 1, max: 9 }), fc.boolean())
    .map(([word, from, length, capitals]) => {
      const part =
        word
          .slice(from % word.length)
          .slice(0, length)
          .trim() || word;
      // Letters beyond the English ones are told apart by their case.
      return capitals && /^[ -~]*$/.test(part) ? part.toUpperCase() : part;
    }),
  fc.constantFrom('12.50', '12,50', '-12.50', '7.00', '7,00'),
  fc.constantFrom('REF_2', 'REF%3', 'ENTRY1', 'a slip', 'nowhere'),
);

test('amounts are read as they are typed', () => {
  const typed = ['12.50', '12,5', '-12.50', '7', '.5', '12.', '1.234', 'REF', ''].map(amountOf);
  expect(typed).toEqual([1_250, 1_250, 1_250, 700, 50, null, null, null, null]);
});

test('any part of what a line says finds it, in every state and on pages of any size, with counts that add up', async () => {
  const searched = fc.record({
    typed: fc.option(typed),
    state: fc.constantFrom('to-explain', 'matched', 'aside', 'all'),
    size: fc.integer({ min: 1, max: 9 }),
  });
  await fc.assert(
    fc.asyncProperty(
      fc.array(entry, { minLength: 5, maxLength: 25 }),
      fc.array(searched, { minLength: 8, maxLength: 12 }),
      async (entries, searches) => {
        const world = await World.open();
        try {
          const report = await world.bringIn(
            statementImporter,
            camt([...entries].sort((a, b) => a.day - b.day)),
            false,
            'bank.xml',
          );
          expect([report.added, report.refused]).toEqual([entries.length, 0]);
          // A third is booked, a third set aside.
          const ids = (await rawLines(world)).map(({ id, amount }) => ({ id, amount }));
          const fees = await world.account('6110');
          for (const { id, amount } of ids.filter((_, n) => n % 3 === 0)) {
            await world.must(confirmMatch, { line: id, parts: [bookedTo(fees, amount)], restTo: null });
          }
          const away = ids.filter((_, n) => n % 3 === 1).map(({ id }) => id);
          if (away.length > 0) await world.must(setLinesAside, { ids: away, reason: 'a slip' });

          const lines = await rawLines(world);
          const db = world.books.reader;
          for (const { typed: said, state, size } of searches) {
            const filter = { state, ...(said && { text: said }) } as LineFilter;
            const amount = said === null ? null : amountOf(said);
            const wanted = lines
              .filter((line) => (state === 'all' || line.state === state) && (!said || finds(said, amount)(line)))
              .sort(inOrder(filter));
            expect([said, (await pages(world, filter, size)).map(({ id }) => id)]).toEqual([
              said,
              wanted.map(({ id }) => id),
            ]);
            const { totals } = await listLines(db, filter, null);
            expect(totals).toEqual({
              count: wanted.length,
              amount: wanted.reduce((sum, line) => sum + line.amount, 0),
            });
            if (state !== 'to-explain') continue;
            const groups = Object.values(await certaintyGroups(db, said ?? undefined));
            expect(groups.reduce((sum, { count }) => sum + count, 0)).toBe(wanted.length);
          }
          const of = (state: Raw['state']) => lines.filter((line) => line.state === state).length;
          expect([await countMatched(db), await countAside(db)]).toEqual([of('matched'), of('aside')]);
        } finally {
          await world.expectSound();
          await world.close();
        }
      },
    ),
    { numRuns: 12 },
  );
});
