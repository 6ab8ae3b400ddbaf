import { daysBetween, workingDaysBetween, type WorkingCalendar } from '../calendar';
import { groupBy } from '../group-by';
import { firstNotBefore } from '../sorted';
import type { LineToExplain, PayoutHabit } from './payouts';
import type { PayoutOfChannel } from './payouts-together';
import type { Explanation, Proposal, Reason } from './proposal';
import { normaliseText, referenceKey } from './text';

/** A line to explain with all of the bank's words. */
export interface LineWithText extends LineToExplain {
  readonly text: string;
}

/** One of the own bank accounts, by what it is called in a bank's text. */
export interface OwnAccount {
  readonly account: number;
  /** Its number as written; empty where it has none. */
  readonly number: string;
  readonly name: string;
}

/** Days of the calendar between the two ends of a transfer: it leaves before a long weekend and arrives after it. */
const LONGEST_TRANSFER = 5;
/** A bank may book what arrives a day before what leaves. */
const EARLIEST = -1;
/** Days of the calendar between two deposits of one payout. */
const APART = 5;
/** Deposits within reach of a payout up to which any two of them are looked at. */
const MOST_UNNAMED = 200;

interface Pair {
  readonly line: LineWithText;
  readonly other: LineWithText;
  readonly named: boolean;
  /** How it explains the line that `partner` is laid on. */
  readonly way: (partner: LineWithText) => Explanation;
}

/** Whether a line's text says the number of an own account, put together from however many pieces. */
function namesAccount(line: LineWithText, { number }: OwnAccount): boolean {
  const key = referenceKey(number);
  return key.length >= 8 && normaliseText(line.text).replaceAll(' ', '').includes(key);
}

/** The two ends of transfers between own accounts: what left one and came to another, to the cent and within days. */
function transfers(lines: readonly LineWithText[], accounts: readonly OwnAccount[]): Pair[] {
  const byAccount = new Map(accounts.map((own) => [own.account, own]));
  const left = groupBy(
    lines.filter(({ amount }) => amount < 0),
    ({ amount }) => -amount,
  );
  return lines.flatMap((line) =>
    (line.amount > 0 ? (left.get(line.amount) ?? []) : []).flatMap((other): Pair[] => {
      if (other.account === line.account) return [];
      const days = daysBetween(other.date, line.date);
      if (days < EARLIEST || days > LONGEST_TRANSFER) return [];
      const [to, from] = [byAccount.get(line.account), byAccount.get(other.account)];
      if (!to || !from) return [];
      const named = [from]
        .filter((own) => namesAccount(line, own))
        .concat([to].filter((own) => namesAccount(other, own)));
      const way = (partner: LineWithText): Explanation => ({
        parts: [{ kind: 'line', id: partner.id }],
        reasons: [
          { kind: 'between-own', from: from.name, to: to.name, days },
          ...named.map((own) => ({ kind: 'account-in-text', number: own.number }) as const),
          { kind: 'equal-to-the-cent' },
        ],
      });
      return [{ line, other, named: named.length > 0, way }];
    }),
  );
}

