import { z } from 'zod';

/**
 * What passes between these books and a channel that is reached over the network, as JSON over HTTP. It is our own: small,
 * documented by these schemas, and spoken by every channel adapter that has no format of its own. Amounts are whole minor
 * units of the currency beside them; instants are UTC, ISO 8601.
 */
const text = z.string().max(500);
const instant = z.iso.datetime({ offset: false });
const currency = z.string().regex(/^[A-Z]{3}$/);
const amount = z.number().int();

/** One movement: a change of its figures gives it a higher change number, so the newest word on it is always last. */
export const wireMovement = z.object({
  change: z.number().int().positive(),
  id: z.string().min(1).max(80),
  /** A refund is below zero; a chargeback too, unless it was won and the money is given again. */
  kind: z.enum(['receipt', 'refund', 'chargeback', 'payout']),
  at: instant,
  currency,
  gross: amount,
  tip: amount.default(0),
  /** What the channel took; null where it does not say. */
  fee: amount.nullable(),
  payer: z.object({ id: text.default(''), name: text.default(''), email: text.default('') }).optional(),
  document: text.default(''),
  item: text.default(''),
  note: text.default(''),
  method: text.default(''),
  /** What a gift is for. */
  fund: text.default(''),
  /** The payout it is in, once there is one. */
  payout: text.default(''),
  /** The receipt that a refund or chargeback takes back. */
  takesBack: text.default(''),
});
export type WireMovement = z.input<typeof wireMovement>;

/** One page of what changed after a change number, oldest first, at most 100. */
export const wirePage = z.object({
  items: z.array(z.unknown()).max(100),
  /** Ask for what comes after this one next. */
  next: z.number().int().nonnegative(),
  more: z.boolean(),
});

/** What the channel holds at this moment. */
export const wireReading = z.object({ at: instant, currency, amount });
export type WireReading = z.infer<typeof wireReading>;

/** Asks a channel to take a payment: whoever pays is sent to the page it answers with. The same reference is the same payment. */
export const wireCheckout = z.object({
  reference: z.string().min(1).max(80),
  amount: z.number().int().positive(),
  currency,
  /** What it is for, as the payer reads it. */
  title: text,
  document: text.default(''),
  item: text.default(''),
  note: text.default(''),
  fund: text.default(''),
  payer: z.object({ name: text.default(''), email: text.default('') }),
  every: z.enum(['once', 'month']).default('once'),
  /** Where the payer is sent back to, and where the event goes. */
  returnTo: z.string().max(500),
  notify: z.string().max(500),
});
export type WireCheckout = z.infer<typeof wireCheckout>;

/** What it answers: where to pay, and the id that the receipt will have. */
export const wireCheckoutMade = z.object({ pay: z.string().min(1).max(500), receipt: z.string().min(1).max(80) });
export type WireCheckoutMade = z.infer<typeof wireCheckoutMade>;

/** Says that something changed, not what: delivered at least once, in any order. */
export const wireEvent = z.object({
  id: z.string().min(1).max(80),
  at: instant,
  about: z.string().min(1).max(80),
});
export type WireEvent = z.infer<typeof wireEvent>;

/** Statements as a bank hands them out: each a file of its own, with a rising number. */
export const wireStatements = z.object({
  items: z
    .array(z.object({ change: z.number().int().positive(), name: z.string().min(1).max(120), body: z.string() }))
    .max(100),
  next: z.number().int().nonnegative(),
  more: z.boolean(),
});
export type WireStatements = z.infer<typeof wireStatements>;

/** Records in a page. */
export const PAGE = 100;

/** Headers of an event: when it was signed, and the signature over that moment, a line feed and the body (HMAC-SHA-256, hexadecimal). */
export const EVENT_HEADERS = { at: 'x-signed-at', signature: 'x-signature' } as const;
