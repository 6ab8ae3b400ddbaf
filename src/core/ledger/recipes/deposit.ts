import { add, negate, splitByWeight, subtract, sum, taxWithin, ZERO, type BasisPoints, type Minor } from '../../money';
import type { AccountId } from '../account';
import type { Because } from '../because';
import {
  credit,
  debit,
  entryOf,
  inForeign,
  type Dimensions,
  type Entry,
  type EntryLine,
  type ForeignAmount,
} from '../entry';
import { takenOff } from './receipt-on-invoice';
import { discountLines, type DiscountShare } from './settlement';

/** A fee known only for a payout as a whole, and what its receipts were booked under, weighted by gross. */
export interface TotalFee {
  readonly account: AccountId;
  readonly amount: Minor;
  readonly over: readonly { readonly dimensions: Dimensions; readonly weight: Minor }[];
}

/** One thing that explains part of a deposit. All amounts in minor units; negative where money went the other way. */
export type DepositPart =
  /** A payout the channel announced, gone from clearing at its net (recipe 9). */
  | {
      readonly kind: 'payout';
      readonly reference: string;
      readonly clearing: AccountId;
      /** In the books' own currency; where the channel's is another, what clearing carries of it (recipe 23). */
      readonly net: Minor;
      readonly foreign?: ForeignAmount;
      /** A channel that gives only totals: what clearing holds beyond the net is its fee (recipe 21). */
      readonly totalFee?: TotalFee;
    }
  /**
   * A receipt picked by the user. `held` is what clearing still holds of it: gross less any fee posted with it.
   * `scheduleFee` is what the channel's schedule takes where no fee was stated, else 0 (recipe 21).
   */
  | {
      readonly kind: 'receipt';
      readonly reference: string;
      readonly clearing: AccountId;
      readonly fees: AccountId;
      readonly held: Minor;
      readonly scheduleFee: Minor;
      /** That fee is by a schedule that was learnt, and not agreed so far. */
      readonly learntFee?: boolean;
      /** What its income was booked under: a fee known at the bank is shared over it by gross (worked figure G). */
      readonly dimensions?: Dimensions;
    }
  /** An invoice settled straight at the bank (recipe 12), by `applied` and what was in time is taken off (recipe 13). */
  | {
      readonly kind: 'invoice';
      readonly reference: string;
      readonly receivable: AccountId;
      readonly applied: Minor;
      readonly early?: { readonly discounts: AccountId; readonly shares: readonly DiscountShare[] } | null;
    }
  /**
   * Another line of the bank that belongs to this one: the other end of a transfer between own accounts, or another deposit of
   * the same payout. What it moved is explained here too. Where it is of another day, it is on `transit` in between.
   */
  | {
      readonly kind: 'line';
      readonly lineId: number;
      readonly bank: AccountId;
      readonly amount: Minor;
      readonly transit: AccountId | null;
    }
  /** Money that is booked straight to an account (recipe 20), tax within it; positive came in, negative went out. */
  | {
      readonly kind: 'account';
      readonly account: AccountId;
      readonly amount: Minor;
      readonly dimensions: Dimensions;
      readonly tax: { readonly account: AccountId; readonly code: string; readonly rate: BasisPoints } | null;
      /** The statement rule that says so; null where the user does. */
      readonly rule: string | null;
    };

export interface Deposit {
  readonly bank: AccountId;
  readonly lineId: number;
  /** What the statement line says, in minor units; negative where money left. */
  readonly amount: Minor;
  readonly parts: readonly DepositPart[];
  /** Where the remainder goes, once the user has chosen; null while nothing is chosen. */
  readonly restTo: AccountId | null;
  /** The remainder is more than the invoices had open, and kept for their payer (recipe 12). */
  readonly kept?: boolean;
}

/** What one part brings to the bank, in minor units. */
export function partNet(part: DepositPart): Minor {
  switch (part.kind) {
    case 'payout':
      return part.net;
    case 'receipt':
      return subtract(part.held, part.scheduleFee);
    case 'invoice':
      return part.applied;
    case 'account':
      return part.amount;
    case 'line':
      return negate(part.amount);
  }
}

/** The deposit less all its parts, in minor units: 0 is explained. */
export function leftToExplain(deposit: Pick<Deposit, 'amount' | 'parts'>): Minor {
  return subtract(deposit.amount, sum(deposit.parts.map(partNet)));
}

/** What a part's fee on this account is shared over. */
function weightsOf(part: DepositPart, account: AccountId): TotalFee['over'] {
  if (part.kind === 'receipt' && part.fees === account)
    return [{ dimensions: part.dimensions ?? [], weight: part.held }];
  return part.kind === 'payout' && part.totalFee?.account === account ? part.totalFee.over : [];
}

/** A fee, shared by gross over what its receipts were booked under; one line where they were under nothing. */
function shared(deposit: Pick<Deposit, 'parts'>, account: AccountId, fee: Minor, because: Because): EntryLine[] {
  const groups = new Map<string, { readonly dimensions: Dimensions; weight: Minor }>();
  for (const { dimensions, weight } of deposit.parts.flatMap((part) => weightsOf(part, account))) {
    const key = JSON.stringify(dimensions);
    const group = groups.get(key);
    if (group) group.weight = add(group.weight, weight);
    else groups.set(key, { dimensions, weight });
  }
  const list = [...groups.values()];
  const weights = list.map((group) => group.weight);
  // Refunds among the receipts can leave a group at or below zero, over which nothing can be shared.
  if (list.length < 2 || weights.some((weight) => weight < ZERO) || sum(weights) === ZERO) {
    return debit(account, fee, because, list.length === 1 ? list[0]!.dimensions : []);
  }
  const shares = splitByWeight(fee, weights);
  return list.flatMap(({ dimensions }, index) => debit(account, shares[index]!, because, dimensions));
}

