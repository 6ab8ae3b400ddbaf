import { Chance } from '@/standins/chance';
import { dayAfter, isWorking, percentOf, workingDaysLater } from '../kittiwake/builder';
import { FIRST_NAMES, LAST_NAMES, membersOf, type Member } from './members';
import type { BankLine } from '../lib/cuts';

/** Amounts in minor units throughout; the arithmetic is the scenario's own, so that it can check the product's. */
export interface Invoice {
  readonly number: string;
  readonly member: Member;
  readonly issued: string;
  readonly net: number;
  readonly tax: number;
  readonly gross: number;
}

/** One movement of one of the channels; a fee is what the channel took for it. */
export interface Movement {
  readonly channel: 'debit' | 'card' | 'wallet';
  readonly id: string;
  readonly kind: 'receipt' | 'refund' | 'chargeback' | 'payout';
  readonly day: string;
  readonly clock: string;
  readonly gross: number;
  readonly fee: number;
  readonly member: { readonly no: string; readonly name: string; readonly email: string };
  readonly invoice: string;
  readonly item: string;
  readonly note: string;
  payout: string;
  readonly takesBack: string;
}

export interface Driftline {
  readonly members: readonly Member[];
  readonly invoices: readonly Invoice[];
  readonly movements: readonly Movement[];
  readonly rates: readonly { readonly day: string; readonly millionths: number }[];
  readonly lines: readonly BankLine[];
  /** What each wallet payout came to in euro, at the wallet's own rate. */
  readonly converted: ReadonlyMap<string, number>;
}

const LAST = '2026-11-15';
const MONTHS = ['2026-09', '2026-10', '2026-11'] as const;
const PRICES = { small: 28_00, large: 44_00 } as const;
/** Debits cost 20 cents each, from October 25; a returned one costs what the bureau is charged for it. */
const DEBIT_FEE = { '2026-09': 20, '2026-10': 25, '2026-11': 25 } as const;
const RETURN_FEE = 3_50;
const REASONS = ['no funds', 'account closed', 'mandate withdrawn', 'no funds'] as const;

const pad = (n: number, width: number) => String(n).padStart(width, '0');
const working = (day: string) => (isWorking(day) ? day : workingDaysLater(day, 1));
/** The tax in a price at 23 %, half away from zero. */
export const taxIn = (gross: number) => Math.floor((2 * gross * 2_300 + 12_300) / (2 * 12_300));
/** An amount at a rate in millionths, half away from zero, for amounts that are never negative here. */
export const atMillionths = (amount: number, millionths: number) =>
  Math.floor((2 * amount * millionths + 1_000_000) / 2_000_000);

class Year {
  readonly invoices: Invoice[] = [];
  readonly movements: Movement[] = [];
  readonly lines: BankLine[] = [];
  readonly converted = new Map<string, number>();
  private nextInvoice = 4101;
  private nextDebit = 20_001;
  private nextCard = 501;
  private nextWallet = 61;
  private nextReference = 7_101;

  constructor(
    readonly chance: Chance,
    readonly members: readonly Member[],
    readonly rates: Driftline['rates'],
  ) {}

  bank(date: string, amount: number, text: string, party: string): void {
    if (date <= LAST) this.lines.push({ date, amount, text, party, reference: `DB${this.nextReference++}` });
  }

  private move(of: Omit<Movement, 'clock' | 'payout' | 'takesBack' | 'note' | 'item'> & Partial<Movement>): Movement {
    const clock = of.clock ?? `${pad(this.chance.int(8, 19), 2)}:${pad(this.chance.int(0, 59), 2)}`;
    const movement = { item: '', note: '', payout: '', takesBack: '', ...of, clock };
    if (movement.day <= LAST) this.movements.push(movement);
    return movement;
  }

  private issue(member: Member, day: string): Invoice {
    const gross = PRICES[member.box];
    const tax = taxIn(gross);
    const invoice = { number: `DL-${this.nextInvoice++}`, member, issued: day, net: gross - tax, tax, gross };
    this.invoices.push(invoice);
    return invoice;
  }

