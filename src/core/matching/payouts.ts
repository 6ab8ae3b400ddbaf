import { workingDaysBetween, type PlainDate, type WorkingCalendar } from '../calendar';
import type { Minor } from '../money';

/** How sure a proposal is; see docs/architecture.md for what each may do by itself. */
export type Certainty = 'proven' | 'probable' | 'open' | 'none';

export interface LineToExplain {
  readonly id: number;
  /** The bank account it is on. */
  readonly account: number;
  readonly date: PlainDate;
  /** Minor units; only deposits (above zero) are matched to payouts. */
  readonly amount: Minor;
  /** Where a reference could stand in the bank's text: {@link referenceKeysIn}. */
  readonly keys: ReadonlySet<string>;
}

export interface PayoutInTransit {
  readonly id: number;
  readonly reference: string;
  /** The reference as compared: {@link referenceKey}. */
  readonly key: string;
  readonly left: PlainDate;
  readonly net: Minor;
  /** The bank account its channel pays out to. */
  readonly account: number;
  /** Working days from a payout of its channel to the bank. */
  readonly usualLag: number;
}

/** Why a payout is proposed, or is another explanation, as data. Days are working days. */
export type Reason =
  | { readonly kind: 'reference-in-text'; readonly reference: string }
  | { readonly kind: 'equal-to-the-cent' }
  | { readonly kind: 'arrived'; readonly lag: number; readonly usual: number }
  | { readonly kind: 'only-one'; readonly from: PlainDate; readonly to: PlainDate }
  | { readonly kind: 'outside-usual-lag'; readonly lag: number; readonly usual: number }
  | { readonly kind: 'several-payouts'; readonly count: number }
  | { readonly kind: 'several-lines'; readonly count: number }
  | { readonly kind: 'reference-but-amount'; readonly reference: string; readonly net: Minor };

export interface Alternative {
  readonly payout: number;
  readonly reasons: readonly Reason[];
}

export interface Proposal {
  readonly line: number;
  readonly certainty: Certainty;
  /** The payout laid on the sheet; null where nothing is certain enough to lay there. */
  readonly payout: number | null;
  readonly reasons: readonly Reason[];
  readonly others: readonly Alternative[];
}

/** How far off a channel's usual lag still counts as usual, in working days. */
export interface PayoutHabit {
  readonly slack: number;
  /** Further off than this, an equal amount is a coincidence and is not proposed at all. */
  readonly farthest: number;
}

interface Pairing {
  readonly line: LineToExplain;
  readonly payout: PayoutInTransit;
  readonly lag: number;
  readonly usual: boolean;
  readonly named: boolean;
}

const byId = (a: { readonly id: number }, b: { readonly id: number }) => a.id - b.id;

function groupBy<K, T>(items: readonly T[], keyOf: (item: T) => K): Map<K, T[]> {
  const groups = new Map<K, T[]>();
  for (const item of items) {
    const key = keyOf(item);
    const group = groups.get(key);
    if (group) group.push(item);
    else groups.set(key, [item]);
  }
  return groups;
}

function reasonsFor(pairing: Pairing): Reason[] {
  const { lag, named, usual, payout } = pairing;
  return [
    ...(named ? [{ kind: 'reference-in-text', reference: payout.reference } as const] : []),
    { kind: 'equal-to-the-cent' },
    usual
      ? { kind: 'arrived', lag, usual: payout.usualLag }
      : { kind: 'outside-usual-lag', lag, usual: payout.usualLag },
  ];
}

/**
 * Proposes an announced payout for each deposit (stages 2 and 3 of the matching). Proven is identity, the payout's id
 * in the bank's text and equal to the cent; or the only deposit and the only payout of that amount within the
 * channel's usual lag of each other. One pair outside the usual lag is probable; several that fit are open, each
 * named. A payout is laid on one sheet at most. The answer does not depend on the order of the input.
 */
