import type { BasisPoints, Currency, Minor } from '@/core/money';
import { listDimensions } from '../dimensions/dimensions';
import type { Reading } from '../store';
import type { BillInput } from './bill-input';

/** What there is to choose from on a bill. */
export interface BillLists {
  readonly currency: Currency;
  readonly items: readonly {
    readonly id: number;
    readonly code: string;
    readonly name: string;
    readonly description: string;
    readonly price: Minor | null;
    readonly taxCode: number;
    readonly dimensions: BillInput['lines'][number]['dimensions'];
  }[];
  readonly taxCodes: readonly {
    readonly id: number;
    readonly code: string;
    readonly name: string;
    readonly rate: BasisPoints;
  }[];
  readonly terms: readonly {
    readonly id: number;
    readonly name: string;
    readonly due_days: number;
    readonly discount_rate: BasisPoints;
    readonly discount_days: number;
  }[];
  readonly dimensions: readonly {
    readonly id: number;
    readonly name: string;
    readonly values: readonly { readonly id: number; readonly name: string }[];
  }[];
}

/** The lists as they stand; what is archived is left out, unless it is in `keep` because a document has it. */
export async function billLists(db: Reading, keep?: BillInput): Promise<BillLists> {
  const { currency } = await db.selectFrom('books').select('currency').executeTakeFirstOrThrow();
  const named = (of: (line: BillInput['lines'][number]) => number) => new Set(keep?.lines.map(of));
  const [items, taxes] = [named(({ item }) => item), named(({ taxCode }) => taxCode)];
  const defaults = await db.selectFrom('map_default').selectAll().where('layer', '=', 'item').execute();
  const dimensionsOf = (item: number) =>
    defaults.flatMap(({ ref_id: ref, field, value }) =>
      ref === item && field.startsWith('dimension:')
        ? [[Number(field.slice('dimension:'.length)), value] as const]
        : [],
    );
  const allItems = await db.selectFrom('item').selectAll().orderBy('name').execute();
  const allTaxes = await db.selectFrom('tax_code').selectAll().orderBy('code').execute();
  const allTerms = await db.selectFrom('terms').selectAll().orderBy('name').execute();
  return {
    currency,
    items: allItems
      .filter((item) => item.archived === 0 || items.has(item.id))
      .map(({ id, code, name, description, price, tax_code_id: taxCode }) => ({
        id,
        code,
        name,
        description,
        price,
        taxCode,
        dimensions: dimensionsOf(id),
      })),
    taxCodes: allTaxes
      .filter((tax) => tax.archived === 0 || taxes.has(tax.id))
      .map(({ id, code, name, rate }) => ({ id, code, name, rate })),
    terms: allTerms
      .filter((terms) => terms.archived === 0 || terms.id === keep?.terms)
      .map(({ id, name, due_days, discount_rate, discount_days }) => ({
        id,
        name,
        due_days,
        discount_rate,
        discount_days,
      })),
    dimensions: (await listDimensions(db)).map(({ id, name, values }) => ({
      id,
      name,
      values: values.filter((value) => value.active === 1),
    })),
  };
}
