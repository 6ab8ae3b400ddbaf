import { billLists } from '@/books/billing/bill-lists';
import { setPayerDetails } from '@/books/payers/details';
import { keepAccount, removeAccount } from '@/books/setup/accounts';
import {
  keepItem,
  keepTaxCode,
  keepTerms,
  removeFromList,
  setLetterhead,
  type ItemInput,
  type TaxCodeInput,
  type TermsInput,
} from '@/books/setup/list-commands';
import { importList, type ImportedList } from '@/books/setup/import-list';
import { minor, type BasisPoints } from '@/core/money';
import { bill, DETAILS, payerNamed } from './bills';
import { useWorld } from './world';

const world = useWorld();

const db = () => world.books.reader;
const rate = (points: number) => points as BasisPoints;
const terms = (more: Partial<TermsInput> = {}): TermsInput => ({
  id: null,
  name: '14 days',
  due_days: 14,
  discount_rate: rate(200),
  discount_days: 5,
  archived: 0,
  ...more,
});
const termsCalled = (name: string) => db().selectFrom('terms').selectAll().where('name', '=', name).executeTakeFirst();

describe('terms', () => {
  test('are added, changed, left as they are, and each change is taken back', async () => {
    const { id } = await world.must(keepTerms, terms());
    expect(await termsCalled('14 days')).toMatchObject({ due_days: 14, discount_rate: 200, discount_days: 5 });
    await world.must(keepTerms, terms({ id, due_days: 21 }));
    expect(await termsCalled('14 days')).toMatchObject({ id, due_days: 21 });
    await world.undoLast();
    expect(await termsCalled('14 days')).toMatchObject({ id, due_days: 14 });
    const audits = await world.count('audit');
    await world.must(keepTerms, terms({ id }));
    expect(await world.count('audit')).toBe(audits);
    await world.must(removeFromList, { table: 'terms', id });
    expect(await termsCalled('14 days')).toBeUndefined();
    await world.undoLast();
    expect(await termsCalled('14 days')).toMatchObject({ due_days: 14, discount_days: 5 });
  });

  test.each<[string, Partial<TermsInput>, string]>([
    ['a name that others have', { name: 'TAKEN' }, 'name-taken'],
    ['that are not there', { id: 9_999 }, 'not-found'],
    ['without a name', { name: '  ' }, 'invalid-input'],
    ['due before they begin', { due_days: -1 }, 'invalid-input'],
    ['a discount of more than half', { discount_rate: rate(5_001) }, 'invalid-input'],
    ['a discount for longer than they run', { due_days: 5, discount_days: 6 }, 'invalid-input'],
  ])('%s are refused', async (_what, change, code) => {
    await world.must(keepTerms, terms({ name: 'TAKEN' }));
    expect(await world.refusal(keepTerms, terms({ ...change }))).toBe(code);
  });

  test('that a payer has cannot be removed; they are archived, and a bill that has them still shows them', async () => {
    const { id } = await world.must(keepTerms, terms());
    const payer = await payerNamed(world, 'Orla Marrable');
    await world.must(setPayerDetails, { payer, details: { ...DETAILS, name: 'Orla Marrable', terms: id } });
    expect(await world.refusal(removeFromList, { table: 'terms', id })).toBe('in-use');
    await world.must(keepTerms, terms({ id, archived: 1 }));
    const kept = await bill(world, payer, [10_000], { terms: id });
    expect((await billLists(db())).terms.map((one) => one.id)).not.toContain(id);
    expect((await billLists(db(), kept)).terms.map((one) => one.id)).toContain(id);
  });
});

