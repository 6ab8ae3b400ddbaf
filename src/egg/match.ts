import { sql } from 'kysely';
import type { Change } from '@/books/command';
import { doubledLines } from '@/books/doubled/list';
import { confirmByRules, confirmProven } from '@/books/matching/confirm';
import { proposeAgain } from '@/books/matching/propose-again';
import { postInvoices } from '@/books/invoices/post';
import { postReceipts } from '@/books/receipts/post';
import { certaintyGroups, lineRows, provenLines, type CertaintyGroups } from '@/books/statements/list';
import { reasonWords, type Reason } from '@/core/matching';
import { formatAmount, type Currency } from '@/core/money';
import { plural } from '@/core/words';
import type { EggCommand } from './commands';
import { aligned, answer, answerOf, limitOf, UsageError } from './output';

/** Where nobody says how many lines are wanted. */
const EVERY = 1_000_000;

const groupLines = (groups: CertaintyGroups, currency: Currency) =>
  aligned(
    ['', 'lines', currency],
    Object.entries(groups).map(([word, { count, amount }]) => [word, String(count), formatAmount(amount, currency)]),
    [1, 2],
  );

/** Posting what came in, and saying what the deposits are. */
export const MATCH: Readonly<Record<string, EggCommand>> = {
  post: {
    takes: '[invoices|receipts]',
    does: 'writes what is not in the books yet: invoices, then receipts',
    async run(place, { books, 'dry-run': dry }, [what]) {
      if (what !== undefined && what !== 'invoices' && what !== 'receipts')
        throw new UsageError('Post invoices, receipts, or both.');
      const file = place.open(books);
      const posted: Record<string, number> = {};
      const text: string[] = [];
      let change: Change | null = null;
      let waiting = 0;
      for (const one of what === undefined ? (['invoices', 'receipts'] as const) : [what]) {
        const result =
          one === 'invoices'
            ? await place.run(file, postInvoices, { filter: {} }, dry === true)
            : await place.run(file, postReceipts, { filter: {} }, dry === true);
        if (!result.ok) return { value: posted, text, refusal: result.refusal };
        posted[one] = result.value.posted;
        change = result.change ?? change;
        const left = result.value.notPostedCount;
        waiting += left;
        text.push(`${one}: ${posted[one]} posted${left > 0 ? `, ${left} not` : ''}`);
      }
      return answer({ ...posted, notPosted: waiting }, text, { change, partly: waiting > 0 });
    },
  },
  'match propose': {
    takes: '',
    does: 'asks again what explains every statement line',
    async run(place, { books }) {
      const file = place.open(books);
      const { currency } = await file.read((db) => db.selectFrom('books').select('currency').executeTakeFirstOrThrow());
      return answerOf(await place.run(file, proposeAgain, {}, false), (groups) => groupLines(groups, currency));
    },
  },
  'match list': {
    takes: '[--limit <n>]',
    does: 'lists lines to explain, the surest first, each with what is laid and why',
    async run(place, { books, limit }) {
      const most = limitOf(limit) ?? EVERY;
      const { rows, currency, groups, why } = await place.read(books, async (db) => {
        const rows = await lineRows(db, { state: 'to-explain' }, null, most);
        const { rows: reasons } = await sql<{ id: number; reasons: string }>`
          SELECT statement_line_id AS id, reasons FROM proposal
          WHERE statement_line_id IN (SELECT value FROM json_each(${JSON.stringify(rows.map(({ id }) => id))}))
        `.execute(db);
        const { currency } = await db.selectFrom('books').select('currency').executeTakeFirstOrThrow();
        const why = new Map(reasons.map(({ id, reasons: told }) => [id, JSON.parse(told) as Reason[]]));
        return { rows, currency, why, groups: await certaintyGroups(db) };
      });
      const shown = rows.map((row) => ({
        ...row,
        because: (why.get(row.id) ?? []).map((reason) => reasonWords(reason, currency)),
      }));
      const table = shown.map((row) => [
        row.certainty ?? '',
        row.date,
        formatAmount(row.amount, currency),
        row.laid,
        row.text.slice(0, 50),
        row.because.join('; '),
      ]);
      const text = [
        ...groupLines(groups, currency),
        '',
        ...aligned(['', 'day', currency, 'laid', 'the bank’s text', 'because'], table, [2]),
      ];
      return answer({ groups, lines: shown }, text);
    },
  },
  'match confirm-proven': {
    takes: '',
    does: 'confirms every line that is proven',
    async run(place, { books, 'dry-run': dry }) {
      const file = place.open(books);
      const lines = (await file.read(provenLines)).map(({ id }) => id);
      if (lines.length === 0) return answer({ confirmed: 0, amount: 0 }, ['Nothing is proven that is not confirmed.']);
      const result = await place.run(file, confirmProven, { lines }, dry === true);
      return answerOf(result, ({ confirmed }) => [`${plural(confirmed, 'deposit')} confirmed`]);
    },
  },
  'match by-rule': {
    takes: '',
    does: 'books every line that a statement rule books alone',
    async run(place, { books, 'dry-run': dry }) {
      const result = await place.run(place.open(books), confirmByRules, {}, dry === true);
      const nothing = !result.ok && result.refusal.code === 'not-proven';
      if (nothing) return answer({ confirmed: 0, amount: 0 }, ['No line waits that a rule books.']);
      return answerOf(result, ({ confirmed }) => [`${plural(confirmed, 'line')} booked`]);
    },
  },
  'match doubled': {
    takes: '[--limit <n>]',
    does: 'lists deposits that are booked to income though something explains them: they may count twice',
    async run(place, { books, limit }) {
      const most = limitOf(limit) ?? EVERY;
      const { lines, currency } = await place.read(books, async (db) => ({
        lines: await doubledLines(db, most),
        currency: (await db.selectFrom('books').select('currency').executeTakeFirstOrThrow()).currency,
      }));
      if (lines.length === 0) return answer([], ['Nothing that is booked to income counts twice.']);
      const table = lines.map(({ date, amount, first, parts }) => [
        date,
        formatAmount(amount, currency),
        parts > 1 ? `${first} and ${parts - 1} more` : first,
      ]);
      return answer(lines, aligned(['day', currency, 'explained by'], table, [1]));
    },
  },
};
