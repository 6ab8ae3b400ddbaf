import { dayAfter, isWorking, PAYERS, percentOf, weekday, workingDaysLater } from '../kittiwake/builder';
import { Chance } from '@/standins/chance';
import { FUNDS, LANTERN_HEAD } from './books';
import { postAndTickets, type PostAndTickets } from './post-and-tickets';
import type { BankLine } from '../lib/cuts';

/** Amounts in cents throughout; the arithmetic is the scenario's own, so that it can check the product's. */
export interface Gift {
  readonly id: string;
  readonly day: string;
  readonly donor: string;
  readonly email: string;
  readonly fund: string;
  readonly amount: number;
  readonly batch: string;
}

export interface Sale {
  readonly id: string;
  readonly day: string;
  readonly clock: string;
  readonly site: string;
  readonly item: 'shop' | 'tea';
  readonly amount: number;
  readonly method: 'cash' | 'card';
  readonly payout: string;
}

/** What a channel paid out: its receipts' gross less a fee that only the total tells. */
export interface Batch {
  readonly id: string;
  readonly day: string;
  readonly gross: number;
  readonly net: number;
}

export interface LanternHead extends PostAndTickets {
  readonly gifts: readonly Gift[];
  readonly batches: readonly Batch[];
  readonly sales: readonly Sale[];
  readonly settlements: readonly Batch[];
  readonly lines: readonly BankLine[];
  /** Of the account that is kept in reserve. */
  readonly reserve: readonly BankLine[];
}

const FIRST = '2026-09-01';
const LAST = '2026-11-15';
/** The day of a batch that reaches the bank in two parts. */
const IN_PARTS = '2026-11-08';
/** What is put by once: it leaves one account a day before it comes to the other. */
const SET_BY = { left: '2026-11-09', came: '2026-11-10', amount: 2_500_00 };
/** Round sums, as people give them; the smaller ones more often. */
const SUMS = [10_00, 10_00, 20_00, 20_00, 20_00, 25_00, 25_00, 50_00, 50_00, 100_00, 250_00];

const pad = (n: number, width = 2) => String(n).padStart(width, '0');

function gifts(chance: Chance): { gifts: Gift[]; batches: Batch[] } {
  const all: Gift[] = [];
  const batches: Batch[] = [];
  let week: Gift[] = [];
  let number = 300;
  let batch = 36;
  for (let day = FIRST; day <= LAST; day = dayAfter(day, 1)) {
    for (let n = chance.int(2, 6); n > 0; n--) {
      const donor = chance.in100(15) ? '' : chance.pick(PAYERS);
      const fund = chance.in100(65) ? FUNDS[0] : chance.in100(70) ? FUNDS[1] : FUNDS[2];
      week.push({
        id: `G-${++number}`,
        day,
        donor,
        email:
          donor === ''
            ? ''
            : `${donor
                .toLowerCase()
                .replace(/[^a-z]+/g, '.')
                .replace(/^\.|\.$/g, '')}@mail.example`,
        fund: fund.name,
        amount: chance.pick(SUMS),
        batch: `LH-${batch}`,
      });
    }
    if (weekday(day) !== 0) continue;
    const gross = week.reduce((sum, gift) => sum + gift.amount, 0);
    batches.push({ id: `LH-${batch++}`, day, gross, net: gross - percentOf(gross, 140) - 20 * week.length });
    all.push(...week);
    week = [];
  }
  return { gifts: [...all, ...week.map((gift) => ({ ...gift, batch: '' }))], batches };
}

function sales(chance: Chance): { sales: Sale[]; settlements: Batch[] } {
  const all: Sale[] = [];
  const settlements: Batch[] = [];
  let number = 9000;
  for (let day = FIRST; day <= LAST; day = dayAfter(day, 1)) {
    if (![0, 3, 6].includes(weekday(day))) continue;
    const payout = `TL-${day.slice(5).replace('-', '')}`;
    const ofDay: Sale[] = [];
    for (const [site, item] of [
      ['Gift shop', 'shop'],
      ['Tea hatch', 'tea'],
    ] as const) {
      for (let n = chance.int(3, 9); n > 0; n--) {
        const amount = item === 'tea' ? chance.int(5, 36) * 50 : chance.int(8, 90) * 50;
        const method = chance.in100(40) ? 'cash' : 'card';
        ofDay.push({
          id: `T-${++number}`,
          day,
          clock: `${pad(chance.int(10, 16))}:${pad(chance.int(0, 59))}`,
          site,
          item,
          amount,
          method,
          payout: method === 'card' ? payout : '',
        });
      }
    }
    const gross = ofDay.reduce((sum, sale) => sum + (sale.method === 'card' ? sale.amount : 0), 0);
    if (gross > 0) settlements.push({ id: payout, day, gross, net: gross - percentOf(gross, 120) });
    all.push(...ofDay);
  }
  return { sales: all, settlements };
}

/** The whole of the trust's money from September to the middle of November, from a seed. */
export function lanternHeadScenario(seed: number): LanternHead {
  const chance = new Chance(seed);
  const given = gifts(chance);
  const sold = sales(chance);
  const lines: BankLine[] = [];
  const arrives = (batch: Batch, days: number, text: string) => {
    const date = workingDaysLater(batch.day, days);
    if (date <= LAST)
      lines.push({ date, amount: batch.net, text, party: '', reference: `R${pad(lines.length + 1, 4)}` });
  };
  for (const batch of given.batches) {
    const text = `GIVING BATCH ${batch.id} LANTERN HEAD`;
    if (batch.day !== IN_PARTS) arrives(batch, 3, text);
    else {
      const first = Math.floor(batch.net * 0.6);
      arrives({ ...batch, net: first }, 3, `${text} 1 OF 2`);
      arrives({ ...batch, net: batch.net - first }, 4, `${text} 2 OF 2`);
    }
  }
  for (const settlement of sold.settlements) arrives(settlement, 1, `TILL CARDS ${settlement.id}`);
  for (const month of ['2026-09', '2026-10', '2026-11']) {
    const first = isWorking(`${month}-03`) ? `${month}-03` : `${month}-05`;
    lines.push({
      date: first,
      amount: -42_000,
      text: 'SO LAMP AND TOWER UPKEEP',
      party: 'Gull Rock Masonry',
      reference: `SO${month}`,
    });
  }
  const { left, came, amount } = SET_BY;
  const toReserve = `TRANSFER TO ${LANTERN_HEAD.bankAccounts[1]!.iban.replace(/ /g, '')}`;
  lines.push({ date: left, amount: -amount, text: toReserve, party: '', reference: `T${left}` });
  const reserve = [{ date: came, amount, text: 'TRANSFER FROM LANTERN HEAD TRUST', party: '', reference: `T${came}` }];
  const others = postAndTickets(seed);
  for (const { id, net, lands } of others.ticketPayouts) {
    if (lands <= LAST)
      lines.push({ date: lands, amount: net, text: `TICKETS ${id} LANTERN HEAD`, party: '', reference: `OD${id}` });
  }
  lines.sort((a, b) => a.date.localeCompare(b.date) || a.reference.localeCompare(b.reference));
  return { ...given, ...sold, ...others, lines, reserve };
}
