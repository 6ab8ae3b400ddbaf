import { z } from 'zod';
import { addDays, type PlainDate } from '@/core/calendar';
import { formatRate, type Currency, type Rate } from '@/core/money';
import { done, refuse, type Command } from '../command';
import { plainDateInput } from '../command/plain-date-input';
import type { Reading } from '../store';
import type { RateRow } from './rate-lines';

/** A rate stands for its own day and, where no later one is there, for this many days after: weekends and holidays. */
export const RATE_STANDS_FOR = 10;

/** The rates of the books by day, looked up once for a command. */
export class Rates {
  private constructor(
    readonly base: Currency,
    /** By currency, newest first. */
    private readonly rows: ReadonlyMap<Currency, readonly RateRow[]>,
  ) {}

  static async load(db: Reading): Promise<Rates> {
    const { currency } = await db.selectFrom('books').select('currency').executeTakeFirstOrThrow();
    const byCurrency = new Map<Currency, RateRow[]>();
    for (const row of await listRates(db)) {
      const rows = byCurrency.get(row.currency);
      if (rows) rows.push(row);
      else byCurrency.set(row.currency, [row]);
    }
    return new Rates(currency, byCurrency);
  }

  /** The rate of a currency on a day; null where none is near enough before it. */
  on(currency: Currency, day: PlainDate): Rate | null {
    const row = this.rows.get(currency)?.find((one) => one.day <= day);
    return row && row.day >= addDays(day, -RATE_STANDS_FOR) ? row.rate : null;
  }
}

/** Every rate kept, newest first. */
export async function listRates(db: Reading): Promise<RateRow[]> {
  return db.selectFrom('rate').selectAll().orderBy('day', 'desc').orderBy('currency').execute();
}

const rateInput = z.object({
  currency: z.string().regex(/^[A-Z]{3}$/, 'a currency code of three letters'),
  day: plainDateInput,
  rate: z.custom<Rate>((value) => Number.isSafeInteger(value) && (value as number) > 0, 'a rate above zero'),
});

/** Keeps rates of the day. What is posted already stays at the rate it was posted at. */
export const setRates: Command<{ rates: RateRow[] }, { count: number }> = {
  name: 'set-rates',
  input: z.object({ rates: z.array(rateInput).min(1).max(5_000) }),
  async run({ db }, { rates }) {
    const { currency: base } = await db.selectFrom('books').select('currency').executeTakeFirstOrThrow();
    if (rates.some((rate) => rate.currency === base)) {
      return refuse({
        code: 'invalid-input',
        field: 'currency',
        expected: `another currency than ${base}, the books’ own`,
      });
    }
    const before: RateRow[] = [];
    for (const rate of rates) {
      const there = await db
        .selectFrom('rate')
        .selectAll()
        .where('currency', '=', rate.currency)
        .where('day', '=', rate.day)
        .executeTakeFirst();
      if (there) before.push(there);
      await db
        .insertInto('rate')
        .values(rate)
        .onConflict((c) => c.columns(['currency', 'day']).doUpdateSet({ rate: rate.rate }))
        .execute();
    }
    const one = rates[0]!;
    const what = rates.length === 1 ? `${one.currency} ${formatRate(one.rate)} on ${one.day}` : `${rates.length} rates`;
    return done({ count: rates.length }, `Kept ${what}`, {
      command: 'restore-rates',
      input: { dropped: rates.map(({ currency, day }) => ({ currency, day })), kept: before },
      label: `take ${what} back`,
    });
  },
};

type Restore = { dropped: { currency: string; day: PlainDate }[]; kept: RateRow[] };

/** Puts rates back as they were. */
export const restoreRates: Command<Restore, { count: number }> = {
  name: 'restore-rates',
  input: z.object({
    dropped: z.array(z.object({ currency: z.string(), day: plainDateInput })),
    kept: z.array(rateInput),
  }),
  async run({ db }, { dropped, kept }) {
    const gone: RateRow[] = [];
    for (const { currency, day } of dropped) {
      const row = await db
        .deleteFrom('rate')
        .where('currency', '=', currency)
        .where('day', '=', day)
        .returningAll()
        .executeTakeFirst();
      if (row) gone.push(row);
    }
    for (const row of kept) await db.insertInto('rate').values(row).execute();
    const what = dropped.length === 1 ? '1 rate' : `${dropped.length} rates`;
    return done(
      { count: dropped.length },
      `Took ${what} back`,
      gone.length === 0 ? undefined : { command: 'set-rates', input: { rates: gone }, label: `keep ${what} again` },
    );
  },
};
