import { createBooks } from '@/books/setup/create-books';
import { importList, type ImportedList } from '@/books/setup/import-list';
import { undoChange } from '@/books/undo';
import type { EggCommand } from './commands';
import { aligned, answer, answerOf, limitOf, UsageError } from './output';

const list = (name: ImportedList, does: string): EggCommand => ({
  takes: '--file <csv>',
  does,
  async run(place, { books, file, 'dry-run': dry }) {
    const text = place.text(file);
    const result = await place.run(place.open(books), importList, { list: name, text, name: file }, dry === true);
    const say = ({
      added,
      changed,
      known,
      refused,
    }: {
      added: number;
      changed: number;
      known: number;
      refused: readonly { line: number; why: string }[];
    }) => [
      `${added} new, ${changed} changed, ${known} here already, ${refused.length} refused`,
      ...refused.map(({ line, why }) => `line ${line}: ${why}`),
    ];
    return answerOf(result, say, ({ refused }) => refused.length > 0);
  },
});

/** Books, their chart and lists, and what was done to them. */
export const SET_UP: Readonly<Record<string, EggCommand>> = {
  books: {
    takes: '',
    does: 'lists the books that are here',
    async run(place) {
      const rows = [];
      for (const id of place.ids()) {
        const head = await place.read(id, (db) =>
          db.selectFrom('books').select(['name', 'currency', 'closed_through as closedThrough']).executeTakeFirst(),
        );
        if (head) rows.push({ id, ...head });
      }
      const table = aligned(
        ['books', 'name', 'currency', 'closed through'],
        rows.map((row) => [row.id, row.name, row.currency, row.closedThrough ?? '']),
        [],
      );
      return answer(rows, rows.length === 0 ? ['There are no books yet.'] : table);
    },
  },
  make: {
    takes: '--books <id> --file <json>',
    does: 'makes books: chart, tax codes, items, bank accounts, channels, opening balances',
    async run(place, { books, file, 'dry-run': dry }) {
      if (books === undefined) throw new UsageError('Say what the books are to be called with --books.');
      const input = place.json(file);
      const fresh = !place.ids().includes(books);
      const result = await place.run(place.open(books, true), createBooks, input, dry === true);
      // Books that could not be made leave no file behind that is none.
      if (fresh && (!result.ok || dry)) await place.drop(books);
      return answerOf(result, ({ name }) => [`${name} is ${books}`]);
    },
  },
  chart: list('accounts', 'brings accounts in: Code, Name, Class, Role'),
  payers: list('payers', 'brings payers in: Name, Email, Other emails, Address, Country, Tax number, Terms, Note'),
  items: list('items', 'brings items in: Code, Name, Income account, Tax code, Description, Net price, Unit'),
  'tax-codes': list('tax-codes', 'brings tax codes in: Code, Name, Rate, Account, Category'),
  terms: list('terms', 'brings terms in: Name, Due days, Off %, Off within days'),
  changes: {
    takes: '[--limit <n>]',
    does: 'lists what was done, the newest first, and whether it can be undone',
    async run(place, { books, limit }) {
      const most = limitOf(limit) ?? 20;
      const rows = await place.read(books, (db) =>
        db
          .selectFrom('audit')
          .leftJoin('audit as later', 'later.undoes', 'audit.id')
          .select([
            'audit.id as change',
            'audit.at',
            'audit.actor',
            'audit.summary',
            'audit.undo',
            'later.id as undone',
          ])
          .orderBy('audit.id', 'desc')
          .limit(most)
          .execute(),
      );
      const said = rows.map(({ undo, undone, ...row }) => ({
        ...row,
        state: undone !== null ? 'undone' : undo === null ? 'stays' : 'can be undone',
      }));
      const table = said.map((row) => [String(row.change), row.at.slice(0, 16), row.actor, row.state, row.summary]);
      return answer(said, aligned(['change', 'at', 'by', '', 'what'], table, [0]));
    },
  },
  undo: {
    takes: '[--change <n>]',
    does: 'takes a change back, the last one where none is named',
    async run(place, { books, change, 'dry-run': dry }) {
      const file = place.open(books);
      const last =
        change ??
        (
          await file.read((db) =>
            db
              .selectFrom('audit')
              .select((e) => e.fn.max('id').as('id'))
              .executeTakeFirstOrThrow(),
          )
        ).id;
      return answerOf(await place.run(file, undoChange, { audit: Number(last ?? 0) }, dry === true), ({ summary }) =>
        dry ? [summary] : [],
      );
    },
  },
};
