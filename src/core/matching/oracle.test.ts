import fc from 'fast-check';
import { plainDate } from '../calendar';
import { minor } from '../money';
import {
  dayOfNumber,
  LineSet,
  proposePayouts,
  proposeSweeps,
  type LineToExplain,
  type PayoutInTransit,
  type SweepChannel,
} from '.';

/** Slow and by the definitions: every way to explain a small world is gone through, and the engine is held against it. */

const HABIT = { shortestLag: 0, longestLag: 6, longestSpan: 4 };
const FIRST = 20_400;
/** Odds, in natural logarithms, that the engine calls probable: never surer than one wrong answer in six hundred. */
const RUNS = { numRuns: 400, seed: 7 };

interface Receipt {
  readonly day: number;
  readonly net: number;
  readonly taken: boolean;
  /** The payout it was really in. */
  readonly of: number;
}
interface Line {
  readonly day: number;
  readonly amount: number;
  /** The payout it really is; -1 for other money. */
  readonly of: number;
}
type Run = readonly [from: number, to: number];

/** Every run of free receipts, within one part between known payouts, that a line may be by its day and its amount. */
function runsOf(receipts: readonly Receipt[], line: Line): Run[] {
  const runs: Run[] = [];
  for (let from = 0; from < receipts.length; from++) {
    let sum = 0;
    let between = 0;
    for (let to = from; to < receipts.length; to++) {
      const { day, net, taken } = receipts[to]!;
      if (taken) {
        between++;
        continue;
      }
      // Two known receipts in a row are a payout, and part what is before from what is behind.
      if (to > from && between >= 2) break;
      if (receipts[from]!.taken) break;
      between = 0;
      sum += net;
      const lag = line.day - day;
      const inTime =
        lag >= HABIT.shortestLag && lag <= HABIT.longestLag && day - receipts[from]!.day <= HABIT.longestSpan;
      if (sum === line.amount && inTime) runs.push([from, to]);
    }
  }
  return runs;
}

/** Whether a run is all that is free between two known payouts, or between one and the beginning. */
function isWholePart(receipts: readonly Receipt[], [from, to]: Run): boolean {
  const known = (at: number, step: 1 | -1) => receipts[at]?.taken === true && receipts[at + step]?.taken === true;
  const beginning = receipts.slice(0, from).every(({ taken }) => taken);
  return (beginning || known(from - 1, -1)) && known(to + 1, 1);
}

/** Payouts one behind the other, each of a few receipts, some of them known; amounts of a wide range, or so few that runs collide. */
const world = fc.record({
  widest: fc.constantFrom(4, 40, 90_000),
  payouts: fc.array(
    fc.record({
      nets: fc.array(fc.nat(), { minLength: 1, maxLength: 3 }),
      known: fc.boolean(),
      lag: fc.constantFrom(1, 1, 1, 2),
    }),
    { minLength: 3, maxLength: 7 },
  ),
  missing: fc.option(fc.nat(20)),
  stray: fc.option(fc.record({ day: fc.nat(8), amount: fc.integer({ min: 1, max: 20 }) })),
});

test('a run that is laid is one by the definitions; proven is all between known payouts, one run for one line, and the truth', () => {
  const seen = { laid: 0, proven: 0 };
  fc.assert(
    fc.property(world, ({ widest, payouts, missing, stray }) => {
      const all = payouts.flatMap(({ nets, known }, day) =>
        nets.map((net): Receipt => ({ day: FIRST + day, net: 1 + (net % widest), taken: known, of: day })),
      );
      const lines: Line[] = payouts.flatMap(({ nets, known, lag }, day) => {
        const amount = nets.reduce((sum, net) => sum + 1 + (net % widest), 0);
        return known ? [] : [{ day: FIRST + day + lag, amount, of: day }];
      });
      if (stray) lines.push({ day: FIRST + stray.day, amount: stray.amount, of: -1 });
      // One that the books do not have: what it was part of must not be made to fit.
      const receipts = missing === null ? all : all.filter((_, at) => at !== missing % all.length);
      if (receipts.length === 0) return;
      const channel: SweepChannel = {
        name: '',
        receipts: {
          count: receipts.length,
          id: Int32Array.from(receipts, (_, at) => at),
          day: Int32Array.from(receipts, (one) => one.day),
          net: Float64Array.from(receipts, (one) => one.net),
          taken: Uint8Array.from(receipts, (one) => (one.taken ? 1 : 0)),
        },
        habit: HABIT,
        facts: null,
        feesKnown: true,
      };
      const set = new LineSet(lines.map((line, id) => ({ id, ...line })));
      const choices = lines.map((line) => runsOf(receipts, line));
      for (const { line, certainty, laid } of proposeSweeps(set, channel).proposals) {
        if (laid === null) continue;
        const ids = laid.parts.map(({ id }) => id);
        expect(ids.reduce((sum, id) => sum + receipts[id]!.net, 0)).toBe(lines[line]!.amount);
        expect(ids.some((id) => receipts[id]!.taken)).toBe(false);
        if (laid.reasons.some(({ kind }) => kind === 'held-back' || kind === 'came-late')) continue;
        seen.laid++;
        const run = choices[line]!.find(([from, to]) => from === ids[0] && to === ids.at(-1));
        expect(run).toBeDefined();
        if (certainty !== 'proven') continue;
        seen.proven++;
        expect(isWholePart(receipts, run!)).toBe(true);
        expect(choices[line]).toEqual([run]);
        expect(choices.filter((runs) => runs.some(([from, to]) => from === run![0] && to === run![1]))).toHaveLength(1);
        // With a receipt missing from the books, and a handful of amounts, what is left may come to another deposit by accident.
        if (missing !== null && widest < 1_000) continue;
        expect(ids.map((id) => receipts[id]!.of)).toEqual(ids.map(() => lines[line]!.of));
      }
    }),
    RUNS,
  );
  expect(seen.laid).toBeGreaterThan(60);
  expect(seen.proven).toBeGreaterThan(20);
});

