import { z } from 'zod';
import type { PlainDate } from '@/core/calendar';
import {
  differences,
  reviewRules,
  ruleApplies,
  type Decision,
  type MapField,
  type MapRule,
  type RuleTrouble,
} from '@/core/map';
import { add, ZERO, type Minor } from '@/core/money';
import type { Progress } from '../command';
import { mapSubjects, type LoadedReceipt } from '../receipts/load-receipts';
import type { Reading } from '../store';
import { conditionsInput, landingInput } from './landing-input';
import { rulesInForce } from './rules-in-force';
import { BooksMap } from './load-map';
import { asks, pastFrom, pastReceipts } from './past';

/** The rule to be tried: as it would stand, whether it is there already or not. */
export const ruleToTry = z.object({
  id: z.number().int().nullable(),
  name: z.string(),
  conditions: conditionsInput,
  landing: landingInput,
});
export type RuleToTry = z.infer<typeof ruleToTry>;

/** Money that would land elsewhere. Accounts, tax codes and dimension values are ids; null is nothing decided. */
export interface Move {
  readonly field: MapField;
  readonly from: number | null;
  readonly to: number | null;
  readonly count: number;
  readonly amount: Minor;
}

export interface MovedReceipt {
  readonly id: number;
  readonly name: string;
  readonly date: PlainDate;
  readonly payer: string | null;
  readonly text: string;
  readonly gross: Minor;
  readonly posted: boolean;
}

/** Another rule that applies to the same receipts and decides the same: which of the two wins is said. */
export interface Collision {
  readonly rule: number;
  readonly name: string;
  /** True where the rule tried stands before it and takes over. */
  readonly takesOver: boolean;
  readonly count: number;
  readonly amount: Minor;
}

export interface Trial {
  readonly from: PlainDate;
  readonly looked: number;
  /** Receipts its conditions hold for. */
  readonly applies: { readonly count: number; readonly amount: Minor };
  readonly moves: readonly Move[];
  readonly moved: number;
  /** Of those, posted already: they stay where they are unless they are posted again. */
  readonly movedPosted: number;
  readonly receipts: readonly MovedReceipt[];
  readonly collisions: readonly Collision[];
  readonly troubles: readonly RuleTrouble[];
}

const LISTED = 40;
/** Stands for the rule that is tried where it has no id yet. */
const TRIED = -1;

const sizeOf = (receipt: LoadedReceipt) => Math.abs(receipt.gross) as Minor;

function valueOf(decision: Decision, field: MapField): number | null {
  if (field.startsWith('dimension:')) return decision.dimensions.get(Number(field.slice(10)))?.value ?? null;
  return decision[field as 'income' | 'taxCode' | 'deposit' | 'fees']?.value ?? null;
}

/** Adds up where receipts would move to. */
class Tallies<K extends string, T> {
  private readonly rows = new Map<K, { readonly of: T; count: number; amount: Minor }>();

  take(key: K, of: T, amount: Minor): void {
    const row = this.rows.get(key);
    if (row === undefined) this.rows.set(key, { of, count: 1, amount });
    else {
      row.count++;
      row.amount = add(row.amount, amount);
    }
  }

  list(): (T & { count: number; amount: Minor })[] {
    return [...this.rows.values()]
      .map(({ of, count, amount }) => ({ ...of, count, amount }))
      .sort((a, b) => b.amount - a.amount);
  }
}

/**
 * Tries a rule on the last twelve months: which receipts would land elsewhere, from where to where, and with which other
 * rules it collides. It takes the place it has in the order, or the last one; nothing is changed.
 */
export async function tryRule(db: Reading, tried: RuleToTry, today: PlainDate, progress: Progress): Promise<Trial> {
  const inForce = await rulesInForce(db);
  const candidate: MapRule = { ...tried, id: tried.id ?? TRIED };
  const at = inForce.findIndex((rule) => rule.id === candidate.id);
  const without = inForce.filter((rule) => rule.id !== candidate.id);
  const withIt = [...without];
  withIt.splice(at < 0 ? await placeOf(db, candidate.id, without) : at, 0, candidate);
  const before = await BooksMap.load(db, at < 0 ? without : inForce);
  const after = await BooksMap.load(db, withIt);
  const place = withIt.indexOf(candidate);

  const moves = new Tallies<string, Pick<Move, 'field' | 'from' | 'to'>>();
  const collisions = new Tallies<string, Pick<Collision, 'rule' | 'name' | 'takesOver'>>();
  const receipts: MovedReceipt[] = [];
  const total = { looked: 0, applies: { count: 0, amount: ZERO }, moved: 0, movedPosted: 0 };
  const from = pastFrom(today);
  for await (const batch of pastReceipts(db, from, progress)) {
    for (const receipt of batch) {
      total.looked++;
      let applies = ZERO;
      let moved = false;
      // A receipt for several things is asked about each; it is counted once.
      for (const subject of mapSubjects(receipt)) {
        const was = before.decide(subject);
        const is = after.decide(subject);
        const size = sizeOf(subject);
        if (ruleApplies(candidate.conditions, subject)) {
          applies = add(applies, size);
          for (const other of after.rules.applying()) {
            if (other === candidate || !overlaps(candidate, other)) continue;
            const takesOver = place < withIt.indexOf(other);
            collisions.take(`${other.id}`, { rule: other.id, name: other.name, takesOver }, size);
          }
        }
        for (const field of differences(was, is)) {
          if (!asks(receipt, field)) continue;
          moved = true;
          const move = { field, from: valueOf(was, field), to: valueOf(is, field) };
          moves.take(JSON.stringify(move), move, size);
        }
      }
      if (applies !== ZERO) {
        total.applies = { count: total.applies.count + 1, amount: add(total.applies.amount, applies) };
      }
      if (!moved) continue;
      total.moved++;
      if (receipt.journal !== null) total.movedPosted++;
      if (receipts.length < LISTED) receipts.push(movedReceipt(receipt));
    }
  }
  return {
    from,
    ...total,
    moves: moves.list(),
    receipts,
    collisions: collisions.list(),
    troubles: reviewRules(withIt).filter(
      (trouble) => trouble.rule === candidate.id || ('by' in trouble && trouble.by === candidate.id),
    ),
  };
}

/** Where a rule that is switched off would stand among those that are on. */
async function placeOf(db: Reading, id: number, inForce: readonly MapRule[]): Promise<number> {
  const row = await db.selectFrom('map_rule').select('position').where('id', '=', id).executeTakeFirst();
  if (!row) return inForce.length;
  const earlier = await db.selectFrom('map_rule').select('id').where('position', '<', row.position).execute();
  return inForce.filter((rule) => earlier.some((other) => other.id === rule.id)).length;
}

function overlaps(a: MapRule, b: MapRule): boolean {
  const { dimensions: da = {}, ...fa } = a.landing;
  const { dimensions: dbs = {}, ...fb } = b.landing;
  return Object.keys(fa).some((field) => field in fb) || Object.keys(da).some((id) => id in dbs);
}

function movedReceipt(receipt: LoadedReceipt): MovedReceipt {
  return {
    id: receipt.id,
    name: receipt.external_id,
    date: receipt.book_date,
    payer: receipt.payerName,
    text: receipt.text.trim(),
    gross: receipt.gross,
    posted: receipt.journal !== null,
  };
}
