import { addWorkingDays, type PlainDate, type WorkingCalendar } from '../calendar';
import { wordingOf, type DepositLine } from './cash-deposits';
import type { Reason } from './proposal';
import { normaliseText } from './text';

/** How far a channel is known, and how its deposits are worded. */
export interface KnownChannel {
  readonly name: string;
  readonly account: number;
  /** The last day of which a receipt or payout of it is in the books; null where there is none. */
  readonly upTo: PlainDate | null;
  /** Working days after which it usually pays. */
  readonly usualLag: number;
  /** The bank's wordings of what was confirmed of it, as {@link wordingOf} compares them. */
  readonly wordings: ReadonlySet<string>;
}

const SHORTEST_NAME = 4;

/**
 * Why nothing can explain a deposit yet: it is of a channel, by its name or its usual wording, and what it would be made of lies
 * beyond what is known of that channel. Null where that is not so.
 */
export function notDueYet(
  line: DepositLine & { readonly account: number },
  channels: readonly KnownChannel[],
  calendar: WorkingCalendar,
): Reason | null {
  const words = ` ${normaliseText(line.text)} `;
  const wording = wordingOf(line.text);
  for (const { name, account, upTo, usualLag, wordings } of channels) {
    if (account !== line.account) continue;
    const called = normaliseText(name);
    const named = called.length >= SHORTEST_NAME && words.includes(` ${called} `);
    if (!named && !(wording !== '' && wordings.has(wording))) continue;
    if (upTo === null || addWorkingDays(upTo, usualLag, calendar) < line.date)
      return { kind: 'not-known-yet', channel: name, upTo };
  }
  return null;
}
