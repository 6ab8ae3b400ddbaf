import { Chance } from '../lib/random';

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

const FIRST = '2026-09-01';
const LAST = '2026-11-16';
const BANK_HOLIDAYS = ['2026-10-26'];

const PAYERS = [
  'Brandon Quay Charters', 'Skarra Yacht Club', 'O. Marrable', 'T. Hollow', 'A. Tern', 'P. Strand', 'Fulmar Ferries',
  'Inishcoe Sea School', 'D. Pellow', 'M. Garvan', 'Cormorant Boatyard', 'R. Quill', 'Saltmarsh Rowing Club', 'E. Lough',
  'Portmara Pilot Co-op', 'S. Brine', 'Ardglas Youth Sailing', 'N. Keel', 'Three Rocks Angling', 'J. Mallon', 'L. Seabright',
  'Gannet Dive Centre', 'H. Wrack', 'C. Tiller', 'V. Shoal', 'Rossbeg Island Trust', 'K. Halyard', 'W. Spindrift',
] as const; // prettier-ignore

const WORK = {
  repair: { about: ['Genoa luff tape', 'Main leech repair', 'Spinnaker patch', 'Reefing eyelets', 'Sail wash and check'], tax: ['S23', 23_00] },
  'rig-check': { about: ['Rig check', 'Rig check with report', 'Mast-head inspection'], tax: ['R13', 13_50] },
  lesson: { about: ['Sailing lesson, half day', 'Sailing lesson, full day', 'Spinnaker lesson'], tax: ['R13', 13_50] },
  parts: { about: ['Shackles and blocks', 'Halyard, 30 m', 'Winch service kit', 'Furling line'], tax: ['S23', 23_00] },
} as const; // prettier-ignore
type Item = keyof typeof WORK;

const pad = (n: number, width = 2) => String(n).padStart(width, '0');
const dayAfter = (day: string, days: number) =>
  new Date(Date.parse(`${day}T00:00:00Z`) + days * 86_400_000).toISOString().slice(0, 10);
const weekday = (day: string) => new Date(`${day}T00:00:00Z`).getUTCDay();
const isWorking = (day: string) => ![0, 6].includes(weekday(day)) && !BANK_HOLIDAYS.includes(day);

function workingDaysLater(day: string, count: number): string {
  let at = day;
  for (let left = count; left > 0;) {
    at = dayAfter(at, 1);
    if (isWorking(at)) left--;
  }
  return at;
}

/** Half away from zero, for amounts that are never negative here. */
const percentOf = (amount: number, basisPoints: number) => Math.floor((2 * amount * basisPoints + 10_000) / 20_000);
const cardFee = (gross: number) => percentOf(gross, 190) + 25;
const emailOf = (payer: string) =>
  `${payer
    .toLowerCase()
    .replace(/[^a-z]+/g, '.')
    .replace(/^\.|\.$/g, '')}@mail.example`;
/** Irish summer time ended on 25 October 2026. */
const utcHour = (day: string, localHour: number) => (day < '2026-10-25' ? localHour - 1 : localHour);

