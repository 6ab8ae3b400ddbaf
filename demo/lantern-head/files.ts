import { DESK_COLUMNS } from '../lib/columns';
import { CUTS, statementFiles, within, type Cut } from '../lib/cuts';
import { LANTERN_HEAD } from './books';
import type { LanternHead } from './scenario';

const IBAN = LANTERN_HEAD.bankAccounts[0]!.iban.replace(/ /g, '');
const OPENING = LANTERN_HEAD.opening.balances[0]!.amount;

const dmy = (day: string) => day.split('-').reverse().join('/');
const euro = (cents: number) => (cents / 100).toFixed(2);
const comma = (cents: number) => {
  const [whole, part] = euro(cents).split('.') as [string, string];
  return `${whole.replace(/\B(?=(\d{3})+$)/g, '.')},${part}`;
};

/** The giving page's sheet: a title above, days before months, decimal commas, the batch as a row of its own. */
function givingSheet({ gifts, batches }: LanternHead, cut: Cut): string {
  const rows = [
    ...gifts
      .filter((gift) => within(gift.day, cut))
      .map((gift) => ({
        day: gift.day,
        cells: [gift.id, dmy(gift.day), 'gift', gift.donor, gift.email, gift.fund, comma(gift.amount), gift.batch],
      })),
    ...batches
      .filter((batch) => within(batch.day, cut))
      .map((batch) => ({
        day: `${batch.day}~`,
        cells: [batch.id, dmy(batch.day), 'payout', '', '', '', comma(batch.net), ''],
      })),
  ].sort((a, b) => a.day.localeCompare(b.day));
  return [
    'Gifts to Lantern Head;;;;;;;',
    'Gift no;Given on;Type;Donor;Email;Fund;Amount;Batch',
    ...rows.map((row) => row.cells.join(';')),
    '',
  ].join('\n');
}

/** The till's export: a JSON list of sales and settlements. */
function tillList({ sales, settlements }: LanternHead, cut: Cut): string {
  const rows = [
    ...sales
      .filter((sale) => within(sale.day, cut))
      .map((sale) => ({
        id: sale.id,
        type: 'sale',
        date: `${sale.day} ${sale.clock}`,
        site: sale.site,
        item: sale.item,
        method: sale.method,
        amount: euro(sale.amount),
        payout: sale.payout,
      })),
    ...settlements
      .filter((batch) => within(batch.day, cut))
      .map((batch) => ({
        id: batch.id,
        type: 'settlement',
        date: `${batch.day} 23:30`,
        site: '',
        item: '',
        method: '',
        amount: euro(batch.net),
        payout: '',
      })),
  ];
  rows.sort((a, b) => a.date.localeCompare(b.date) || a.id.localeCompare(b.id));
  return `${JSON.stringify({ data: rows }, null, 1)}\n`;
}

/** The book that lies by the letter box, as a sheet: cheques and envelopes, each with its fund. */
function postBook({ posted }: LanternHead, cut: Cut): string {
  const rows = posted
    .filter((gift) => within(gift.day, cut))
    .map((gift) => [gift.id, gift.day, gift.donor, gift.fund, gift.method, euro(gift.amount), 'Letter box'].join('|'));
  return `${['No|Received|Donor|Fund|Means|Gift|Site', ...rows].join('\n')}\n`;
}

/** Bookings for the open day and their payouts, in this program's own columns. */
function bookings({ tickets, ticketPayouts }: LanternHead, cut: Cut): string {
  const rows = [
    ...tickets
      .filter(({ time }) => within(time.slice(0, 10), cut))
      .map((one) => [
        one.id,
        'receipt',
        one.time,
        'EUR',
        euro(one.amount),
        euro(one.fee),
        euro(one.amount - one.fee),
        one.payer,
        one.email,
        '',
        'ticket',
        '',
        one.payout,
        '',
      ]),
    ...ticketPayouts
      .filter(({ day }) => within(day, cut))
      .map((one) => [
        one.id,
        'payout',
        `${one.day}T21:00:00Z`,
        'EUR',
        `-${euro(one.net)}`,
        '',
        `-${euro(one.net)}`,
        '',
        '',
        '',
        '',
        '',
        '',
        '',
      ]),
  ].sort((a, b) => a[2]!.localeCompare(b[2]!) || a[0]!.localeCompare(b[0]!));
  return `${[DESK_COLUMNS, ...rows].map((row) => row.join(',')).join('\n')}\n`;
}

