import { randomUUID } from 'node:crypto';
import type { WireCheckout } from '@/formats/movements/wire';

/** A payment that somebody was sent to this desk for. */
export interface DeskOrder extends WireCheckout {
  /** What the page to pay it at is found by, and the receipt it will be. */
  readonly id: string;
  readonly receipt: string;
  /** The day of the world on which it was paid; null while it is not. */
  readonly paidOn: string | null;
  readonly givenUp: boolean;
}

/** Why an order is not taken, or the order: the same reference is the same order, however often it is sent. */
export type OrderTaken =
  { readonly order: DeskOrder; readonly orders: readonly DeskOrder[] } | { readonly error: string };

/** Takes an order in. Another for the same document stands in for those that are not paid; one that is paid stays. */
export function takeOrder(orders: readonly DeskOrder[], wanted: WireCheckout, id: string = randomUUID()): OrderTaken {
  const same = orders.find(({ reference }) => reference === wanted.reference);
  if (same && (same.amount !== wanted.amount || same.currency !== wanted.currency)) {
    return { error: 'this reference is of another amount' };
  }
  if (same && !same.givenUp) return { order: same, orders };
  if (same?.paidOn) return { error: 'this is paid' };
  const order: DeskOrder = { ...wanted, id, receipt: `CD-W${orders.length + 1}`, paidOn: null, givenUp: false };
  const others = orders.map((one) =>
    one.paidOn === null && one.document !== '' && one.document === wanted.document ? { ...one, givenUp: true } : one,
  );
  return { order, orders: [...others, order] };
}

/** Marks an order paid on a day of the world; one that is paid or given up stays as it is. */
export function payOrder(orders: readonly DeskOrder[], id: string, day: string): readonly DeskOrder[] {
  return orders.map((one) => (one.id === id && one.paidOn === null && !one.givenUp ? { ...one, paidOn: day } : one));
}

/** The receipts that an order makes on a day: its own, and once a month again where it was made for that. */
export function receiptsOfOrders(orders: readonly DeskOrder[], day: string): { order: DeskOrder; receipt: string }[] {
  return orders.flatMap((order) => {
    if (order.paidOn === null || order.paidOn > day) return [];
    if (order.paidOn === day) return [{ order, receipt: order.receipt }];
    if (order.every !== 'month') return [];
    const months = monthsBetween(order.paidOn, day);
    return months === null ? [] : [{ order, receipt: `${order.receipt}-${months + 1}` }];
  });
}

/** Whole months from one day to another of the same date; the last of a shorter month stands for later dates. */
function monthsBetween(from: string, to: string): number | null {
  const [fromYear, fromMonth, fromDay] = from.split('-').map(Number) as [number, number, number];
  const [year, month, day] = to.split('-').map(Number) as [number, number, number];
  const last = new Date(Date.UTC(year, month, 0)).getUTCDate();
  return day === Math.min(fromDay, last) ? (year - fromYear) * 12 + (month - fromMonth) : null;
}
