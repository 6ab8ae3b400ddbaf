import type { OwedRefusal } from './refusal-owed';
import type { Confirmable } from '@/core/matching';
import type { Currency, Minor } from '@/core/money';

/**
 * What a user can cause and the books will not do, as data. {@link refusalWords} makes the two sentences: what is
 * wrong and where, and what to do.
 */
export type Refusal =
  | { readonly code: 'invalid-input'; readonly field: string; readonly expected: string }
  | { readonly code: 'not-found'; readonly what: string; readonly id: string }
  | { readonly code: 'period-closed'; readonly date: string; readonly closedThrough: string }
  | { readonly code: 'already-posted'; readonly what: string; readonly name: string }
  | { readonly code: 'not-posted'; readonly what: string; readonly name: string }
  | { readonly code: 'invoice-not-posted'; readonly invoice: string; readonly receipt: string }
  | {
      readonly code: 'invoice-has-receipts';
      readonly invoice: string;
      readonly paid: Minor;
      readonly currency: Currency;
    }
  | {
      readonly code: 'left-to-explain';
      readonly left: Minor;
      readonly currency: Currency;
    }
  | { readonly code: 'nothing-laid' }
  | { readonly code: 'line-taken'; readonly date: string; readonly text: string; readonly by: string }
  | { readonly code: 'part-taken'; readonly part: string; readonly by: string }
  | { readonly code: 'part-aside'; readonly part: string; readonly aside: string }
  | { readonly code: 'part-other-currency'; readonly part: string; readonly is: string; readonly currency: string }
  | { readonly code: 'part-not-posted'; readonly part: string }
  | { readonly code: 'part-in-payout'; readonly part: string; readonly payout: string }
  | {
      readonly code: 'part-too-large';
      readonly part: string;
      readonly open: Minor;
      readonly asked: Minor;
      readonly currency: Currency;
    }
  | { readonly code: 'rest-account'; readonly account: string }
  | { readonly code: 'not-proven'; readonly count: number; readonly certainty: Confirmable }
  | { readonly code: 'in-collection'; readonly receipt: string; readonly channel: string }
  | { readonly code: 'rate-missing'; readonly currency: Currency; readonly day: string; readonly receipt: string }
  | { readonly code: 'posted-already'; readonly what: string; readonly name: string }
  | { readonly code: 'in-summary'; readonly receipt: string; readonly date: string }
  | { readonly code: 'name-taken'; readonly what: string; readonly name: string }
  | { readonly code: 'email-taken'; readonly email: string; readonly payer: string }
  | { readonly code: 'in-use'; readonly what: string; readonly name: string }
  | { readonly code: 'merged'; readonly what: string; readonly name: string; readonly into: string }
  | { readonly code: 'dimension-asked'; readonly account: string; readonly dimension: string }
  | { readonly code: 'role-taken'; readonly role: string; readonly account: string }
  | { readonly code: 'account-differs'; readonly account: string; readonly is: string }
  | {
      readonly code: 'account-unfit';
      readonly account: string;
      readonly decides: 'income' | 'deposit' | 'fees' | 'dimension' | 'clearing' | 'bank' | 'cash';
    }
  | { readonly code: 'nothing-decides'; readonly what: string; readonly receipt: string }
  | {
      readonly code: 'dimension-missing';
      readonly dimension: string;
      readonly account: string;
      readonly receipt: string;
    }
  | {
      readonly code: 'channel-account-missing';
      readonly channel: string;
      readonly account: string;
      readonly receipt: string;
    }
  | { readonly code: 'match-undone'; readonly match: number }
  | { readonly code: 'close-backwards'; readonly date: string; readonly closedThrough: string }
  | { readonly code: 'close-ahead'; readonly date: string; readonly today: string }
  | { readonly code: 'import-rested-on'; readonly of: string; readonly file: string; readonly on: readonly string[] }
  | { readonly code: 'import-undone'; readonly file: string }
  | OwedRefusal
  | { readonly code: 'nothing-to-undo' }
  | { readonly code: 'books-exist'; readonly name: string }
  | { readonly code: 'books-busy' }
  | { readonly code: 'cancelled' };

export type RefusalCode = Refusal['code'];
