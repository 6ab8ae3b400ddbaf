import type { PlainDate } from '@/core/calendar';
import { MAP_LAYERS, type Decided, type MapLayer } from '@/core/map';
import { add, type Minor } from '@/core/money';
import type { Progress } from '../command';
import type { Reading } from '../store';
import { BooksMap } from './load-map';
import { mapSubjects } from '../receipts/load-receipts';
import { asks, pastFrom, pastReceipts } from './past';

/** What is decided, as the page counts it: the two that say what a receipt earns, and where its fee goes. */
export const COUNTED = ['income', 'taxCode', 'fees'] as const;
export type Counted = (typeof COUNTED)[number];

/** How much fell to one layer, or to nothing. Sizes of gross, minor units. */
export interface LayerShare {
  readonly channel: number;
  readonly field: Counted;
  readonly layer: MapLayer | 'nothing';
  readonly count: number;
  readonly amount: Minor;
}

/** How much each rule decided, whatever of. */
export interface RuleShare {
  readonly rule: number;
  readonly count: number;
  readonly amount: Minor;
}

/** Money whose income no rule, item or payer decides, by what its text says. */
export interface FallenThrough {
  readonly channel: number;
  readonly text: string;
  readonly count: number;
  readonly amount: Minor;
}

export interface LayerReport {
  readonly from: PlainDate;
  readonly receipts: number;
  readonly shares: readonly LayerShare[];
  readonly rules: readonly RuleShare[];
  /** The largest of what falls through. */
  readonly fallen: readonly FallenThrough[];
}

/** Texts told apart, and shown: more are gathered under no text. */
const TEXTS_KEPT = 5_000;
const FALLEN_LISTED = 8;

interface Tally {
  count: number;
  amount: Minor;
}

function take<K>(tallies: Map<K, Tally>, key: K, amount: Minor): void {
  const tally = tallies.get(key);
  if (tally === undefined) tallies.set(key, { count: 1, amount });
  else {
    tally.count++;
    tally.amount = add(tally.amount, amount);
  }
}

function takeText(fallen: Map<string, Tally>, channel: number, text: string, size: Minor): void {
  const key = JSON.stringify([channel, text.trim().slice(0, 80)]);
  take(fallen, fallen.has(key) || fallen.size < TEXTS_KEPT ? key : JSON.stringify([channel, '']), size);
}

/** How much of the last twelve months' money each layer of the map decides as it stands, channel by channel. */
export async function layerReport(db: Reading, today: PlainDate, progress: Progress): Promise<LayerReport> {
  const map = await BooksMap.load(db);
  const from = pastFrom(today);
  const shares = new Map<string, Tally>();
  const rules = new Map<number, Tally>();
  const fallen = new Map<string, Tally>();
  let receipts = 0;
  for await (const batch of pastReceipts(db, from, progress)) {
    receipts += batch.length;
    for (const receipt of batch.flatMap(mapSubjects)) {
      const decision = map.decide(receipt);
      const size = Math.abs(receipt.gross) as Minor;
      const decided = new Set<number>();
      for (const field of COUNTED) {
        if (!asks(receipt, field)) continue;
        const by: Decided | null = decision[field];
        take(shares, `${receipt.channel}|${field}|${by?.layer ?? 'nothing'}`, size);
        if (by?.rule != null) decided.add(by.rule);
        const through = field === 'income' && (by === null || by.layer === 'channel' || by.layer === 'books');
        if (through) takeText(fallen, receipt.channel, receipt.text, size);
      }
      for (const by of decision.dimensions.values()) if (by.rule !== null) decided.add(by.rule);
      for (const rule of decided) take(rules, rule, size);
    }
  }
  const order = (layer: string) => [...MAP_LAYERS, 'nothing'].indexOf(layer as MapLayer);
  return {
    from,
    receipts,
    shares: [...shares]
      .map(([key, tally]) => {
        const [channel, field, layer] = key.split('|') as [string, Counted, MapLayer];
        return { channel: Number(channel), field, layer, ...tally };
      })
      .sort((a, b) => a.channel - b.channel || a.field.localeCompare(b.field) || order(a.layer) - order(b.layer)),
    fallen: [...fallen]
      .map(([key, tally]) => {
        const [channel, text] = JSON.parse(key) as [number, string];
        return { channel, text, ...tally };
      })
      .sort((a, b) => b.amount - a.amount)
      .slice(0, FALLEN_LISTED),
    rules: [...rules].map(([rule, tally]) => ({ rule, ...tally })).sort((a, b) => a.rule - b.rule),
  };
}
