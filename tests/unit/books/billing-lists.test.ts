import { saveInvoiceDraft } from '@/books/billing/drafts';
import { issueInvoice } from '@/books/billing/issue';
import { keepItem, keepTerms, removeFromList, setLetterhead } from '@/books/setup/list-commands';
import { payerDetails, setPayerDetails } from '@/books/payers/details';
import { minor } from '@/core/money';
import { bill, DETAILS, issue, payerNamed } from './bills';
import { useWorld } from './world';

const world = useWorld();
let payer: number;
beforeEach(async () => {
  payer = await payerNamed(world);
});

const undo = () => world.undoLast();

test('lists are added to, changed, archived and taken back; what is used stays', async () => {
  const item = await world.books.reader
    .selectFrom('item')
    .selectAll()
    .where('code', '=', 'repair')
    .executeTakeFirstOrThrow();
  const { id } = await world.must(keepItem, {
    ...item,
    id: null,
    code: 'splice',
    name: 'Splicing',
    price: minor(1500),
  });
  await world.must(keepItem, { ...item, id, code: 'splice', name: 'Splicing', price: minor(1800), archived: 1 });
  await undo();
  expect(
    await world.books.reader.selectFrom('item').select(['price', 'archived']).where('id', '=', id).executeTakeFirst(),
  ).toEqual({ price: 1500, archived: 0 });
  expect(await world.refusal(keepItem, { ...item, id: null })).toBe('name-taken');
  const bank = await world.account('1010');
  expect(await world.refusal(keepItem, { ...item, income_account_id: bank })).toBe('account-unfit');
  await world.must(removeFromList, { table: 'item' as const, id });
  await issue(world, await bill(world, payer, [100]));
  expect(await world.refusal(removeFromList, { table: 'item' as const, id: item.id })).toBe('in-use');
  const terms = { id: null, name: 'Now', due_days: 0, discount_rate: 0, discount_days: 5, archived: 0 } as const;
  expect(await world.refusal(keepTerms, terms)).toBe('invalid-input');
  await world.must(keepTerms, { ...terms, discount_days: 0 });
});

test('a payer has several emails and ids; one that is another’s is asked about', async () => {
  const details = {
    ...DETAILS,
    name: 'B. Gannet',
    emails: ['b@mail.example'],
    externals: [{ channel: 1, id: 'M-7' }],
  };
  const made = (await world.must(setPayerDetails, { payer: null, details: { ...details, email: 'bg@mail.example' } }))
    .payer;
  expect(await payerDetails(world.books.reader, made)).toMatchObject({
    emails: ['b@mail.example'],
    externals: [{ id: 'M-7' }],
  });
  const twice = { payer: null, details: { ...DETAILS, name: 'C. Gannet', email: 'bg@mail.example' } };
  expect(await world.refusal(setPayerDetails, twice)).toBe('email-taken');
  expect(
    await world.refusal(setPayerDetails, { payer: null, details: { ...details, email: 'new@mail.example' } }),
  ).toBe('name-taken');
  await world.must(setPayerDetails, { ...twice, evenSo: true });
  await world.must(setPayerDetails, { payer: made, details: { ...details, email: '', emails: [] } });
  await undo();
  expect((await payerDetails(world.books.reader, made))!.email).toBe('bg@mail.example');
  await world.must(setPayerDetails, { payer: made, details: { ...details, email: '', emails: [], archived: true } });
  const of = await bill(world, made, [100]);
  const { draft } = await world.must(saveInvoiceDraft, { draft: null, bill: of });
  expect(await world.refusal(issueInvoice, { draft, bill: of })).toBe('archived');
});

test('what stands on documents, and the prefix of numbers', async () => {
  const head = {
    address: '2 Slip Road',
    email: '',
    tax_number: 'IE1',
    number_prefix: 'KS-',
    write_off_limit: minor(50),
    bic: 'TERNIE2D',
  };
  await world.must(setLetterhead, head);
  expect((await issue(world, await bill(world, payer, [100]))).number).toBe('KS-2026-0001');
  expect(await world.refusal(setLetterhead, { ...head, bic: 'x' })).toBe('invalid-input');
});