export function proposePayouts(
  lines: readonly LineToExplain[],
  payouts: readonly PayoutInTransit[],
  calendar: WorkingCalendar,
  habit: PayoutHabit,
): Proposal[] {
  const byAmount = groupBy([...payouts].sort(byId), (payout) => payout.net);
  const byReference = groupBy([...payouts].sort(byId), (payout) => payout.key);
  const pairings: Pairing[] = [];
  const misses = new Map<number, PayoutInTransit>();

  for (const line of lines) {
    if (line.amount <= 0) continue;
    const { keys } = line;
    for (const payout of byAmount.get(line.amount) ?? []) {
      if (payout.account !== line.account) continue;
      const named = keys.has(payout.key);
      const lag = workingDaysBetween(payout.left, line.date, calendar);
      if (!named && (lag < 0 || lag > habit.farthest)) continue;
      pairings.push({ line, payout, lag, named, usual: lag >= 0 && Math.abs(lag - payout.usualLag) <= habit.slack });
    }
    for (const key of keys) {
      const named = byReference.get(key)?.find((payout) => payout.net !== line.amount);
      if (named) misses.set(line.id, named);
    }
  }
  return decide(lines, pairings, misses);
}

function decide(
  lines: readonly LineToExplain[],
  pairings: readonly Pairing[],
  misses: ReadonlyMap<number, PayoutInTransit>,
): Proposal[] {
  // Identity first: what is named in exactly one line, and names exactly one payout there, is settled.
  const settled = new Map<number, Pairing>();
  const taken = new Set<number>();
  const named = pairings.filter((pairing) => pairing.named);
  const namedByLine = groupBy(named, (pairing) => pairing.line.id);
  const namedByPayout = groupBy(named, (pairing) => pairing.payout.id);
  for (const pairing of named) {
    if (namedByLine.get(pairing.line.id)!.length === 1 && namedByPayout.get(pairing.payout.id)!.length === 1) {
      settled.set(pairing.line.id, pairing);
      taken.add(pairing.payout.id);
    }
  }
  const free = pairings.filter(({ line, payout }) => !settled.has(line.id) && !taken.has(payout.id));
  const freeByLine = groupBy(free, (pairing) => pairing.line.id);
  const freeByPayout = groupBy(free, (pairing) => pairing.payout.id);

  return [...lines].sort(byId).map((line): Proposal => {
    const identity = settled.get(line.id);
    if (identity) {
      return {
        line: line.id,
        certainty: 'proven',
        payout: identity.payout.id,
        reasons: reasonsFor(identity),
        others: [],
      };
    }
    const mine = freeByLine.get(line.id) ?? [];
    const miss = misses.get(line.id);
    const only = mine.length === 1 ? mine[0]! : null;
    if (only && freeByPayout.get(only.payout.id)!.length === 1) {
      // A reference that stands in the text with another amount speaks against the pair, however well it fits.
      const proven = only.usual && miss === undefined;
      return {
        line: line.id,
        certainty: proven ? 'proven' : 'probable',
        payout: only.payout.id,
        reasons: [
          ...reasonsFor(only),
          { kind: 'only-one', from: only.payout.left, to: line.date },
          ...missReason(miss),
        ],
        others: [],
      };
    }
    if (mine.length > 0) {
      const rivals = new Set(mine.flatMap((p) => freeByPayout.get(p.payout.id)!.map((q) => q.line.id))).size;
      return {
        line: line.id,
        certainty: 'open',
        payout: null,
        reasons: [
          ...(mine.length > 1 ? [{ kind: 'several-payouts', count: mine.length } as const] : []),
          ...(rivals > 1 ? [{ kind: 'several-lines', count: rivals } as const] : []),
        ],
        others: mine
          .sort(
            (a, b) =>
              Math.abs(a.lag - a.payout.usualLag) - Math.abs(b.lag - b.payout.usualLag) || byId(a.payout, b.payout),
          )
          .map((pairing) => ({ payout: pairing.payout.id, reasons: reasonsFor(pairing) })),
      };
    }
    return { line: line.id, certainty: 'none', payout: null, reasons: missReason(miss), others: [] };
  });
}

function missReason(miss: PayoutInTransit | undefined): Reason[] {
  return miss ? [{ kind: 'reference-but-amount', reference: miss.reference, net: miss.net }] : [];
}
