import { Chance } from '@/standins/chance';

/** Amounts in cents throughout. The arithmetic here is the scenario's own, so that it can check the product's. */
export interface ScenarioInvoice {
  readonly number: string;
  readonly payer: string;
  readonly email: string;
  readonly issued: string;
  readonly due: string;
  readonly lines: readonly { item: string; description: string; net: number; taxCode: string; tax: number }[];
  readonly gross: number;
}

export interface ScenarioMovement {
  readonly id: string;
  readonly type: 'receipt' | 'refund' | 'payout';
  readonly time: string;
  readonly day: string;
  readonly gross: number;
  readonly tip: number;
  /** Null where the card desk did not say. */
  readonly fee: number | null;
  readonly payer: string;
  readonly email: string;
  readonly document: string;
  readonly item: string;
  readonly note: string;
  payout: string;
  readonly refundOf: string;
}

/** What a statement line is, and so what the books should find. */
export type LineTruth =
  | { readonly kind: 'payout'; readonly payout: string }
  | { readonly kind: 'receipts'; readonly receipts: readonly string[] }
  | { readonly kind: 'invoices'; readonly invoices: readonly string[] }
  | { readonly kind: 'account'; readonly account: string };

export interface ScenarioLine {
  readonly date: string;
  readonly amount: number;
  readonly text: string;
  readonly party: string;
  readonly reference: string;
  readonly truth: LineTruth;
}

export interface Scenario {
  readonly invoices: readonly ScenarioInvoice[];
  readonly movements: readonly ScenarioMovement[];
  readonly lines: readonly ScenarioLine[];
}

export const FIRST = '2026-09-01';
export const LAST = '2026-11-16';
const BANK_HOLIDAYS = ['2026-10-26'];

export const PAYERS = [
  'Brandon Quay Charters',
  'Skarra Yacht Club',
  'O. Marrable',
  'T. Hollow',
  'A. Tern',
  'P. Strand',
  'Fulmar Ferries',
  'Inishcoe Sea School',
  'D. Pellow',
  'M. Garvan',
  'Cormorant Boatyard',
  'R. Quill',
  'Saltmarsh Rowing Club',
  'E. Lough',
  'Portmara Pilot Co-op',
  'S. Brine',
  'Ardglas Youth Sailing',
  'N. Keel',
  'Three Rocks Angling',
  'J. Mallon',
  'L. Seabright',
  'Gannet Dive Centre',
  'H. Wrack',
  'C. Tiller',
  'V. Shoal',
  'Rossbeg Island Trust',
  'K. Halyard',
  'W. Spindrift',
] as const;

export const WORK = {
  repair: {
    about: ['Genoa luff tape', 'Main leech repair', 'Spinnaker patch', 'Reefing eyelets', 'Sail wash and check'],
    tax: ['S23', 23_00],
  },
  'rig-check': { about: ['Rig check', 'Rig check with report', 'Mast-head inspection'], tax: ['R13', 13_50] },
  lesson: { about: ['Sailing lesson, half day', 'Sailing lesson, full day', 'Spinnaker lesson'], tax: ['R13', 13_50] },
  parts: { about: ['Shackles and blocks', 'Halyard, 30 m', 'Winch service kit', 'Furling line'], tax: ['S23', 23_00] },
} as const;
export type Item = keyof typeof WORK;

const pad = (n: number, width = 2) => String(n).padStart(width, '0');
export const dayAfter = (day: string, days: number) =>
  new Date(Date.parse(`${day}T00:00:00Z`) + days * 86_400_000).toISOString().slice(0, 10);
export const weekday = (day: string) => new Date(`${day}T00:00:00Z`).getUTCDay();
export const isWorking = (day: string) => ![0, 6].includes(weekday(day)) && !BANK_HOLIDAYS.includes(day);

export function workingDaysLater(day: string, count: number): string {
  let at = day;
  for (let left = count; left > 0;) {
    at = dayAfter(at, 1);
    if (isWorking(at)) left--;
  }
  return at;
}

