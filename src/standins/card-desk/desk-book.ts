import type { WireMovement, WireReading } from '@/formats/movements/wire';
import { Chance } from '../chance';
import { isWorkingDay, workingDaysLater } from '../days';
import type { WorldDay, WorldSeed } from '../world';
import { receiptsOfOrders, type DeskOrder } from './orders';

/** A payout the desk made: what the bank will see. */
export interface DeskPayout {
  readonly id: string;
  readonly net: number;
  readonly left: string;
  readonly lands: string;
}

/** The fee for a chargeback, in minor units. */
const CHARGEBACK_FEE = 1500;

type Movement = WireMovement & { readonly payout: string };

/** The simulated card desk's own book: an ever growing list of changes, the newest word on a movement always last. */
export class DeskBook {
  private readonly log: Movement[] = [];
  private readonly open: { number: string; gross: number; payer: string }[];
  private nextReceipt: number;
  private nextPayout: number;
  private lastAt = '';

  constructor(private readonly seed: WorldSeed) {
    this.open = [...seed.documents];
    this.nextReceipt = seed.desk.nextReceipt;
    this.nextPayout = seed.desk.nextPayout;
    for (const movement of seed.history) this.note({ ...movement, payout: movement.payout ?? '' });
  }

  private note(movement: Omit<Movement, 'change'>): Movement {
    const noted: Movement = { ...movement, change: this.log.length + 1 };
    this.log.push(noted);
    if (noted.at > this.lastAt) this.lastAt = noted.at;
    return noted;
  }

  /** The newest word on every movement that changed after a change number, oldest change first. */
  changesAfter(change: number): readonly Movement[] {
    const newest = new Map<string, Movement>();
    for (const movement of this.log) newest.set(movement.id, movement);
    return [...newest.values()].filter((movement) => movement.change > change).sort((a, b) => a.change - b.change);
  }

  private present(): readonly Movement[] {
    return this.changesAfter(0);
  }

  /** What the desk holds now: all it took in less its fees, less what it paid out. */
  reading(day: string): WireReading {
    const amount = this.present().reduce((sum, { gross, fee }) => sum + gross - (fee ?? 0), 0);
    return { at: `${day}T18:00:00Z`, currency: this.seed.currency, amount };
  }

  weatherOf(day: string): WorldDay['weather'] {
    if (this.seed.quiet) return 'fine';
    const roll = this.chanceOf(day, 7).int(1, 100);
    return roll <= 6 ? 'down' : roll <= 20 ? 'shaky' : 'fine';
  }

  private chanceOf(day: string, salt: number): Chance {
    return new Chance(this.seed.seed * 31 + Number(day.replaceAll('-', '')) * 13 + salt);
  }

  private feeOf(gross: number): number {
    return Math.floor((2 * gross * this.seed.desk.feeRate + 10_000) / 20_000) + this.seed.desk.feeFixed;
  }

  /** Goes through one day: what was held is paid out, payers pay, and now and then one wants money back. */
  turn(day: string): { readonly movements: readonly Movement[]; readonly payouts: readonly DeskPayout[] } {
    const chance = this.chanceOf(day, 1);
    const from = this.log.length;
    const payouts = isWorkingDay(day) ? this.payOut(day) : [];
    let minute = 8 * 60;
    const at = () => {
      minute += chance.int(7, 55);
      const [hour, rest] = [Math.floor(minute / 60), minute % 60];
      return `${day}T${String(hour).padStart(2, '0')}:${String(rest).padStart(2, '0')}:${String(chance.int(0, 59)).padStart(2, '0')}Z`;
    };
    if (this.seed.quiet) return { movements: this.log.slice(from), payouts };
    for (let n = chance.int(isWorkingDay(day) ? 2 : 0, isWorkingDay(day) ? 6 : 3); n > 0; n--)
      this.takeIn(chance, at());
    if (chance.in100(18)) this.giveBack(chance, at());
    if (chance.in100(10)) this.takenBack(chance, at());
    if (chance.in100(12)) this.correctFee(chance);
    return { movements: this.log.slice(from), payouts };
  }