  private debit(invoice: Invoice, day: string, payout: string, fee: number): Movement {
    const { member, gross, number } = invoice;
    return this.move({
      channel: 'debit',
      id: `D-${this.nextDebit++}`,
      kind: 'receipt',
      day,
      clock: '06:00',
      gross,
      fee,
      member,
      invoice: number,
      payout,
    });
  }

  /** Pays out what a channel holds of these movements, on a day, if it is anything. */
  private payOut(channel: Movement['channel'], id: string, day: string, of: readonly Movement[]): number {
    const net = of.reduce((sum, one) => sum + one.gross - one.fee, 0);
    if (net <= 0 || day > LAST) return 0;
    for (const one of of) one.payout = id;
    const nobody = { no: '', name: '', email: '' };
    this.move({ channel, id, kind: 'payout', day, clock: '05:00', gross: -net, fee: 0, member: nobody, invoice: '' });
    return net;
  }

  /** A month: invoices, the debit run, what is returned of it, the second try, and the cards. */
  month(month: (typeof MONTHS)[number]): void {
    const fee = DEBIT_FEE[month];
    const invoices = this.members.map((member) => this.issue(member, `${month}-01`));
    const run = working(`${month}-03`);
    const debits = invoices
      .filter(({ member }) => !member.byCard)
      .map((invoice) => ({ invoice, debit: this.debit(invoice, run, '', fee) }));
    const returned = workingDaysLater(run, 3);
    const back: { invoice: Invoice; debit: Movement; movement: Movement }[] = [];
    for (const { invoice, debit } of debits) {
      if (!this.chance.in100(3)) continue;
      const note = this.chance.pick(REASONS);
      const movement = this.move({
        channel: 'debit',
        id: `R-${debit.id.slice(2)}`,
        kind: 'chargeback',
        day: returned,
        clock: '09:30',
        gross: -debit.gross,
        fee: RETURN_FEE,
        member: invoice.member,
        invoice: '',
        note,
        takesBack: debit.id,
      });
      back.push({ invoice, debit, movement });
    }
    const name = month.slice(5);
    const out = workingDaysLater(returned, 1);
    const first = [...debits.map(({ debit }) => debit), ...back.map(({ movement }) => movement)];
    const net = this.payOut('debit', `DR-${name}A`, out, first);
    if (net > 0) this.bank(workingDaysLater(out, 2), net, `DEBIT RUN DR-${name}A DRIFTLINE`, 'Gannet Debit Bureau');
    const again = workingDaysLater(returned, 5);
    const second = back
      .filter(({ movement }) => movement.note === 'no funds' && this.chance.in100(75))
      .map(({ invoice }) => this.debit(invoice, again, '', fee));
    const secondOut = workingDaysLater(again, 4);
    const secondNet = this.payOut(
      'debit',
      `DR-${name}B`,
      secondOut,
      second.filter(({ day }) => day <= LAST),
    );
    if (secondNet > 0)
      this.bank(workingDaysLater(secondOut, 2), secondNet, `DEBIT RUN DR-${name}B DRIFTLINE`, 'Gannet Debit Bureau');
    const owing = back.filter(({ movement }) => movement.note !== 'no funds' && this.chance.in100(60));
    this.cards(month, [...invoices.filter(({ member }) => member.byCard), ...owing.map(({ invoice }) => invoice)]);
    this.wallet(month);
  }

  /** The card fall-back: members without a mandate, and some whose debit came back; paid out each Friday. */
  private cards(month: string, invoices: readonly Invoice[]): void {
    const start = `${month}-12`;
    const taken: Movement[] = [];
    for (const { member, gross, number } of invoices) {
      const day = dayAfter(start, this.chance.int(0, 9));
      const fee = percentOf(gross, 175) + 20;
      taken.push(
        this.move({
          channel: 'card',
          id: `C-${this.nextCard++}`,
          kind: 'receipt',
          day,
          gross,
          fee,
          member,
          invoice: number,
        }),
      );
    }
    const back = taken[1];
    if (back && month === '2026-09') {
      taken.push(
        this.move({
          channel: 'card',
          id: `C-${this.nextCard++}`,
          kind: 'refund',
          day: dayAfter(start, 10),
          gross: -back.gross,
          fee: 0,
          member: back.member,
          invoice: back.invoice,
          note: 'box arrived wet',
          takesBack: back.id,
        }),
      );
    }
    const disputed = taken[3];
    if (disputed && month === '2026-10') {
      taken.push(
        this.move({
          channel: 'card',
          id: `C-${this.nextCard++}`,
          kind: 'chargeback',
          day: dayAfter(start, 10),
          gross: -disputed.gross,
          fee: 15_00,
          member: disputed.member,
          invoice: '',
          note: 'not recognised',
          takesBack: disputed.id,
        }),
      );
    }
    const out = working(dayAfter(start, 12));
    const id = `CP-${month.slice(5)}`;
    const net = this.payOut(
      'card',
      id,
      out,
      taken.filter(({ day }) => day <= LAST),
    );
    if (net > 0) this.bank(workingDaysLater(out, 2), net, `CARD PAYOUT ${id}`, 'Fall-back cards');
  }

