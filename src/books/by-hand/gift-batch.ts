import { sql } from 'kysely';
import { z } from 'zod';
import type { PlainDate } from '@/core/calendar';
import type { Dimensions } from '@/core/ledger';
import { formatAmount, sum, type Minor } from '@/core/money';
import { plural } from '@/core/words';
import { amountInput, textInput } from '../billing/bill-input';
import { done, refuse, type Command } from '../command';
import { plainDateInput } from '../command/plain-date-input';
import { beginHandRun } from '../imports/hand-run';
import type { Posting } from '../ledger/posting';
import type { Reading } from '../store';
import { dimensionsInput, keyedInput, placeInput, postKeyed, writeKeyed, type KeyedReceipt } from './key-receipt';

export interface GiftRow {
  place: KeyedReceipt['place'];
  fund: string;
  item: number | null;
  dimensions: Dimensions;
  payer: number | null;
  /** Gross, whatever the channel takes of it: minor units. */
  amount: Minor;
  note: string;
}

export interface GiftBatchInput {
  /** The channel that pays the batch out; its gifts are keyed under the batch's reference. */
  channel: number;
  first: PlainDate;
  last: PlainDate;
  reference: string;
  rows: GiftRow[];
}

export const giftBatchInput = z
  .object({
    channel: z.number().int().positive(),
    first: plainDateInput,
    last: plainDateInput,
    reference: textInput(60).pipe(z.string().min(1, 'a reference')),
    rows: z
      .array(
        z.object({
          place: placeInput,
          fund: textInput(80).pipe(z.string().min(1, 'what it is for')),
          item: z.number().int().positive().nullable(),
          dimensions: dimensionsInput,
          payer: z.number().int().positive().nullable(),
          amount: amountInput.refine((amount) => amount > 0, 'more than nothing'),
          note: textInput(200),
        }),
      )
      .min(1, 'at least one row')
      .max(2_000),
  })
  .refine(({ first, last }) => first <= last, { path: ['first'], message: 'a day on or before the last' });

export interface KeyedBatch {
  readonly batch: number;
  readonly gifts: number;
  readonly gross: Minor;
  readonly posting: Posting;
}

/**
 * Keys a batch of gifts from an outside system, as one sum for each fund or gift by gift (worked figure G): gross always, dated
 * on the batch's last day; cash and cheques are rows of their own, as they are where no payout carries them.
 */
export const keyGiftBatch: Command<GiftBatchInput, KeyedBatch> = {
  name: 'key-gift-batch',
  input: giftBatchInput,
  async run(tx, { channel, first, last, reference, rows }, context) {
    const { db } = tx;
    const there = await db
      .selectFrom('gift_batch')
      .select('id')
      .where('channel_id', '=', channel)
      .where('reference', '=', reference)
      .executeTakeFirst();
    if (there) return refuse({ code: 'name-taken', what: 'gift batch', name: reference });
    const run = await beginHandRun(db, context, rows.length);
    const receipts: number[] = [];
    for (const [index, { place, fund, item, dimensions, payer, amount, note }] of rows.entries()) {
      const keyed: KeyedReceipt = {
        place,
        date: last,
        payer,
        reference: '',
        lines: [{ item, description: '', amount }],
        dimensions,
        fund,
        note,
        paysBack: null,
      };
      const name = rows.length === 1 ? reference : `${reference}/${index + 1}`;
      const written = await writeKeyed(tx, run, keyedInput.parse(keyed), name);
      if ('refusal' in written) return refuse(written.refusal);
      receipts.push(written.receipt);
    }
    const { id: batch } = await db
      .insertInto('gift_batch')
      .values({ reference, channel_id: channel, first_day: first, last_day: last, run_id: run })
      .returning('id')
      .executeTakeFirstOrThrow();
    const posting = await postKeyed(tx, receipts, context);
    if ('refusal' in posting) return refuse(posting.refusal);
    const gross = sum(rows.map(({ amount }) => amount));
    const { currency } = await db.selectFrom('books').select('currency').executeTakeFirstOrThrow();
    return done(
      { batch, gifts: rows.length, gross, posting },
      `Keyed gift batch ${reference}: ${plural(rows.length, 'row')}, ${formatAmount(gross, currency)}`,
      { command: 'take-keyed-back', input: { receipts }, label: `reverse batch ${reference} and set it aside` },
    );
  },
};

export interface GiftBatchRow {
  readonly id: number;
  readonly reference: string;
  readonly channel: string;
  readonly first: PlainDate;
  readonly last: PlainDate;
  readonly gifts: number;
  readonly gross: Minor;
}

/** The newest batches. */
export async function listGiftBatches(db: Reading): Promise<GiftBatchRow[]> {
  const { rows } = await sql<GiftBatchRow>`
    SELECT b.id, b.reference, c.name AS channel, b.first_day AS first, b.last_day AS last, count(r.id) AS gifts,
      coalesce(sum(r.gross), 0) AS gross
    FROM gift_batch b JOIN channel c ON c.id = b.channel_id LEFT JOIN receipt r ON r.run_id = b.run_id AND r.aside IS NULL
    GROUP BY b.id ORDER BY b.last_day DESC, b.id DESC LIMIT 50
  `.execute(db);
  return rows;
}

/** The funds that gifts were given to, by name, and the values of a dimension that is called one. */
export async function knownFunds(db: Reading): Promise<string[]> {
  const { rows } = await sql<{ fund: string }>`
    SELECT DISTINCT fund FROM receipt WHERE fund <> '' UNION
    SELECT v.name FROM dimension d JOIN dimension_value v ON v.dimension_id = d.id WHERE lower(d.name) = 'fund' AND v.active = 1
    ORDER BY 1 LIMIT 200
  `.execute(db);
  return rows.map(({ fund }) => fund);
}
