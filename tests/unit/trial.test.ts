import { judgeOwed, type OwedCount } from '../trial/owed-judge';
import { owedWorld, PLAIN_OWED, type OwedPayment, type OwedShape } from '../trial/owed-world';
import { explainTrial, judgeTrial, type TrialCount, type TrialKind } from '../trial/judge';
import { PLAIN_SHAPE, trialWorld, type TrialShape } from '../trial/world';

const SEEDS = [31, 32];

function told(shape: Partial<TrialShape>): Map<TrialKind, TrialCount> {
  const all = new Map<TrialKind, TrialCount>();
  for (const seed of SEEDS) {
    const world = trialWorld({ ...PLAIN_SHAPE, channels: 3, days: 60, ...shape, seed });
    for (const [kind, count] of judgeTrial(world, explainTrial(world).answers)) {
      const sum = all.get(kind);
      if (!sum) all.set(kind, count);
      else for (const key of Object.keys(count) as (keyof TrialCount)[]) sum[key] += count[key];
    }
  }
  return all;
}

const shareOf = (counts: ReadonlyMap<TrialKind, TrialCount>, kind: TrialKind) => {
  const { lines, proven, probable } = counts.get(kind)!;
  return (proven + probable) / lines;
};

describe('deposits of worlds whose truth is known', () => {
  test.each([
    ['ten a day', { density: 10 }, 0.9],
    ['a hundred a day, cut within it', { density: 100, cutsWithinDay: true }, 0.8],
    ['three hundred a day, nothing announced', { density: 300, announced: 0, cutsWithinDay: true, days: 40 }, 0.6],
    ['a third of the lines is other money', { noise: 50 }, 0.8],
    ['typos in a fifth of the ids', { typos: 20 }, 0.8],
    ['fees by a schedule, not stated', { feesStated: false, density: 20 }, 0.8],
    ['fees that change midway, not stated', { feesStated: false, feeChange: 30, density: 20 }, 0.8],
    ['five prices only', { equal: 100, cutsWithinDay: true, density: 50 }, 0.6],
    ['one in a hundred held back', { heldBack: 1, density: 20 }, 0.5],
    ['one in a hundred missing from the books', { missing: 1, density: 20, cutsWithinDay: true }, 0.5],
    ['one in a hundred with a wrong amount', { wrong: 1, density: 20, cutsWithinDay: true }, 0.5],
  ] as const)('%s: nothing wrong is proven, runs are found, other money is left alone', (_what, shape, recall) => {
    const counts = told(shape);
    for (const [kind, { wrong, swaps, wrongProven }] of counts) {
      expect({ kind, wrongProven, wrong: wrong - swaps }).toEqual({ kind, wrongProven: 0, wrong: 0 });
    }
    expect(shareOf(counts, 'unknown run')).toBeGreaterThan(recall);
    expect(counts.get('other money')).toMatchObject({ proven: 0, probable: 0, wrong: 0 });
    if (counts.has('id in text')) expect(shareOf(counts, 'id in text')).toBeGreaterThanOrEqual(0.995);
    if (counts.has('announced, no id')) expect(shareOf(counts, 'announced, no id')).toBeGreaterThanOrEqual(0.95);
  });
});

function owed(shape: Partial<OwedShape>): Map<OwedPayment['kind'], OwedCount> {
  const counts = new Map<OwedPayment['kind'], OwedCount>();
  for (const seed of SEEDS) judgeOwed(owedWorld({ ...PLAIN_OWED, ...shape, seed }), counts);
  return counts;
}

describe('payments of invoices whose truth is known', () => {
  test.each([
    ['as it comes', {}],
    ['equal prices only', { equal: 100 }],
    ['a fifth of the numbers with a typo', { typos: 20 }],
    ['half of the numbers bare', { bare: 50 }],
    ['no numbers', { numbered: 0 }],
    ['few payers, much owed by each', { payers: 8 }],
  ] as const)('%s: nothing wrong is proven, and one in a thousand of what is probable at most', (_what, shape) => {
    const counts = [...owed(shape).values()];
    const of = (key: keyof OwedCount) => counts.reduce((sum, count) => sum + count[key], 0);
    expect(of('wrongProven')).toBe(0);
    expect(of('wrong') - of('swaps')).toBeLessThanOrEqual(Math.ceil(of('probable') / 1000));
    expect(of('payments')).toBeGreaterThan(300);
  });

  test('a number in the text settles what it names, other money nothing', () => {
    const counts = owed({});
    const numbers = counts.get('numbers')!;
    expect((numbers.proven + numbers.probable) / numbers.payments).toBeGreaterThanOrEqual(0.99);
    expect(counts.get('other money')).toMatchObject({ proven: 0, probable: 0, wrong: 0 });
  });

  test('where nothing can be told the truth is nearly always among what is shown', () => {
    const name = owed({ equal: 100 }).get('name')!;
    expect(name.shown / name.open).toBeGreaterThan(0.9);
  });
});