/** Half away from zero, for amounts that are never negative here. */
export const percentOf = (amount: number, basisPoints: number) =>
  Math.floor((2 * amount * basisPoints + 10_000) / 20_000);
export const cardFee = (gross: number) => percentOf(gross, 190) + 25;
export const emailOf = (payer: string) =>
  `${payer
    .toLowerCase()
    .replace(/[^a-z]+/g, '.')
    .replace(/^\.|\.$/g, '')}@mail.example`;
/** Irish summer time ended on 25 October 2026. */
const utcHour = (day: string, localHour: number) => (day < '2026-10-25' ? localHour - 1 : localHour);

export class Builder {
  readonly invoices: ScenarioInvoice[] = [];
  readonly movements: ScenarioMovement[] = [];
  readonly lines: ScenarioLine[] = [];
  private nextInvoice = 2001;
  private nextReceipt = 701;
  private nextPayout = 2188;
  private nextReference = 55_001;

  constructor(readonly chance: Chance) {}

  invoice(day: string, payer: string, nets: readonly (readonly [Item, number])[], number = ''): ScenarioInvoice {
    const lines = nets.map(([item, net]) => {
      const [taxCode, rate] = WORK[item].tax;
      return { item, description: this.chance.pick(WORK[item].about), net, taxCode, tax: percentOf(net, rate) };
    });
    const invoice = {
      number: number || `KS-${this.nextInvoice++}`,
      payer,
      email: emailOf(payer),
      issued: day,
      due: dayAfter(day, 21),
      lines,
      gross: lines.reduce((total, line) => total + line.net + line.tax, 0),
    };
    this.invoices.push(invoice);
    return invoice;
  }

  receipt(day: string, gross: number, about: Partial<ScenarioMovement> = {}): ScenarioMovement {
    const hour = this.chance.int(8, 18);
    const minute = this.chance.int(0, 59);
    const movement: ScenarioMovement = {
      id: `CD-${this.nextReceipt++}`,
      type: gross < 0 ? 'refund' : 'receipt',
      time: `${day}T${pad(utcHour(day, hour))}:${pad(minute)}:${pad(this.chance.int(0, 59))}Z`,
      day,
      gross,
      tip: 0,
      fee: gross < 0 ? 0 : cardFee(gross),
      payer: '',
      email: '',
      document: '',
      item: '',
      note: '',
      payout: '',
      refundOf: '',
      ...about,
    };
    this.movements.push(movement);
    return movement;
  }

  onInvoice(day: string, invoice: ScenarioInvoice, gross = invoice.gross, more: Partial<ScenarioMovement> = {}) {
    const { payer, email, number } = invoice;
    return this.receipt(day, gross, { payer, email, document: number, ...more });
  }

  line(date: string, amount: number, text: string, party: string, truth: LineTruth): void {
    this.lines.push({ date, amount, text, party, reference: `SK${pad(this.nextReference++, 6)}`, truth });
  }

  /** Pays out on each working day what came in before it and is not paid out yet; it lands two working days later. */
  payOut(day: string, textOf: (id: string) => string, landsOn: (id: string, usual: string) => string): void {
    const carried = this.movements.filter(
      (m) => m.type !== 'payout' && m.payout === '' && m.fee !== null && m.day < day,
    );
    const net = carried.reduce((total, m) => total + m.gross - m.fee!, 0);
    if (net <= 0) return;
    const id = `P-${this.nextPayout++}`;
    for (const m of carried) m.payout = id;
    this.movements.push({
      id,
      type: 'payout',
      time: `${day}T05:00:00Z`,
      day,
      gross: -net,
      tip: 0,
      fee: 0,
      payer: '',
      email: '',
      document: '',
      item: '',
      note: '',
      payout: '',
      refundOf: '',
    });
    const lands = landsOn(id, workingDaysLater(day, 2));
    if (lands <= LAST) this.line(lands, net, textOf(id), 'Card desk', { kind: 'payout', payout: id });
  }
}
