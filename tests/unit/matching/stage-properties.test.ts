import fc from 'fast-check';
import { addDays, plainDate } from '../calendar';
import { minor } from '../money';
import {
  claimCash,
  claimConverted,
  claimPools,
  claimTotals,
  dayNumber,
  NameFinder,
  proposeDirect,
  proposeLines,
  proposeTogether,
  referenceKey,
  referenceKeysIn,
  settleConflicts,
  subsetsTo,
  weighClaims,
  type CashBox,
  type Claim,
  type DirectReceipt,
  type Explanation,
  type ForeignPayout,
  type LineWithText,
  type PayoutOfChannel,
  type Proposal,
  type SweepChannel,
  type TotalsChannel,
} from '.';

/** What holds of every stage, whatever it is given: what it lays adds up, is laid once, and is the same in any order. */

const CALENDAR = { holidays: new Set<never>() };
const HABIT = { slack: 1, farthest: 8 };
const FIRST = plainDate('2026-11-02');
const OWN = [
  { account: 1, number: 'IE29SKER93115212345678', name: '1010 Current account' },
  { account: 2, number: 'IE64SKER93115200001234', name: '1020 Reserve' },
];
const date = fc.integer({ min: 0, max: 20 }).map((n) => addDays(FIRST, n));
/** Few different amounts, so that equals are common. */
const amount = fc.constantFrom(1_000, 1_500, 2_000, 2_500, 3_000, 4_000, 7_500).map(minor);

const lines: fc.Arbitrary<LineWithText[]> = fc
  .array(
    fc.record({
      account: fc.constantFrom(1, 2),
      date,
      amount: fc.oneof(
        amount,
        amount.map((n) => minor(-n)),
      ),
      said: fc.constantFrom('', 'P-1', 'P-2 P-3', 'R-1', 'R-2', 'FROM IE29SKER93115212345678', 'TO IE64SKER93115200001234', 'CASH', 'ANNA BERG', 'USD 20.00'), // prettier-ignore
    }),
    { maxLength: 9 },
  )
  .map((rows) => rows.map(({ said, ...row }, n) => ({ ...row, id: n + 1, text: said, keys: referenceKeysIn(said) })));

const payouts: fc.Arbitrary<PayoutOfChannel[]> = fc
  .array(fc.record({ left: date, net: amount, account: fc.constantFrom(1, 2), channel: fc.constantFrom(1, 2) }), { maxLength: 7 }) // prettier-ignore
  .map((rows) => rows.map((row, n) => ({ ...row, id: n + 1, reference: `P-${n + 1}`, key: referenceKey(`P-${n + 1}`), usualLag: 2 }))); // prettier-ignore

const shuffled = <T>(list: readonly T[], seed: number): T[] =>
  [...list].sort((a, b) => ((JSON.stringify(a).length * 31 + seed) % 7) - ((JSON.stringify(b).length * 31 + seed) % 7)).reverse(); // prettier-ignore

const inOrder = (found: ReadonlyMap<number, Proposal>) => [...found.entries()].sort(([a], [b]) => a - b);
const waysOf = ({ laid, others }: Proposal): readonly Explanation[] => (laid ? [laid, ...others] : others);
const keysOf = (proposals: Iterable<Proposal>) =>
  [...proposals].flatMap(({ laid, line }) =>
    (laid?.parts ?? []).map(({ kind, id }) => ({ key: `${kind}/${id}`, line })),
  );

/** No payout and no receipt is laid twice; of lines only two that are laid on each other's sheets. */
function expectOnce(proposals: readonly Proposal[]): void {
  const settled = settleConflicts(proposals);
  const seen = new Map<string, number>();
  for (const { key, line } of keysOf(settled)) {
    const before = seen.get(key);
    const pair = settled.find((one) => one.line === before)?.laid?.parts.some(({ kind, id }) => kind === 'line' && id === line); // prettier-ignore
    if (before !== undefined && pair !== true) expect({ key, lines: [before, line] }).toBeNull();
    seen.set(key, line);
  }
}

