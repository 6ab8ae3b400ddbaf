import { Chance } from '../chance';
import type { DeskPayout } from '../card-desk/desk-book';
import type { WorldSeed } from '../world';
import { camt053 } from './camt053-writer';

export interface BankLine {
  readonly date: string;
  readonly amount: number;
  readonly text: string;
  readonly party: string;
  readonly reference: string;
}

/** The simulated bank's own book: payouts as they land, now and then a transfer or a charge, a statement a working day. */
export class BankBook {
  private readonly awaited: { readonly id: string; readonly net: number; readonly lands: string }[];
  private readonly files: { readonly name: string; readonly body: string }[];
  private balance: number;
  private reference = 56_000;

  constructor(private readonly seed: WorldSeed) {
    this.awaited = [...seed.underway];
    this.files = [...seed.statements];
    this.balance = seed.bank.opening;
  }

  /** A payout that has left for this bank. */
  expect({ id, net, lands }: Pick<DeskPayout, 'id' | 'net' | 'lands'>): void {
    this.awaited.push({ id, net, lands });
  }

  /** Goes through one working day and closes its statement. */
  turn(day: string): readonly BankLine[] {
    const chance = new Chance(this.seed.seed * 17 + Number(day.replaceAll('-', '')) * 29);
    const lines: BankLine[] = [];
    const book = (amount: number, text: string, party: string) =>
      lines.push({ date: day, amount, text, party, reference: `SK${String(this.reference++).padStart(6, '0')}` });
    const { desk, payers } = this.seed;
    for (const payout of this.awaited.filter(({ lands }) => lands <= day)) {
      const named = chance.in100(70) ? ` REF ${payout.id}` : '';
      book(payout.net, `CD SETTLEMENT ${day.slice(8)}${day.slice(5, 7)}${named} KITTIWAKE`, desk.name);
      this.awaited.splice(this.awaited.indexOf(payout), 1);
    }
    const busy = this.seed.quiet !== true;
    if (busy && chance.in100(35)) {
      const payer = chance.pick(payers);
      book(chance.int(8, 60) * 1000, `${payer.name.toUpperCase()} THANKS`, payer.name);
    }
    if (busy && chance.in100(25)) book(-chance.int(4, 40) * 500, 'CANVAS AND THREAD', 'Lough Derrow Canvas');
    const { iban } = this.seed.bank;
    const { currency } = this.seed;
    const id = `SK-${day}`;
    const statement = { id, iban, currency, opening: this.balance, from: day, to: day, lines };
    this.files.push({ name: `statement-${day}.xml`, body: [...camt053(statement)].join('') });
    this.balance += lines.reduce((sum, line) => sum + line.amount, 0);
    return lines;
  }

  /** The statements handed out after the first so many. */
  statementsAfter(count: number): readonly { readonly change: number; readonly name: string; readonly body: string }[] {
    return this.files.map((file, index) => ({ change: index + 1, ...file })).filter(({ change }) => change > count);
  }
}
