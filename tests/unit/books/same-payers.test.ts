import { listPayers } from '@/books/payers/list';
import { setPayer } from '@/books/payers/payers';
import { mergePayers, nameAndEmail, saidIs, samePayerQuestions } from '@/books/payers/same';
import { invoicesImporter } from '@/books/invoices/import';
import { postInvoices } from '@/books/invoices/post';
import { saveMapRule } from '@/books/map/rules';
import { receiptsFrom, receiptsImporter } from '@/books/receipts/import';
import { postReceipts } from '@/books/receipts/post';
import { railOf } from '@/books/today/rail';
import { worklist } from '@/books/today/worklist';
import { DESK_HEAD, FIGURE_A, INVOICE_HEAD, useWorld } from './world';

const world = useWorld();

let rows = 0;
const row = (payer: string, email: string, document = '') =>
  `R-${++rows},receipt,2026-11-05T10:00:00Z,EUR,10.00,0.44,9.56,${payer},${email},${document},,,,\n`;
const desk = (...lines: string[]) => world.bringIn(receiptsImporter, DESK_HEAD + lines.join(''));

/** Each receipt, oldest first, with the name of its payer. */
async function paidBy(): Promise<(string | null)[]> {
  const found = await world.books.reader
    .selectFrom('receipt')
    .leftJoin('payer', 'payer.id', 'receipt.payer_id')
    .select('payer.name')
    .orderBy('receipt.id')
    .execute();
  return found.map(({ name }) => name);
}
const payer = async (name: string) =>
  (await world.books.reader.selectFrom('payer').select('id').where('name', '=', name).executeTakeFirstOrThrow()).id;
const undo = () => world.undoLast();
const questions = () => samePayerQuestions(world.books.reader);
const todo = async () => {
  const db = world.books.reader;
  return (await worklist(db, await railOf(db, new Date()))).map(({ title }) => title);
};

describe('one email, two names', () => {
  beforeEach(async () => {
    rows = 0;
    await desk(row('Ann Weir', 'home@weir.example'));
    await desk(
      row('Tom Weir', 'HOME@weir.example'),
      row('ann weir', 'home@weir.example'),
      row('', 'home@weir.example'),
    );
  });

  test('are put under the payer with the email, and asked about', async () => {
    expect(await paidBy()).toEqual(['Ann Weir', 'Ann Weir', 'Ann Weir', 'Ann Weir']);
    const id = await payer('Ann Weir');
    expect(await questions()).toEqual([
      {
        said: 'Tom Weir <home@weir.example>',
        payer: { id, name: 'Ann Weir' },
        others: [],
        receipts: 1,
        gross: 1000,
        last: '2026-11-05',
      },
    ]);
    expect(await todo()).toContain('1 name came with another payer’s email: one payer or two?');
  });

  test('said to be one, it is not asked again, and the other name finds them', async () => {
    const id = await payer('Ann Weir');
    await world.must(saidIs, { said: 'Tom Weir <home@weir.example>', payer: id, is: id });
    await desk(row('Tom Weir', 'home@weir.example'), row('Tom Weir', ''));
    expect(await questions()).toEqual([]);
    expect(new Set(await paidBy())).toEqual(new Set(['Ann Weir']));
    expect((await listPayers(world.books.reader, 'tom', null)).rows).toMatchObject([
      { name: 'Ann Weir', alsoKnownAs: 'Tom Weir', receipts: 6 },
    ]);
    expect(await todo()).not.toContain('1 name came with another payer’s email: one payer or two?');
  });

  test('said to be two, receipts follow, and from then on the name decides', async () => {
    const id = await payer('Ann Weir');
    await world.must(saidIs, { said: 'Tom Weir <home@weir.example>', payer: id, is: null });
    expect(await paidBy()).toEqual(['Ann Weir', 'Tom Weir', 'Ann Weir', 'Ann Weir']);
    await desk(row('TOM WEIR', 'home@weir.example'), row('Ann Weir', 'home@weir.example'));
    expect((await paidBy()).slice(4)).toEqual(['Tom Weir', 'Ann Weir']);
    // A third name with the email of two: nobody is chosen.
    await desk(row('Una Weir', 'home@weir.example'));
    expect((await paidBy()).at(-1)).toBeNull();
    const tom = await payer('Tom Weir');
    const [asked] = await questions();
    expect(asked).toMatchObject({ said: 'Una Weir <home@weir.example>', payer: null, others: [{ id }, { id: tom }] });
    await world.must(saidIs, { said: asked!.said, payer: null, is: tom });
    expect((await paidBy()).at(-1)).toBe('Tom Weir');
    await desk(row('Una Weir', 'home@weir.example'));
    expect((await paidBy()).at(-1)).toBe('Tom Weir');
  });

  test('either answer can be undone, and is asked again then', async () => {
    const id = await payer('Ann Weir');
    for (const is of [id, null]) {
      await world.must(saidIs, { said: 'Tom Weir <home@weir.example>', payer: id, is });
      expect(await questions()).toEqual([]);
      await undo();
      expect(await questions()).toHaveLength(1);
      expect(await paidBy()).toEqual(['Ann Weir', 'Ann Weir', 'Ann Weir', 'Ann Weir']);
      expect(await world.count('payer')).toBe(1);
      expect(await world.count('payer_alias')).toBe(0);
    }
    expect(await world.refusal(saidIs, { said: 'Nobody <x@y.example>', payer: id, is: id })).toBe('not-found');
  });

  test('the channel’s own id is surer than an email, and is not asked about', async () => {
    const settings = {
      columns: { id: 'Id', time: 'Time', gross: 'Gross', payer: 'Name', email: 'Mail', payerId: 'Member' },
      delimiter: ',',
      above: 0,
      decimal: '.',
      dateOrder: 'YMD',
      zone: 'UTC',
      currency: 'EUR',
      feeSign: 'plus',
      refunds: [],
      payouts: [],
      skipped: [],
      chargebacks: [],
      shape: 'receipts',
      tenders: [],
      tips: [],
      taxIn: 'included',
      encoding: 'auto',
    } as const;
    const members = receiptsFrom({ channel: 1, profile: { fingerprint: 'members', settings } });
    const head = 'Id,Time,Gross,Name,Mail,Member\n';
    await world.bringIn(members, `${head}M-1,2026-11-06,5.00,Una Byrne,una@mail.example,77\n`);
    await world.bringIn(members, `${head}M-2,2026-11-07,5.00,U. Byrne,home@weir.example,77\n`);
    expect((await paidBy()).slice(4)).toEqual(['Una Byrne', 'Una Byrne']);
    expect(await questions()).toHaveLength(1);
  });

  test('a payer can be made with an email that is taken, once it is said that they are two', async () => {
    await desk(row('', ''));
    const receipt = await world.id('receipt', `R-${rows}`);
    const make = { name: 'Una Weir', email: 'home@weir.example' };
    expect(await world.refusal(setPayer, { receipt, payer: null, make })).toBe('email-taken');
    await world.must(setPayer, { receipt, payer: null, make: { ...make, evenSo: true } });
    expect((await paidBy()).at(-1)).toBe('Una Weir');
  });

  test('name and email are told apart again', () => {
    expect(nameAndEmail('Tom Weir <home@weir.example>')).toEqual({ name: 'Tom Weir', email: 'home@weir.example' });
    expect(nameAndEmail('<home@weir.example>')).toEqual({ name: '', email: 'home@weir.example' });
    expect(nameAndEmail('A < B <a@b.example>')).toEqual({ name: 'A < B', email: 'a@b.example' });
  });
});

