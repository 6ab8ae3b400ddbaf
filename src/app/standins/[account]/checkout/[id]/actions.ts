'use server';

import { deliverReceipt } from '@/standins/card-desk/deliver';
import { worlds } from '../../../../server/standins';

/** The payer pays at the simulated desk: the receipt is there, and its event is on the way, twice. */
export async function payOrderNow(account: string, id: string): Promise<{ ok: true; value: { pay: string } }> {
  worlds.pay(account, id);
  const order = worlds.findOrder(account, id)!;
  const world = worlds.find(account)!;
  // The payer is not kept waiting for whoever listens.
  void deliverReceipt(world, order.receipt, order.notify).catch((error: unknown) => console.error('event', error));
  return { ok: true, value: { pay: order.returnTo } };
}