class Builder {
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

const ITEMS: readonly Item[] = ['repair', 'rig-check', 'lesson', 'parts'];

function ordinaryDay(b: Builder, day: string, waiting: { invoice: ScenarioInvoice; on: string }[]): void {
  const { chance } = b;
  if (isWorking(day)) {
    for (let n = chance.int(0, 2); n > 0; n--) {
      const payer = chance.pick(
        PAYERS.slice(5).filter(
          (name) => name !== 'Fulmar Ferries' && name !== 'Inishcoe Sea School' && name !== 'Cormorant Boatyard',
        ),
      );
      const count = chance.in100(30) ? 2 : 1;
      const nets = Array.from({ length: count }, () => [chance.pick(ITEMS), chance.int(8, 90) * 500] as const);
      const invoice = b.invoice(day, payer, nets);
      if (chance.in100(90)) waiting.push({ invoice, on: dayAfter(day, chance.int(1, 19)) });
    }
  }
  for (const { invoice, on } of waiting) if (on === day) b.onInvoice(day, invoice);
  if (weekday(day) !== 0) {
    for (let n = chance.int(0, 3); n > 0; n--) {
      const item = chance.in100(70) ? chance.pick(ITEMS) : '';
      const tip = item === 'lesson' && chance.in100(40) ? 500 : 0;
      const named = chance.in100(70);
      const payer = named ? chance.pick(PAYERS.slice(8)) : '';
      b.receipt(day, chance.int(6, 48) * 250 + tip, {
        item,
        tip,
        payer,
        email: named ? emailOf(payer) : '',
        note: named
          ? ''
          : chance.pick(['shackles, Orla M.', 'rope', 'rig check, berth 14', 'lesson, Finn', 'repair kit']),
      });
    }
  }
}

/** The ordinary mess of real life, on days of its own. */
function exceptions(b: Builder, day: string): void {
  const of = (payer: string) => b.invoices.find((i) => i.payer === payer)!;
  switch (day) {
    case '2026-09-03':
      b.invoice(day, 'Fulmar Ferries', [['repair', 40_000]]);
      break;
    case '2026-09-10':
      b.onInvoice(day, of('Fulmar Ferries'), 30_000, { note: 'first part' });
      break;
    case '2026-09-24':
      b.onInvoice(day, of('Fulmar Ferries'), of('Fulmar Ferries').gross - 30_000, { note: 'the rest' });
      break;
    case '2026-10-01':
      b.invoice(day, 'Inishcoe Sea School', [['lesson', 20_000]]);
      break;
    case '2026-10-06':
      b.onInvoice(day, of('Inishcoe Sea School'), of('Inishcoe Sea School').gross + 2_000, { note: 'rounded up' });
      break;
    case '2026-10-14': {
      const whole = b.receipt('2026-10-12', 12_300, { payer: 'H. Wrack', email: emailOf('H. Wrack'), item: 'parts' });
      b.receipt(day, -12_300, {
        fee: -cardFee(12_300),
        refundOf: whole.id,
        payer: 'H. Wrack',
        email: emailOf('H. Wrack'),
      });
      break;
    }
    case '2026-10-21': {
      const paid = b.movements.find((m) => m.document !== '' && m.day < '2026-10-10' && m.gross > 10_000)!;
      b.receipt(day, -4_000, { document: paid.document, payer: paid.payer, email: paid.email, refundOf: paid.id });
      break;
    }
    case '2026-11-02':
      b.invoice(day, 'Brandon Quay Charters', [['repair', 25_203]]);
      b.invoice(day, 'A. Tern', [['repair', 12_000]]);
      break;
    case '2026-11-09':
      b.receipt(day, 15_000, { item: 'rig-check', payer: 'Gannet Dive Centre', email: emailOf('Gannet Dive Centre') });
      break;
    case '2026-11-11':
      b.receipt(day, 9_750, { item: 'lesson', payer: 'E. Lough', email: emailOf('E. Lough') });
      break;
    case '2026-11-03':
      b.receipt(day, 5_250, { document: 'KS-2999', payer: 'V. Shoal', email: emailOf('V. Shoal') });
      break;
  }
}

/** Two days with one equal receipt each: their payouts cannot be told apart at the bank. */
const EQUAL_DAYS = ['2026-11-04', '2026-11-05'];
/** The card desk's report broke down on this day: no fees, no payout. */
const NO_REPORT = '2026-11-10';

function bankOnly(b: Builder): void {
  for (const month of ['2026-09', '2026-10', '2026-11']) {
    b.line(`${month}-02`, -850_00, 'SO WORKSHOP RENT PORTMARA PIER', 'Portmara Harbour Board', {
      kind: 'account',
      account: '6010',
    });
  }
  b.line('2026-09-30', -12_40, 'ACCOUNT CHARGES Q3', '', { kind: 'account', account: '6110' });
  b.line('2026-09-16', -312_75, 'CANVAS AND THREAD 88213', 'Lough Derrow Canvas', { kind: 'account', account: '6020' });
  b.line('2026-10-19', -148_20, 'CANVAS AND THREAD 88920', 'Lough Derrow Canvas', { kind: 'account', account: '6020' });
  b.line('2026-11-12', -96_00, 'CANVAS AND THREAD 89377', 'Lough Derrow Canvas', { kind: 'account', account: '6020' });
}

/** Invoices that are settled by transfer: who owes them, and when they were issued. */
const BY_TRANSFER: readonly (readonly [day: string, payer: string, item: Item, net: number])[] = [
  ['2026-09-07', 'Cormorant Boatyard', 'repair', 60_000],
  ['2026-10-05', 'O. Marrable', 'parts', 20_000],
  ['2026-10-20', 'Skarra Yacht Club', 'repair', 18_000],
  ['2026-10-22', 'T. Hollow', 'rig-check', 7_542],
  ['2026-10-23', 'Skarra Yacht Club', 'repair', 14_000],
  ['2026-10-28', 'Skarra Yacht Club', 'repair', 16_000],
  ['2026-10-29', 'O. Marrable', 'repair', 20_000],
  ['2026-10-30', 'T. Hollow', 'rig-check', 7_542],
];

/** The transfers for them, with the words each payer finds: a number run together, a typo in one, none at all. */
function transfers(b: Builder, day: string): void {
  for (const [issued, payer, item, net] of BY_TRANSFER) if (issued === day) b.invoice(day, payer, [[item, net]]);
  const pay = (payer: string, which: readonly number[], text: (digits: readonly string[]) => string) => {
    const owed = b.invoices.filter((i) => i.payer === payer);
    const paid = which.map((index) => owed[index]!);
    const amount = paid.reduce((total, i) => total + i.gross, 0);
    const numbers = paid.map((i) => i.number);
    const digits = numbers.map((number) => number.slice(3));
    b.line(day, amount, text(digits), payer, { kind: 'invoices', invoices: numbers });
  };
  const swapLast = (digits: string) => digits.slice(0, -2) + digits.at(-1)! + digits.at(-2)!;
  switch (day) {
    case '2026-09-21':
      return pay('Cormorant Boatyard', [0], ([n]) => `INV KS-${n} CORMORANT`);
    case '2026-10-16':
      return pay('O. Marrable', [0], ([n]) => `O MARRABLE INV KS${n}`);
    case '2026-11-09':
      return pay('T. Hollow', [0], () => 'T HOLLOW RIG CHECK');
    case '2026-11-10':
      return pay('T. Hollow', [1], () => 'HOLLOW T');
    case '2026-11-11':
      pay('O. Marrable', [1], ([n]) => `O MARRABLE INV KS${n}`);
      pay('Skarra Yacht Club', [0, 1, 2], ([a, c, d]) => `SKARRA YC ${a} ${c} ${swapLast(d!)} THANKS`);
  }
}

function worstDay(b: Builder): void {
  const charter = b.invoices.find((i) => i.payer === 'Brandon Quay Charters')!;
  const tern = b.invoices.find((i) => i.payer === 'A. Tern' && i.issued === '2026-11-02')!;
  const bare = { fee: null } as const;
  const four = [
    b.onInvoice(NO_REPORT, charter, charter.gross, bare),
    b.receipt(NO_REPORT, 8_500, { ...bare, payer: 'P. Strand', email: emailOf('P. Strand'), item: 'rig-check' }),
    b.onInvoice(NO_REPORT, tern, tern.gross, bare),
    b.receipt(NO_REPORT, 6_240, { ...bare, note: 'winch, Eilis', item: 'parts' }),
  ];
  b.line('2026-11-12', 592_52, 'CD SETTLEMENT 1011 KITTIWAKE SAILS 4471', 'Card desk', {
    kind: 'receipts',
    receipts: four.map((m) => m.id),
  });
}

/** Builds Kittiwake's autumn: the same for the same seed, to the byte. */
export function kittiwakeScenario(seed: number): Scenario {
  const b = new Builder(new Chance(seed));
  bankOnly(b);
  const waiting: { invoice: ScenarioInvoice; on: string }[] = [];
  let payouts = 0;
  for (let day = FIRST; day <= LAST; day = dayAfter(day, 1)) {
    exceptions(b, day);
    transfers(b, day);
    if (EQUAL_DAYS.includes(day)) {
      b.receipt(day, 8_500, { item: 'rig-check', payer: b.chance.pick(PAYERS.slice(20)) });
    } else if (day === NO_REPORT) {
      worstDay(b);
    } else {
      ordinaryDay(b, day, waiting);
    }
    if (isWorking(day)) {
      b.payOut(
        day,
        (id) => {
          payouts++;
          const date = `${day.slice(8)}${day.slice(5, 7)}`;
          if (['2026-11-05', '2026-11-06'].includes(day)) return 'CD SETTLEMENT KITTIWAKE SAILS';
          return payouts % 4 === 0 || day >= '2026-11-10'
            ? `CD SETTLEMENT ${date} KITTIWAKE SAILS`
            : `CD SETTLEMENT ${date} REF ${id} KITTIWAKE`;
        },
        // One payout is held up at the bank over a week-end and comes two working days late.
        (_id, usual) => (day === '2026-11-10' ? '2026-11-16' : usual),
      );
    }
  }
  // A waiting invoice that was to be paid on a day of exceptions stays open, as some do.
  const byTime = (a: ScenarioMovement, c: ScenarioMovement) => (a.time < c.time ? -1 : a.time > c.time ? 1 : 0);
  const byDate = (a: { date: string }, c: { date: string }) => (a.date < c.date ? -1 : a.date > c.date ? 1 : 0);
  const byIssue = (a: ScenarioInvoice, c: ScenarioInvoice) =>
    a.issued === c.issued ? (a.number < c.number ? -1 : 1) : a.issued < c.issued ? -1 : 1;
  return {
    invoices: [...b.invoices].sort(byIssue),
    movements: [...b.movements].sort(byTime),
    lines: [...b.lines].sort(byDate),
  };
}
