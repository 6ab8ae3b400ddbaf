import { saveMapRule } from '@/books/map/rules';
import { saveInvoiceDraft } from '@/books/billing/drafts';
import { issueInvoice } from '@/books/billing/issue';
import { invoicesImporter } from '@/books/invoices/import';
import { postInvoices } from '@/books/invoices/post';
import { receiptsImporter } from '@/books/receipts/import';
import { postReceipts } from '@/books/receipts/post';
import { keepItem, type ItemInput } from '@/books/setup/list-commands';
import { mergeItems, partItems } from '@/books/setup/merge-items';
import { BooksFile } from '@/books/store';
import { bill, issue, payerNamed } from './bills';
import { DESK_HEAD, INVOICE_HEAD, useWorld } from './world';

const world = useWorld();
let old: number;
let now: number;
beforeEach(async () => {
  const { id, tax_code_id: taxCode } = await world.books.reader
    .selectFrom('item')
    .selectAll()
    .where('code', '=', 'repair')
    .executeTakeFirstOrThrow();
  now = id;
  const items: ItemInput = {
    id: null,
    code: 'mend',
    name: 'Mending',
    description: '',
    income_account_id: await world.account('4020'),
    tax_code_id: taxCode,
    price: null,
    unit: 'C62',
    archived: 0,
  };
  old = (await world.must(keepItem, items)).id;
});

const itemNow = async () =>
  world.books.reader.selectFrom('item').selectAll().where('id', '=', old).executeTakeFirstOrThrow();
const undo = () => world.undoLast();
const sold = (id: string) => `${DESK_HEAD}${id},receipt,2026-11-10T10:00:00Z,EUR,123.00,0.00,123.00,,,,mend,,,\n`;

test('what is posted stays; drafts, files and receipts that name it land where the other does', async () => {
  const payer = await payerNamed(world);
  const of = await bill(world, payer, [10000]);
  const old1 = { ...of, lines: of.lines.map((line) => ({ ...line, item: old })) };
  await issue(world, old1);
  const before = await world.balances();
  const { draft } = await world.must(saveInvoiceDraft, { draft: null, bill: old1 });
  await world.bringIn(invoicesImporter, `${INVOICE_HEAD}M-1,A. Tern,,2026-11-02,2026-12-02,EUR,mend,50.00,S23,\n`);
  await world.must(mergeItems, { from: old, into: now });
  expect(await world.balances()).toEqual(before);

  await world.must(issueInvoice, { draft, bill: old1 });
  await world.must(postInvoices, { filter: {} });
  await world.bringIn(receiptsImporter, sold('CD-1'));
  await world.must(postReceipts, { filter: {} });
  const after = await world.balances();
  const income = (
    await world.books.reader
      .selectFrom('account')
      .innerJoin('item', 'item.income_account_id', 'account.id')
      .select('account.code')
      .where('item.id', '=', now)
      .executeTakeFirstOrThrow()
  ).code;
  expect(after['4020']).toBe(before['4020']);
  // 100.00 from the draft, 50.00 from the file, 123.00 less its tax from the receipt.
  expect((after[income] ?? 0) - (before[income] ?? 0)).toBe(-25000);
});

test('a rule that asks for it asks for the other; parting puts all of it back, also what had come to it before', async () => {
  const third = (
    await world.must(keepItem, { ...(await itemNow()), id: null, code: 'patch', dimensions: undefined } as ItemInput)
  ).id;
  await world.must(mergeItems, { from: third, into: old });
  const landing = { income: await world.account('4020') };
  const { rule } = (await world.must(saveMapRule, {
    id: null,
    name: 'Mending',
    conditions: { items: [old] },
    landing,
    active: true,
  } as never)) as unknown as { rule: number };
  const rules = () => world.books.reader.selectFrom('map_rule').select('conditions').execute();
  const was = await rules();
  await world.must(mergeItems, { from: old, into: now });
  expect(JSON.parse((await rules())[0]!.conditions)).toMatchObject({ items: [now] });
  const through = () =>
    world.books.reader.selectFrom('item').select('merged_into').where('id', '=', third).executeTakeFirstOrThrow();
  expect((await through()).merged_into).toBe(now);
  await undo();
  expect([await rules(), (await through()).merged_into]).toEqual([was, old]);
  expect(await itemNow()).toMatchObject({ merged_into: null, archived: 0 });
  expect(rule).not.toBe(0);
});

test('into itself, into one that was merged, out of one that was merged, brought back by itself: refused', async () => {
  expect(await world.refusal(mergeItems, { from: old, into: old })).toBe('invalid-input');
  expect(await world.refusal(mergeItems, { from: old, into: 999 })).toBe('not-found');
  expect(await world.refusal(partItems, { item: old, archived: 0, through: [], rules: [] })).toBe('not-found');
  await world.must(mergeItems, { from: old, into: now });
  expect(await world.refusal(mergeItems, { from: old, into: now })).toBe('merged');
  expect(await world.refusal(mergeItems, { from: now, into: old })).toBe('merged');
  expect(await world.refusal(keepItem, { ...(await itemNow()), archived: 0, dimensions: undefined })).toBe('merged');
  await world.must(partItems, { item: old, archived: 0, through: [], rules: [] });
  expect(await itemNow()).toMatchObject({ merged_into: null, archived: 0 });
});

test('the books open again with the item still merged', async () => {
  await world.must(mergeItems, { from: old, into: now });
  const again = new BooksFile(`${world.folder}/books.sqlite`);
  const row = await again.read((db) =>
    db.selectFrom('item').select('merged_into').where('id', '=', old).executeTakeFirstOrThrow(),
  );
  await again.close();
  expect(row.merged_into).toBe(now);
});
