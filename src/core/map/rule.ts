import type { AccountId } from '../ledger';
import type { Minor } from '../money';

/**
 * When a map rule applies: every condition that is given must hold; a list holds where one of it does. Texts are
 * compared without regard to case.
 */
export interface MapConditions {
  readonly channels?: readonly number[];
  readonly sites?: readonly number[];
  readonly payers?: readonly number[];
  readonly items?: readonly number[];
  /** Any part of the text. */
  readonly text?: string;
  readonly methods?: readonly string[];
  readonly currencies?: readonly string[];
  /** Minor units, both ends included; a refund counts by its size. */
  readonly amountFrom?: Minor;
  readonly amountTo?: Minor;
  readonly countries?: readonly string[];
  readonly regions?: readonly string[];
  readonly funds?: readonly string[];
}

/** What a layer of the map decides. What it leaves out is decided by a later one. */
/** Stands for a tax code where it is said that there is none. */
export const NO_TAX = 0;

export interface Landing {
  readonly income?: AccountId;
  /** {@link NO_TAX} where there is to be none, whatever comes after. */
  readonly taxCode?: number;
  readonly deposit?: AccountId;
  readonly fees?: AccountId;
  /** Value per dimension. */
  readonly dimensions?: Readonly<Record<number, number>>;
}

export interface MapRule {
  readonly id: number;
  readonly name: string;
  readonly conditions: MapConditions;
  readonly landing: Landing;
}

/** One thing that is decided: an account, the tax code, or the value of one dimension. */
export type MapField = 'income' | 'taxCode' | 'deposit' | 'fees' | `dimension:${number}`;

/** What a landing decides, field by field. */
export function fieldsOf(landing: Landing): Map<MapField, number> {
  const fields = new Map<MapField, number>();
  for (const field of ['income', 'taxCode', 'deposit', 'fees'] as const) {
    const value = landing[field];
    if (value !== undefined) fields.set(field, value);
  }
  for (const [dimension, value] of Object.entries(landing.dimensions ?? {})) {
    fields.set(`dimension:${Number(dimension)}`, value);
  }
  return fields;
}
