import { minor, subtract, type Minor } from '../../money';
import type { AccountId } from '../account';
import type { Because } from '../because';
import { credit, debit, entryOf, type Entry } from '../entry';

export interface Chargeback {
  /** What gave the money back: the channel's clearing account. */
  readonly from: { readonly account: AccountId; readonly because: Because };
  /** What the payer took back, in minor units; negative where the channel gave it to us again because we won. */
  readonly amount: Minor;
  /** The receipt or document it takes back, as text for the reason. */
  readonly of: string;
  /** A debit that its payer's bank returned (recipe 11), which is booked alike. */
  readonly byDebit: boolean;
  readonly receivable: AccountId;
  /** Bears what no invoice bears. */
  readonly chargebacks: AccountId | null;
  /** What of the invoice can be reopened (was paid) or, won, be settled again (is open), in minor units; 0 without an invoice. */
  readonly invoice: Minor;
}

/** How much of its invoice a chargeback reopens; negative where one that was won settles it again. Minor units. */
export function reopened({ amount, invoice }: Pick<Chargeback, 'amount' | 'invoice'>): Minor {
  const size = Math.min(Math.abs(amount), Math.max(0, invoice));
  return minor(amount < 0 ? -size : size);
}

/**
 * Recipes 8 and 11, chargeback opened or debit returned: Dr receivable as far as an invoice was paid, chargebacks for the rest; Cr clearing. Won: the
 * reverse.
 * @throws Error where something is left for chargebacks and there is no such account: checked before by whoever asks.
 */
export function chargeback(event: Chargeback): Entry {
  const owed = reopened(event);
  const rest = subtract(event.amount, owed);
  if (rest !== 0 && event.chargebacks === null) throw new Error('no account for chargebacks');
  const why = event.amount < 0 ? 'chargeback-won' : event.byDebit ? 'debit-returned' : 'chargeback';
  const because: Because = { why, of: event.of };
  return entryOf(
    debit(event.receivable, owed, because),
    rest === 0 ? [] : debit(event.chargebacks!, rest, because),
    credit(event.from.account, event.amount, event.from.because),
  );
}
