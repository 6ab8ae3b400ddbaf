import { createHmac } from 'node:crypto';
import { EVENT_HEADERS, type WireEvent } from '@/formats/movements/wire';
import { Chance } from '../chance';
import type { World } from '../world';

const TRIES = 3;

/** The events of a world's day as its desk sends them: in no order, and some of them twice. */
export function eventsOf(world: World): WireEvent[] {
  const chance = new Chance(world.seed.seed * 7 + Number(world.day.replaceAll('-', '')));
  const changed = world.desk.changesAfter(0).filter((one) => one.at.slice(0, 10) === world.day);
  const events = changed.map(({ id, at, change }) => ({ id: `E-${change}`, at, about: id }));
  const sent = events.flatMap((event) => (chance.in100(30) ? [event, event] : [event]));
  for (let at = sent.length - 1; at > 0; at--) {
    const other = chance.int(0, at);
    [sent[at], sent[other]] = [sent[other]!, sent[at]!];
  }
  return sent;
}

/** Sends events to whoever listens, each until it is taken, at most a few times. Gives how many were taken. */
export async function deliver(world: World, to: string): Promise<number> {
  let taken = 0;
  for (const event of eventsOf(world)) if (await send(world, event, to)) taken++;
  return taken;
}

/** Sends the event of one receipt, as this desk often does twice. */
export async function deliverReceipt(world: World, receipt: string, to: string): Promise<void> {
  const movement = world.desk.changesAfter(0).find(({ id }) => id === receipt);
  if (!movement) return;
  const event = { id: `E-${movement.change}`, at: movement.at, about: receipt };
  await send(world, event, to);
  await send(world, event, to);
}

async function send(world: World, event: WireEvent, to: string): Promise<boolean> {
  const body = JSON.stringify(event);
  for (let tried = 0; tried < TRIES; tried++) {
    const at = new Date().toISOString();
    const signature = createHmac('sha256', world.seed.secret).update(`${at}\n${body}`).digest('hex');
    const headers = {
      'content-type': 'application/json',
      [EVENT_HEADERS.at]: at,
      [EVENT_HEADERS.signature]: signature,
    };
    const answer = await fetch(to, { method: 'POST', headers, body }).catch(() => null);
    if (answer?.ok) return true;
  }
  return false;
}
