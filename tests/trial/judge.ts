import type { PlainDate } from '@/core/calendar';
import { feeOf, FeeSteps, learnSteps } from '@/core/channels';
import {
  dayOfNumber,
  LineSet,
  proposePayouts,
  proposeSweeps,
  referenceKey,
  referenceKeysIn,
  type Certainty,
  type LineToExplain,
  type PayoutInTransit,
  type ProposedPart,
} from '@/core/matching';
import { minor, type BasisPoints, type Minor } from '@/core/money';
import type { TrialWorld } from './world';

const CALENDAR = { holidays: new Set<never>() };
const HABIT = { slack: 1, farthest: 15 };
const SWEEPS = { shortestLag: 0, longestLag: 9, longestSpan: 6 };
const BATCH = 2_000;

/** What the books have of a world, as the engine takes it. */
function booksOf(world: TrialWorld) {
  const lags = world.channels.map((_, n) => {
    const lags = world.lines.flatMap((line) =>
      line.payout >= 0 && world.payouts[line.payout]!.channel === n ? [line.day - world.payouts[line.payout]!.day] : [],
    );
    return lags.sort((a, b) => a - b)[lags.length >> 2] ?? 1;
  });
  // What is not told with its receipts is not in the books.
  const payouts: PayoutInTransit[] = world.payouts.flatMap((payout, index) =>
    payout.told
      ? [
          {
            id: index + 1,
            reference: payout.id,
            key: referenceKey(payout.id),
            left: dayOfNumber(payout.day),
            net: minor(payout.net),
            account: world.channels[payout.channel]!.account,
            usualLag: lags[payout.channel]!,
          },
        ]
      : [],
  );
  const receipts = world.channels.map((channel) => {
    const rows = Int32Array.from([...channel.gross.keys()].filter((at) => channel.here[at] === 1));
    const fee = feesInBooks(world, channel, rows);
    return {
      rows,
      columns: {
        count: rows.length,
        id: Int32Array.from(rows),
        day: rows.map((at) => channel.day[at]!),
        net: Float64Array.from(rows, (at) => channel.gross[at]! - fee(at)),
        taken: Uint8Array.from(rows, (at) => channel.told[at]!),
      },
    };
  });
  return { payouts, receipts };
}

/**
 * The fees that the books know: what the channel says, else what the schedule that was agreed comes to, and from a change on what
 * its announced payouts teach.
 */
function feesInBooks({ shape, payouts }: TrialWorld, channel: TrialWorld['channels'][number], rows: Int32Array) {
  if (shape.feesStated) return (at: number) => channel.fee[at]!;
  const sums = new Map<number, { receipts: { day: PlainDate; gross: Minor }[]; gross: number }>();
  for (const at of rows) {
    if (channel.told[at] === 0) continue;
    const of = sums.get(channel.payout[at]!) ?? { receipts: [], gross: 0 };
    sums.set(channel.payout[at]!, of);
    of.receipts.push({ day: dayOfNumber(channel.day[at]!), gross: minor(channel.gross[at]!) });
    of.gross += channel.gross[at]!;
  }
  const agreed = { rate: channel.rate as BasisPoints, fixed: minor(channel.fixed) };
  const charged = [...sums].map(([payout, { receipts, gross }]) => ({
    receipts,
    fee: minor(gross - payouts[payout]!.net),
  }));
  const takes = new FeeSteps(
    agreed,
    learnSteps(charged, agreed).map((step) => ({ ...step, learnt: true })),
  );
  return (at: number) => feeOf(minor(channel.gross[at]!), takes.on(dayOfNumber(channel.day[at]!)));
}

export type TrialKind = 'id in text' | 'announced, no id' | 'unknown run' | 'other money';

/** How lines of one kind were told: as often as they are. */
export interface TrialCount {
  lines: number;
  proven: number;
  probable: number;
  wrong: number;
  wrongProven: number;
  /** Of the wrong ones those that only swap receipts of equal amount. */
  swaps: number;
  open: number;
}

const kindOf = (world: TrialWorld, line: TrialWorld['lines'][number]): TrialKind => {
  if (line.payout < 0) return 'other money';
  const payout = world.payouts[line.payout]!;
  if (!payout.told) return 'unknown run';
  return line.text.includes(payout.id) ? 'id in text' : 'announced, no id';
};

