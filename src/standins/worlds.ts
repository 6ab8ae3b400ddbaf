import { existsSync, mkdirSync, readdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { WireCheckout } from '@/formats/movements/wire';
import { payOrder, takeOrder, type DeskOrder, type OrderTaken } from './card-desk/orders';
import { World, type WorldSeed } from './world';

/** The simulated worlds in a folder: each a seed that stays, and the day it has come to. */
export class Worlds {
  private readonly held = new Map<string, World>();

  constructor(private readonly folder: string) {}

  static found(folder: string, seed: WorldSeed): void {
    mkdirSync(folder, { recursive: true });
    writeFileSync(join(folder, `${seed.account}.seed.json`), JSON.stringify(seed));
    writeFileSync(join(folder, `${seed.account}.day`), seed.begins);
  }

  private path(account: string, end: 'seed.json' | 'day' | 'orders.json'): string {
    return join(/*turbopackIgnore: true*/ this.folder, `${account}.${end}`);
  }

  names(): string[] {
    if (!existsSync(this.folder)) return [];
    return readdirSync(this.folder)
      .filter((name) => name.endsWith('.seed.json'))
      .map((name) => name.slice(0, -'.seed.json'.length))
      .sort();
  }

  /** The world of an account on its day; null where there is none. */
  find(account: string): World | null {
    if (!/^[a-z0-9-]{1,60}$/.test(account) || !existsSync(this.path(account, 'seed.json'))) return null;
    const day = readFileSync(this.path(account, 'day'), 'utf8').trim();
    const held = this.held.get(account);
    const orders = this.ordersOf(account);
    if (held?.day === day && JSON.stringify(held.orders) === JSON.stringify(orders)) return held;
    const seed = held?.seed ?? (JSON.parse(readFileSync(this.path(account, 'seed.json'), 'utf8')) as WorldSeed);
    const world = new World(seed, day, orders);
    this.held.set(account, world);
    return world;
  }

  private ordersOf(account: string): readonly DeskOrder[] {
    const path = this.path(account, 'orders.json');
    return existsSync(path) ? (JSON.parse(readFileSync(path, 'utf8')) as DeskOrder[]) : [];
  }

  private keepOrders(account: string, orders: readonly DeskOrder[]): void {
    const path = this.path(account, 'orders.json');
    writeFileSync(`${path}.next`, JSON.stringify(orders));
    renameSync(`${path}.next`, path);
  }

  /** Takes an order at an account's desk. */
  order(account: string, wanted: WireCheckout): OrderTaken {
    const taken = takeOrder(this.ordersOf(account), wanted);
    if ('order' in taken) this.keepOrders(account, taken.orders);
    return taken;
  }

  /** The order that a page is found by; null where there is none. */
  findOrder(account: string, id: string): DeskOrder | null {
    return this.find(account) === null ? null : (this.ordersOf(account).find((one) => one.id === id) ?? null);
  }

  /** An order is paid, on the world's day. */
  pay(account: string, id: string): void {
    const world = this.find(account);
    if (world) this.keepOrders(account, payOrder(world.orders, id, world.day));
  }

  /** Turns a world to its next working day. */
  turn(account: string): World | null {
    const world = this.find(account);
    if (!world) return null;
    const path = this.path(account, 'day');
    writeFileSync(`${path}.next`, world.tomorrow);
    renameSync(`${path}.next`, path);
    return this.find(account);
  }
}