describe('items and tax codes', () => {
  const item = async (more: Partial<ItemInput> = {}): Promise<ItemInput> => ({
    id: null,
    code: 'splice',
    name: 'Rope splicing',
    description: 'by the eye',
    income_account_id: await world.account('4010'),
    tax_code_id: 1,
    price: minor(1_850),
    unit: 'HUR',
    archived: 0,
    ...more,
  });

  test('an item stands on bills with its price until it is archived', async () => {
    const { id } = await world.must(keepItem, await item());
    const listed = async () => (await billLists(db())).items.find((one) => one.id === id);
    expect(await listed()).toMatchObject({ code: 'splice', price: 1_850, taxCode: 1, dimensions: [] });
    await world.must(keepItem, await item({ id, price: minor(2_000) }));
    expect(await listed()).toMatchObject({ price: 2_000 });
    await world.must(keepItem, await item({ id, archived: 1 }));
    expect(await listed()).toBeUndefined();
    await world.undoLast();
    expect(await listed()).toMatchObject({ price: 2_000 });
  });

  test('an item is income and nothing else, of a code of its own, in a unit that is one', async () => {
    expect(await world.refusal(keepItem, await item({ income_account_id: await world.account('1010') }))).toBe(
      'account-unfit',
    );
    expect(await world.refusal(keepItem, await item({ income_account_id: 9_999 as never }))).toBe('account-unfit');
    expect(await world.refusal(keepItem, await item({ code: 'repair' }))).toBe('name-taken');
    expect(await world.refusal(keepItem, await item({ unit: 'hour' }))).toBe('invalid-input');
    expect(await world.refusal(keepItem, await item({ id: 9_999, code: 'none' }))).toBe('not-found');
    expect(await world.refusal(removeFromList, { table: 'item', id: 9_999 })).toBe('not-found');
  });

  test('a tax code that items have stays; its rate holds from now on', async () => {
    const code: TaxCodeInput = {
      id: null,
      code: 'L9',
      name: 'Low rate',
      rate: rate(900),
      account_id: await world.account('2100'),
      category: 'S',
      archived: 0,
    };
    const { id } = await world.must(keepTaxCode, code);
    await world.must(keepItem, await item({ tax_code_id: id }));
    expect(await world.refusal(removeFromList, { table: 'tax_code', id })).toBe('in-use');
    await world.must(keepTaxCode, { ...code, id, rate: rate(950) });
    expect((await billLists(db())).taxCodes.find((one) => one.id === id)).toMatchObject({ rate: 950 });
    await world.undoLast();
    expect((await billLists(db())).taxCodes.find((one) => one.id === id)).toMatchObject({ rate: 900 });
    expect(await world.refusal(keepTaxCode, { ...code, code: 'L10', rate: rate(10_001) })).toBe('invalid-input');
  });
});

describe('what stands on documents', () => {
  const letterhead = {
    address: 'The Old Sail Loft\nPortmara',
    email: 'post@kittiwake.example',
    tax_number: 'IE1234567T',
    number_prefix: 'KS-',
    write_off_limit: minor(500),
    bic: 'SKERIE2D',
  };
  test('is set, is taken back, and once more the same is no change', async () => {
    const before = await db().selectFrom('books').selectAll().executeTakeFirstOrThrow();
    await world.must(setLetterhead, letterhead);
    const { address, email, write_off_limit } = await db().selectFrom('books').selectAll().executeTakeFirstOrThrow();
    expect([address, email, write_off_limit]).toEqual([letterhead.address, letterhead.email, 500]);
    expect(await db().selectFrom('bank_account').select('bic').executeTakeFirst()).toEqual({ bic: 'SKERIE2D' });
    const audits = await world.count('audit');
    await world.must(setLetterhead, letterhead);
    expect(await world.count('audit')).toBe(audits);
    await world.undoLast();
    expect(await db().selectFrom('books').selectAll().executeTakeFirstOrThrow()).toEqual(before);
  });

  test.each<[string, Partial<typeof letterhead>]>([
    ['an address of mail that is none', { email: 'post' }],
    ['a prefix with spaces', { number_prefix: 'K S' }],
    ['a limit below zero', { write_off_limit: minor(-1) }],
    ['a BIC of nine letters', { bic: 'SKERIE2DX' }],
  ])('%s is refused', async (_what, change) => {
    expect(await world.refusal(setLetterhead, { ...letterhead, ...change })).toBe('invalid-input');
  });
});

describe('accounts of the chart', () => {
  test('one is added, renamed, removed; what it is booked as stays', async () => {
    const postage = { code: '6500', name: 'Postage', class: 'expense', role: null } as const;
    await world.must(keepAccount, postage);
    await world.must(keepAccount, { ...postage, name: 'Post and parcels' });
    await world.undoLast();
    expect(await db().selectFrom('account').select('name').where('code', '=', '6500').executeTakeFirst()).toEqual({
      name: 'Postage',
    });
    expect(await world.refusal(keepAccount, { ...postage, class: 'income' })).toBe('account-differs');
    expect(
      await world.refusal(keepAccount, { code: '2999', name: 'Second', class: 'liability', role: 'payer_credit' }),
    ).toBe('role-taken');
    await world.must(removeAccount, { code: '6500' });
    expect(await world.refusal(removeAccount, { code: '6500' })).toBe('not-found');
    expect(await world.refusal(removeAccount, { code: '1010' })).toBe('in-use');
  });
});

