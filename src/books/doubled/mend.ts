import { z } from 'zod';
import { formatDay } from '@/core/calendar';
import { formatAmount, type Minor } from '@/core/money';
import { done, refuse, type Command } from '../command';
import { accountBalances, movesSince, type BalanceMove } from '../ledger/balances';
import { confirmAgain, confirmSheets } from '../matching/confirm';
import { takeApart } from '../matching/take-apart';
import type { Reading } from '../store';
import { refreshDoubled } from './find';
import { doubledOf } from './list';

const oneLine = z.object({ line: z.number().int() });
const gone = (line: number) => refuse({ code: 'not-found', what: 'deposit that may count twice', id: String(line) });

async function nameOf(db: Reading, line: number): Promise<string> {
  const {
    amount,
    currency,
    book_date: day,
  } = await db
    .selectFrom('statement_line')
    .select(['amount', 'currency', 'book_date'])
    .where('id', '=', line)
    .executeTakeFirstOrThrow();
  return `${formatAmount(amount, currency)} of ${formatDay(day)}`;
}

/** What counting a deposit once does; amounts in minor units. */
export interface Mended {
  readonly match: number;
  readonly amount: Minor;
  /** What moves by it: income and what was in transit or owed, by the amount that stood in the books twice. */
  readonly moves: readonly BalanceMove[];
}

/**
 * Takes the booking of a deposit to income apart and confirms what explains it instead, in one change: what stood in the books
 * twice stands there once. Refuses where nothing explains it any more, and as taking apart and confirming do.
 */
export const mendDoubled: Command<{ line: number }, Mended> = {
  name: 'mend-doubled',
  input: oneLine,
  async run(tx, { line }, context) {
    const doubled = await doubledOf(tx.db, line);
    if (!doubled) return gone(line);
    const { match, parts, restTo, certainty, reasons } = doubled;
    const before = await accountBalances(tx.db);
    const apart = await takeApart.run(tx, { match }, context);
    if ('refusal' in apart) return apart;
    const sheet = { line, parts: [...parts], restTo, laid: { certainty, reasons } };
    const confirmed = await confirmSheets(tx, [sheet], context);
    if ('refusal' in confirmed) return refuse(confirmed.refusal);
    // What stands beside it is as sure as before, now that this is where it belongs.
    await refreshDoubled(tx);
    const [written] = confirmed.written;
    return done(
      { match: written!.match, amount: written!.line.amount, moves: await movesSince(tx.db, before) },
      `Mended ${await nameOf(tx.db, line)}: it counts once`,
      {
        command: 'unmend-doubled',
        input: { line, match: written!.match, before: match },
        label: 'book it as it was',
      },
    );
  },
};

/** The way back of {@link mendDoubled}: the deposit is booked to income again. */
export const unmendDoubled: Command<{ line: number; match: number; before: number }, null> = {
  name: 'unmend-doubled',
  input: oneLine.extend({ match: z.number().int(), before: z.number().int() }),
  async run(tx, { line, match, before }, context) {
    const apart = await takeApart.run(tx, { match }, context);
    if ('refusal' in apart) return apart;
    const again = await confirmAgain.run(tx, { matches: [before] }, context);
    if ('refusal' in again) return again;
    return done(null, `Booked ${await nameOf(tx.db, line)} as it was`, {
      command: 'mend-doubled',
      input: { line },
      label: 'mend it again',
    });
  },
};

/** Says of a deposit that may count twice that it is other money, or takes that back. */
export const denyDoubled: Command<{ line: number; denied: boolean }, null> = {
  name: 'deny-doubled',
  input: oneLine.extend({ denied: z.boolean() }),
  async run(tx, { line, denied }) {
    const { numUpdatedRows } = await tx.db
      .updateTable('doubled')
      .set({ denied: denied ? 1 : 0 })
      .where('statement_line_id', '=', line)
      .where('denied', '=', denied ? 0 : 1)
      .executeTakeFirst();
    if (numUpdatedRows === 0n) return gone(line);
    // What explains it is free for another deposit then, or is not any more.
    await refreshDoubled(tx);
    const name = await nameOf(tx.db, line);
    return done(null, denied ? `${name} is other money` : `${name} may count twice`, {
      command: 'deny-doubled',
      input: { line, denied: !denied },
      label: denied ? 'look at it again' : 'say that it is other money',
    });
  },
};