test('lines that belong together come to the payout or to nothing, in any order', () => {
  fc.assert(
    fc.property(lines, payouts, fc.nat(), (all, on, seed) => {
      const found = proposeLines(all, OWN, on, CALENDAR, HABIT);
      const byId = new Map(all.map((line) => [line.id, line]));
      for (const proposal of found.values()) {
        const line = byId.get(proposal.line)!;
        for (const { parts } of waysOf(proposal)) {
          // Another line gives up what came to it; what left one account and came to another is of both signs.
          const sum = parts.reduce((total, part) => total + (part.kind === 'payout' ? on.find(({ id }) => id === part.id)!.net : -byId.get(part.id)!.amount), 0); // prettier-ignore
          expect(sum).toBe(line.amount);
          expect(parts.every(({ kind, id }) => kind !== 'line' || id !== line.id)).toBe(true);
        }
        if (proposal.certainty === 'proven') expect(proposal.laid!.reasons.some(({ kind }) => kind === 'account-in-text' || kind === 'payout-in-parts')).toBe(true); // prettier-ignore
      }
      expectOnce([...found.values()]);
      expect(inOrder(proposeLines(shuffled(all, seed), OWN, shuffled(on, seed), CALENDAR, HABIT))).toEqual(inOrder(found)); // prettier-ignore
    }),
    { numRuns: 300 },
  );
});

test('payouts in one deposit come to it, are of one channel and of its account', () => {
  fc.assert(
    fc.property(lines, payouts, fc.nat(), (all, on, seed) => {
      const found = proposeTogether(all, on, CALENDAR, HABIT);
      for (const proposal of found.values()) {
        const line = all.find(({ id }) => id === proposal.line)!;
        for (const { parts } of waysOf(proposal)) {
          const own = parts.map(({ id }) => on.find((payout) => payout.id === id)!);
          expect(own.reduce((sum, { net }) => sum + net, 0)).toBe(line.amount);
          expect(new Set(own.map(({ channel, account }) => `${channel}/${account}`)).size).toBe(1);
          expect(own[0]!.account).toBe(line.account);
          expect(own.length).toBeGreaterThan(1);
          expect(own.every(({ left }) => left <= line.date)).toBe(true);
        }
        expect(['probable', 'open']).toContain(proposal.certainty);
      }
      expectOnce([...found.values()]);
      expect(inOrder(proposeTogether(shuffled(all, seed), shuffled(on, seed), CALENDAR, HABIT))).toEqual(inOrder(found)); // prettier-ignore
    }),
    { numRuns: 300 },
  );
});

test('a receipt that came by itself is equal to its line, and proven only where it is named', () => {
  const receipts: fc.Arbitrary<DirectReceipt[]> = fc
    .array(fc.record({ account: fc.constantFrom(1, 2), day: date, amount, payer: fc.constantFrom(null, 1) }), {
      maxLength: 6,
    }) // prettier-ignore
    .map((rows) =>
      rows.map((row, n) => ({ ...row, id: n + 1, name: `R-${n + 1}`, keys: [referenceKey(`R-${n + 1}`)] })),
    );
  const names = new NameFinder([{ payer: 1, name: 'Anna Berg' }]);
  fc.assert(
    fc.property(lines, receipts, fc.nat(), (all, held, seed) => {
      const found = proposeDirect(all, held, names, CALENDAR);
      for (const proposal of found.values()) {
        const line = all.find(({ id }) => id === proposal.line)!;
        for (const { parts } of waysOf(proposal)) {
          const receipt = held.find(({ id }) => id === parts[0]!.id)!;
          expect([parts.length, receipt.amount, receipt.account]).toEqual([1, line.amount, line.account]);
        }
        if (proposal.certainty === 'proven') {
          const receipt = held.find(({ id }) => id === proposal.laid!.parts[0]!.id)!;
          expect(receipt.keys.some((key) => line.keys.has(key))).toBe(true);
        }
      }
      expectOnce([...found.values()]);
      expect(inOrder(proposeDirect(shuffled(all, seed), shuffled(held, seed), names, CALENDAR))).toEqual(
        inOrder(found),
      );
    }),
    { numRuns: 300 },
  );
});