describe('lists that come in from a file', () => {
  const bringIn = (list: ImportedList, text: string) => world.must(importList, { list, text, name: `${list}.csv` });
  const why = ({ refused }: Awaited<ReturnType<typeof bringIn>>) => refused.map((one) => [one.line, one.why]);

  test('payers: new ones, those known by their address or name, and cells that say nothing', async () => {
    await world.must(keepTerms, terms());
    const came = await bringIn(
      'payers',
      'Name,Email,Other emails,Address,Country,Tax number,Terms,Note\n' +
        'Orla Marrable,orla@mail.example,boat@mail.example; sail@mail.example,1 The Quay | Portmara,ie,IE99,14 days,pays late\n' +
        'Cormorant Boatyard,,,,,,,\n' +
        'Nobody,nobody@mail.example,,,,,90 days,\n' +
        'Bad,not an address,,,,,,\n',
    );
    expect(came).toMatchObject({ added: 2, changed: 0, known: 0 });
    expect(why(came)).toEqual([
      [4, 'There are no terms named 90 days.'],
      [5, expect.stringContaining('email')],
    ]);
    const again = await bringIn(
      'payers',
      'Name,Email,Country,Note\nO. Marrable,ORLA@mail.example,,\nCormorant Boatyard,,,\n',
    );
    expect(again).toMatchObject({ added: 0, changed: 1, known: 1 });
    const orla = await db()
      .selectFrom('payer')
      .selectAll()
      .where('email', '=', 'orla@mail.example')
      .executeTakeFirstOrThrow();
    expect(orla).toMatchObject({
      name: 'O. Marrable',
      country: 'IE',
      note: 'pays late',
      address: '1 The Quay\nPortmara',
    });
    await world.undoLast();
    expect(
      await db().selectFrom('payer').select('name').where('email', '=', 'orla@mail.example').executeTakeFirst(),
    ).toEqual({ name: 'Orla Marrable' });
  });

  test('items and tax codes name what they need; a row that lacks it is refused by its line', async () => {
    const codes = await bringIn(
      'tax-codes',
      'Code,Name,Rate,Account,Category\nL9,Low,"9,5",2100,\nZ0,None,0,2100,\nX,Odd,nine,2100,\nY,Gone,9,2999,\n',
    );
    expect(codes).toMatchObject({ added: 2 });
    expect(why(codes)).toEqual([
      [4, 'nine is no percentage.'],
      [5, 'There is no account 2999.'],
    ]);
    const found = await db()
      .selectFrom('tax_code')
      .select(['code', 'rate', 'category'])
      .where('code', 'in', ['L9', 'Z0'])
      .orderBy('code')
      .execute();
    expect(found).toEqual([
      { code: 'L9', rate: 950, category: 'S' },
      { code: 'Z0', rate: 0, category: 'Z' },
    ]);
    const items = await bringIn(
      'items',
      'Code,Name,Income account,Tax code,Net price,Unit\nsplice,Splicing,4010,L9,18.50,HUR\nrig,Rig,4999,L9,,\nmast,Mast,4010,QQ,,\nwind,Wind,4010,L9,a lot,\n',
    );
    expect(items).toMatchObject({ added: 1 });
    expect(why(items)).toEqual([
      [3, 'There is no account 4999.'],
      [4, 'There is no tax code QQ.'],
      [5, 'a lot is no amount.'],
    ]);
  });

  test('terms and accounts; what is no number of days and no class is said', async () => {
    const came = await bringIn('terms', 'Name,Due days,Off %,Off within days\n30 days,30,2.5,10\nHalf,1.5,,\n');
    expect(came).toMatchObject({ added: 1 });
    expect(why(came)).toEqual([[3, 'Days are whole numbers, and what is off is a percentage.']]);
    expect(await termsCalled('30 days')).toMatchObject({ discount_rate: 250, discount_days: 10 });
    expect(await bringIn('terms', 'Name,Due days,Off %,Off within days\n30 days,45,2.5,10\n')).toMatchObject({
      changed: 1,
    });
    const chart = await bringIn(
      'accounts',
      'Code,Name,Class,Role\n6500,Postage,Expense,\n6501,Odd,thing,\n6502,Odd,expense,king\n',
    );
    expect(chart).toMatchObject({ added: 1 });
    expect(why(chart).map(([line]) => line)).toEqual([3, 4]);
    expect(why(chart)[0]![1]).toMatch(/^thing is no class of accounts: /);
    expect(why(chart)[1]![1]).toMatch(/^king is no role of accounts: /);
  });

  test('a file of other columns is refused whole and says which it takes; a row too wide alone', async () => {
    const wrong = { list: 'terms', text: 'Naam,Dagen\nx,1\n', name: 'terms.csv' } as const;
    expect(await world.refusal(importList, wrong)).toBe('invalid-input');
    const wide = await bringIn('terms', 'Name,Due days\n7 days,7\n8 days,8,8\n');
    expect(wide).toMatchObject({ added: 1, refused: [{ line: 3 }] });
  });
});