/** Deposits that share one payout: two of one account, days apart, that come to its net. */
function halves(
  lines: readonly LineWithText[],
  payouts: readonly PayoutOfChannel[],
  calendar: WorkingCalendar,
  habit: PayoutHabit,
): Pair[] {
  const byAccount = groupBy(
    lines.filter(({ amount }) => amount > 0),
    ({ account }) => account,
  );
  const byKey = new Map<string, LineWithText[]>();
  const known = new Set(payouts.map(({ key }) => key));
  for (const list of byAccount.values()) {
    list.sort((a, b) => a.date.localeCompare(b.date) || a.id - b.id);
    for (const line of list)
      for (const key of line.keys) if (known.has(key)) byKey.set(key, [...(byKey.get(key) ?? []), line]);
  }
  const byAmount = new Map(
    [...byAccount].map(([account, list]) => [account, groupBy(list, ({ amount }) => amount as number)]),
  );
  return payouts.flatMap((payout) => {
    const own = byAccount.get(payout.account) ?? [];
    const first = firstNotBefore(own, ({ date }) => date < payout.left);
    const end = firstNotBefore(own, ({ date }) => workingDaysBetween(payout.left, date, calendar) <= habit.farthest);
    const inTime = ({ account, date }: LineWithText) =>
      account === payout.account &&
      date >= payout.left &&
      workingDaysBetween(payout.left, date, calendar) <= habit.farthest;
    // Where many deposits are about, two that come to a payout by accident are common: only such as name it are looked at.
    const looked = end - first <= MOST_UNNAMED ? own.slice(first, end) : (byKey.get(payout.key) ?? []).filter(inTime);
    const partners = byAmount.get(payout.account);
    return looked.flatMap((line) =>
      (partners?.get(payout.net - line.amount) ?? []).filter(inTime).flatMap((other): Pair[] => {
        const seenBefore = other.id < line.id && looked.includes(other);
        if (other === line || seenBefore || Math.abs(daysBetween(line.date, other.date)) > APART) return [];
        const named = line.keys.has(payout.key) || other.keys.has(payout.key);
        const both = line.keys.has(payout.key) && other.keys.has(payout.key);
        const way = (partner: LineWithText): Explanation => ({
          parts: [
            { kind: 'payout', id: payout.id },
            { kind: 'line', id: partner.id },
          ],
          reasons: [
            ...(named ? [{ kind: 'reference-in-text', reference: payout.reference } as const] : []),
            { kind: 'payout-in-parts', reference: payout.reference, net: payout.net, both },
            { kind: 'equal-to-the-cent' },
          ],
        });
        return [{ line, other, named, way }];
      }),
    );
  });
}

/**
 * Lines of the bank that belong together: the two ends of a transfer between own accounts, and two deposits of one payout. A pair
 * whose account or payout is named, and that nothing else competes for, is proven where the name stands on both sides or the
 * account is an own one, else probable; without a name it is only shown as possible. Each of the two lines gets the other.
 */
export function proposeLines(
  lines: readonly LineWithText[],
  accounts: readonly OwnAccount[],
  payouts: readonly PayoutOfChannel[],
  calendar: WorkingCalendar,
  habit: PayoutHabit,
): Map<number, Proposal> {
  const sorted = [...lines].sort((a, b) => a.id - b.id);
  const known = [...payouts].sort((a, b) => a.id - b.id);
  const pairs = [...transfers(sorted, accounts), ...halves(sorted, known, calendar, habit)];
  const ofLine = new Map<number, { readonly pair: Pair; readonly way: Explanation }[]>();
  const give = (pair: Pair, line: LineWithText, partner: LineWithText) =>
    ofLine.set(line.id, [...(ofLine.get(line.id) ?? []), { pair, way: pair.way(partner) }]);
  for (const pair of pairs) {
    give(pair, pair.line, pair.other);
    give(pair, pair.other, pair.line);
  }
  // Among several, one that is named alone is the one that is meant, if its other line has no other that is named either.
  const chosen = (id: number) => {
    const ways = ofLine.get(id)!;
    const named = ways.filter(({ pair }) => pair.named);
    return named.length === 1 ? named[0]! : null;
  };
  return new Map(
    [...ofLine].map(([id, ways]): [number, Proposal] => {
      const one = chosen(id);
      const partner = one && (one.pair.line.id === id ? one.pair.other.id : one.pair.line.id);
      if (one && chosen(partner!)?.pair === one.pair) {
        const sure = one.way.reasons.some(
          (reason) => reason.kind === 'account-in-text' || (reason.kind === 'payout-in-parts' && reason.both),
        );
        const others = ways.filter((way) => way !== one).map(({ way }) => way);
        return [id, { line: id, certainty: sure ? 'proven' : 'probable', laid: one.way, reasons: [], others }];
      }
      const reasons: Reason[] = [{ kind: 'lines-fit', count: ways.length }];
      return [id, { line: id, certainty: 'open', laid: null, reasons, others: ways.map(({ way }) => way) }];
    }),
  );
}
