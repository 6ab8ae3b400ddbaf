import { Chance } from '@/standins/chance';

/** How the receipts of an invented world behave: what makes matching easy or hard. */
export interface TrialShape {
  readonly seed: number;
  readonly channels: number;
  /** Days of the calendar that the world lasts. */
  readonly days: number;
  /** Receipts a channel and day. */
  readonly density: number;
  /** Of a hundred payouts: those whose id the channel states with their receipts, and of these those whose id the bank has. */
  readonly announced: number;
  readonly idInText: number;
  /** Of a hundred receipts: held back to the next payout; not in the books at all; with another amount in the books. */
  readonly heldBack: number;
  readonly missing: number;
  readonly wrong: number;
  /** Of a hundred receipts: of one of a few equal prices, as subscriptions are. */
  readonly equal: number;
  /** Whether payouts cut within a day and not at its end. */
  readonly cutsWithinDay: boolean;
  /** Of a hundred lines: money that is no channel's. */
  readonly noise: number;
  /** Of a hundred ids in the bank's text: with one letter wrong. */
  readonly typos: number;
  /** Whether the channel says what it took of each receipt; else the books go by the schedule they were told. */
  readonly feesStated: boolean;
  /** What the channel takes more from the middle of the world on, basis points, without saying so. */
  readonly feeChange: number;
}

export const PLAIN_SHAPE: TrialShape = {
  seed: 1,
  channels: 4,
  days: 90,
  density: 40,
  announced: 60,
  idInText: 70,
  heldBack: 0,
  missing: 0,
  wrong: 0,
  equal: 20,
  cutsWithinDay: false,
  noise: 10,
  typos: 0,
  feesStated: true,
  feeChange: 0,
};

/** One channel's receipts in its own order. Amounts in minor units, days since 1970-01-01. */
export interface TrialChannel {
  readonly account: number;
  readonly day: Int32Array;
  /** Seconds of the day. */
  readonly second: Int32Array;
  readonly gross: Float64Array;
  readonly fee: Float64Array;
  /** The payout that really carried it, and whether the channel says so; -1 where it was not paid out yet. */
  readonly payout: Int32Array;
  readonly told: Uint8Array;
  /** 0 where the books do not have it. */
  readonly here: Uint8Array;
  readonly rate: number;
  readonly fixed: number;
}

export interface TrialPayout {
  readonly id: string;
  readonly channel: number;
  readonly day: number;
  readonly net: number;
  readonly told: boolean;
}

export interface TrialLine {
  readonly id: number;
  readonly account: number;
  readonly day: number;
  readonly amount: number;
  readonly text: string;
  /** The payout that it really is; -1 for money that is no channel's. */
  readonly payout: number;
}

export interface TrialWorld {
  readonly shape: TrialShape;
  readonly channels: readonly TrialChannel[];
  readonly payouts: readonly TrialPayout[];
  readonly lines: readonly TrialLine[];
}

/** 2026-01-05, a Monday. */
export const FIRST_DAY = 20_458;
const PRICES = [999, 1499, 2500, 4900, 12_000];
const RATES = [
  [140, 0],
  [190, 25],
  [250, 30],
  [100, 20],
] as const;

const isWeekend = (day: number) => (day - FIRST_DAY) % 7 >= 5;
function workingDaysOn(day: number, count: number): number {
  let at = day;
  for (let left = count; left > 0 || isWeekend(at);) {
    at++;
    if (!isWeekend(at)) left--;
  }
  return at;
}

const LETTERS = 'ABCDEFGHJKLMNPQRSTUVWXYZ23456789';
const code = (chance: Chance, length: number) => Array.from({ length }, () => LETTERS[chance.int(0, 31)]!).join('');

/** The same id with one of its characters wrong, as a hand or a scanner leaves it. */
function misspelt(chance: Chance, id: string): string {
  const at = chance.int(2, id.length - 1);
  return id.slice(0, at) + LETTERS[chance.int(0, 31)]! + id.slice(at + 1);
}

function amountOf(chance: Chance, equal: number): number {
  if (chance.in100(equal)) return chance.pick(PRICES);
  // Many small, few large, as sales are.
  const size = chance.int(0, 3);
  return chance.int(300, [2_500, 6_000, 18_000, 60_000][size]!);
}

