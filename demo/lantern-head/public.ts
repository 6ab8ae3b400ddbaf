import { keyGiftBatch } from '@/books/by-hand/gift-batch';
import { connect } from '@/books/fetching/connections';
import { saveMapRule } from '@/books/map/rules';
import { savePage } from '@/books/public/pages';
import { setLetterhead } from '@/books/setup/list-commands';
import { plainDate } from '@/core/calendar';
import { minor } from '@/core/money';
import type { WorldSeed } from '@/standins/world';
import type { DemoLoader } from '../loader';
import { FUNDS, LANTERN_HEAD } from './books';

/** The desk behind Lantern Head's public pages: nobody comes by chance, only what is ordered there is paid. */
export const LANTERN_WORLD: WorldSeed = {
  seed: 20_261_117,
  account: 'lantern-head',
  secret: 'lantern-head-desk-key-21c9',
  begins: '2026-11-16',
  currency: 'EUR',
  payers: [],
  documents: [],
  sales: [],
  quiet: true,
  desk: { name: 'Ticket desk', feeRate: 150, feeFixed: 20, payoutDays: 2, nextReceipt: 1, nextPayout: 900 },
  bank: { iban: LANTERN_HEAD.bankAccounts[0]!.iban.replace(/ /g, ''), opening: 0 },
  history: [],
  statements: [],
  underway: [],
};

/** What the batch keyed by hand comes to, by fund: beside what the demo's files hold. */
export const KEYED_BATCH: Readonly<Record<string, number>> = { General: 480_00, 'Lens restoration': 220_00 };

/** A page to give on and one to register for the Christmas tea, paid through the ticket desk; and a batch keyed by hand. */
export async function openPublicPages(demo: DemoLoader, tickets: number, giving: number): Promise<void> {
  await demo.run(setLetterhead, {
    address: 'Lantern Head\nTernport',
    email: 'keeper@lantern-head.example',
    tax_number: '',
    number_prefix: 'LH',
    write_off_limit: minor(100),
    bic: 'SKERIE2D',
  });
  const db = demo.books.reader;
  const gifts = await demo.accountOf('4010');
  const values = await db.selectFrom('dimension_value').selectAll().execute();
  const value = (name: string) => values.find((row) => row.name === name)!;
  for (const { name, restricted } of FUNDS) {
    const [fund, restriction] = [value(name), value(restricted ? 'Restricted' : 'Unrestricted')];
    const dimensions = { [fund.dimension_id]: fund.id, [restriction.dimension_id]: restriction.id };
    await demo.run(saveMapRule, {
      id: null,
      name: `Web gifts to ${name}`,
      active: true,
      conditions: { channels: [tickets], funds: [name] },
      landing: { income: gifts, dimensions },
    });
  }
  const { secret } = LANTERN_WORLD;
  await demo.run(connect, { channel: tickets, account: null, address: '/standins/lantern-head/desk', secret });
  const item = await db.selectFrom('item').selectAll().where('code', '=', 'ticket').executeTakeFirstOrThrow();
  await demo.run(savePage, {
    page: null,
    kind: 'giving',
    title: 'Light the lens again',
    channel: tickets,
    content: {
      about: 'The lens of 1868 needs new prisms. Every gift is shown on the landing.',
      funds: FUNDS.map(({ name }) => name),
      amounts: [minor(10_00), minor(25_00), minor(60_00)],
      monthly: true,
    },
  });
  const ticket = (name: string, price: number) => ({
    name,
    item: item.id,
    taxCode: item.tax_code_id,
    price: minor(price),
  });
  await demo.run(savePage, {
    page: null,
    kind: 'registration',
    title: 'Christmas tea in the tower',
    channel: tickets,
    content: {
      about: 'Tea and cake on the lamp floor. A hundred and four steps.',
      day: plainDate('2026-12-13'),
      places: 40,
      tickets: [ticket('Grown-up', 10_57), ticket('Child', 4_41), ticket('Under five', 0)],
    },
  });
  // Worked figure G, as the outside system reported it: what reaches the bank tells the fee.
  const place = { channel: giving, site: null, method: '' as const };
  const row = (fund: string, amount: number) => ({
    place,
    fund,
    item: null,
    dimensions: [],
    payer: null,
    amount: minor(amount),
    note: 'week to 15 November',
  });
  await demo.run(keyGiftBatch, {
    channel: giving,
    first: plainDate('2026-11-09'),
    last: plainDate('2026-11-15'),
    reference: '2026-11-15',
    rows: Object.entries(KEYED_BATCH).map(([fund, amount]) => row(fund, amount)),
  });
}
