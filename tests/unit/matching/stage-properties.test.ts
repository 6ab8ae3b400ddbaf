import fc from 'fast-check';
import {
  NameFinder,
  proposeDirect,
  proposeLines,
  proposeTogether,
  referenceKey,
  settleConflicts,
  type DirectReceipt,
  type Explanation,
  type Proposal,
} from '@/core/matching';
import { amount, CALENDAR, date, HABIT, lines, OWN, payouts } from './any-lines';

/** What holds of every stage, whatever it is given: what it lays adds up, is laid once, and is the same in any order. */

const shuffled = <T>(list: readonly T[], seed: number): T[] =>
  [...list]
    .sort((a, b) => ((JSON.stringify(a).length * 31 + seed) % 7) - ((JSON.stringify(b).length * 31 + seed) % 7))
    .reverse();

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
    const pair = settled
      .find((one) => one.line === before)
      ?.laid?.parts.some(({ kind, id }) => kind === 'line' && id === line);
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
          const sum = parts.reduce(
            (total, part) =>
              total + (part.kind === 'payout' ? on.find(({ id }) => id === part.id)!.net : -byId.get(part.id)!.amount),
            0,
          );
          expect(sum).toBe(line.amount);
          expect(parts.every(({ kind, id }) => kind !== 'line' || id !== line.id)).toBe(true);
        }
        if (proposal.certainty === 'proven')
          expect(
            proposal.laid!.reasons.some(({ kind }) => kind === 'account-in-text' || kind === 'payout-in-parts'),
          ).toBe(true);
      }
      expectOnce([...found.values()]);
      expect(inOrder(proposeLines(shuffled(all, seed), OWN, shuffled(on, seed), CALENDAR, HABIT))).toEqual(
        inOrder(found),
      );
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
      expect(inOrder(proposeTogether(shuffled(all, seed), shuffled(on, seed), CALENDAR, HABIT))).toEqual(
        inOrder(found),
      );
    }),
    { numRuns: 300 },
  );
});

test('a receipt that came by itself is equal to its line, and proven only where it is named', () => {
  const receipts: fc.Arbitrary<DirectReceipt[]> = fc
    .array(fc.record({ account: fc.constantFrom(1, 2), day: date, amount, payer: fc.constantFrom(null, 1) }), {
      maxLength: 6,
    })
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

test('conflicts between stages leave each thing on one sheet, and the surer keeps it', () => {
  const proposal = (line: number) =>
    fc
      .record({
        certainty: fc.constantFrom('proven' as const, 'probable' as const),
        parts: fc.uniqueArray(
          fc.tuple(fc.constantFrom('payout' as const, 'receipt' as const), fc.integer({ min: 1, max: 4 })),
          { minLength: 1, maxLength: 3, selector: ([kind, id]) => `${kind}${id}` },
        ),
      })
      .map(({ certainty, parts }): Proposal => ({
        line,
        certainty,
        laid: { parts: parts.map(([kind, id]) => ({ kind, id })), reasons: [] },
        reasons: [],
        others: [],
      }));
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
        const rival = all.find(
          (other, at) =>
            at !== index &&
            other.laid!.parts.some(({ kind, id }) => wanted.has(`${kind}/${id}`)) &&
            !(before.certainty === 'proven' && other.certainty === 'probable'),
        );
        expect(rival).toBeDefined();
      }
    }),
    { numRuns: 3000 },
  );
});
