import { formatDay, type PlainDate } from '../calendar';
import { decimalsOf, formatAmount, formatPercent, type Currency } from '../money';
import { plural } from '../words';
import type { Reason } from './proposal';

const days = (count: number) => `${count} working ${Math.abs(count) === 1 ? 'day' : 'days'}`;

/** On or of a day, or from one to another. */
const during = (word: 'on' | 'of', { from, to }: { readonly from: PlainDate; readonly to: PlainDate }) =>
  from === to ? `${word} ${formatDay(from)}` : `from ${formatDay(from)} to ${formatDay(to)}`;

/** How long after it left, in days of the calendar. */
const daysLater = (count: number) =>
  count === 0 ? ' on the same day' : `, ${plural(Math.abs(count), 'day')} ${count > 0 ? 'later' : 'before'}`;

/** A reason as a short plain phrase. */
export function reasonWords(reason: Reason, currency: Currency): string {
  const money = (amount: number) => formatAmount(amount as never, currency);
  switch (reason.kind) {
    case 'reference-in-text':
      return `payout id ${reason.reference} stands in the bank’s text`;
    case 'equal-to-the-cent':
      return 'equal to the cent';
    case 'arrived':
    case 'outside-usual-lag':
      return `${days(reason.lag)} after it left, ${reason.usual} is usual`;
    case 'only-one':
      return `the only payout and the only deposit of this amount from ${formatDay(reason.from)} to ${formatDay(reason.to)}`;
    case 'only-way':
      return `the only way in which ${plural(reason.payouts, 'payout')} of this amount arrive at their usual time`;
    case 'several-payouts':
      return `${reason.count} payouts of this amount fit`;
    case 'several-lines':
      return `${reason.count} deposits of this amount compete`;
    case 'reference-but-amount':
      return `payout ${reason.reference} is named, but its net is ${money(reason.net)}`;
    case 'payouts-together':
      return `${reason.count} payouts, one after the other, come to it`;
    case 'between-own':
      return `left ${reason.from} and came to ${reason.to}${daysLater(reason.days)}`;
    case 'account-in-text':
      return `account ${reason.number} stands in the bank’s text`;
    case 'payout-in-parts':
      return `with another deposit it comes to payout ${reason.reference}, ${money(reason.net)}`;
    case 'cash-on-hand':
      return `${reason.name} came to ${money(reason.balance)} at the end of ${formatDay(reason.day)}`;
    case 'cash-takings':
      return `${money(reason.amount)} came into ${reason.name} ${during('on', reason)}`;
    case 'cash-gap':
      return reason.amount < 0
        ? `${money(-reason.amount)} of it is missing`
        : `${money(reason.amount)} more was banked`;
    case 'wording':
      return 'the bank’s text is that of such deposits';
    case 'whole-days':
      return reason.count === 1
        ? `the only receipt of ${reason.channel} ${during('of', reason)}`
        : `all ${plural(reason.count, 'receipt')} of ${reason.channel} ${during('of', reason)}`;
    case 'fee-unstated': {
      const usual =
        reason.usual === null ? 'what is usual is not known yet' : `${formatPercent(reason.usual)} is usual`;
      return `the fee would be ${money(reason.amount)}, ${formatPercent(reason.rate)}; ${usual}`;
    }
    case 'foreign-in-text':
      return `${reason.currency} ${formatAmount(reason.amount, reason.currency)} stands in the bank’s text`;
    case 'converted': {
      const rate = (
        reason.amount /
        10 ** decimalsOf(currency) /
        (reason.foreign / 10 ** decimalsOf(reason.currency))
      ).toFixed(4);
      const gain = reason.amount - reason.carried;
      if (gain === 0) return `converted at ${rate}; neither gain nor loss`;
      const which = gain > 0 ? 'gain' : 'loss';
      return `converted at ${rate}; ${money(Math.abs(gain))} ${which} against the rates of its days`;
    }
    case 'not-known-yet':
      return reason.upTo === null
        ? `it is of ${reason.channel}, of which nothing is in the books yet`
        : `it is of ${reason.channel}, which is known up to ${formatDay(reason.upTo)}: bring in what came after`;
    case 'near':
      return reason.count === 1
        ? 'one way comes near, and nothing else speaks for it'
        : `${reason.count} ways come near`;
    case 'claimed-twice':
      return `a ${reason.what} of what fits is claimed by another line too`;
    case 'receipt-in-text':
      return `${reason.reference} stands in the bank’s text`;
    case 'nearly-in-text':
      return `${reason.said} stands in the bank’s text, one letter off ${reason.reference}`;
    case 'days-after':
      return reason.lag === 0
        ? 'on the same day'
        : `${days(Math.abs(reason.lag))} ${reason.lag > 0 ? 'after' : 'before'} it was received`;
    case 'some-of-pool': {
      const some = `${plural(reason.count, 'receipt')} of ${reason.channel}`;
      return reason.only
        ? `${some}, and no other of the ${reason.searched} it holds come to it`
        : `${some}, of ${reason.searched} it holds`;
    }
    case 'lines-fit':
      return reason.count === 1
        ? 'another line fits it, but nothing names the two'
        : `${reason.count} pairs of lines fit`;
    case 'numbers-in-text':
      return `the bank’s text names ${reason.numbers.join(', ')}`;
    case 'name-in-text':
      return `${reason.name} stands in the bank’s text`;
    case 'amount-of-one':
      return `${reason.number} has this amount open`;
    case 'all-open':
      return reason.count === 1 ? 'all that is open' : `all ${reason.count} invoices that are open`;
    case 'oldest-first':
      return reason.count === 1 ? 'the oldest invoice' : `the oldest ${reason.count} invoices`;
    case 'taken-early':
      return `${money(reason.amount)} taken off for paying early`;
    case 'in-part':
      return `part of ${money(reason.open)} that is open`;
    case 'over':
      return `${money(reason.amount)} more than is open`;
    case 'owes-otherwise':
      return `${reason.name} owes ${plural(reason.count, 'invoice')}, ${money(reason.open)}, which do not come to this amount`;
    case 'several-fit':
      return reason.count === 1
        ? 'one has this amount, and nothing else speaks for it'
        : `${reason.count} ways come to this amount`;
    case 'no-other-of':
      return `no other of the ${plural(reason.searched, 'open invoice')} come to it`;
    case 'also-claimed':
      return `${reason.number} is claimed by another deposit too`;
    case 'payments-of-sum':
      return `a sum of ${plural(reason.count, 'payment')}, ${reason.found} of them explained`;
    case 'run-of-receipts':
      return `exactly ${plural(reason.count, 'receipt')} of ${reason.channel}, from ${formatDay(reason.from)} to ${formatDay(reason.to)}`;
    case 'joins':
      return reason.before && reason.after
        ? 'begins where one deposit ends and ends where the next begins'
        : reason.before
          ? 'begins where the deposit before ends'
          : 'ends where the next deposit begins';
    case 'between-payouts':
      return 'all that lies between two known payouts';
    case 'by-rule':
      return `statement rule “${reason.rule}”`;
    case 'rule-collides':
      return `rule “${reason.rule}” comes first; ${reason.others.map((one) => `“${one}”`).join(', ')} would say otherwise`;
    case 'rule-waits':
      return `rule “${reason.rule}” would book it as income; with the receipts of its channel it would count twice`;
    case 'double-count':
      return `rule “${reason.rule}” would book it as income, but receipts that are in the books explain it: booked so it would count twice`;
    case 'held-back':
      return `without ${plural(reason.count, 'receipt')} of ${money(reason.amount)} held back`;
    case 'came-late':
      return `with ${plural(reason.count, 'receipt')} of ${money(reason.amount)} from before`;
    case 'by-chance':
      return `any other way is ${reason.oneIn >= 1000 ? `a thousand times` : `${reason.oneIn} times`} less likely`;
  }
}
