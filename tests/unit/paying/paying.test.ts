import { connect } from '@/books/fetching/connections';
import { takeEvent } from '@/books/fetching/events';
import { correctInvoice } from '@/books/billing/correct';
import { creditInvoice } from '@/books/billing/credit';
import { payLinkOf, sendInvoice } from '@/books/billing/hand-out';
import { invoiceDetail } from '@/books/invoices/detail';
import { beginPayment, type PayingOptions, type PaymentWanted } from '@/books/paying/begin';
import { askedToday, cameOf, invoiceOfToken, noteSeen, payPage } from '@/books/paying/pay-page';
import { printedReceipt } from '@/books/paying/receipt-pdf';
import { receiptsImporter } from '@/books/receipts/import';
import { postReceipts } from '@/books/receipts/post';
import { sign } from '@/adapters/signature';
import { DoorShut } from '@/adapters/patience';
import { plainDate } from '@/core/calendar';
import { minor } from '@/core/money';
import type { WireCheckout } from '@/formats/movements/wire';
import { bill, earlyTerms, issue, payerNamed } from '../books/bills';
import { DESK_HEAD, useWorld } from '../books/world';

const NOW = new Date('2026-11-16T12:00:00Z');
const world = useWorld();
let invoice: number;
let number: string;
let token: string;
let asked: WireCheckout[];

beforeEach(async () => {
  asked = [];
  const terms = await earlyTerms(world);
  const payer = await payerNamed(world);
  ({ invoice, number } = await issue(world, await bill(world, payer, [20000], { terms })));
  token = await world.books.write(
    ({ db }) => payLinkOf(db, invoice, NOW.toISOString()),
    () => true,
  );
  await world.must(connect, { channel: 1, account: null, address: '/standins/kittiwake/desk', secret: 'key' });
});

const page = async (now = NOW) => (await payPage(world.books.reader, token, now))!;
const receive = async (id: string, cents: number, day = '2026-11-16', document = number) => {
  const money = (cents / 100).toFixed(2);
  return world.bringIn(
    receiptsImporter,
    `${DESK_HEAD}${id},receipt,${day}T10:00:00Z,EUR,${money},0.00,${money},A. Tern,,${document},,,,\n`,
  );
};
const options: PayingOptions = {
  door: () => ({
    async checkout(wanted) {
      asked.push(wanted);
      return { pay: '/pay-here', receipt: 'CD-W1' };
    },
  }),
  now: NOW,
  returnTo: 'back',
  notify: (channel) => `events/${channel}`,
};
const wanted = (more: Partial<PaymentWanted> = {}): PaymentWanted => ({
  purpose: 'invoice',
  id: invoice,
  amount: minor(24108),
  reference: `${number}/1`,
  channel: null,
  checkout: {
    title: '',
    document: number,
    item: '',
    note: '',
    fund: '',
    payer: { name: '', email: '' },
    every: 'once',
  },
  ...more,
});

test('a token is long, random and kept; others lead nowhere', async () => {
  expect(token).toMatch(/^[A-Za-z0-9_-]{43}$/);
  const again = await world.books.write(
    ({ db }) => payLinkOf(db, invoice, NOW.toISOString()),
    () => true,
  );
  expect(again).toBe(token);
  const tampered = [
    token.slice(1),
    `${token}x`,
    '',
    "' OR 1=1 --".padEnd(43, 'a'),
    token.replace(/^./, (c) => (c === 'a' ? 'b' : 'a')),
  ];
  for (const other of tampered) expect(await invoiceOfToken(world.books.reader, other)).toBeNull();
});

test('asks what is owed on the day: with the discount while it lasts, and the rest once part is paid', async () => {
  expect(await page()).toMatchObject({ state: 'open', asked: 24108, discount: 492, takesCards: true });
  expect(await askedToday(world.books.reader, invoice, plainDate('2026-11-20'))).toEqual({ asked: 24600, discount: 0 });
  await receive('CD-1', 10000);
  expect(await page()).toMatchObject({ state: 'open', asked: 14108, discount: 492 });
  await world.must(postReceipts, { filter: {} });
  expect(await page()).toMatchObject({ state: 'open', asked: 14108, discount: 492 });
  await receive('CD-2', 14108);
  expect(await page()).toMatchObject({ state: 'paid', asked: 0 });
  await world.must(postReceipts, { filter: {} });
  expect(await page()).toMatchObject({ state: 'paid', asked: 0 });
  expect((await invoiceDetail(world.books.reader, invoice, plainDate('2026-11-16')))!.state).toBe('paid');
  expect(cameOf(await page())).toBe(24108);
});

test('void it asks for nothing; corrected it says that it changed since it was sent', async () => {
  await world.must(sendInvoice, {
    invoice,
    to: 'a.tern@mail.example',
    message: 'Good day',
    origin: 'http://127.0.0.1:1',
    books: 'k',
  });
  await world.must(correctInvoice, { invoice, version: 1, bill: await bill(world, 1, [10000]), why: '' });
  expect((await page()).changedSince).toEqual({ gross: 24600 });
  await world.must(creditInvoice, { invoice, lines: null, why: '', issued: null });
  expect(await page()).toMatchObject({ state: 'void', asked: 0, transferCode: null });
});

