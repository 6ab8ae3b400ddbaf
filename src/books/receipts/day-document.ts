import { sql } from 'kysely';
import { tenderKind } from '@/core/channels';
import type { PlainDate } from '@/core/calendar';
import { taxOfSale } from '@/core/ledger';
import { add, formatUnits, subtract, sum, writeAmount, ZERO, type Currency, type Minor } from '@/core/money';
import { BooksMap } from '../map/load-map';
import type { Reading } from '../store';
import { LOADED_COLUMNS, withShapes, type LoadedReceipt } from './load-receipts';

/** One item of a day at one site. Amounts in minor units of the channel's currency. */
export interface DayItem {
  /** Where there is no item, what the channel says of it. */
  readonly name: string;
  /** Thousandths. */
  readonly units: number;
  /** Before discounts, tax included. */
  readonly gross: Minor;
  readonly discount: Minor;
  /** Of what was paid; null where no account is decided for it yet, so that its tax is not known. */
  readonly tax: Minor | null;
  /** Gross less discount. */
  readonly paid: Minor;
}

export interface DayTender {
  readonly name: string;
  readonly amount: Minor;
}

/** What one site took in on a day: what for, and how it was paid. */
export interface DayAtSite {
  readonly site: string;
  readonly items: readonly DayItem[];
  readonly total: DayItem;
  readonly tips: Minor;
  /** Paid on invoices, and given back or taken back: below zero. */
  readonly invoices: Minor;
  readonly back: Minor;
  readonly tenders: readonly DayTender[];
  readonly tendered: Minor;
  /** Tenders less everything above: 0 where the day foots. */
  readonly differs: Minor;
  readonly receipts: number;
  readonly notPosted: number;
}

export interface DayDocument {
  readonly channel: string;
  readonly currency: Currency;
  readonly date: PlainDate;
  readonly sites: readonly DayAtSite[];
  /** The days with receipts before and after it. */
  readonly before: PlainDate | null;
  readonly after: PlainDate | null;
}

interface Gathering {
  readonly items: Map<string, DayItem>;
  readonly tenders: Map<string, Minor>;
  tips: Minor;
  invoices: Minor;
  back: Minor;
  receipts: number;
  notPosted: number;
}

const NOTHING: Omit<DayItem, 'name'> = { units: 0, gross: ZERO, discount: ZERO, tax: ZERO, paid: ZERO };
/** Units of a receipt that does not say how many: one. */
const ONE = 1000;

function together(a: DayItem, b: Omit<DayItem, 'name'>): DayItem {
  return {
    name: a.name,
    units: a.units + b.units,
    gross: add(a.gross, b.gross),
    discount: add(a.discount, b.discount),
    tax: a.tax === null || b.tax === null ? null : add(a.tax, b.tax),
    paid: add(a.paid, b.paid),
  };
}

/** What was sold on a receipt, each thing with its tax as the account map has it now. */
function soldOn(receipt: LoadedReceipt, map: BooksMap, items: ReadonlyMap<number, string>): DayItem[] {
  const { tip, discount, item, itemCode, text } = receipt;
  const lines = receipt.lines ?? [
    { item, itemCode, text, units: ONE, gross: subtract(receipt.gross, tip), discount, tax: null },
  ];
  return lines.map((line) => {
    const decision = map.decide({ ...receipt, item: line.item, text: line.text, gross: line.gross });
    const sold = map.saleLine(
      decision,
      { price: line.gross, discount: line.discount, tax: line.tax },
      receipt.external_id,
    );
    return {
      name: (line.item === null ? undefined : items.get(line.item)) ?? (line.text.trim() || 'sale'),
      units: line.units,
      gross: add(line.gross, line.discount),
      discount: line.discount,
      tax: 'refusal' in sold ? line.tax : taxOfSale(sold),
      paid: line.gross,
    };
  });
}

function take(day: Gathering, receipt: LoadedReceipt, map: BooksMap, items: ReadonlyMap<number, string>): void {
  day.receipts++;
  if (receipt.journal === null) day.notPosted++;
  if (receipt.kind !== 'receipt') day.back = add(day.back, receipt.gross);
  else {
    day.tips = add(day.tips, receipt.tip);
    if (receipt.document !== '') day.invoices = add(day.invoices, subtract(receipt.gross, receipt.tip));
    else {
      for (const item of soldOn(receipt, map, items)) {
        day.items.set(item.name, together(day.items.get(item.name) ?? { name: item.name, ...NOTHING }, item));
      }
    }
  }
  const whole = [{ tender: receipt.method, amount: receipt.gross }];
  for (const { tender, amount } of receipt.tenders ?? whole) {
    const name = tender.trim().toLowerCase() || 'not said';
    day.tenders.set(name, add(day.tenders.get(name) ?? ZERO, amount));
  }
}

