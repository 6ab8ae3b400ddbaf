import { plainDate } from '@/core/calendar';
import { minor } from '@/core/money';
import type { BillInput } from '@/books/billing/bill-input';
import { saveInvoiceDraft } from '@/books/billing/drafts';
import { issueInvoice, type IssuedInvoice } from '@/books/billing/issue';
import { setPayerDetails, type PayerDetails } from '@/books/payers/details';
import { keepTerms } from '@/books/setup/list-commands';
import type { World } from './world';

export const DETAILS: PayerDetails = {
  name: 'A. Tern',
  email: 'a.tern@mail.example',
  emails: [],
  address: '1 Quay Street\nTernport',
  country: 'IE',
  taxNumber: '',
  terms: null,
  note: '',
  archived: false,
  externals: [],
};

/** A payer of these books. */
export async function payerNamed(world: World, name = DETAILS.name, email = `${name}@mail.example`): Promise<number> {
  const details = { ...DETAILS, name, email: email.toLowerCase().replace(/[ ]/g, '') };
  return (await world.must(setPayerDetails, { payer: null, details })).payer;
}

/** Two percent for paying within ten days, thirty days in all. */
export async function earlyTerms(world: World): Promise<number> {
  const terms = {
    id: null,
    name: '2 % in 10 days',
    due_days: 30,
    discount_rate: 200,
    discount_days: 10,
    archived: 0,
  } as const;
  return (await world.must(keepTerms, terms)).id;
}

/** A bill over these net amounts, each a line of its own at 23 %. */
export async function bill(
  world: World,
  payer: number | null,
  nets: readonly number[],
  more: Partial<BillInput> = {},
): Promise<BillInput> {
  const item = await world.books.reader
    .selectFrom('item')
    .select('id')
    .where('code', '=', 'repair')
    .executeTakeFirstOrThrow();
  const tax = await world.books.reader
    .selectFrom('tax_code')
    .select('id')
    .where('code', '=', 'S23')
    .executeTakeFirstOrThrow();
  return {
    payer,
    issued: plainDate('2026-11-09'),
    due: null,
    terms: null,
    reference: '',
    note: '',
    privateNote: '',
    lines: nets.map((net) => ({
      item: item.id,
      description: '',
      quantity: 1000,
      price: minor(net),
      discount: 0,
      taxCode: tax.id,
      dimensions: [],
    })),
    ...more,
  };
}

export async function issue(world: World, of: BillInput): Promise<IssuedInvoice> {
  const { draft } = await world.must(saveInvoiceDraft, { draft: null, bill: of });
  return world.must(issueInvoice, { draft, bill: of });
}