test('the letter has figures, link and PDF; what was handed out is told, and changed since where it did', async () => {
  await world.must(sendInvoice, {
    invoice,
    to: 'a.tern@mail.example',
    message: 'Good day',
    origin: 'http://127.0.0.1:1',
    books: 'k',
  });
  const mail = await world.books.reader
    .selectFrom('mail')
    .innerJoin('mail_attachment', 'mail_id', 'mail.id')
    .selectAll()
    .executeTakeFirstOrThrow();
  expect(mail.body).toContain(`http://127.0.0.1:1/pay/k/${token}`);
  expect(mail.body).toContain('246.00');
  expect(Buffer.from(mail.content).subarray(0, 5).toString()).toBe('%PDF-');
  expect(
    await world.refusal(sendInvoice, { invoice, to: 'nobody', message: '', origin: 'http://127.0.0.1:1', books: 'k' }),
  ).toBe('invalid-input');
  await noteSeen(world.books, invoice, 1, NOW);
  await noteSeen(world.books, invoice, 1, NOW);
  await world.must(correctInvoice, { invoice, version: 1, bill: await bill(world, 1, [10000]), why: '' });
  const { handouts } = (await invoiceDetail(world.books.reader, invoice, plainDate('2026-11-16')))!;
  expect(handouts.map(({ how, version, changedSince }) => [how, version, changedSince])).toEqual([
    ['link', 1, true],
    ['mail', 1, true],
  ]);
});

test('a payment begun twice is one; its event is fetched though nobody follows events', async () => {
  expect(await beginPayment(world.books, wanted(), options)).toMatchObject({ ok: true, value: { pay: '/pay-here' } });
  await beginPayment(world.books, wanted(), options);
  expect(await world.count('payment')).toBe(1);
  expect(asked.map(({ amount, document, notify }) => [amount, document, notify])).toEqual([
    [24108, number, 'events/1'],
    [24108, number, 'events/1'],
  ]);
  expect((await page()).underWay).toBe(true);
  const event = (about: string) => {
    const body = JSON.stringify({ id: `E-${about}`, at: '2026-11-16T12:00:00Z', about });
    const at = NOW.toISOString();
    return takeEvent(world.books, 1, body, { at, signature: sign(body, at, 'key') }, NOW);
  };
  expect(await event('CD-W1')).toMatchObject({ taken: 'new', fetch: 1 });
  expect(await event('CD-W1')).toMatchObject({ taken: 'again', fetch: null });
  expect(await event('CD-999')).toMatchObject({ taken: 'new', fetch: null });
  await receive('CD-W1', 24108);
  await receive('CD-W1', 24108);
  expect(await page()).toMatchObject({ underWay: false, state: 'paid' });
  await world.must(postReceipts, { filter: {} });
  expect((await world.balances())['1100']).toBeUndefined();
});

test('forged and replayed events are turned away, and change nothing', async () => {
  await beginPayment(world.books, wanted(), options);
  const body = JSON.stringify({ id: 'E-1', at: '2026-11-16T12:00:00Z', about: 'CD-W1' });
  const at = NOW.toISOString();
  const late = new Date(NOW.getTime() + 3_600_000);
  expect(await takeEvent(world.books, 1, body, { at, signature: sign(body, at, 'other') }, NOW)).toEqual({
    taken: 'unsigned',
  });
  expect(
    await takeEvent(world.books, 1, body.replace('W1', 'W2'), { at, signature: sign(body, at, 'key') }, NOW),
  ).toEqual({ taken: 'unsigned' });
  expect(await takeEvent(world.books, 1, body, { at, signature: sign(body, at, 'key') }, late)).toEqual({
    taken: 'unsigned',
  });
  expect(await world.count('channel_event')).toBe(0);
});

test('a desk that is not there, or takes no such thing, is told in a sentence', async () => {
  const shut = { ...options, door: () => ({ checkout: () => Promise.reject(new DoorShut({ why: 'unreachable' })) }) };
  expect(await beginPayment(world.books, wanted(), shut)).toMatchObject({
    ok: false,
    refusal: { code: 'no-pay-door' },
  });
  expect(await beginPayment(world.books, wanted({ channel: 99 }), options)).toMatchObject({
    ok: false,
    refusal: { code: 'no-pay-door' },
  });
  expect(await world.count('payment')).toBe(0);
});

test('a receipt is printed for its own invoice only', async () => {
  await receive('CD-1', 10000);
  const id = await world.id('receipt', 'CD-1');
  expect(await printedReceipt(world.books.reader, id, invoice + 1)).toBeNull();
  expect((await printedReceipt(world.books.reader, id, invoice))!.name).toBe('receipt-CD-1.pdf');
});
