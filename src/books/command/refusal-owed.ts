import { formatAmount, type Currency, type Minor } from '@/core/money';
import { plural } from '@/core/words';
import type { RefusalWords } from './refusal-words';

/** What the books will not do with invoices, credit, gifts and registrations. */
export type OwedRefusal =
  | {
      readonly code: 'line-needs-dimension';
      readonly line: number;
      readonly dimension: string;
      readonly account: string;
    }
  | { readonly code: 'draft-issued'; readonly invoice: string }
  | { readonly code: 'total-not-positive'; readonly gross: Minor; readonly currency: Currency }
  | { readonly code: 'invoice-changed'; readonly invoice: string }
  | { readonly code: 'issued-here'; readonly invoice: string }
  | { readonly code: 'paid-more'; readonly invoice: string; readonly paid: Minor; readonly currency: Currency }
  | { readonly code: 'invoice-credited'; readonly invoice: string }
  | { readonly code: 'nothing-to-credit'; readonly invoice: string }
  | {
      readonly code: 'credit-too-large';
      readonly invoice: string;
      readonly line: number;
      readonly left: Minor;
      readonly currency: Currency;
    }
  | { readonly code: 'credit-used'; readonly name: string }
  | {
      readonly code: 'not-enough-credit';
      readonly name: string;
      readonly left: Minor;
      readonly asked: Minor;
      readonly currency: Currency;
    }
  | {
      readonly code: 'settles-too-much';
      readonly invoice: string;
      readonly open: Minor;
      readonly asked: Minor;
      readonly currency: Currency;
    }
  | { readonly code: 'write-off-limit'; readonly asked: Minor; readonly limit: Minor; readonly currency: Currency }
  | { readonly code: 'no-discount'; readonly invoice: string }
  | { readonly code: 'role-missing'; readonly role: string }
  | { readonly code: 'attachment-unlike'; readonly name: string; readonly found: string }
  | { readonly code: 'archived'; readonly what: string; readonly name: string }
  | { readonly code: 'places-gone'; readonly event: string; readonly left: number }
  | { readonly code: 'page-closed'; readonly title: string }
  | { readonly code: 'nothing-asked'; readonly invoice: string }
  | { readonly code: 'no-pay-door'; readonly channel: string };

/** The two sentences of such a refusal. */
export function owedRefusalWords(refusal: OwedRefusal): RefusalWords {
  switch (refusal.code) {
    case 'line-needs-dimension':
      return {
        what: `Line ${refusal.line} earns on account ${refusal.account}, which asks for a ${refusal.dimension}.`,
        next: `Choose the ${refusal.dimension} of that line.`,
      };
    case 'draft-issued':
      return {
        what: `This draft was issued already, as invoice ${refusal.invoice}.`,
        next: 'Open that invoice; to bill once more, begin a new one.',
      };
    case 'total-not-positive':
      return {
        what: `It comes to ${formatAmount(refusal.gross, refusal.currency)}, and an invoice asks for more than nothing.`,
        next: 'Change its lines; to give money back, issue a credit note for the invoice it belongs to.',
      };
    case 'invoice-changed':
      return {
        what: `Invoice ${refusal.invoice} was changed by somebody else meanwhile.`,
        next: 'Load it again and make your change to what it says now.',
      };
    case 'issued-here':
      return {
        what: `Invoice ${refusal.invoice} was issued here, and its number stays in the series.`,
        next: 'Correct it, or void it by a credit note.',
      };
    case 'paid-more':
      return {
        what: `Invoice ${refusal.invoice} has ${formatAmount(refusal.paid, refusal.currency)} paid on it, more than it would come to.`,
        next: 'Take the difference back by a credit note; what was paid of it is then kept for the payer.',
      };
    case 'invoice-credited':
      return {
        what: `A credit note was issued for invoice ${refusal.invoice}, for lines as they are.`,
        next: 'Withdraw the credit note first, or issue another.',
      };
    case 'nothing-to-credit':
      return { what: `All of invoice ${refusal.invoice} was taken back already.`, next: 'Nothing needs doing.' };
    case 'credit-too-large':
      return {
        what: `Line ${refusal.line} of invoice ${refusal.invoice} has ${formatAmount(refusal.left, refusal.currency)} net left to take back.`,
        next: 'Enter that much or less.',
      };
    case 'credit-used':
      return {
        what: `What ${refusal.name} left with the payer was used or paid back since.`,
        next: 'Undo that first.',
      };
    case 'not-enough-credit':
      return {
        what: `${refusal.name} has ${formatAmount(refusal.left, refusal.currency)} to give, less than the ${formatAmount(refusal.asked, refusal.currency)} asked of it.`,
        next: 'Put less of it to the invoices, or take another receipt along.',
      };
    case 'settles-too-much':
      return {
        what: `Invoice ${refusal.invoice} has ${formatAmount(refusal.open, refusal.currency)} open, less than the ${formatAmount(refusal.asked, refusal.currency)} put to it.`,
        next: 'Put less to it; what is over stays with the payer.',
      };
    case 'write-off-limit':
      return {
        what: `${formatAmount(refusal.asked, refusal.currency)} is more than may be written off here, which is ${formatAmount(refusal.limit, refusal.currency)}.`,
        next: 'Leave it open, credit it, or raise the limit under Set-up, Documents.',
      };
    case 'no-discount':
      return {
        what: `Invoice ${refusal.invoice} allows no discount, or it was paid later than that, or not in full.`,
        next: 'Put the money to it without a discount.',
      };
    case 'role-missing':
      return {
        what: `These books have no account for ${refusal.role}.`,
        next: 'Add one to the chart of accounts.',
      };
    case 'attachment-unlike':
      return {
        what: `${refusal.name} is not what its ending says: it holds ${refusal.found}.`,
        next: 'Attach a PDF, a PNG, JPEG or WebP picture, a spreadsheet (XLSX), a CSV or plain text, named for what it is.',
      };
    case 'archived':
      return {
        what: `The ${refusal.what} ${refusal.name} is archived.`,
        next: 'Choose another, or bring it back from the archive first.',
      };
    case 'places-gone':
      return {
        what:
          refusal.left === 0
            ? `${refusal.event} is full.`
            : `${refusal.event} has ${plural(refusal.left, 'place')} left.`,
        next: refusal.left === 0 ? 'Ask the organisers whether a place comes free.' : 'Choose fewer places.',
      };
    case 'page-closed':
      return { what: `${refusal.title} is closed.`, next: 'Ask the organisers.' };
    case 'nothing-asked':
      return { what: `Nothing is asked for on invoice ${refusal.invoice}.`, next: 'Nothing needs doing.' };
    case 'no-pay-door':
      return {
        what: `${refusal.channel} cannot take payments over the network.`,
        next: 'Connect it under Set-up, Fetching.',
      };
  }
}