/** The bank's table of the account in reserve: what is put by, with the balance after it. */
function reserveTable({ reserve }: LanternHead): string {
  let balance: number = LANTERN_HEAD.opening.balances[1]!.amount;
  const rows = reserve.map(({ date, amount, text }) => [
    LANTERN_HEAD.bankAccounts[1]!.iban.replace(/ /g, ''),
    date,
    euro(amount),
    'EUR',
    text,
    euro((balance += amount)),
  ]);
  return `${[['Account', 'Booked', 'Amount', 'Currency', 'Text', 'Balance'], ...rows].map((row) => row.join(';')).join('\n')}\n`;
}

const sumOf = <T>(list: readonly T[], of: (one: T) => number) => list.reduce((sum, one) => sum + of(one), 0);

/** What the books must come to once all of it is brought in, posted and confirmed. */
function truth(scenario: LanternHead) {
  const { gifts, batches, sales, settlements, lines, reserve, posted, tickets, ticketPayouts } = scenario;
  const landed = (net: number, id: string) =>
    sumOf(
      lines.filter(({ text }) => text.split(' ').includes(id)),
      ({ amount }) => amount,
    ) === net;
  const open = [...batches, ...settlements].filter((batch) => !landed(batch.net, batch.id));
  const ofClearing = (list: typeof batches) =>
    sumOf(
      list.filter((batch) => open.includes(batch)),
      (batch) => batch.gross,
    );
  const funds = [...new Set(gifts.map((gift) => gift.fund))].sort();
  return {
    bank: OPENING + sumOf(lines, (line) => line.amount),
    reserve: LANTERN_HEAD.opening.balances[1]!.amount + sumOf(reserve, (line) => line.amount),
    giving:
      ofClearing(batches) +
      sumOf(
        gifts.filter((gift) => gift.batch === ''),
        (gift) => gift.amount,
      ),
    till: ofClearing(settlements),
    fees: sumOf(
      [...batches, ...settlements].filter((batch) => !open.includes(batch)),
      (batch) => batch.gross - batch.net,
    ),
    boxes: Object.fromEntries(
      ['Gift shop', 'Tea hatch'].map((site) => [
        site,
        sumOf(
          sales.filter((sale) => sale.site === site && sale.method === 'cash'),
          (sale) => sale.amount,
        ),
      ]),
    ),
    gifts: Object.fromEntries(
      funds.map((fund) => [
        fund,
        sumOf(
          [...gifts, ...posted].filter((gift) => gift.fund === fund),
          (gift) => gift.amount,
        ),
      ]),
    ),
    payouts: batches.length + settlements.length + ticketPayouts.length,
    cheques: sumOf(posted, (gift) => (gift.method === 'cheque' ? gift.amount : 0)),
    envelopes: sumOf(posted, (gift) => (gift.method === 'cash' ? gift.amount : 0)),
    ticketFees: sumOf(tickets, ({ fee }) => fee),
    ticketsHeld: sumOf(
      tickets.filter(({ payout }) => !ticketPayouts.some(({ id, net }) => id === payout && landed(net, id))),
      ({ amount, fee }) => amount - fee,
    ),
  };
}
export type LanternTruth = ReturnType<typeof truth>;

/** Every file of the demo by its name. */
export function lanternHeadFiles(scenario: LanternHead): [string, string][] {
  return [
    ...CUTS.flatMap((cut): [string, string][] => [
      [`giving-${cut.name}.csv`, givingSheet(scenario, cut)],
      [`till-${cut.name}.json`, tillList(scenario, cut)],
      [`post-${cut.name}.csv`, postBook(scenario, cut)],
    ]),
    ['tickets-2026-09-to-10.csv', bookings(scenario, CUTS[0])],
    ...statementFiles(scenario.lines, { prefix: 'LH', iban: IBAN, opening: OPENING }),
    ['reserve-2026-11.csv', reserveTable(scenario)],
    ['truth.json', `${JSON.stringify(truth(scenario), null, 2)}\n`],
  ];
}
