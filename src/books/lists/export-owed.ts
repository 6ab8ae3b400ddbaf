import { writeAmount, type Currency, type Minor } from '@/core/money';
import { AGEING_SPANS } from '@/core/receivables';
import type { PlainDate } from '@/core/calendar';
import { ageing } from '../settling/ageing';
import { columnsOf, type ImportedList } from '../setup/import-list';
import type { Reading } from '../store';

type Cells = readonly (string | number | null)[];

/** Lists of what is owed as rows of a CSV, head first; those that are brought in have the columns they are brought in with. */
export async function owedRows(
  db: Reading,
  list: ImportedList | 'ageing',
  currency: Currency,
  day: PlainDate,
): Promise<readonly Cells[]> {
  const money = (amount: Minor) => writeAmount(amount, currency);
  switch (list) {
    case 'ageing': {
      const { rows } = await ageing(db, day, Number.MAX_SAFE_INTEGER);
      return [
        ['Payer', ...AGEING_SPANS.map(({ label }) => label), 'Open'],
        ...rows.map((row) => [row.name, ...AGEING_SPANS.map(({ key }) => money(row[key])), money(row.open)]),
      ];
    }
    case 'items': {
      const rows = await db
        .selectFrom('item')
        .innerJoin('account', 'account.id', 'item.income_account_id')
        .innerJoin('tax_code', 'tax_code.id', 'item.tax_code_id')
        .select([
          'item.code',
          'item.name',
          'account.code as account',
          'tax_code.code as tax',
          'description',
          'price',
          'unit',
        ])
        .orderBy('item.code')
        .execute();
      return [
        columnsOf(list),
        ...rows.map((r) => [
          r.code,
          r.name,
          r.account,
          r.tax,
          r.description,
          r.price === null ? '' : money(r.price),
          r.unit,
        ]),
      ];
    }
    case 'tax-codes': {
      const rows = await db
        .selectFrom('tax_code')
        .innerJoin('account', 'account.id', 'tax_code.account_id')
        .select(['tax_code.code', 'tax_code.name', 'rate', 'account.code as account', 'category'])
        .orderBy('tax_code.code')
        .execute();
      return [columnsOf(list), ...rows.map((r) => [r.code, r.name, r.rate / 100, r.account, r.category])];
    }
    case 'terms': {
      const rows = await db.selectFrom('terms').selectAll().orderBy('name').execute();
      return [columnsOf(list), ...rows.map((r) => [r.name, r.due_days, r.discount_rate / 100, r.discount_days])];
    }
    case 'accounts': {
      const rows = await db.selectFrom('account').selectAll().orderBy('code').execute();
      return [columnsOf(list), ...rows.map((r) => [r.code, r.name, r.class, r.role ?? ''])];
    }
    case 'payers': {
      const rows = await db
        .selectFrom('payer')
        .leftJoin('terms', 'terms.id', 'payer.terms_id')
        .select((e) => [
          'payer.name',
          'email',
          'address',
          'country',
          'tax_number',
          'terms.name as terms',
          'note',
          e
            .selectFrom('payer_alias')
            .select((a) => a.fn<string>('group_concat', [a.ref('payer_alias.email'), a.val(' ')]).as('emails'))
            .whereRef('payer_alias.payer_id', '=', 'payer.id')
            .where('payer_alias.email', '<>', '')
            .as('emails'),
        ])
        .where('merged_into', 'is', null)
        .orderBy('payer.name')
        .execute();
      return [
        columnsOf(list),
        ...rows.map((r) => [
          r.name,
          r.email,
          r.emails,
          r.address.replace(/\n/g, ' | '),
          r.country,
          r.tax_number,
          r.terms,
          r.note,
        ]),
      ];
    }
  }
}
