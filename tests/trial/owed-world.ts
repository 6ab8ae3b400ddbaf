import { Chance } from '@/standins/chance';
import { FIRST_DAY } from './world';

/** How payments of invoices behave in an invented world. Shares in a hundred. */
export interface OwedShape {
  readonly seed: number;
  readonly payers: number;
  readonly days: number;
  /** Invoices a day over all payers. */
  readonly density: number;
  /** Payments whose text has the numbers; of these those with one character wrong, and those without the letters before. */
  readonly numbered: number;
  readonly typos: number;
  readonly bare: number;
  /** Payments whose text has the payer's name; else the name of somebody else, as parents and accountants pay. */
  readonly named: number;
  /** Payments of several invoices at once; of a part of one; of more than was owed. */
  readonly several: number;
  readonly part: number;
  readonly over: number;
  /** Invoices of one of a few prices. */
  readonly equal: number;
  /** Money that is nobody's of these. */
  readonly noise: number;
}

export const PLAIN_OWED: OwedShape = {
  seed: 1,
  payers: 60,
  days: 90,
  density: 6,
  numbered: 60,
  typos: 0,
  bare: 0,
  named: 85,
  several: 15,
  part: 4,
  over: 3,
  equal: 30,
  noise: 15,
};

export interface OwedInvoice {
  readonly id: number;
  readonly payer: number;
  readonly number: string;
  readonly day: number;
  readonly amount: number;
}

export interface OwedPayment {
  readonly id: number;
  readonly day: number;
  readonly amount: number;
  readonly text: string;
  /** What it really pays; empty for other money. */
  readonly pays: readonly number[];
  readonly kind: 'numbers' | 'numbers with a typo' | 'bare numbers' | 'name' | 'neither' | 'other money';
}

export interface OwedWorld {
  readonly payers: readonly string[];
  readonly invoices: readonly OwedInvoice[];
  readonly payments: readonly OwedPayment[];
}

const FIRST_NAMES = ['Anna', 'Ben', 'Clara', 'Dario', 'Edda', 'Finn', 'Greta', 'Hugo', 'Iris', 'Jonas'];
const LAST_NAMES = [
  'Berg',
  'Dahl',
  'Falk',
  'Hollow',
  'Kern',
  'Marrable',
  'Nord',
  'Quist',
  'Strand',
  'Vane',
  'Wick',
  'Yard',
];
const PRICES = [8_560, 12_300, 24_600, 61_500];

function misspelt(chance: Chance, number: string): string {
  const at = chance.int(3, number.length - 1);
  return number.slice(0, at) + String((Number(number[at]) + chance.int(1, 9)) % 10) + number.slice(at + 1);
}

/** A world of invoices and what was paid of them, with the truth of each payment. */
export function owedWorld(shape: OwedShape): OwedWorld {
  const chance = new Chance(shape.seed);
  const payers = Array.from(
    { length: shape.payers },
    (_, n) =>
      `${chance.pick(FIRST_NAMES)} ${LAST_NAMES[n % LAST_NAMES.length]}${n >= LAST_NAMES.length ? ` ${String.fromCharCode(65 + Math.floor(n / LAST_NAMES.length))}` : ''}`,
  );
  const invoices: OwedInvoice[] = [];
  for (let day = 0; day < shape.days; day++) {
    for (let n = 0; n < shape.density; n++) {
      const id = invoices.length + 1;
      const amount = chance.in100(shape.equal) ? chance.pick(PRICES) : chance.int(2_000, 180_000);
      invoices.push({
        id,
        payer: chance.int(1, shape.payers),
        number: `KS-${20_000 + 7 * id}`,
        day: FIRST_DAY + day,
        amount,
      });
    }
  }
  const payments: Omit<OwedPayment, 'id'>[] = [];
  const paid = new Set<number>();
  for (const invoice of invoices) {
    if (paid.has(invoice.id) || chance.in100(8)) continue;
    const day = invoice.day + chance.int(3, 35);
    const more = chance.in100(shape.several)
      ? invoices
          .filter(
            (other) =>
              other.payer === invoice.payer && other.id !== invoice.id && !paid.has(other.id) && other.day < day,
          )
          .slice(0, chance.int(1, 3))
      : [];
    const all = [invoice, ...more].sort((a, b) => a.id - b.id);
    const owed = all.reduce((sum, { amount }) => sum + amount, 0);
    const inPart = more.length === 0 && chance.in100(shape.part);
    const amount = inPart
      ? Math.round((owed * chance.int(3, 8)) / 10)
      : chance.in100(shape.over)
        ? owed + chance.int(1, 500)
        : owed;
    for (const { id } of all) paid.add(id);
    const name = chance.in100(shape.named) ? payers[invoice.payer - 1]! : `${chance.pick(FIRST_NAMES)} Elsewhere`;
    const isNamed = name === payers[invoice.payer - 1];
    const numbered = chance.in100(shape.numbered);
    const wrong = numbered && chance.in100(shape.typos);
    const bare = numbered && !wrong && chance.in100(shape.bare);
    const numbers = all.map(({ number }, index) =>
      wrong && index === 0 ? misspelt(chance, number) : bare ? number.slice(3) : number,
    );
    const kind = wrong
      ? 'numbers with a typo'
      : bare
        ? 'bare numbers'
        : numbered
          ? 'numbers'
          : isNamed
            ? 'name'
            : 'neither';
    payments.push({
      day,
      amount,
      text: `TRANSFER ${name} ${numbered ? numbers.join(' ') : 'THANKS'}`,
      pays: all.map(({ id }) => id),
      kind,
    });
  }
  const noise = Math.floor((payments.length * shape.noise) / 100);
  for (let n = 0; n < noise; n++) {
    payments.push({
      day: FIRST_DAY + chance.int(1, shape.days),
      amount: chance.int(500, 200_000),
      text: `CREDIT ${chance.int(100_000, 999_999)}`,
      pays: [],
      kind: 'other money',
    });
  }
  payments.sort((a, b) => a.day - b.day || a.amount - b.amount);
  return { payers, invoices, payments: payments.map((payment, index) => ({ id: index + 1, ...payment })) };
}
