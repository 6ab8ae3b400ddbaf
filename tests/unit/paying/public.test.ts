import { beginPayment } from '@/books/paying/begin';
import { connect } from '@/books/fetching/connections';
import { pledgeGift, type GiveInput } from '@/books/public/give';
import { listPages, openPage, pageOfToken, placesTaken, savePage } from '@/books/public/pages';
import { pledgeState } from '@/books/public/pledge-state';
import {
  giveUpRegistration,
  listRegistrations,
  register,
  ticketsOffered,
  type RegisterInput,
} from '@/books/public/register';
import { receiptsImporter } from '@/books/receipts/import';
import { postReceipts } from '@/books/receipts/post';
import { invoiceOfToken } from '@/books/paying/pay-page';
import { coveringFee, feeOf } from '@/core/channels';
import { grossOf } from '@/core/receivables';
import { plainDate } from '@/core/calendar';
import { minor } from '@/core/money';
import fc from 'fast-check';
import { payerNamed } from '../books/bills';
import { DESK_HEAD, useWorld } from '../books/world';

const world = useWorld();
let token: string;
const REQUEST = '00000000-0000-4000-8000-000000000001';
const another = (n: number) => REQUEST.replace(/1$/, String(n));

describe('giving', () => {
  beforeEach(async () => {
    const content = { about: '', funds: ['General', 'Lens'], amounts: [minor(1000)], monthly: true };
    ({ token } = await world.must(savePage, { page: null, kind: 'giving', title: 'Lens fund', channel: 1, content }));
  });
  const gift = (more: Partial<GiveInput> = {}): GiveInput => ({
    token,
    request: REQUEST,
    fund: 'Lens',
    amount: minor(5000),
    every: 'once',
    coversFee: false,
    anonymous: false,
    name: 'R. Fulmar',
    email: 'r@mail.example',
    ...more,
  });

  test('covering the fee leaves the whole gift: 50.00 needs 51.22', async () => {
    expect(coveringFee(minor(5000), { rate: 190, fixed: minor(25) })).toBe(5122);
    expect(await world.must(pledgeGift, gift({ coversFee: true }))).toMatchObject({
      amount: 5122,
      checkout: { fund: 'Lens', payer: { name: 'R. Fulmar' } },
    });
    const schedule = fc.record({
      rate: fc.integer({ min: 0, max: 3000 }),
      fixed: fc.integer({ min: 0, max: 500 }).map(minor),
    });
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e8 }), schedule, (of, fees) => {
        const pays = coveringFee(minor(of), fees);
        expect(pays - feeOf(pays, fees)).toBeGreaterThanOrEqual(of);
        expect(pays - 1 - feeOf(minor(pays - 1), fees)).toBeLessThan(of);
      }),
    );
  });

  test('without a name nothing of who gives is kept or passed on', async () => {
    const made = await world.must(pledgeGift, gift({ anonymous: true, name: 'R. Fulmar', email: 'r@mail.example' }));
    expect(made.checkout.payer).toEqual({ name: '', email: '' });
    const { content } = await world.books.reader.selectFrom('pledge').select('content').executeTakeFirstOrThrow();
    expect(content).not.toContain('ulmar');
  });

  test('sent off twice it is one gift; changed in between it is refused', async () => {
    const first = await world.must(pledgeGift, gift());
    expect((await world.must(pledgeGift, gift())).reference).toBe(first.reference);
    expect(await world.refusal(pledgeGift, gift({ amount: minor(9900) }))).toBe('invalid-input');
    expect(await world.count('pledge')).toBe(1);
  });

  test.each([
    ['a fund that is not offered', { fund: 'Foghorn' }, 'invalid-input'],
    ['less than 1.00', { amount: minor(99) }, 'invalid-input'],
    ['neither name nor without one', { name: '' }, 'invalid-input'],
    ['a form of its own making', { request: 'x' }, 'invalid-input'],
    ['another token', { token: 'a'.repeat(22) }, 'not-found'],
  ])('refused: %s', async (_name, more, code) => {
    expect(await world.refusal(pledgeGift, gift(more))).toBe(code);
  });

  test('closed it takes nothing; the gift that came is known by its receipt', async () => {
    await world.must(connect, { channel: 1, account: null, address: '/standins/kittiwake/desk', secret: 'key' });
    const wanted = await world.must(pledgeGift, gift());
    const door = () => ({ checkout: async () => ({ pay: '/x', receipt: 'CD-W1' }) });
    await beginPayment(world.books, wanted, { door, now: new Date(), returnTo: '', notify: () => '' });
    const page = (await pageOfToken(world.books.reader, token))!;
    expect(await pledgeState(world.books.reader, page.id, wanted.id)).toEqual({ came: null });
    expect(await pledgeState(world.books.reader, page.id, 99)).toBeNull();
    await world.bringIn(
      receiptsImporter,
      `${DESK_HEAD}CD-W1,receipt,2026-11-16T10:00:00Z,EUR,50.00,1.20,48.80,R. Fulmar,r@mail.example,,,,,\n`,
    );
    expect((await pledgeState(world.books.reader, page.id, wanted.id))!.came).toMatchObject({
      name: 'CD-W1',
      amount: 5000,
    });
    await world.must(openPage, { page: page.id, open: false });
    expect(await world.refusal(pledgeGift, gift({ request: another(2) }))).toBe('page-closed');
  });
});