describe('claims that leave a rest, or that only circumstance speaks for', () => {
  /** What every weighing of claims keeps to. */
  function expectWeighed(claims: readonly Claim[]): void {
    const weighed = weighClaims(claims);
    for (const proposal of weighed.values()) {
      expect(['probable', 'open']).toContain(proposal.certainty);
      if (proposal.certainty === 'open') expect(proposal.laid).toBeNull();
    }
    const taken = [...weighed.values()].flatMap(({ line, laid }) => (laid ? claims.find((claim) => claim.line === line && claim.way === laid)!.takes : [])); // prettier-ignore
    expect(new Set(taken).size).toBe(taken.length);
  }

  const deposits = lines.map((all) => all.filter((line) => line.amount > 0));

  test('cash: what was counted, and the gap beside it, is the deposit', () => {
    const boxes: fc.Arbitrary<CashBox[]> = fc
      .array(fc.record({ days: fc.uniqueArray(fc.record({ day: date, balance: amount }), { selector: ({ day }) => day, maxLength: 6 }), differences: fc.constantFrom(null, 61) }), { maxLength: 2 }) // prettier-ignore
      .map((rows) => rows.map(({ days, differences }, n) => ({ account: 15 + n, name: n === 0 ? 'Cash box' : 'Cheques', days: [...days].sort((a, b) => a.day.localeCompare(b.day)), differences, wordings: new Set<string>() }))); // prettier-ignore
    fc.assert(
      fc.property(deposits, boxes, (all, on) => {
        const claims = claimCash(all, on);
        for (const { line: id, way } of claims) {
          const line = all.find((one) => one.id === id)!;
          const counted = way.parts.reduce((sum, part) => sum + (part.kind === 'account' ? part.amount : 0), 0);
          const gap = line.amount - counted;
          expect(way.restTo === undefined).toBe(gap === 0);
          // No more than five in a hundred, and no more than 50.00.
          expect(Math.abs(gap)).toBeLessThanOrEqual(Math.min(5_000, counted / 20));
        }
        expectWeighed(claims);
      }),
      { numRuns: 3000 },
    );
  });

  test('whole days less a fee that nobody states: between nothing and five in a hundred', () => {
    const channel: fc.Arbitrary<TotalsChannel> = fc
      .record({ days: fc.uniqueArray(fc.record({ day: date, gross: amount }), { selector: ({ day }) => day, maxLength: 8 }), rates: fc.array(fc.integer({ min: 0, max: 400 }), { maxLength: 5 }) }) // prettier-ignore
      .map(({ days, rates }) => ({ name: 'Till', fees: 60, usualLag: 1, slack: 1, rates, days: [...days].sort((a, b) => a.day.localeCompare(b.day)).map((one, n) => ({ ...one, receipts: [n * 2 + 1, n * 2 + 2] })) })); // prettier-ignore
    fc.assert(
      fc.property(deposits, channel, (all, till) => {
        const claims = claimTotals(all, till, CALENDAR);
        for (const { line: id, way, sure } of claims) {
          const line = all.find((one) => one.id === id)!;
          const held = till.days.filter(({ receipts }) => receipts.every((receipt) => way.parts.some((part) => part.id === receipt))); // prettier-ignore
          const gross = held.reduce((sum, one) => sum + one.gross, 0);
          expect(held.length * 2).toBe(way.parts.length);
          expect(gross - line.amount).toBeGreaterThanOrEqual(0);
          expect(gross - line.amount).toBeLessThanOrEqual(gross * 0.0501);
          // With fewer than three deposits before, nothing is usual.
          if (sure) expect(till.rates.length).toBeGreaterThanOrEqual(3);
        }
        expectWeighed(claims);
      }),
      { numRuns: 3000 },
    );
  });

  test('a payout that was converted lies within four in a hundred of what clearing carries', () => {
    const foreign: fc.Arbitrary<ForeignPayout[]> = payouts.map((all) => all.map(({ net, ...rest }, n) => ({ ...rest, currency: 'USD', foreign: minor(net + 100), carried: net, differences: n % 2 === 0 ? 70 : null }))); // prettier-ignore
    const near = fc.tuple(deposits, fc.integer({ min: -60, max: 60 })).map(([all, off]) => all.map((line) => ({ ...line, amount: minor(line.amount + off) }))); // prettier-ignore
    fc.assert(
      fc.property(near, foreign, (all, on) => {
        const claims = claimConverted(all, on, CALENDAR, HABIT);
        for (const { line: id, way } of claims) {
          const line = all.find((one) => one.id === id)!;
          const payout = on.find((one) => one.id === way.parts[0]!.id)!;
          expect(way.parts).toHaveLength(1);
          expect(payout.account).toBe(line.account);
          expect(Math.abs(line.amount - payout.carried) / payout.carried).toBeLessThan(0.0401);
        }
        expectWeighed(claims);
      }),
      { numRuns: 3000 },
    );
  });

  test('a pool: every set comes to the deposit, and “no other” is true by going through all of them', () => {
    const pool = fc.record({
      nets: fc.array(
        fc.integer({ min: 1, max: 40 }).map((n) => n * 37),
        { minLength: 2, maxLength: 9 },
      ),
      feesKnown: fc.boolean(),
    });
    fc.assert(
      fc.property(pool, fc.integer({ min: 0, max: 511 }), ({ nets, feesKnown }, bits) => {
        const total = nets.reduce((sum, net, at) => sum + ((bits >> at) & 1 ? net : 0), 0);
        fc.pre(total > 0);
        const day = dayNumber(FIRST);
        const receipts = { count: nets.length, id: Int32Array.from(nets, (_, at) => at + 1), day: Int32Array.from(nets, () => day), net: Float64Array.from(nets), taken: new Uint8Array(nets.length) }; // prettier-ignore
        const channel: SweepChannel = { name: 'Desk', receipts, habit: { shortestLag: 0, longestLag: 5, longestSpan: 5 }, facts: null, feesKnown }; // prettier-ignore
        const claims = claimPools([{ id: 1, day: day + 1, amount: minor(total) }], channel);
        let ways = 0;
        for (let set = 1; set < 1 << nets.length; set++) {
          if (nets.reduce((sum, net, at) => sum + ((set >> at) & 1 ? net : 0), 0) === total) ways++;
        }
        expect(claims.length).toBe(Math.min(ways, 2));
        for (const { way, sure } of claims) {
          expect(way.parts.reduce((sum, { id }) => sum + nets[id - 1]!, 0)).toBe(total);
          if (sure) expect([ways, feesKnown, new Set(nets).size]).toEqual([1, true, nets.length]);
        }
        expectWeighed(claims);
      }),
      { numRuns: 300 },
    );
  });
});