describe('merging', () => {
  test('takes receipts, invoices, names and rules along, keeps the ledger, and can be undone', async () => {
    rows = 0;
    await world.bringIn(invoicesImporter, FIGURE_A.invoice);
    await world.bringIn(receiptsImporter, FIGURE_A.desk);
    await world.must(postInvoices, { filter: {} });
    await world.must(postReceipts, { filter: {} });
    const [paid] = await paidBy();
    await desk(row('A. Weir & Son', 'son@weir.example'));
    const [from, into] = [await payer(paid!), await payer('A. Weir & Son')];
    const { rule } = await world.must(saveMapRule, {
      id: null,
      name: 'Theirs',
      active: true,
      conditions: { payers: [from] },
      landing: { taxCode: 2 },
    });
    const before = await world.balances();
    expect(await world.must(mergePayers, { from, into })).toEqual({ receipts: 1, invoices: 1 });
    expect(await paidBy()).toEqual(['A. Weir & Son', 'A. Weir & Son']);
    expect(await world.balances()).toEqual(before);
    const conditions = async () =>
      (
        await world.books.reader
          .selectFrom('map_rule')
          .select('conditions')
          .where('id', '=', rule)
          .executeTakeFirstOrThrow()
      ).conditions;
    expect(JSON.parse(await conditions())).toEqual({ payers: [into] });
    // What comes under the old name later is theirs too.
    const { name, email } = await world.books.reader
      .selectFrom('payer')
      .select(['name', 'email'])
      .where('id', '=', from)
      .executeTakeFirstOrThrow();
    await desk(row(name, email), row(name, ''));
    expect((await paidBy()).slice(2)).toEqual(['A. Weir & Son', 'A. Weir & Son']);
    expect((await listPayers(world.books.reader, '', null)).count).toBe(1);
    expect(await world.refusal(mergePayers, { from, into })).toBe('not-found');
    await world.undoLast('merge-payers');
    expect((await paidBy()).slice(0, 2)).toEqual([paid, 'A. Weir & Son']);
    expect(JSON.parse(await conditions())).toEqual({ payers: [from] });
    expect((await listPayers(world.books.reader, '', null)).rows).toMatchObject([
      { name: paid, invoices: 1, alsoKnownAs: '' },
      { name: 'A. Weir & Son', invoices: 0 },
    ]);
    expect(await world.refusal(mergePayers, { from, into: from })).toBe('invalid-input');
  });
});

test('money for an invoice that is paid already stands on Today, before it is posted and after', async () => {
  rows = 0;
  await world.bringIn(
    invoicesImporter,
    `${INVOICE_HEAD}KS-1,Ann Weir,,2026-11-01,2026-11-15,EUR,repair,10.00,S23,2.30\n`,
  );
  await world.must(postInvoices, { filter: {} });
  await desk(row('Ann Weir', '', 'KS-1').replace('10.00,0.44,9.56', '12.30,0.48,11.82'));
  await world.must(postReceipts, { filter: {} });
  const over = (title: string) => title.includes('more than was open');
  expect((await todo()).filter(over)).toEqual([]);
  await desk(row('Ann Weir', '', 'KS-1'));
  expect((await todo()).filter(over)).toEqual(['1 receipt pays more than was open of an invoice']);
  await world.must(postReceipts, { filter: {} });
  expect((await todo()).filter(over)).toEqual(['1 receipt pays more than was open of an invoice']);
  expect(await world.balances()).toMatchObject({ '2200': -1000 });
});
