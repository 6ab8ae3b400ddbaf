import 'server-only';
import { headers } from 'next/headers';
import { RateLimiterMemory } from 'rate-limiter-flexible';

/** Public pages are looked at a few times a minute; who asks more often is guessing, or a program. */
const LIMITS = {
  /** Looks at one page of a token that is right. */
  look: { points: 120, duration: 60 },
  /** Payments begun, gifts and registrations sent off. */
  begin: { points: 20, duration: 60 },
  /** Tokens that are wrong, from one address. */
  wrong: { points: 20, duration: 60 },
} as const;

type Kind = keyof typeof LIMITS;

const HELD = Symbol.for('nest-egg.rate-limits');
const limiters = ((globalThis as { [HELD]?: Record<Kind, RateLimiterMemory> })[HELD] ??= {
  look: new RateLimiterMemory(LIMITS.look),
  begin: new RateLimiterMemory(LIMITS.begin),
  wrong: new RateLimiterMemory(LIMITS.wrong),
});

/** Where a request comes from, as the proxy before this server says; one place for all where none does. */
export async function cameFrom(): Promise<string> {
  return (await headers()).get('x-forwarded-for')?.split(',')[0]?.trim() ?? 'here';
}

/** Whether this is one time too many. */
export async function tooOften(kind: Kind, key: string): Promise<boolean> {
  return limiters[kind].consume(key).then(
    () => false,
    () => true,
  );
}
