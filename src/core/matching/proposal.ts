import type { PlainDate } from '../calendar';
import type { Currency, Minor } from '../money';

/** How sure a proposal is; see docs/matching.md for what each may do by itself. */
export type Certainty = 'proven' | 'probable' | 'open' | 'none' | 'not-due' | 'not-ours';

/** All of them, the surest first; then what is not due yet, and what is no receivable of ours: rent, wages, charges. */
export const CERTAINTIES: readonly Certainty[] = ['proven', 'probable', 'open', 'none', 'not-due', 'not-ours'];

/** What may be confirmed as it is laid, many lines at once. */
export type Confirmable = Extract<Certainty, 'proven' | 'probable' | 'not-ours'>;

/** Something that explains a deposit, or some of it. Of an invoice it says how much, minor units. */
export type ProposedPart =
  | { readonly kind: 'payout'; readonly id: number }
  | { readonly kind: 'receipt'; readonly id: number }
  /** Another line of the bank that belongs to this one. */
  | { readonly kind: 'line'; readonly id: number }
  | { readonly kind: 'invoice'; readonly id: number; readonly amount: Minor }
  /** Booked straight to an account, as a statement rule says. */
  | {
      readonly kind: 'account';
      readonly id: number;
      readonly amount: Minor;
      readonly dimensions: Readonly<Record<number, number>>;
      readonly taxCode: number | null;
      /** The statement rule that says so, by its name and id; null where none does. */
      readonly rule: string | null;
      readonly ruleId: number | null;
      /** Whose money it is, where the rule says. */
      readonly payer: number | null;
    };

/** Why something is proposed, or is another explanation, as data. Days are working days, amounts minor units. */
export type Reason =
  | { readonly kind: 'reference-in-text'; readonly reference: string }
  | { readonly kind: 'equal-to-the-cent' }
  | { readonly kind: 'arrived'; readonly lag: number; readonly usual: number }
  | { readonly kind: 'only-one'; readonly from: PlainDate; readonly to: PlainDate }
  | { readonly kind: 'only-way'; readonly payouts: number }
  | { readonly kind: 'outside-usual-lag'; readonly lag: number; readonly usual: number }
  | { readonly kind: 'several-payouts'; readonly count: number }
  | { readonly kind: 'several-lines'; readonly count: number }
  | { readonly kind: 'reference-but-amount'; readonly reference: string; readonly net: Minor }
  | { readonly kind: 'payouts-together'; readonly count: number }
  /** Two ends of a transfer between own accounts; days of the calendar from one to the other. */
  | { readonly kind: 'between-own'; readonly from: string; readonly to: string; readonly days: number }
  | { readonly kind: 'account-in-text'; readonly number: string }
  /** One payout in two deposits; both say whether its id stands in the text of both. */
  | { readonly kind: 'payout-in-parts'; readonly reference: string; readonly net: Minor; readonly both: boolean }
  /** What was on hand at the end of a day, and what of it is missing (below zero) or over. */
  | { readonly kind: 'cash-on-hand'; readonly name: string; readonly balance: Minor; readonly day: PlainDate }
  | {
      readonly kind: 'cash-takings';
      readonly name: string;
      readonly amount: Minor;
      readonly from: PlainDate;
      readonly to: PlainDate;
    }
  | { readonly kind: 'cash-gap'; readonly amount: Minor }
  | { readonly kind: 'wording' }
  | {
      readonly kind: 'whole-days';
      readonly channel: string;
      readonly from: PlainDate;
      readonly to: PlainDate;
      readonly count: number;
    }
  /** A fee that nobody states: basis points of gross, and what was charged before; null where too little is known. */
  | { readonly kind: 'fee-unstated'; readonly amount: Minor; readonly rate: number; readonly usual: number | null }
  | { readonly kind: 'foreign-in-text'; readonly currency: Currency; readonly amount: Minor }
  | {
      readonly kind: 'converted';
      readonly currency: Currency;
      readonly foreign: Minor;
      readonly amount: Minor;
      readonly carried: Minor;
    }
  | { readonly kind: 'near'; readonly count: number }
  /** What a deposit would be made of is not in the books yet; the last day that is known, null where nothing is. */
  | { readonly kind: 'not-known-yet'; readonly channel: string; readonly upTo: PlainDate | null }
  | { readonly kind: 'claimed-twice'; readonly what: 'payout' | 'receipt' | 'line' }
  | { readonly kind: 'receipt-in-text'; readonly reference: string }
  /** What stands in the text is one letter off. */
  | { readonly kind: 'nearly-in-text'; readonly said: string; readonly reference: string }
  | { readonly kind: 'days-after'; readonly lag: number }
  /** Some of the receipts that a channel holds; only says that no other set of those searched comes to it. */
  | {
      readonly kind: 'some-of-pool';
      readonly channel: string;
      readonly count: number;
      readonly searched: number;
      readonly only: boolean;
    }
  | { readonly kind: 'lines-fit'; readonly count: number }
  | { readonly kind: 'numbers-in-text'; readonly numbers: readonly string[] }
  | { readonly kind: 'name-in-text'; readonly name: string }
  | { readonly kind: 'amount-of-one'; readonly number: string }
  | { readonly kind: 'all-open'; readonly count: number }
  | { readonly kind: 'oldest-first'; readonly count: number }
  | { readonly kind: 'taken-early'; readonly amount: Minor }
  | { readonly kind: 'in-part'; readonly open: Minor }
  | { readonly kind: 'over'; readonly amount: Minor }
  | { readonly kind: 'owes-otherwise'; readonly name: string; readonly count: number; readonly open: Minor }
  | { readonly kind: 'several-fit'; readonly count: number; readonly searched: number }
  | { readonly kind: 'no-other-of'; readonly searched: number }
  | { readonly kind: 'also-claimed'; readonly number: string }
  | { readonly kind: 'payments-of-sum'; readonly count: number; readonly found: number }
  | {
      readonly kind: 'run-of-receipts';
      readonly channel: string;
      readonly count: number;
      readonly from: PlainDate;
      readonly to: PlainDate;
    }
  | { readonly kind: 'joins'; readonly before: boolean; readonly after: boolean }
  | { readonly kind: 'between-payouts' }
  | { readonly kind: 'by-rule'; readonly rule: string }
  | { readonly kind: 'rule-collides'; readonly rule: string; readonly others: readonly string[] }
  | { readonly kind: 'double-count' | 'rule-waits'; readonly rule: string }
  | { readonly kind: 'held-back'; readonly count: number; readonly amount: Minor }
  | { readonly kind: 'came-late'; readonly count: number; readonly amount: Minor }
  | { readonly kind: 'by-chance'; readonly oneIn: number };

/** One way to explain a deposit. */
export interface Explanation {
  readonly parts: readonly ProposedPart[];
  /** The account that what is left goes to, where the parts do not come to the line. */
  readonly restTo?: number;
  readonly reasons: readonly Reason[];
}

/** What a statement line is made of, how sure that is and why, and what else it could be. */
export interface Proposal {
  readonly line: number;
  readonly certainty: Certainty;
  /** What is laid on the sheet; null where nothing is certain enough to lay there. */
  readonly laid: Explanation | null;
  /** What is to be said where nothing is laid: what competes, what comes nearest. */
  readonly reasons: readonly Reason[];
  /** Best first. */
  readonly others: readonly Explanation[];
}

export const nothing = (line: number, reasons: readonly Reason[] = []): Proposal => ({
  line,
  certainty: 'none',
  laid: null,
  reasons,
  others: [],
});
