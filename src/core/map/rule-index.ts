import type { MapConditions, MapField, MapRule } from './rule';
import { fieldsOf } from './rule';
import type { MapSubject } from './subject';

/** One bit per rule, in the order of the rules, 32 to a word. */
type Bits = Uint32Array;

/** Distinct values remembered per condition; beyond it a value is looked at each time. */
const VALUES_KEPT = 50_000;

interface Condition {
  /** What of the subject it looks at, as a key to remember by. */
  readonly valueOf: (subject: MapSubject) => string | number | null;
  readonly holds: (conditions: MapConditions, subject: MapSubject) => boolean;
}

const among = (list: readonly (string | number)[] | undefined, value: string | number | null): boolean =>
  list === undefined || (value !== null && list.includes(value));

const amongText = (list: readonly string[] | undefined, value: string): boolean =>
  list === undefined || list.some((one) => one.toLowerCase() === value.toLowerCase());

/** Every condition a rule may have. Adding one here is all it takes. */
const CONDITIONS: readonly Condition[] = [
  { valueOf: (s) => s.channel, holds: (c, s) => among(c.channels, s.channel) },
  { valueOf: (s) => s.site, holds: (c, s) => among(c.sites, s.site) },
  { valueOf: (s) => s.payer, holds: (c, s) => among(c.payers, s.payer) },
  { valueOf: (s) => s.item, holds: (c, s) => among(c.items, s.item) },
  {
    valueOf: (s) => s.text,
    holds: (c, s) => c.text === undefined || s.text.toLowerCase().includes(c.text.toLowerCase()),
  },
  { valueOf: (s) => s.method, holds: (c, s) => amongText(c.methods, s.method) },
  { valueOf: (s) => s.currency, holds: (c, s) => among(c.currencies, s.currency) },
  {
    valueOf: (s) => Math.abs(s.gross),
    holds: (c, s) => {
      if (c.amountFrom === undefined && c.amountTo === undefined) return true;
      const size = Math.abs(s.gross);
      return size >= (c.amountFrom ?? 0) && size <= (c.amountTo ?? Infinity);
    },
  },
  { valueOf: (s) => s.country, holds: (c, s) => amongText(c.countries, s.country) },
  { valueOf: (s) => s.region, holds: (c, s) => amongText(c.regions, s.region) },
  { valueOf: (s) => s.fund, holds: (c, s) => amongText(c.funds, s.fund) },
];

/** Whether all conditions hold, one rule and one subject at a time: the plain meaning that the index must agree with. */
export function ruleApplies(conditions: MapConditions, subject: MapSubject): boolean {
  return CONDITIONS.every((condition) => condition.holds(conditions, subject));
}

interface Narrowing {
  readonly condition: Condition;
  /** Rules that ask nothing of this condition, which hold whatever the value is. */
  readonly known: Map<string | number | null, Bits>;
}

/**
 * Rules prepared for many subjects: for each condition and value it has met, which rules hold, as bits. A subject then
 * costs one look-up per condition that any rule asks for, and an AND of a few words, however many rules there are.
 */
export class RuleIndex {
  private readonly words: number;
  private readonly narrowings: Narrowing[];
  private readonly deciding = new Map<MapField, Bits>();
  private readonly all: Bits;
  private readonly held: Bits;

  /** @param rules in the order in which they decide: the first that applies wins, field by field. */
  constructor(readonly rules: readonly MapRule[]) {
    this.words = Math.max(1, Math.ceil(rules.length / 32));
    this.all = new Uint32Array(this.words);
    this.held = new Uint32Array(this.words);
    rules.forEach((rule, index) => {
      this.all[index >>> 5]! |= 1 << (index & 31);
      for (const field of fieldsOf(rule.landing).keys()) {
        let bits = this.deciding.get(field);
        if (bits === undefined) this.deciding.set(field, (bits = new Uint32Array(this.words)));
        bits[index >>> 5]! |= 1 << (index & 31);
      }
    });
    this.narrowings = CONDITIONS.filter((condition) => this.isAskedFor(condition)).map((condition) => ({
      condition,
      known: new Map(),
    }));
  }

  /** Whether any rule asks for this: one that holds for nothing at all where it is asked for tells. */
  private isAskedFor(condition: Condition): boolean {
    return this.rules.some(({ conditions }) => !condition.holds(conditions, NOTHING));
  }

  private bitsFor({ condition, known }: Narrowing, subject: MapSubject): Bits {
    const value = condition.valueOf(subject);
    const found = known.get(value);
    if (found !== undefined) return found;
    const bits = new Uint32Array(this.words);
    this.rules.forEach(({ conditions }, index) => {
      if (condition.holds(conditions, subject)) bits[index >>> 5]! |= 1 << (index & 31);
    });
    if (known.size < VALUES_KEPT) known.set(value, bits);
    return bits;
  }

  /** Looks a subject up: {@link deciderOf} then answers for it, until the next one. */
  look(subject: MapSubject): void {
    this.held.set(this.all);
    for (const narrowing of this.narrowings) {
      const bits = this.bitsFor(narrowing, subject);
      for (let word = 0; word < this.words; word++) this.held[word]! &= bits[word]!;
    }
  }

  /** The fields that any rule decides. */
  get fields(): IterableIterator<MapField> {
    return this.deciding.keys();
  }

  /** The first rule that applies to the subject looked up and decides this field; null where none does. */
  deciderOf(field: MapField): MapRule | null {
    const deciding = this.deciding.get(field);
    if (deciding === undefined) return null;
    for (let word = 0; word < this.words; word++) {
      const bits = this.held[word]! & deciding[word]!;
      if (bits !== 0) return this.rules[(word << 5) + 31 - Math.clz32(bits & -bits)]!;
    }
    return null;
  }

  /** All rules that apply to the subject looked up, in their order. */
  applying(): MapRule[] {
    return this.rules.filter((_, index) => (this.held[index >>> 5]! & (1 << (index & 31))) !== 0);
  }
}

/** A subject that no condition of any kind holds for. */
const NOTHING: MapSubject = {
  channel: NaN,
  site: null,
  payer: null,
  item: null,
  text: '',
  method: '\0',
  currency: '\0',
  gross: NaN as never,
  country: '\0',
  region: '\0',
  fund: '\0',
};
