import { timingSafeEqual } from 'node:crypto';
import { PAGE } from '@/formats/movements/wire';
import type { World } from './world';

/** Questions a caller may ask at once, and how many more each second. */
const BURST = 6;
const A_SECOND = 6;
/** How often a shaky day answers that it is busy before it answers well. */
const SHAKY_FOR = 2;

interface Caller {
  left: number;
  at: number;
  /** The day a shaky desk was asked on, and how often. */
  day: string;
  asked: number;
}

const json = (body: unknown, status = 200, headers: Record<string, string> = {}) =>
  new Response(JSON.stringify(body), { status, headers: { 'content-type': 'application/json', ...headers } });

export function knowsKey(secret: string, request: Request): boolean {
  const said = Buffer.from(request.headers.get('authorization') ?? '');
  const right = Buffer.from(`Bearer ${secret}`);
  return said.length === right.length && timingSafeEqual(said, right);
}

/** How the simulated desk and bank answer over HTTP: pages of 100, a rate limit, and days on which they are not well. */
export class Answers {
  private readonly callers = new Map<string, Caller>();

  constructor(private readonly now: () => number = Date.now) {}

  private caller(account: string): Caller {
    let caller = this.callers.get(account);
    if (!caller) this.callers.set(account, (caller = { left: BURST, at: this.now(), day: '', asked: 0 }));
    return caller;
  }

  /** `what` is desk/movements, desk/balance or bank/statements. */
  answer(world: World, what: string, request: Request): Response {
    if (!knowsKey(world.seed.secret, request)) return json({ error: 'wrong key' }, 401);
    const caller = this.caller(world.seed.account);
    const now = this.now();
    caller.left = Math.min(BURST, caller.left + ((now - caller.at) / 1000) * A_SECOND);
    caller.at = now;
    if (caller.left < 1) return json({ error: 'too many questions' }, 429, { 'retry-after': '1' });
    caller.left -= 1;
    if (what.startsWith('desk/')) {
      if (caller.day !== world.day) Object.assign(caller, { day: world.day, asked: 0 });
      caller.asked++;
      const { weather } = world;
      if (weather === 'down' || (weather === 'shaky' && caller.asked <= SHAKY_FOR)) {
        return json({ error: 'not available' }, 503);
      }
    }
    const since = Number(new URL(request.url).searchParams.get('since') ?? '0');
    if (!Number.isSafeInteger(since) || since < 0) return json({ error: 'since must be a whole number' }, 400);
    switch (what) {
      case 'desk/movements':
        return page(world.desk.changesAfter(since), since);
      case 'desk/balance':
        return json(world.desk.reading(world.day));
      case 'bank/statements':
        return page(world.bank.statementsAfter(since), since);
      default:
        return json({ error: 'nothing here' }, 404);
    }
  }
}

function page(items: readonly { readonly change: number }[], since: number): Response {
  const some = items.slice(0, PAGE);
  return json({ items: some, next: some.at(-1)?.change ?? since, more: items.length > some.length });
}
