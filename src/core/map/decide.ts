import type { AccountId } from '../ledger';
import type { Landing, MapField } from './rule';
import { RuleIndex } from './rule-index';
import type { MapSubject } from './subject';

/** The layers of the map, the most specific first. */
export const MAP_LAYERS = ['receipt', 'rule', 'item', 'payer', 'channel', 'books'] as const;
export type MapLayer = (typeof MAP_LAYERS)[number];

/** A layer's own word on where things land, and its name: the rule's, the item's code, the channel's … */
export interface LayerLanding {
  readonly name: string;
  readonly landing: Landing;
}

/** What stands behind the rules for a subject. A layer that has nothing to say is null. */
export interface Layers {
  readonly receipt: Landing | null;
  readonly item: LayerLanding | null;
  readonly payer: LayerLanding | null;
  readonly channel: LayerLanding | null;
  readonly books: LayerLanding;
}

/** One decision with where it came from. `rule` is the rule's id where a rule decided. */
export interface Decided<T = number> {
  readonly value: T;
  readonly layer: MapLayer;
  readonly name: string;
  readonly rule: number | null;
}

/** Where one line of a receipt lands. A field that no layer decides is null. */
export interface Decision {
  readonly income: Decided<AccountId> | null;
  readonly taxCode: Decided | null;
  readonly deposit: Decided<AccountId> | null;
  readonly fees: Decided<AccountId> | null;
  /** By dimension, in the order of the dimensions' ids. */
  readonly dimensions: ReadonlyMap<number, Decided>;
}

/**
 * Decides where a line lands: each field by the most specific layer that has a word on it, the rules in their order.
 * The answer depends on nothing but the map and the subject.
 */
export class AccountMap {
  private readonly ruled: readonly MapField[];

  constructor(private readonly rules: RuleIndex) {
    this.ruled = [...rules.fields].filter((field) => field.startsWith('dimension:'));
  }

  decide(subject: MapSubject, layers: Layers): Decision {
    this.rules.look(subject);
    return {
      income: this.field('income', layers) as Decided<AccountId> | null,
      taxCode: this.field('taxCode', layers),
      deposit: this.field('deposit', layers) as Decided<AccountId> | null,
      fees: this.field('fees', layers) as Decided<AccountId> | null,
      dimensions: this.dimensions(layers),
    };
  }

  private dimensions(layers: Layers): Decision['dimensions'] {
    const { receipt, item, payer, channel, books } = layers;
    const said = [receipt, item?.landing, payer?.landing, channel?.landing, books.landing];
    // Most books have no dimension at all: nothing is made for each receipt then.
    if (this.ruled.length === 0 && said.every((landing) => !landing?.dimensions)) return NO_DIMENSIONS;
    const fields = new Set(this.ruled);
    for (const landing of said) {
      for (const id of Object.keys(landing?.dimensions ?? {})) fields.add(`dimension:${Number(id)}`);
    }
    const decided: [number, Decided][] = [];
    for (const field of fields) {
      const by = this.field(field, layers);
      if (by) decided.push([Number(field.slice('dimension:'.length)), by]);
    }
    return new Map(decided.sort(([one], [other]) => one - other));
  }

  private field(field: MapField, layers: Layers): Decided | null {
    const own = layers.receipt && valueOf(layers.receipt, field);
    if (own != null) return { value: own, layer: 'receipt', name: '', rule: null };
    const rule = this.rules.deciderOf(field);
    if (rule) return { value: valueOf(rule.landing, field)!, layer: 'rule', name: rule.name, rule: rule.id };
    for (const layer of ['item', 'payer', 'channel', 'books'] as const) {
      const value = layers[layer] && valueOf(layers[layer].landing, field);
      if (value != null) return { value, layer, name: layers[layer]!.name, rule: null };
    }
    return null;
  }
}

const NO_DIMENSIONS: Decision['dimensions'] = new Map();

function valueOf(landing: Landing, field: MapField): number | undefined {
  switch (field) {
    case 'income':
    case 'taxCode':
    case 'deposit':
    case 'fees':
      return landing[field];
    default:
      return landing.dimensions?.[Number(field.slice('dimension:'.length))];
  }
}

/** Where two decisions differ, field by field; for trying a rule on the past and for what to post again. */
export function differences(before: Decision, after: Decision): MapField[] {
  const fields: MapField[] = [];
  for (const field of ['income', 'taxCode', 'deposit', 'fees'] as const) {
    if (before[field]?.value !== after[field]?.value) fields.push(field);
  }
  for (const id of new Set([...before.dimensions.keys(), ...after.dimensions.keys()])) {
    if (before.dimensions.get(id)?.value !== after.dimensions.get(id)?.value) fields.push(`dimension:${id}`);
  }
  return fields;
}
