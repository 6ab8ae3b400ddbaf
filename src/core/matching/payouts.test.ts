import fc from 'fast-check';
import { addDays, plainDate, workingDaysBetween } from '../calendar';
import { minor } from '../money';
import {
  proposePayouts,
  referenceKey,
  referenceKeysIn,
  type Explanation,
  type LineToExplain,
  type PayoutInTransit,
} from '.';

const calendar = { holidays: new Set<never>() };
const habit = { slack: 1, farthest: 15 };
const usualLag = 2;
const line = (id: number, date: string, amount: number, text = ''): LineToExplain => ({
  id,
  date: plainDate(date),
  amount: minor(amount),
  account: 1,
  keys: referenceKeysIn(text),
});
const payout = (id: number, left: string, net: number, reference = `P-${2200 + id}`): PayoutInTransit => ({
  id,
  reference,
  account: 1,
  usualLag,
  key: referenceKey(reference),
  left: plainDate(left),
  net: minor(net),
});
const payoutOf = (way: Explanation | null | undefined) => way?.parts[0]?.id ?? null;
/** Proposals with the payout that is laid, and all reasons in one list. */
const propose = (lines: LineToExplain[], payouts: PayoutInTransit[]) =>
  proposePayouts(lines, payouts, calendar, habit).map((proposal) => ({
    ...proposal,
    payout: payoutOf(proposal.laid),
    reasons: [...proposal.reasons, ...(proposal.laid?.reasons ?? [])],
  }));

test('a payout id is found however the bank breaks it', () => {
  expect(referenceKeysIn('CD SETTLEMENT REF P-2231 KITTIWAKE').has('P2231')).toBe(true);
  expect(referenceKeysIn('ref/p 2231').has('P2231')).toBe(true);
  expect(referenceKeysIn('REF P22310').has('P2231')).toBe(false);
});

test('identity and equal to the cent is proven, even far outside the usual lag', () => {
  const [p] = propose([line(1, '2026-11-30', 5000, 'REF P-2201')], [payout(1, '2026-11-02', 5000)]);
  expect(p).toMatchObject({ certainty: 'proven', payout: 1 });
});

test('identity with another amount proves nothing and says so', () => {
  const [p] = propose([line(1, '2026-11-04', 4999, 'REF P-2201')], [payout(1, '2026-11-02', 5000)]);
  expect(p).toMatchObject({
    certainty: 'none',
    payout: null,
    reasons: [{ kind: 'reference-but-amount', reference: 'P-2201', net: 5000 }],
  });
});

test('the only one of its amount within the usual lag is proven, outside it is probable', () => {
  const lines = [line(1, '2026-11-04', 5000), line(2, '2026-11-12', 7000)];
  const found = propose(lines, [payout(1, '2026-11-02', 5000), payout(2, '2026-11-02', 7000)]);
  expect(found.map((p) => p.certainty)).toEqual(['proven', 'probable']);
});

test('a text that names another payout speaks against an equal amount', () => {
  const payouts = [payout(1, '2026-11-02', 5000), payout(2, '2026-11-02', 6000)];
  const [p] = propose([line(1, '2026-11-04', 5000, 'REF P-2202')], payouts);
  expect(p).toMatchObject({ certainty: 'probable', payout: 1 });
});

test('a payout to another bank account is no explanation, though its amount and id fit', () => {
  const [p] = propose([{ ...line(1, '2026-11-04', 5000, 'REF P-2201'), account: 2 }], [payout(1, '2026-11-02', 5000)]);
  expect(p).toMatchObject({ certainty: 'none', payout: null });
});

test('two equal payouts and two equal deposits are open, each with both named', () => {
  const lines = [line(1, '2026-11-09', 8313), line(2, '2026-11-10', 8313)];
  const found = propose(lines, [payout(1, '2026-11-05', 8313), payout(2, '2026-11-06', 8313)]);
  for (const p of found) {
    expect(p).toMatchObject({ certainty: 'open', payout: null });
    expect(p.others.map((o) => payoutOf(o)).sort()).toEqual([1, 2]);
  }
});

