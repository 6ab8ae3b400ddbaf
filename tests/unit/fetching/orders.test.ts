import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { WireCheckout } from '@/formats/movements/wire';
import { payOrder, receiptsOfOrders, takeOrder, type DeskOrder } from '@/standins/card-desk/orders';
import { World } from '@/standins/world';
import { Worlds } from '@/standins/worlds';
import { LANTERN_WORLD } from '../../../demo/lantern-head/public';

const wanted = (more: Partial<WireCheckout> = {}): WireCheckout => ({
  reference: 'K-1/1/100',
  amount: 10000,
  currency: 'EUR',
  title: 'Invoice K-1',
  document: 'K-1',
  item: '',
  note: '',
  fund: '',
  payer: { name: 'A. Tern', email: '' },
  every: 'once',
  returnTo: '/back',
  notify: '/events',
  ...more,
});

const orderOf = (orders: readonly DeskOrder[], of: WireCheckout, id: string) => {
  const taken = takeOrder(orders, of, id);
  if ('error' in taken) throw new Error(taken.error);
  return taken;
};

test('the same reference is the same order; of another amount it is refused', () => {
  const first = orderOf([], wanted(), 'a');
  expect(orderOf(first.orders, wanted(), 'b').order).toEqual(first.order);
  expect(takeOrder(first.orders, wanted({ amount: 1 }))).toEqual({ error: 'this reference is of another amount' });
});

test('another order for the same document stands in for the one that is not paid, never for one that is', () => {
  const first = orderOf([], wanted(), 'a');
  const second = orderOf(first.orders, wanted({ reference: 'K-1/2/50', amount: 5000 }), 'b');
  expect(second.orders.map(({ id, givenUp }) => [id, givenUp])).toEqual([
    ['a', true],
    ['b', false],
  ]);
  expect(payOrder(second.orders, 'a', '2026-11-16')[0]!.paidOn).toBeNull();
  const paid = payOrder(first.orders, 'a', '2026-11-16');
  expect(orderOf(paid, wanted({ reference: 'K-1/2/50', amount: 5000 }), 'b').orders[0]!.givenUp).toBe(false);
  expect(payOrder(paid, 'a', '2026-11-20')[0]!.paidOn).toBe('2026-11-16');
});

test('once is once; each month is that day of each month, or the last there is', () => {
  const once = payOrder(orderOf([], wanted({ document: '' }), 'a').orders, 'a', '2026-10-31');
  const month = once.map((order) => ({ ...order, every: 'month' as const }));
  const on = (orders: readonly DeskOrder[], day: string) => receiptsOfOrders(orders, day).map(({ receipt }) => receipt);
  expect([on(once, '2026-10-31'), on(once, '2026-11-30')]).toEqual([['CD-W1'], []]);
  expect(['2026-10-30', '2026-10-31', '2026-11-29', '2026-11-30', '2027-02-28'].map((day) => on(month, day))).toEqual([
    [],
    ['CD-W1'],
    [],
    ['CD-W1-2'],
    ['CD-W1-5'],
  ]);
});

test('in a quiet world only what was ordered happens: taken in, paid out, landed', () => {
  const orders = payOrder(orderOf([], wanted(), 'a').orders, 'a', LANTERN_WORLD.begins);
  const { desk, bank } = new World(LANTERN_WORLD, '2026-11-20', orders);
  const movements = desk.changesAfter(0);
  expect(movements.map(({ id, kind }) => [id, kind])).toEqual([
    ['P-900', 'payout'],
    ['CD-W1', 'receipt'],
  ]);
  const receipt = movements.find(({ kind }) => kind === 'receipt')!;
  expect(receipt).toMatchObject({ gross: 10000, fee: 170, document: 'K-1', payout: 'P-900' });
  expect(desk.reading('2026-11-20').amount).toBe(0);
  const lines = bank.statementsAfter(0).filter(({ body }) => body.includes('<Amt Ccy="EUR">98.30</Amt>'));
  expect(lines.length).toBeGreaterThan(0);
});

test('worlds keep their orders beside their seed', () => {
  const folder = mkdtempSync(join(tmpdir(), 'nest-egg-worlds-'));
  try {
    Worlds.found(folder, LANTERN_WORLD);
    const worlds = new Worlds(folder);
    const taken = worlds.order('lantern-head', wanted());
    if ('error' in taken) throw new Error(taken.error);
    expect(worlds.findOrder('lantern-head', 'none')).toBeNull();
    expect(worlds.find('lantern-head')!.desk.changesAfter(0)).toEqual([]);
    worlds.pay('lantern-head', taken.order.id);
    worlds.pay('lantern-head', taken.order.id);
    expect(new Worlds(folder).find('lantern-head')!.desk.changesAfter(0)).toHaveLength(1);
  } finally {
    rmSync(folder, { recursive: true });
  }
});