  private rateOn(day: string): number {
    return [...this.rates].reverse().find((rate) => rate.day <= day)!.millionths;
  }

  /** Gift boxes across the water, in pounds; the wallet turns them into euro at a rate of its own. */
  private wallet(month: string): void {
    const held: Movement[] = [];
    for (let n = this.chance.int(9, 15); n > 0; n--) {
      const day = `${month}-${pad(this.chance.int(1, 15), 2)}`;
      const gross = this.chance.in100(60) ? 24_00 : 38_00;
      const [name, last] = [this.chance.pick(FIRST_NAMES), this.chance.pick(LAST_NAMES)];
      const member = { no: '', name: `${name} ${last}-Hale`, email: '' };
      held.push(
        this.move({
          channel: 'wallet',
          id: `W-${this.nextWallet++}`,
          kind: 'receipt',
          day,
          gross,
          fee: percentOf(gross, 170),
          member,
          invoice: '',
          item: 'gift',
        }),
      );
    }
    const out = working(`${month}-20`);
    const id = `WP-${month.slice(5)}`;
    const net = this.payOut('wallet', id, out, held);
    if (net === 0) return;
    const euro = atMillionths(net, this.rateOn(out) - (month === '2026-09' ? 6_000 : -4_000));
    this.converted.set(id, euro);
    this.bank(workingDaysLater(out, 2), euro, `WALLET ${id} GBP CONVERTED`, 'Card wallet');
  }

  /** A card payment with somebody else's email: one payer, or two? */
  shared(): void {
    const member = { ...this.members[4]!, name: `Cormac ${this.members[4]!.name.split(' ')[1]}` };
    this.move({
      channel: 'card',
      id: `C-${this.nextCard++}`,
      kind: 'receipt',
      day: '2026-11-13',
      clock: '11:20',
      gross: 44_00,
      fee: percentOf(44_00, 175) + 20,
      member,
      invoice: '',
      item: 'gift',
    });
  }
}

/** Euro for a pound, once a week, in millionths. */
function ratesOf(chance: Chance): Driftline['rates'] {
  const rates = [];
  let millionths = 1_158_000;
  for (let day = '2026-08-31'; day <= LAST; day = dayAfter(day, 7)) {
    millionths += chance.int(-45, 45) * 100;
    rates.push({ day, millionths });
  }
  return rates;
}

/** Driftline's money from September to the middle of November, from a seed. */
export function driftlineScenario(seed: number): Driftline {
  const chance = new Chance(seed);
  const members = membersOf(chance);
  const rates = ratesOf(chance);
  const year = new Year(chance, members, rates);
  for (const month of MONTHS) year.month(month);
  year.shared();
  for (const month of MONTHS)
    year.bank(working(`${month}-09`), -chance.int(90, 140) * 1000, 'PARCELS AND PADDING', 'Lobster Pot Packing');
  const { invoices, movements, lines, converted } = year;
  const inOrder = (a: Movement, b: Movement) => `${a.day} ${a.clock}`.localeCompare(`${b.day} ${b.clock}`);
  movements.sort((a, b) => inOrder(a, b) || a.id.localeCompare(b.id));
  lines.sort((a, b) => a.date.localeCompare(b.date) || a.reference.localeCompare(b.reference));
  return { members, invoices, movements, rates, lines, converted };
}