test('naming one of two equals settles the other too', () => {
  const lines = [line(1, '2026-11-09', 8313, 'REF P-2201'), line(2, '2026-11-10', 8313)];
  const found = propose(lines, [payout(1, '2026-11-05', 8313), payout(2, '2026-11-06', 8313)]);
  expect(found.map((p) => [p.certainty, p.payout])).toEqual([
    ['proven', 1],
    ['proven', 2],
  ]);
});

test('a deposit before the payout left, and money that went out, match nothing', () => {
  const lines = [line(1, '2026-11-02', 5000), line(2, '2026-11-04', -5000)];
  expect(propose(lines, [payout(1, '2026-11-03', 5000)]).map((p) => p.certainty)).toEqual(['none', 'none']);
});

test('a letter that is off takes no payout that is the only way for another deposit', () => {
  const [one, two] = [
    line(1, plainDate('2026-11-05'), 100, 'SETTLEMENT'),
    line(2, plainDate('2026-11-03'), 100, 'REF P-2202'),
  ];
  const laid = propose([one, two], [payout(1, plainDate('2026-11-03'), 100)]).filter((p) => p.payout !== null);
  expect(laid.length).toBeLessThanOrEqual(1);
});

describe('properties, against brute force', () => {
  const world = fc.record({
    lines: fc.array(
      fc.record({
        day: fc.integer({ min: 0, max: 14 }),
        amount: fc.integer({ min: 1, max: 4 }),
        names: fc.option(fc.integer({ min: 0, max: 5 })),
      }),
      { maxLength: 7 },
    ),
    payouts: fc.array(fc.record({ day: fc.integer({ min: 0, max: 10 }), net: fc.integer({ min: 1, max: 4 }) }), {
      maxLength: 6,
    }),
  });
  const day = (n: number) => addDays(plainDate('2026-11-02'), n);
  const build = (w: {
    lines: { day: number; amount: number; names: number | null }[];
    payouts: { day: number; net: number }[];
  }) => ({
    lines: w.lines.map((l, i) =>
      line(i + 1, day(l.day), l.amount * 100, l.names === null ? 'SETTLEMENT' : `REF P-${2201 + l.names}`),
    ),
    payouts: w.payouts.map((p, i) => payout(i + 1, day(p.day), p.net * 100)),
  });

  test('what is laid is equal to the cent and laid once', () => {
    fc.assert(
      fc.property(world, (w) => {
        const { lines, payouts } = build(w);
        const laid = propose(lines, payouts).filter((p) => p.payout !== null);
        expect(new Set(laid.map((p) => p.payout)).size).toBe(laid.length);
        for (const p of laid) {
          expect(payouts.find((x) => x.id === p.payout)!.net).toBe(lines.find((x) => x.id === p.line)!.amount);
        }
      }),
    );
  });

  test('the answer does not depend on the order of the input', () => {
    fc.assert(
      fc.property(world, (w) => {
        const { lines, payouts } = build(w);
        expect(propose([...lines].reverse(), [...payouts].reverse())).toEqual(propose(lines, payouts));
      }),
    );
  });

  test('proven without identity means: no other pair of this amount is within reach', () => {
    fc.assert(
      fc.property(world, (w) => {
        const { lines, payouts } = build(w);
        const found = propose(lines, payouts);
        const identity = new Set(
          found
            .filter((p) => p.reasons.some((r) => r.kind === 'reference-in-text'))
            .flatMap((p) => [`l${p.line}`, `p${p.payout}`]),
        );
        const reach = (l: LineToExplain, p: PayoutInTransit) => {
          const lag = workingDaysBetween(p.left, l.date, calendar);
          return (
            l.amount === p.net && ((lag >= 0 && lag <= habit.farthest) || l.keys.has(p.reference.replace('-', '')))
          );
        };
        for (const p of found) {
          if (p.certainty !== 'proven' || identity.has(`l${p.line}`)) continue;
          const l = lines.find((x) => x.id === p.line)!;
          const open = payouts.filter((x) => !identity.has(`p${x.id}`) && reach(l, x));
          expect(open.map((x) => x.id)).toEqual([p.payout]);
          const rivals = lines.filter((x) => !identity.has(`l${x.id}`) && reach(x, open[0]!));
          expect(rivals.map((x) => x.id)).toEqual([l.id]);
        }
      }),
      { numRuns: 400 },
    );
  });
});
