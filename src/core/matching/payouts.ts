import { workingDaysBetween, type PlainDate, type WorkingCalendar } from '../calendar';
import { groupBy } from '../group-by';
import type { Minor } from '../money';
import { nearOne } from './near';
import { nothing, type Explanation, type Proposal, type Reason } from './proposal';

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

const explained = (pairing: Pairing, more: readonly Reason[] = []): Explanation => ({
  parts: [{ kind: 'payout', id: pairing.payout.id }],
  reasons: [...reasonsFor(pairing), ...more],
});

/** Pairs that hang together through a line or a payout that they share. */
function components(pairings: readonly Pairing[]): Pairing[][] {
  const byLine = groupBy(pairings, (p) => p.line.id);
  const byPayout = groupBy(pairings, (p) => p.payout.id);
  const seen = new Set<Pairing>();
  return pairings.flatMap((first) => {
    if (seen.has(first)) return [];
    const component: Pairing[] = [];
    const queue = [first];
    seen.add(first);
    for (let pairing = queue.pop(); pairing; pairing = queue.pop()) {
      component.push(pairing);
      for (const next of [...byLine.get(pairing.line.id)!, ...byPayout.get(pairing.payout.id)!]) {
        if (seen.has(next)) continue;
        seen.add(next);
        queue.push(next);
      }
    }
    return [component];
  });
}

/**
 * The only way to give each line of a component a payout of its own and leave none over: whatever has no choice is settled,
 * until nothing is left. Null where there are several ways, or none.
 */
function onlyWay(component: readonly Pairing[]): readonly Pairing[] | null {
  const lines = new Set(component.map((p) => p.line.id)).size;
  if (lines !== new Set(component.map((p) => p.payout.id)).size) return null;
  let left = component;
  const settled: Pairing[] = [];
  while (left.length > 0) {
    const byLine = groupBy(left, (p) => p.line.id);
    const byPayout = groupBy(left, (p) => p.payout.id);
    const forced = left.find((p) => byLine.get(p.line.id)!.length === 1 || byPayout.get(p.payout.id)!.length === 1);
    if (!forced) return null;
    settled.push(forced);
    left = left.filter((p) => p.line !== forced.line && p.payout !== forced.payout);
  }
  return settled.length === lines ? settled : null;
}

/** Pairs larger than this are left open: hundreds of equal amounts are told apart by nothing but their number. */
const LARGEST = 60;

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
  // Where several share an amount, only pairs at the usual lag are weighed, over all of them together.
  const byAmount = groupBy(
    free.filter((pairing) => pairing.usual),
    (pairing) => `${pairing.line.account}|${pairing.line.amount}`,
  );
  const forced = new Map<number, { readonly pairing: Pairing; readonly of: number }>();
  for (const component of [...byAmount.values()].flatMap(components)) {
    const way = component.length > LARGEST ? null : onlyWay(component);
    for (const pairing of way ?? []) forced.set(pairing.line.id, { pairing, of: way!.length });
  }

  const forcedPayouts = new Set([...forced.values()].map(({ pairing }) => pairing.payout.id));

  return [...lines].sort(byId).map((line): Proposal => {
    const identity = settled.get(line.id);
    if (identity) return { line: line.id, certainty: 'proven', laid: explained(identity), reasons: [], others: [] };
    const mine = freeByLine.get(line.id) ?? [];
    const miss = misses.get(line.id);
    const only = mine.length === 1 ? mine[0]! : null;
    if (only && freeByPayout.get(only.payout.id)!.length === 1) {
      // A reference that stands in the text with another amount speaks against the pair, however well it fits.
      const certainty = only.usual && miss === undefined ? 'proven' : 'probable';
      const why: Reason[] = [{ kind: 'only-one', from: only.payout.left, to: line.date }, ...missReason(miss)];
      return { line: line.id, certainty, laid: explained(only, why), reasons: [], others: [] };
    }
    if (mine.length === 0) return nothing(line.id, missReason(miss));
    const byLag = mine.sort(
      (a, b) => Math.abs(a.lag - a.payout.usualLag) - Math.abs(b.lag - b.payout.usualLag) || byId(a.payout, b.payout),
    );
    const way = forced.get(line.id);
    if (way && miss === undefined) {
      const others = byLag.filter((pairing) => pairing !== way.pairing).map((pairing) => explained(pairing));
      const laid = explained(way.pairing, [{ kind: 'only-way', payouts: way.of }]);
      return { line: line.id, certainty: 'probable', laid, reasons: [], others };
    }
    const near = nearlyNamed(mine, freeByPayout);
    // What is the only way for another line is not taken from it by a letter.
    if (near && miss === undefined && !forcedPayouts.has(near.pairing.payout.id)) {
      const { pairing, said } = near;
      const laid = explained(pairing, [{ kind: 'nearly-in-text', said, reference: pairing.payout.reference }]);
      const others = byLag.filter((one) => one !== pairing).map((one) => explained(one));
      return { line: line.id, certainty: 'probable', laid, reasons: [], others };
    }
    const rivals = new Set(mine.flatMap((p) => freeByPayout.get(p.payout.id)!.map((q) => q.line.id))).size;
    return {
      line: line.id,
      certainty: 'open',
      laid: null,
      reasons: [
        ...(mine.length > 1 ? [{ kind: 'several-payouts', count: mine.length } as const] : []),
        ...(rivals > 1 ? [{ kind: 'several-lines', count: rivals } as const] : []),
      ],
      others: byLag.map((pairing) => explained(pairing)),
    };
  });
}

/** Among more payouts of one amount than this, a letter that is off tells nothing. */
const MOST_NEAR = 20;

/** Of several payouts of a line's amount, the one whose id stands in the text with one letter wrong, and in no other line's. */
function nearlyNamed(
  mine: readonly Pairing[],
  byPayout: ReadonlyMap<number, readonly Pairing[]>,
): { readonly pairing: Pairing; readonly said: string } | null {
  if (mine.length > MOST_NEAR) return null;
  const near = mine.flatMap((pairing) => {
    const said = nearOne(pairing.line.keys, pairing.payout.key);
    return said === null ? [] : [{ pairing, said }];
  });
  if (near.length !== 1) return null;
  const [one] = near;
  const rivals = byPayout
    .get(one!.pairing.payout.id)!
    .filter(({ line }) => nearOne(line.keys, one!.pairing.payout.key) !== null);
  return rivals.length === 1 ? one! : null;
}

function missReason(miss: PayoutInTransit | undefined): Reason[] {
  return miss ? [{ kind: 'reference-but-amount', reference: miss.reference, net: miss.net }] : [];
}
