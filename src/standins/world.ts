import type { WireMovement } from '@/formats/movements/wire';
import { BankBook, type BankLine } from './bank/bank-book';
import { DeskBook } from './card-desk/desk-book';
import type { DeskOrder } from './card-desk/orders';
import { dayAfter, isWorkingDay, nextWorkingDay } from './days';

/**
 * What a simulated world begins with: what had happened before it, and whom and what it may make more of. All that comes
 * after follows from the seed and the day, so that the same days can be gone through again.
 */
export interface WorldSeed {
  readonly seed: number;
  readonly account: string;
  readonly secret: string;
  /** The last day of its history; it goes on from the day after. */
  readonly begins: string;
  readonly currency: string;
  readonly payers: readonly { readonly name: string; readonly email: string }[];
  /** Documents with a pay link that were not paid when it begins. */
  readonly documents: readonly { readonly number: string; readonly gross: number; readonly payer: string }[];
  /** What is sold at the desk without a document. */
  readonly sales: readonly { readonly item: string; readonly note: string }[];
  readonly desk: {
    readonly name: string;
    readonly feeRate: number;
    readonly feeFixed: number;
    readonly payoutDays: number;
    /** The first numbers it gives out. */
    readonly nextReceipt: number;
    readonly nextPayout: number;
  };
  readonly bank: { readonly iban: string; readonly opening: number };
  /** Nobody comes by chance: only what is ordered is paid. */
  readonly quiet?: boolean;
  /** What the desk's list of changes holds already, oldest first. */
  readonly history: readonly WireMovement[];
  /** Statements the bank had handed out already, each a file. */
  readonly statements: readonly { readonly name: string; readonly body: string }[];
  /** Payouts that had left the desk and not reached the bank. */
  readonly underway: readonly { readonly id: string; readonly net: number; readonly lands: string }[];
}

/** One day of the world, as its page tells it. */
export interface WorldDay {
  readonly day: string;
  readonly receipts: number;
  readonly refunds: number;
  readonly chargebacks: number;
  readonly payouts: number;
  readonly lines: number;
  /** How the desk answers that day: well, only after it was asked a few times, or not at all. */
  readonly weather: 'fine' | 'shaky' | 'down';
}

/** A world on a day: everything that has happened in it up to then. */
export class World {
  readonly desk: DeskBook;
  readonly bank: BankBook;
  readonly days: readonly WorldDay[];

  constructor(
    readonly seed: WorldSeed,
    readonly day: string,
    readonly orders: readonly DeskOrder[] = [],
  ) {
    this.desk = new DeskBook(seed);
    this.desk.takeOrders(seed.begins, orders);
    this.bank = new BankBook(seed);
    const days: WorldDay[] = [];
    for (let at = dayAfter(seed.begins, 1); at <= day; at = dayAfter(at, 1)) {
      const made = this.desk.turn(at);
      this.desk.takeOrders(at, orders);
      for (const payout of made.payouts) this.bank.expect(payout);
      const lines: readonly BankLine[] = isWorkingDay(at) ? this.bank.turn(at) : [];
      // A movement of an earlier day is in the list again when a payout takes it along.
      const ofToday = made.movements.filter((movement) => movement.at.startsWith(at));
      const count = (kind: string) => new Set(ofToday.filter((one) => one.kind === kind).map(({ id }) => id)).size;
      days.push({
        day: at,
        receipts: count('receipt'),
        refunds: count('refund'),
        chargebacks: count('chargeback'),
        payouts: made.payouts.length,
        lines: lines.length,
        weather: this.desk.weatherOf(at),
      });
    }
    this.days = days;
  }

  /** How the desk answers on this world's day; history was fine. */
  get weather(): WorldDay['weather'] {
    return this.days.at(-1)?.weather ?? 'fine';
  }

  get tomorrow(): string {
    return nextWorkingDay(this.day);
  }
}
