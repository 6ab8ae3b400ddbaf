import fc from 'fast-check';
import { minor } from '@/core/money';
import {
  claimCash,
  claimConverted,
  claimPools,
  claimTotals,
  dayNumber,
  subsetsTo,
  weighClaims,
  type CashBox,
  type Claim,
  type ForeignPayout,
  type SweepChannel,
  type TotalsChannel,
} from '@/core/matching';
import { amount, CALENDAR, date, FIRST, HABIT, lines, payouts } from './any-lines';

/** Claims leave a rest, or only circumstance speaks for them: how far off they may be, and that no thing is laid twice. */

/** What every weighing of claims keeps to. */
function expectWeighed(claims: readonly Claim[]): void {
  const weighed = weighClaims(claims);
  for (const proposal of weighed.values()) {
    expect(['probable', 'open']).toContain(proposal.certainty);
    if (proposal.certainty === 'open') expect(proposal.laid).toBeNull();
  }
  const taken = [...weighed.values()].flatMap(({ line, laid }) =>
    laid ? claims.find((claim) => claim.line === line && claim.way === laid)!.takes : [],
  );
  expect(new Set(taken).size).toBe(taken.length);
}

const deposits = lines.map((all) => all.filter((line) => line.amount > 0));

test('cash: what was counted, and the gap beside it, is the deposit', () => {
  const boxes: fc.Arbitrary<CashBox[]> = fc
    .array(
      fc.record({
        days: fc.uniqueArray(fc.record({ day: date, balance: amount }), { selector: ({ day }) => day, maxLength: 6 }),
        differences: fc.constantFrom(null, 61),
      }),
      { maxLength: 2 },
    )
    .map((rows) =>
      rows.map(({ days, differences }, n) => ({
        account: 15 + n,
        name: n === 0 ? 'Cash box' : 'Cheques',
        days: [...days].sort((a, b) => a.day.localeCompare(b.day)),
        differences,
        wordings: new Set<string>(),
      })),
    );
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
    .record({
      days: fc.uniqueArray(fc.record({ day: date, gross: amount }), { selector: ({ day }) => day, maxLength: 8 }),
      rates: fc.array(fc.integer({ min: 0, max: 400 }), { maxLength: 5 }),
    })
    .map(({ days, rates }) => ({
      name: 'Till',
      fees: 60,
      usualLag: 1,
      slack: 1,
      rates,
      days: [...days]
        .sort((a, b) => a.day.localeCompare(b.day))
        .map((one, n) => ({ ...one, receipts: [n * 2 + 1, n * 2 + 2] })),
    }));
  fc.assert(
    fc.property(deposits, channel, (all, till) => {
      const claims = claimTotals(all, till, CALENDAR);
      for (const { line: id, way, sure } of claims) {
        const line = all.find((one) => one.id === id)!;
        const held = till.days.filter(({ receipts }) =>
          receipts.every((receipt) => way.parts.some((part) => part.id === receipt)),
        );
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
  const foreign: fc.Arbitrary<ForeignPayout[]> = payouts.map((all) =>
    all.map(({ net, ...rest }, n) => ({
      ...rest,
      currency: 'USD',
      foreign: minor(net + 100),
      carried: net,
      differences: n % 2 === 0 ? 70 : null,
    })),
  );
  const near = fc
    .tuple(deposits, fc.integer({ min: -60, max: 60 }))
    .map(([all, off]) => all.map((line) => ({ ...line, amount: minor(line.amount + off) })));
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
      const receipts = {
        count: nets.length,
        id: Int32Array.from(nets, (_, at) => at + 1),
        day: Int32Array.from(nets, () => day),
        net: Float64Array.from(nets),
        taken: new Uint8Array(nets.length),
      };
      const channel: SweepChannel = {
        name: 'Desk',
        receipts,
        habit: { shortestLag: 0, longestLag: 5, longestSpan: 5 },
        facts: null,
        feesKnown,
      };
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

test('sets that come to a total are found as going through all of them finds them, the shortest first', () => {
  fc.assert(
    fc.property(
      fc.array(fc.integer({ min: -20, max: 60 }), { maxLength: 11 }),
      fc.integer({ min: 1, max: 120 }),
      (amounts, total) => {
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