/** A fee that only the totals tell is said to be what is missing at the bank; else it is the schedule's. */
function feeBecause({ parts }: Pick<Deposit, 'parts'>, account: AccountId, fee: Minor): Because {
  const totals = parts.some((part) => part.kind === 'payout' && part.totalFee?.account === account);
  if (totals) return { why: 'fee-at-bank', schedule: fee, rest: ZERO };
  const learnt = parts.some((part) => part.kind === 'receipt' && part.fees === account && part.learntFee);
  return learnt ? { why: 'fee-as-learnt' } : { why: 'fee-by-schedule' };
}

function restBecause({ kept, parts }: Deposit): Because {
  const invoices = parts.flatMap((part) => (part.kind === 'invoice' ? [part.reference] : []));
  return kept ? { why: 'over-invoice', document: invoices.length === 1 ? invoices[0]! : '' } : { why: 'rest-chosen' };
}

function feeLines(deposit: Deposit, rest: Minor): EntryLine[] {
  const byAccount = new Map<AccountId, Minor>();
  for (const part of deposit.parts) {
    const [account, fee] =
      part.kind === 'receipt'
        ? [part.fees, part.scheduleFee]
        : part.kind === 'payout' && part.totalFee
          ? [part.totalFee.account, part.totalFee.amount]
          : [null, ZERO];
    if (account !== null) byAccount.set(account, add(byAccount.get(account) ?? ZERO, fee));
  }
  // A rest booked on the account that takes the fees is part of the fee: one figure, gross less what arrived.
  const merged = deposit.restTo !== null && byAccount.has(deposit.restTo);
  return [
    ...[...byAccount].flatMap(([account, fee]) =>
      merged && account === deposit.restTo
        ? shared(deposit, account, subtract(fee, rest), { why: 'fee-at-bank', schedule: fee, rest })
        : shared(deposit, account, fee, feeBecause(deposit, account, fee)),
    ),
    ...(deposit.restTo === null || merged ? [] : debit(deposit.restTo, negate(rest), restBecause(deposit))),
  ];
}

/**
 * What a confirmed statement line writes: recipe 9 for payouts (Dr bank, Cr clearing), recipe 21 for receipts picked by
 * hand (Dr bank net, Dr fees gross less net, Cr clearing gross), recipe 23 for a payout that was converted (the rest is the gain or loss), recipe 12 for invoices (Dr bank, Cr receivable), and
 * the remainder where the user put it. Dated and balanced as one entry.
 * @returns the remainder in place of an entry while it is not zero and has no account.
 */
export function depositEntry(deposit: Deposit): { readonly left: Minor } | Entry {
  const left = leftToExplain(deposit);
  if (left !== 0 && deposit.restTo === null) return { left };
  return entryOf(
    debit(deposit.bank, deposit.amount, { why: 'reached-bank', line: deposit.lineId }),
    feeLines(deposit, left),
    deposit.parts.flatMap((part) => {
      switch (part.kind) {
        case 'payout':
          return inForeign(
            credit(part.clearing, add(part.net, part.totalFee?.amount ?? ZERO), {
              why: 'payout-left',
              payout: part.reference,
            }),
            part.clearing,
            part.foreign ? { ...part.foreign, amount: negate(part.foreign.amount) } : null,
          );
        case 'receipt':
          return credit(part.clearing, part.held, { why: 'receipt-left', receipt: part.reference });
        case 'invoice':
          return [
            ...(part.early ? discountLines(part.early.shares, part.early.discounts) : []),
            ...credit(part.receivable, add(part.applied, takenOff(part)), {
              why: 'settles-invoice',
              document: part.reference,
            }),
          ];
        case 'line':
          return part.transit === null
            ? debit(part.bank, part.amount, { why: 'reached-bank', line: part.lineId })
            : debit(part.transit, part.amount, { why: 'between-lines', line: part.lineId });
        case 'account': {
          const because: Because =
            part.rule === null ? { why: 'booked-on-sheet' } : { why: 'statement-rule', rule: part.rule };
          const tax = part.tax ? taxWithin(part.amount, part.tax.rate) : ZERO;
          return [
            ...credit(part.account, subtract(part.amount, tax), because, part.dimensions),
            ...(part.tax
              ? credit(part.tax.account, tax, { why: 'tax-code', code: part.tax.code, rate: part.tax.rate })
              : []),
          ];
        }
      }
    }),
  );
}

/** What a line of another day writes on its own day: it is at the bank from then on, and explained by the later line. */
export function otherDayEntry(part: DepositPart & { readonly kind: 'line'; readonly transit: AccountId }): Entry {
  return entryOf(
    debit(part.bank, part.amount, { why: 'reached-bank', line: part.lineId }),
    credit(part.transit, part.amount, { why: 'between-lines', line: part.lineId }),
  );
}