test('sets that come to a total are found as going through all of them finds them, the shortest first', () => {
  fc.assert(
    fc.property(
      fc.array(fc.integer({ min: -20, max: 60 }), { maxLength: 11 }),
      fc.integer({ min: 1, max: 120 }),
      (amounts, total) => {
        // prettier-ignore
        const all: number[][] = [];
        for (let set = 1; set < 1 << amounts.length; set++) {
          const at = [...amounts.keys()].filter((n) => (set >> n) & 1);
          if (at.reduce((sum, n) => sum + amounts[n]!, 0) === total) all.push(at);
        }
        all.sort((a, b) => a.length - b.length);
        const found = subsetsTo(amounts, total, 3)!;
        expect(found).toHaveLength(Math.min(3, all.length));
        expect(found.map((set) => set.length)).toEqual(all.slice(0, 3).map((set) => set.length));
        for (const set of found) expect(set.reduce((sum, n) => sum + amounts[n]!, 0)).toBe(total);
        expect(new Set(found.map((set) => set.join())).size).toBe(found.length);
      },
    ),
    { numRuns: 300 },
  );
});

test('conflicts between stages leave each thing on one sheet, and the surer keeps it', () => {
  const proposal = (line: number) =>
    fc
      .record({
        certainty: fc.constantFrom('proven' as const, 'probable' as const),
        parts: fc.uniqueArray(fc.tuple(fc.constantFrom('payout' as const, 'receipt' as const), fc.integer({ min: 1, max: 4 })), { minLength: 1, maxLength: 3, selector: ([kind, id]) => `${kind}${id}` }), // prettier-ignore
      })
      .map(({ certainty, parts }): Proposal => ({ line, certainty, laid: { parts: parts.map(([kind, id]) => ({ kind, id })), reasons: [] }, reasons: [], others: [] })); // prettier-ignore
  fc.assert(
    fc.property(fc.tuple(proposal(1), proposal(2), proposal(3), proposal(4)), (all) => {
      const settled = settleConflicts(all);
      const keys = keysOf(settled).map(({ key }) => key);
      expect(new Set(keys).size).toBe(keys.length);
      for (const [index, after] of settled.entries()) {
        const before = all[index]!;
        if (after.laid) {
          expect(after).toEqual(before);
          continue;
        }
        // Nothing is lost: what was laid is still shown, and somebody else who is at least as sure wanted some of it.
        expect(after.others[0]).toEqual(before.laid);
        const wanted = new Set(before.laid!.parts.map(({ kind, id }) => `${kind}/${id}`));
        const rival = all.find((other, at) => at !== index && other.laid!.parts.some(({ kind, id }) => wanted.has(`${kind}/${id}`)) && !(before.certainty === 'proven' && other.certainty === 'probable')); // prettier-ignore
        expect(rival).toBeDefined();
      }
    }),
    { numRuns: 3000 },
  );
});