describe('registration', () => {
  beforeEach(async () => {
    const item = await world.books.reader
      .selectFrom('item')
      .selectAll()
      .where('code', '=', 'lesson')
      .executeTakeFirstOrThrow();
    const ticket = (name: string, price: number) => ({
      name,
      item: item.id,
      taxCode: item.tax_code_id,
      price: minor(price),
    });
    const content = {
      about: '',
      day: plainDate('2026-12-13'),
      places: 5,
      tickets: [ticket('Grown-up', 1057), ticket('Child', 441), ticket('Under five', 0)],
    };
    ({ token } = await world.must(savePage, { page: null, kind: 'registration', title: 'Tea', channel: 1, content }));
  });
  const who = (more: Partial<RegisterInput> = {}): RegisterInput => ({
    token,
    request: REQUEST,
    counts: [2, 1, 0],
    name: 'R. Fulmar',
    email: 'R@Mail.example',
    ...more,
  });
  const pageId = async () => (await pageOfToken(world.books.reader, token))!.id;

  test('makes payer and invoice, and the payment meets it', async () => {
    const made = await world.must(register, who());
    const row = await world.books.reader
      .selectFrom('invoice')
      .innerJoin('payer', 'payer.id', 'payer_id')
      .selectAll()
      .executeTakeFirstOrThrow();
    expect(row).toMatchObject({ name: 'R. Fulmar', email: 'r@mail.example', own: 1, gross: 2900 });
    expect(await invoiceOfToken(world.books.reader, made.payToken!)).toBe(made.invoice);
    await world.bringIn(
      receiptsImporter,
      `${DESK_HEAD}CD-W1,receipt,2026-11-16T10:00:00Z,EUR,29.00,0.80,28.20,R. Fulmar,r@mail.example,${row.number},,,,\n`,
    );
    await world.must(postReceipts, { filter: {} });
    expect(await listRegistrations(world.books.reader, await pageId())).toMatchObject([
      { name: 'R. Fulmar', places: 3, invoice: { open: 0 } },
    ]);
    expect(await world.count('payer')).toBe(1);
  });

  test('prices with their tax, as the page shows them', async () => {
    const page = (await pageOfToken(world.books.reader, token))!;
    if (page.offer.kind !== 'registration') throw new Error('kind');
    const tickets = await ticketsOffered(world.books.reader, page.offer.tickets);
    expect(tickets.map((ticket) => grossOf([ticket], [1]))).toEqual([1200, 501, 0]);
    // Several come to what their invoice does, not to the single prices added up.
    expect(grossOf(tickets, [2, 1, 0])).toBe(2900);
  });

  test('the same registration, however often it is sent; the same person is one payer', async () => {
    const known = await payerNamed(world, 'R. Fulmar', 'r@mail.example');
    const first = await world.must(register, who({ counts: [1, 0, 0] }));
    const again = await Promise.all([1, 2].map(() => world.must(register, who({ counts: [1, 0, 0] }))));
    expect(again.map(({ invoice }) => invoice)).toEqual([first.invoice, first.invoice]);
    await world.must(register, who({ request: another(2), counts: [1, 0, 0], name: 'r. fulmar' }));
    expect(await world.count('payer')).toBe(1);
    expect(await world.count('invoice')).toBe(2);
    const { payer_id: owes } = await world.books.reader
      .selectFrom('invoice')
      .select('payer_id')
      .executeTakeFirstOrThrow();
    expect(owes).toBe(known);
  });

  test('places are counted: the last ones go once, and one given up is free again', async () => {
    await world.must(register, who());
    expect(await world.refusal(register, who({ request: another(2) }))).toBe('places-gone');
    const results = await Promise.all(
      [3, 4, 5].map((n) =>
        world.run(register, who({ request: another(n), counts: [2, 0, 0], email: `${n}@mail.example`, name: `N${n}` })),
      ),
    );
    expect(results.filter(({ ok }) => ok)).toHaveLength(1);
    expect(await placesTaken(world.books.reader, await pageId())).toBe(5);
    await world.must(giveUpRegistration, { registration: 1 });
    expect(await placesTaken(world.books.reader, await pageId())).toBe(2);
    const invoice = await world.books.reader
      .selectFrom('invoice')
      .selectAll()
      .where('id', '=', 1)
      .executeTakeFirstOrThrow();
    expect(invoice.credited).toBe(invoice.gross);
    expect(await world.refusal(giveUpRegistration, { registration: 1 })).toBe('not-found');
  });

  test('free tickets need no invoice; none at all, or no email, is refused', async () => {
    expect(await world.must(register, who({ counts: [0, 0, 2] }))).toMatchObject({ invoice: null, payToken: null });
    expect(await world.refusal(register, who({ request: another(2), counts: [0, 0, 0] }))).toBe('invalid-input');
    expect(await world.refusal(register, who({ request: another(3), email: 'x' }))).toBe('invalid-input');
    expect((await listPages(world.books.reader))[0]).toMatchObject({ taken: 2, open: true });
  });

  test('a name with markup or turned around is kept as text', async () => {
    await world.must(register, who({ name: '<b>R</b> \u202eramluF' }));
    const { name } = await world.books.reader.selectFrom('payer').select('name').executeTakeFirstOrThrow();
    expect(name).toBe('<b>R</b> ramluF');
  });
});