  private takeIn(chance: Chance, at: string): void {
    const id = `CD-${this.nextReceipt++}`;
    const document =
      this.open.length > 0 && chance.in100(40) ? this.open.splice(chance.int(0, this.open.length - 1), 1)[0]! : null;
    const payer = document
      ? this.seed.payers.find(({ name }) => name === document.payer)
      : chance.in100(70)
        ? chance.pick(this.seed.payers)
        : undefined;
    const sale = chance.pick(this.seed.sales);
    const gross = document?.gross ?? chance.int(6, 48) * 250;
    this.note({
      id,
      kind: 'receipt',
      at,
      currency: this.seed.currency,
      gross,
      fee: this.feeOf(gross),
      ...(payer && { payer }),
      document: document?.number ?? '',
      item: document ? '' : sale.item,
      note: document || payer ? '' : sale.note,
      payout: '',
    });
  }

  /** Takes in what was ordered and is paid on a day, at the end of it: what chance made of the day stays as it was. */
  takeOrders(day: string, orders: readonly DeskOrder[]): void {
    for (const [index, { order, receipt }] of receiptsOfOrders(orders, day).entries()) {
      const { amount: gross, document, item, note, fund, payer } = order;
      const at = `${day}T17:${String(Math.floor(index / 60) % 60).padStart(2, '0')}:${String(index % 60).padStart(2, '0')}Z`;
      const { currency } = this.seed;
      this.note({
        id: receipt,
        kind: 'receipt',
        at,
        currency,
        gross,
        fee: this.feeOf(gross),
        payer,
        document,
        item,
        note,
        fund,
        method: 'card',
        payout: '',
      });
    }
  }

  private receiptOf(chance: Chance): Movement | null {
    const present = this.present();
    const taken = new Set(present.map((movement) => movement.takesBack ?? ''));
    const free = present.filter((movement) => movement.kind === 'receipt' && !taken.has(movement.id));
    return free.length === 0 ? null : chance.pick(free.slice(-30));
  }

  private giveBack(chance: Chance, at: string): void {
    const receipt = this.receiptOf(chance);
    if (!receipt) return;
    const gross = chance.in100(60) ? receipt.gross : Math.max(100, Math.floor(receipt.gross / 200) * 100);
    const { currency, payer, document = '', item = '' } = receipt;
    this.note({
      id: `CD-${this.nextReceipt++}`,
      kind: 'refund',
      at,
      currency,
      gross: -gross,
      fee: 0,
      ...(payer && { payer }),
      document,
      item,
      note: '',
      takesBack: receipt.id,
      payout: '',
    });
  }

  /** A payer has the bank take a payment back; one that is open for a while may be won. */
  private takenBack(chance: Chance, at: string): void {
    const lost = this.present().find(
      (one) => one.kind === 'chargeback' && one.gross < 0 && !this.log.some((other) => other.id === `${one.id}-W`),
    );
    if (lost && chance.in100(50)) {
      const { currency, payer, takesBack = '' } = lost;
      this.note({
        id: `${lost.id}-W`,
        kind: 'chargeback',
        at,
        currency,
        gross: -lost.gross,
        fee: 0,
        ...(payer && { payer }),
        note: 'won',
        takesBack,
        payout: '',
      });
      return;
    }
    const receipt = this.receiptOf(chance);
    if (!receipt) return;
    const { currency, payer } = receipt;
    this.note({
      id: `CD-${this.nextReceipt++}`,
      kind: 'chargeback',
      at,
      currency,
      gross: -receipt.gross,
      fee: CHARGEBACK_FEE,
      ...(payer && { payer }),
      note: '',
      takesBack: receipt.id,
      payout: '',
    });
  }

  /** The desk finds that it took a cent too much of a receipt it still holds. */
  private correctFee(chance: Chance): void {
    const held = this.present().filter((one) => one.kind === 'receipt' && one.payout === '' && (one.fee ?? 0) > 1);
    if (held.length === 0) return;
    const { change: _change, ...receipt } = chance.pick(held);
    this.note({ ...receipt, fee: receipt.fee! - 1 });
  }

  private payOut(day: string): DeskPayout[] {
    const held = this.present().filter(
      (one) => one.kind !== 'payout' && one.payout === '' && one.at.slice(0, 10) < day,
    );
    const net = held.reduce((sum, { gross, fee }) => sum + gross - (fee ?? 0), 0);
    if (net <= 0) return [];
    const id = `P-${this.nextPayout++}`;
    const { currency, desk } = this.seed;
    this.note({ id, kind: 'payout', at: `${day}T05:00:00Z`, currency, gross: -net, fee: null, payout: '' });
    for (const { change: _change, ...movement } of held) this.note({ ...movement, payout: id });
    return [{ id, net, left: day, lands: workingDaysLater(day, desk.payoutDays) }];
  }
}
