import { createHmac, timingSafeEqual } from 'node:crypto';

/** How far a signature's moment may be from the clock, in milliseconds: older ones could be replayed. */
export const SIGNATURE_HOLDS = 5 * 60_000;

/** HMAC-SHA-256 over the moment and the body, hexadecimal: both are signed, so neither can be exchanged. */
export function sign(body: string, at: string, secret: string): string {
  return createHmac('sha256', secret).update(`${at}\n${body}`).digest('hex');
}

/** Whether a body was signed with the secret, not long from now. */
export function isSigned(
  body: string,
  signed: { readonly at: string | null; readonly signature: string | null },
  secret: string,
  now: Date,
): boolean {
  const { at, signature } = signed;
  if (at === null || signature === null || !/^[0-9a-f]{64}$/.test(signature)) return false;
  const moment = Date.parse(at);
  if (Number.isNaN(moment) || Math.abs(now.getTime() - moment) > SIGNATURE_HOLDS) return false;
  return timingSafeEqual(Buffer.from(sign(body, at, secret), 'hex'), Buffer.from(signature, 'hex'));
}