function channelOf(chance: Chance, shape: TrialShape, account: number): TrialChannel {
  const count = shape.days * shape.density;
  const [rate, fixed] = chance.pick(RATES);
  const channel: TrialChannel = {
    account,
    day: new Int32Array(count),
    second: new Int32Array(count),
    gross: new Float64Array(count),
    fee: new Float64Array(count),
    payout: new Int32Array(count).fill(-1),
    told: new Uint8Array(count),
    here: new Uint8Array(count).fill(1),
    rate,
    fixed,
  };
  for (let day = 0; day < shape.days; day++) {
    const seconds = Array.from({ length: shape.density }, () => chance.int(8 * 3600, 20 * 3600)).sort((a, b) => a - b);
    for (const [n, second] of seconds.entries()) {
      const at = day * shape.density + n;
      const gross = amountOf(chance, shape.equal);
      channel.day[at] = FIRST_DAY + day;
      channel.second[at] = second;
      channel.gross[at] = gross;
      const more = day * 2 >= shape.days ? shape.feeChange : 0;
      channel.fee[at] = Math.round((gross * (rate + more)) / 10_000) + fixed;
      if (chance.in100(shape.missing * 10) && chance.in100(10)) channel.here[at] = 0;
    }
  }
  return channel;
}

/** A world from a shape and its seed: receipts, the payouts that carried them, the bank's lines, and the truth of each. */
export function trialWorld(shape: TrialShape): TrialWorld {
  const chance = new Chance(shape.seed);
  const channels: TrialChannel[] = [];
  const payouts: TrialPayout[] = [];
  const lines: Omit<TrialLine, 'id'>[] = [];
  for (let n = 0; n < shape.channels; n++) {
    const channel = channelOf(chance, shape, n % 3);
    channels.push(channel);
    const usual = chance.int(1, 3);
    let from = 0;
    let held: number[] = [];
    for (let day = 1; day <= shape.days; day++) {
      if (isWeekend(FIRST_DAY + day)) continue;
      // All up to the end of yesterday, or up to an hour of it.
      let to = Math.min(day * shape.density, shape.days * shape.density);
      if (shape.cutsWithinDay) to = Math.max(from, to - chance.int(0, Math.floor(shape.density / 3)));
      const rows = [...held];
      held = [];
      for (let at = from; at < to; at++) {
        if (chance.in100(shape.heldBack)) held.push(at);
        else rows.push(at);
      }
      from = to;
      if (rows.length === 0) continue;
      const told = chance.in100(shape.announced);
      const id = `P${n}${code(chance, 7)}`;
      const net = rows.reduce((sum, at) => sum + channel.gross[at]! - channel.fee[at]!, 0);
      for (const at of rows) {
        channel.payout[at] = payouts.length;
        channel.told[at] = told ? 1 : 0;
      }
      const left = FIRST_DAY + day;
      const late = chance.in100(8) ? chance.int(1, 2) : 0;
      const inText = told && chance.in100(shape.idInText);
      const shown = chance.in100(shape.typos) ? misspelt(chance, id) : id;
      lines.push({
        account: channel.account,
        day: workingDaysOn(left, usual - 1 + late),
        amount: net,
        text: inText
          ? `CREDIT TRANSFER REF ${shown} CARDS ${code(chance, 4)}`
          : `CREDIT TRANSFER CARDS ${code(chance, 4)}`,
        payout: payouts.length,
      });
      payouts.push({ id, channel: n, day: left, net, told });
    }
  }
  // What a channel says wrongly, or the books do not have, changes nothing of what the bank got.
  for (const channel of channels) {
    for (let at = 0; at < channel.gross.length; at++) {
      if (shape.wrong > 0 && chance.in100(shape.wrong * 10) && chance.in100(10))
        channel.gross[at]! += chance.pick([-100, 100, 990, -90]);
    }
  }
  const noise = Math.floor((lines.length * shape.noise) / 100);
  for (let n = 0; n < noise; n++) {
    lines.push({
      account: chance.int(0, 2),
      day: FIRST_DAY + chance.int(1, shape.days),
      amount: chance.int(500, 400_000),
      text: `TRANSFER ${code(chance, 6)}`,
      payout: -1,
    });
  }
  lines.sort((a, b) => a.day - b.day || a.account - b.account || a.amount - b.amount);
  return { shape, channels, payouts, lines: lines.map((line, index) => ({ id: index + 1, ...line })) };
}
