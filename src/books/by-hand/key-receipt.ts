import { z } from 'zod';
import type { PlainDate } from '@/core/calendar';
import type { Dimensions } from '@/core/ledger';
import { formatAmount, sum, type Minor } from '@/core/money';
import { amountInput, textInput } from '../billing/bill-input';
import { done, refuse, type Command, type CommandContext, type Refusal } from '../command';
import { plainDateInput } from '../command/plain-date-input';
import { beginHandRun } from '../imports/hand-run';
import { JournalWriter } from '../ledger/journal-writer';
import { PostingReport, type Posting } from '../ledger/posting';
import { writeReceipts } from '../receipts/write-receipts';
import type { Writing } from '../store';

const id = z.number().int().positive();
export const placeInput = z.object({
  channel: id,
  site: id.nullable(),
  method: z.enum(['', 'cash', 'cheque']),
});
export const dimensionsInput = z.array(z.tuple([id, id])).max(10) as unknown as z.ZodType<Dimensions>;

/** Money that is keyed: one receipt. Amounts in minor units, tax included. */
export interface KeyedReceipt {
  place: { channel: number; site: number | null; method: '' | 'cash' | 'cheque' };
  date: PlainDate;
  payer: number | null;
  /** Its reference or confirmation number; empty gives it the next number of those keyed here. */
  reference: string;
  lines: { item: number | null; description: string; amount: Minor }[];
  dimensions: Dimensions;
  /** What a gift is for; empty for a sale. */
  fund: string;
  note: string;
  /** The receipt that it pays back; null where it comes in. */
  paysBack: string | null;
}

export const keyedInput = z.object({
  place: placeInput,
  date: plainDateInput,
  payer: id.nullable(),
  reference: textInput(80),
  lines: z
    .array(
      z.object({
        item: id.nullable(),
        description: textInput(200),
        amount: amountInput.refine((amount) => amount > 0, 'more than nothing'),
      }),
    )
    .min(1, 'at least one line')
    .max(100),
  dimensions: dimensionsInput,
  fund: textInput(80),
  note: textInput(500),
  paysBack: textInput(80).nullable(),
});

/** The next number for what is keyed and has no reference of its own. */
async function nextKeyed({ db }: Writing): Promise<string> {
  const { last } = await db
    .selectFrom('run')
    .select((e) => e.fn.coalesce(e.fn.max('id'), e.lit(0)).as('last'))
    .executeTakeFirstOrThrow();
  return `H-${Number(last) + 1}`;
}

/** Writes one keyed receipt, not posted yet; a reference that is here already is refused, so that nothing is keyed twice. */
export async function writeKeyed(
  tx: Writing,
  run: number,
  keyed: KeyedReceipt,
  reference: string,
): Promise<{ readonly receipt: number } | { readonly refusal: Refusal }> {
  const { db } = tx;
  const { channel, site, method } = keyed.place;
  const row = await db.selectFrom('channel').selectAll().where('id', '=', channel).executeTakeFirst();
  if (!row) return { refusal: { code: 'not-found', what: 'channel', id: String(channel) } };
  const twice = await db
    .selectFrom('receipt')
    .select('id')
    .where('channel_id', '=', channel)
    .where('external_id', '=', reference)
    .executeTakeFirst();
  if (twice)
    return { refusal: { code: 'name-taken', what: `receipt of ${row.name} with the reference`, name: reference } };
  const sign = keyed.paysBack === null ? 1 : -1;
  const gross = (sign * sum(keyed.lines.map(({ amount }) => amount))) as Minor;
  const [first] = keyed.lines;
  const several = keyed.lines.length > 1;
  const landing =
    keyed.dimensions.length === 0 ? null : JSON.stringify({ dimensions: Object.fromEntries(keyed.dimensions) });
  const { id: receipt } = await db
    .insertInto('receipt')
    .values({
      channel_id: channel,
      external_id: reference,
      kind: keyed.paysBack === null ? 'receipt' : 'refund',
      occurred_at: `${keyed.date}T12:00:00Z`,
      book_date: keyed.date,
      currency: row.currency,
      gross,
      tip: 0 as Minor,
      // Nothing is taken of cash and cheques; what the channel takes is not known yet.
      fee: method === '' && keyed.paysBack === null ? null : (0 as Minor),
      payer_id: keyed.payer,
      document: '',
      item_id: several ? null : first!.item,
      note: [several ? '' : first!.description, keyed.note].filter(Boolean).join('; '),
      refund_of: keyed.paysBack ?? '',
      payout_ref: '',
      payout_id: null,
      journal_id: null,
      match_id: null,
      run_id: run,
      payout_run_id: null,
      site_id: site,
      method,
      fund: keyed.fund,
      landing,
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  if (several) {
    await db
      .insertInto('receipt_line')
      .values(
        keyed.lines.map(({ item, description, amount }, index) => ({
          receipt_id: receipt,
          line_no: index + 1,
          item_id: item,
          description,
          units: 1000,
          gross: amount,
          discount: 0 as Minor,
          tax: null,
        })),
      )
      .execute();
  }
  return { receipt };
}

export interface Keyed {
  readonly receipt: number;
  readonly reference: string;
  readonly posting: Posting;
}

/** Posts receipts that were just keyed; what cannot be posted refuses all of them. */
export async function postKeyed(
  tx: Writing,
  receipts: readonly number[],
  context: CommandContext,
): Promise<Posting | { readonly refusal: Refusal }> {
  const writer = await JournalWriter.open(tx, context);
  const report = new PostingReport(writer);
  await writeReceipts(tx, { ids: [...receipts] }, context, writer, report);
  const posting = await report.finish(tx.db);
  return posting.notPosted[0] ? { refusal: posting.notPosted[0].refusal } : posting;
}

/** Keys money that came at once and posts it: a paid sale (recipe 3), a gift (recipe 17), or credit paid back. */
export const keyReceipt: Command<KeyedReceipt, Keyed> = {
  name: 'key-receipt',
  input: keyedInput,
  async run(tx, keyed, context) {
    const reference = keyed.reference || (await nextKeyed(tx));
    const run = await beginHandRun(tx.db, context);
    const written = await writeKeyed(tx, run, keyed, reference);
    if ('refusal' in written) return refuse(written.refusal);
    const posting = await postKeyed(tx, [written.receipt], context);
    if ('refusal' in posting) return refuse(posting.refusal);
    const { currency } = await tx.db.selectFrom('books').select('currency').executeTakeFirstOrThrow();
    const what = keyed.paysBack !== null ? 'Paid back' : keyed.fund ? 'Keyed a gift of' : 'Keyed a paid sale of';
    const money = formatAmount(sum(keyed.lines.map(({ amount }) => amount)), currency);
    return done({ receipt: written.receipt, reference, posting }, `${what} ${money}, ${reference}`, {
      command: 'take-keyed-back',
      input: { receipts: [written.receipt] },
      label: `reverse ${reference} and set it aside`,
    });
  },
};