describe('payouts', () => {
  const calendar = { holidays: new Set<never>() };
  const habit = { slack: 1, farthest: 6 };
  const small = fc.record({
    lines: fc.array(fc.record({ day: fc.nat(6), amount: fc.constantFrom(100, 200) }), { maxLength: 4 }),
    payouts: fc.array(fc.record({ day: fc.nat(6), net: fc.constantFrom(100, 200) }), { maxLength: 4 }),
  });
  /** A Monday: seven days on are still before the weekend after next. */
  const at = (day: number) => dayOfNumber(FIRST - (FIRST % 7) + 4 + day);

  test('proven is the only pair there is; the only way is the only perfect pairing at the usual time', () => {
    let pairings = 0;
    fc.assert(
      fc.property(small, ({ lines: days, payouts: nets }) => {
        const lines = days.map(({ day, amount }, id): LineToExplain => ({
          id,
          account: 1,
          date: at(day),
          amount: minor(amount),
          keys: new Set(),
        }));
        const payouts = nets.map(({ day, net }, id): PayoutInTransit => ({
          id,
          reference: `P-${id}`,
          key: `P${id}`,
          left: at(day),
          net: minor(net),
          account: 1,
          usualLag: 1,
        }));
        const lagOf = (line: LineToExplain, payout: PayoutInTransit) => workingDays(payout.left, line.date);
        const fits = (line: LineToExplain, payout: PayoutInTransit) =>
          line.amount === payout.net && lagOf(line, payout) >= 0 && lagOf(line, payout) <= habit.farthest;
        const usual = (line: LineToExplain, payout: PayoutInTransit) =>
          fits(line, payout) && Math.abs(lagOf(line, payout) - 1) <= habit.slack;
        for (const { line: id, certainty, laid } of proposePayouts(lines, payouts, calendar, habit)) {
          const line = lines[id]!;
          const own = payouts.filter((payout) => fits(line, payout));
          if (laid === null) {
            if (own.length === 0) expect(certainty).toBe('none');
            continue;
          }
          const payout = payouts[laid.parts[0]!.id]!;
          expect(fits(line, payout)).toBe(true);
          if (laid.reasons.some(({ kind }) => kind === 'only-one')) {
            expect([own.length, lines.filter((other) => fits(other, payout)).length]).toEqual([1, 1]);
            expect(certainty).toBe(usual(line, payout) ? 'proven' : 'probable');
          } else {
            pairings++;
            // Only what hangs together with this line by pairs at their usual time is weighed.
            const alike = (list: readonly LineToExplain[]) => list.filter((other) => other.amount === line.amount);
            const part = componentOf(line, alike(lines), payouts, usual);
            expect(perfect(part.lines, part.payouts, usual).map((way) => way.get(line.id))).toEqual([payout.id]);
          }
        }
      }),
      { ...RUNS, numRuns: 2_000 },
    );
    expect(pairings).toBeGreaterThan(20);
  });
});

function workingDays(from: ReturnType<typeof plainDate>, to: ReturnType<typeof plainDate>): number {
  const sign = from <= to ? 1 : -1;
  let [low, high] = from <= to ? [from, to] : [to, from];
  let count = 0;
  while (low < high) {
    low = dayOfNumber(Math.round(Date.parse(low) / 86_400_000) + 1);
    const weekday = new Date(low).getUTCDay();
    if (weekday !== 0 && weekday !== 6) count++;
  }
  high = low;
  return sign * count;
}

type Fits = (line: LineToExplain, payout: PayoutInTransit) => boolean;

function componentOf(
  first: LineToExplain,
  lines: readonly LineToExplain[],
  payouts: readonly PayoutInTransit[],
  fits: Fits,
) {
  const [inLines, inPayouts] = [new Set([first]), new Set<PayoutInTransit>()];
  for (let grew = true; grew;) {
    const before = inLines.size + inPayouts.size;
    for (const line of lines) {
      for (const payout of payouts) {
        if (!fits(line, payout) || !(inLines.has(line) || inPayouts.has(payout))) continue;
        inLines.add(line);
        inPayouts.add(payout);
      }
    }
    grew = inLines.size + inPayouts.size > before;
  }
  return { lines: [...inLines], payouts: [...inPayouts] };
}

/** Every way to give each line a payout of its own and leave none over. */
function perfect(
  lines: readonly LineToExplain[],
  payouts: readonly PayoutInTransit[],
  fits: Fits,
): Map<number, number>[] {
  if (lines.length !== payouts.length) return [];
  const [line, ...rest] = lines;
  if (!line) return [new Map()];
  return payouts
    .filter((payout) => fits(line, payout))
    .flatMap((payout) =>
      perfect(
        rest,
        payouts.filter((other) => other !== payout),
        fits,
      ).map((way) => new Map([...way, [line.id, payout.id]])),
    );
}
