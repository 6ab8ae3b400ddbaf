import { Chance } from '@/standins/chance';
import { dayAfter, isWorking, percentOf } from './builder';

/** One thing sold over the counter of the workshop on a day. Amounts in cents, tax included, before the discount. */
export interface CounterSale {
  readonly item: 'parts' | 'rig-check' | 'lesson';
  readonly units: number;
  readonly amount: number;
  readonly discount: number;
}

/** The workshop's day: what was sold, tips, all of it in cash. */
export interface CounterDay {
  readonly day: string;
  readonly sales: readonly CounterSale[];
  readonly tips: number;
}

const FIRST = '2026-09-01';
const LAST = '2026-11-14';
const CUTS = [
  { name: '2026-09-to-10', from: FIRST, to: '2026-10-31' },
  { name: '2026-11', from: '2026-11-01', to: LAST },
] as const;
const RATES = { parts: 2300, 'rig-check': 1350, lesson: 1350 } as const;

const comma = (cents: number) => (cents / 100).toFixed(2).replace('.', ',');
const dotted = (day: string) => day.split('-').reverse().join('.');
/** The tax in what was paid, half away from zero. */
const taxIn = (paid: number, rate: number) => Math.floor((2 * paid * rate + 10_000 + rate) / (2 * (10_000 + rate)));

/** The workshop's till from September on: open on working days, when somebody comes by. */
export function counterDays(seed: number): CounterDay[] {
  const chance = new Chance(seed * 3 + 1);
  const days: CounterDay[] = [];
  for (let day = FIRST; day <= LAST; day = dayAfter(day, 1)) {
    if (!isWorking(day) || chance.in100(25)) continue;
    const sales: CounterSale[] = [];
    const units = chance.int(2, 9);
    const amount = units * chance.int(6, 40) * 50;
    sales.push({ item: 'parts', units, amount, discount: chance.in100(30) ? percentOf(amount, 1000) : 0 });
    if (chance.in100(35)) sales.push({ item: 'rig-check', units: 1, amount: 65_00, discount: 0 });
    if (chance.in100(20)) sales.push({ item: 'lesson', units: 2, amount: 2 * 45_00, discount: 0 });
    days.push({ day, sales, tips: chance.in100(20) ? chance.int(2, 10) * 50 : 0 });
  }
  return days;
}

const paid = ({ amount, discount }: CounterSale) => amount - discount;
export const takings = ({ sales, tips }: CounterDay) => sales.reduce((sum, sale) => sum + paid(sale), 0) + tips;

/** The till's own report: rows of what was sold, tips and how it was paid, a day after the other. */
function tillReport(days: readonly CounterDay[]): string {
  const rows = days.flatMap((one) => {
    const day = dotted(one.day);
    return [
      ...one.sales.map((sale) => [
        day,
        'sale',
        sale.item,
        String(sale.units),
        comma(sale.amount),
        sale.discount === 0 ? '' : comma(sale.discount),
        comma(taxIn(paid(sale), RATES[sale.item])),
        'Workshop',
      ]),
      ...(one.tips === 0 ? [] : [[day, 'tips', '', '', comma(one.tips), '', '', 'Workshop']]),
      [day, 'paid by', 'cash', '', comma(takings(one)), '', '', 'Workshop'],
    ];
  });
  const head = ['Day', 'Kind', 'What', 'Units', 'Amount', 'Discount', 'Tax', 'Site'];
  return `${[head, ...rows].map((row) => row.join(';')).join('\n')}\n`;
}

/** What the till's days come to: the box, and what of it is income, tax, tips and discounts. */
export function counterTruth(days: readonly CounterDay[]) {
  const sales = days.flatMap((day) => day.sales);
  const tax = (sale: CounterSale) => taxIn(paid(sale), RATES[sale.item]);
  return {
    days: days.length,
    box: days.reduce((sum, day) => sum + takings(day), 0),
    tax: sales.reduce((sum, sale) => sum + tax(sale), 0),
    tips: days.reduce((sum, day) => sum + day.tips, 0),
    /** Paid less tax: income less what discounts bear of it. */
    net: sales.reduce((sum, sale) => sum + paid(sale) - tax(sale), 0),
  };
}

export function tillFiles(days: readonly CounterDay[]): [string, string][] {
  return CUTS.map(({ name, from, to }) => [
    `workshop-till-${name}.csv`,
    tillReport(days.filter(({ day }) => day >= from && day <= to)),
  ]);
}
