import { billLists } from '@/books/billing/bill-lists';
import { PageTabs } from '@/ui/frame/rail';
import { FilterChips } from '@/ui/parts/list-frame';
import { openBooks } from '../../../../server/books';
import { single, type SearchParams } from '../../../../server/params';
import { SET_UP_PAGES } from '../pages';
import { ListView, type ListRow } from './list-view';
import type { ListName } from './row-fields';

interface Props {
  readonly params: Promise<{ books: string }>;
  readonly searchParams: SearchParams;
}

const LISTS = {
  items: { table: 'item', by: 'code', noun: 'item' },
  'tax-codes': { table: 'tax_code', by: 'code', noun: 'tax code' },
  terms: { table: 'terms', by: 'name', noun: 'terms' },
} as const;

export default async function ListsPage({ params, searchParams }: Props) {
  const { books } = await params;
  const asked = (await single(searchParams)).list ?? 'items';
  const list: ListName = asked in LISTS ? (asked as ListName) : 'items';
  const { table, by, noun } = LISTS[list];
  const { rows, accounts, offered, defaults } = await openBooks(books).read(async (db) => ({
    rows: await db
      .selectFrom(table as 'item')
      .selectAll()
      .orderBy(by as 'code')
      .execute(),
    accounts: await db.selectFrom('account').select(['id', 'code', 'name', 'class', 'role']).orderBy('code').execute(),
    offered: await billLists(db),
    defaults: await db.selectFrom('map_default').selectAll().where('layer', '=', 'item').execute(),
  }));
  // An item's dimensions stand with it, as columns of their own.
  const codeOf = new Map(rows.map(({ id, code }) => [id, code]));
  const shown = rows.map((row) => ({
    ...row,
    ...(list === 'items' && row.merged_into !== null && { mergedInto: codeOf.get(row.merged_into) }),
    ...(list === 'items'
      ? Object.fromEntries(
          defaults.filter(({ ref_id: ref }) => ref === row.id).map(({ field, value }) => [field, value]),
        )
      : {}),
  })) as unknown as readonly ListRow[];
  const choicesOf = (fits: (account: (typeof accounts)[number]) => boolean) =>
    accounts.filter(fits).map(({ id, code, name }) => ({ value: String(id), label: `${code} ${name}` }));
  return (
    <>
      <PageTabs pages={SET_UP_PAGES} />
      <main>
        <div className="page-head">
          <h1>Lists</h1>
          <span className="soft">what invoices are made of; payers stand under Owed</span>
        </div>
        <FilterChips
          param="list"
          label="Which list"
          choices={[
            { value: '', label: 'Items' },
            { value: 'tax-codes', label: 'Tax codes' },
            { value: 'terms', label: 'Terms' },
          ]}
        />
        <ListView
          key={list}
          list={list}
          noun={noun}
          rows={shown}
          choices={{
            income: choicesOf((account) => account.class === 'income'),
            taxAccounts: choicesOf(
              (account) => account.role === 'sales_tax' || (account.class === 'liability' && account.role === null),
            ),
            taxCodes: offered.taxCodes,
            dimensions: offered.dimensions,
          }}
        />
      </main>
    </>
  );
}