/** Cash first, then what the channel holds, then what was owed already; each by its name. */
const ORDER = { cash: 0, cheque: 1, channel: 2, 'gift-card': 3 } as const;

function finished(site: string, day: Gathering): DayAtSite {
  const items = [...day.items.values()].sort((a, b) => b.paid - a.paid || (a.name < b.name ? -1 : 1));
  const total = items.reduce(together, { name: 'Sold', ...NOTHING });
  const tenders = [...day.tenders]
    .map(([name, amount]) => ({ name, amount }))
    .sort((a, b) => ORDER[tenderKind(a.name)] - ORDER[tenderKind(b.name)] || (a.name < b.name ? -1 : 1));
  const { tips, invoices, back, receipts, notPosted } = day;
  const tendered = sum(tenders.map(({ amount }) => amount));
  const differs = subtract(tendered, sum([total.paid, tips, invoices, back]));
  return { site, items, total, tips, invoices, back, tenders, tendered, differs, receipts, notPosted };
}

/**
 * A channel's day as the till itself would print it: items by site, tips, refunds, and how it was paid. It is made from the
 * receipts, posted or not, so that it can be held beside the till's own report. Null where there is no such channel.
 */
export async function dayDocument(db: Reading, channel: number, date: PlainDate): Promise<DayDocument | null> {
  const of = await db.selectFrom('channel').select(['name', 'currency']).where('id', '=', channel).executeTakeFirst();
  if (!of) return null;
  const { rows } = await sql<LoadedReceipt>`
    SELECT ${LOADED_COLUMNS} FROM receipt r
    LEFT JOIN payer p ON p.id = r.payer_id
    LEFT JOIN item i ON i.id = r.item_id
    LEFT JOIN invoice v ON v.id = r.invoice_id
    WHERE r.channel_id = ${channel} AND r.book_date = ${date} AND r.aside IS NULL ORDER BY r.id
  `.execute(db);
  const receipts = await withShapes(db, rows);
  const map = await BooksMap.load(db);
  const items = new Map(
    (await db.selectFrom('item').select(['id', 'name']).execute()).map(({ id, name }) => [id, name]),
  );
  const sites = new Map<string, Gathering>();
  for (const receipt of receipts) {
    const place = map.placeOf(receipt);
    let day = sites.get(place);
    if (!day) {
      day = { items: new Map(), tenders: new Map(), tips: ZERO, invoices: ZERO, back: ZERO, receipts: 0, notPosted: 0 };
      sites.set(place, day);
    }
    take(day, receipt, map, items);
  }
  const beside = (over: '<' | '>') =>
    db
      .selectFrom('receipt')
      .select('book_date')
      .where('channel_id', '=', channel)
      .where('book_date', over, date)
      .orderBy('book_date', over === '<' ? 'desc' : 'asc')
      .limit(1)
      .executeTakeFirst();
  const [before, after] = [await beside('<'), await beside('>')];
  return {
    channel: of.name,
    currency: of.currency,
    date,
    sites: [...sites].sort(([a], [b]) => (a < b ? -1 : 1)).map(([site, day]) => finished(site, day)),
    before: before?.book_date ?? null,
    after: after?.book_date ?? null,
  };
}

/** The last day on which a channel took something in; null where it never did. */
export async function lastDay(db: Reading, channel: number): Promise<PlainDate | null> {
  const row = await db
    .selectFrom('receipt')
    .select('book_date')
    .where('channel_id', '=', channel)
    .orderBy('book_date', 'desc')
    .limit(1)
    .executeTakeFirst();
  return row?.book_date ?? null;
}

/** The document as rows of a table: site, what, units, gross, discount, tax, paid; tenders below what was sold. */
export function dayCells(day: DayDocument | null): (string | null)[][] {
  if (day === null) return [];
  const money = (amount: Minor | null) => (amount === null ? '' : writeAmount(amount, day.currency));
  return day.sites.flatMap((at) => [
    ...[...at.items, at.total].map((item) => [
      at.site,
      item.name,
      formatUnits(item.units),
      money(item.gross),
      money(item.discount),
      money(item.tax),
      money(item.paid),
    ]),
    ...[
      { name: 'Tips', amount: at.tips },
      { name: 'Paid on invoices', amount: at.invoices },
      { name: 'Given back or taken back', amount: at.back },
      ...at.tenders.map(({ name, amount }) => ({ name: `Paid by ${name}`, amount })),
      { name: 'All tenders', amount: at.tendered },
    ].map(({ name, amount }) => [at.site, name, '', '', '', '', money(amount)]),
  ]);
}
