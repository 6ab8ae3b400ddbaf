import { isSigned } from '@/adapters/signature';
import { EVENT_HEADERS } from '@/formats/movements/wire';
import { deliver, eventsOf } from '@/standins/card-desk/deliver';
import { nextWorkingDay } from '@/standins/days';
import { World, type WorldSeed } from '@/standins/world';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { FILES } from '../../../demo/load';
import { kittiwakeWorld } from '../../../demo/kittiwake/world';

let seed: WorldSeed;
beforeAll(async () => {
  seed = await kittiwakeWorld(FILES);
});

interface Listener {
  readonly address: string;
  readonly heard: { body: string; at: string; signature: string }[];
  close(): Promise<void>;
}

/** Listens for events and answers as told, by how often it was asked. */
async function listening(answer: (asked: number) => number): Promise<Listener> {
  const heard: Listener['heard'] = [];
  const server: Server = createServer((request, response) => {
    let body = '';
    request.on('data', (chunk) => (body += String(chunk)));
    request.on('end', () => {
      const header = (name: string) => String(request.headers[name] ?? '');
      heard.push({ body, at: header(EVENT_HEADERS.at), signature: header(EVENT_HEADERS.signature) });
      response.writeHead(answer(heard.length)).end();
    });
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const { port } = server.address() as AddressInfo;
  return {
    address: `http://127.0.0.1:${port}/events`,
    heard,
    close: async () => {
      server.closeAllConnections();
      await new Promise((resolve) => server.close(resolve));
    },
  };
}

test('every event is signed with the desk’s key and sent until it is taken', async () => {
  const world = new World(seed, nextWorkingDay(seed.begins));
  // Each third question is answered badly.
  const listener = await listening((asked) => (asked % 3 === 0 ? 503 : 200));
  try {
    const events = eventsOf(world);
    expect(await deliver(world, listener.address)).toBe(events.length);
    expect(listener.heard.length).toBeGreaterThan(events.length);
    for (const { body, at, signature } of listener.heard) {
      expect(isSigned(body, { at, signature }, seed.secret, new Date())).toBe(true);
    }
    const told = new Set(listener.heard.map(({ body }) => (JSON.parse(body) as { id: string }).id));
    expect(told).toEqual(new Set(events.map(({ id }) => id)));
  } finally {
    await listener.close();
  }
});

test('who never takes them is given up after a few tries, and so is nobody', async () => {
  const world = new World(seed, nextWorkingDay(seed.begins));
  const listener = await listening(() => 500);
  const events = eventsOf(world).length;
  try {
    expect(await deliver(world, listener.address)).toBe(0);
    expect(listener.heard).toHaveLength(events * 3);
  } finally {
    await listener.close();
  }
  expect(await deliver(world, 'http://127.0.0.1:1/events')).toBe(0);
});