/** Goes the engine's way: payouts by id, net and lag, amount by amount; then runs of receipts, channel by channel. */
export function explainTrial(world: TrialWorld) {
  const { payouts, receipts } = booksOf(world);
  const began = performance.now();
  const answers = new Map<number, { certainty: Certainty; parts: readonly ProposedPart[] | null; channel: number }>();
  const sorted = [...world.lines].sort((a, b) => a.amount - b.amount);
  const byNet = [...payouts].sort((a, b) => a.net - b.net);
  const byKey = new Map(payouts.map((payout) => [payout.key, payout]));
  let at = 0;
  for (let from = 0; from < sorted.length;) {
    let to = Math.min(sorted.length, from + BATCH);
    while (to < sorted.length && sorted[to]!.amount === sorted[to - 1]!.amount) to++;
    const lines: LineToExplain[] = sorted.slice(from, to).map(({ id, account, day, amount, text }) => ({
      id,
      account,
      date: dayOfNumber(day),
      amount: minor(amount),
      keys: referenceKeysIn(text),
    }));
    while (at < byNet.length && byNet[at]!.net < lines[0]!.amount) at++;
    let end = at;
    while (end < byNet.length && byNet[end]!.net <= lines.at(-1)!.amount) end++;
    const named = lines.flatMap(({ keys }) => [...keys].flatMap((key) => byKey.get(key) ?? []));
    const pool = [...new Set([...byNet.slice(at, end), ...named])];
    for (const { line, certainty, laid } of proposePayouts(lines, pool, CALENDAR, HABIT)) {
      answers.set(line, { certainty, parts: laid?.parts ?? null, channel: -1 });
    }
    from = to;
  }
  const byAccount = [0, 1, 2].map(
    (account) =>
      new LineSet(world.lines.filter((line) => line.account === account && answers.get(line.id)!.certainty === 'none')),
  );
  world.channels.forEach(({ account }, channel) => {
    const { columns } = receipts[channel]!;
    const of = { name: '', receipts: columns, habit: SWEEPS, facts: null, feesKnown: world.shape.feesStated };
    for (const { line, certainty, laid } of proposeSweeps(byAccount[account]!, of).proposals) {
      const before = answers.get(line)!;
      const better = laid && (before.certainty === 'none' || before.certainty === 'open');
      // Two channels that each have a run of the amount: neither is sure.
      if (laid && before.parts && before.channel >= 0) answers.set(line, { certainty: 'open', parts: null, channel });
      else if (better) answers.set(line, { certainty, parts: laid.parts, channel });
      else if (before.certainty === 'none') answers.set(line, { certainty, parts: null, channel });
    }
  });
  return { answers, took: performance.now() - began };
}

/** What the engine says of each line against what is true. */
export function judgeTrial(
  world: TrialWorld,
  answers: ReturnType<typeof explainTrial>['answers'],
): Map<TrialKind, TrialCount> {
  const counts = new Map<TrialKind, TrialCount>();
  for (const line of world.lines) {
    const kind = kindOf(world, line);
    const count: TrialCount = counts.get(kind) ?? {
      lines: 0,
      proven: 0,
      probable: 0,
      wrong: 0,
      wrongProven: 0,
      swaps: 0,
      open: 0,
    };
    counts.set(kind, count);
    count.lines++;
    const { certainty, parts, channel } = answers.get(line.id)!;
    if (certainty === 'open') count.open++;
    if (parts === null) continue;
    const receipts = parts.filter(({ kind: of }) => of === 'receipt');
    const of = world.channels[channel];
    const right =
      receipts.length === 0
        ? parts[0]!.id - 1 === line.payout
        : receipts.every(({ id }) => of!.payout[id] === line.payout);
    if (right) count[certainty === 'proven' ? 'proven' : 'probable']++;
    else {
      count.wrong++;
      if (certainty === 'proven') count.wrongProven++;
      if (isSwap(world, line.payout, channel, receipts)) count.swaps++;
    }
  }
  return counts;
}

/** Whether an answer has receipts of the same amounts as the truth, only not the same ones. */
function isSwap(world: TrialWorld, payout: number, channel: number, parts: readonly ProposedPart[]): boolean {
  if (channel < 0 || payout < 0 || world.payouts[payout]!.channel !== channel) return false;
  const of = world.channels[channel]!;
  const nets = (rows: readonly number[]) =>
    rows
      .map((at) => of.gross[at]! - of.fee[at]!)
      .sort((a, b) => a - b)
      .join();
  return nets(parts.map(({ id }) => id)) === nets([...of.payout.keys()].filter((at) => of.payout[at] === payout));
}
