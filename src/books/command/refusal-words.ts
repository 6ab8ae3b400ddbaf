import { formatDate, plainDate } from '@/core/calendar';
import { formatAmount } from '@/core/money';
import type { Refusal } from './refusal';
import { owedRefusalWords } from './refusal-owed';

export interface RefusalWords {
  /** What is wrong, and where. */
  readonly what: string;
  /** What to do about it. */
  readonly next: string;
}

const UNFIT: Readonly<Record<Extract<Refusal, { code: 'account-unfit' }>['decides'], string>> = {
  income: 'Choose an income account, or one of your own; those that the books keep by documents are not for choosing.',
  deposit:
    'Choose cash on hand, cheques on hand or an asset of your own; each clearing account is its own channel’s only.',
  fees: 'Choose an expense account.',
  dimension: 'Dimensions are asked for on income and expense accounts.',
  clearing: 'Choose another number; a clearing account belongs to one channel and nothing else uses it.',
  bank: 'Choose a bank account in the currency of these books.',
  cash: 'Choose an account for cash on hand.',
};

const day = (date: string) => formatDate(plainDate(date));

/** The two sentences of a refusal, with its figures in them. */
export function refusalWords(refusal: Refusal): RefusalWords {
  switch (refusal.code) {
    case 'invalid-input':
      return { what: `The field ${refusal.field} cannot be taken.`, next: `It should be: ${refusal.expected}.` };
    case 'not-found':
      return {
        what: `There is no ${refusal.what} ${refusal.id} in these books.`,
        next: 'It may have been taken out since; load the page again.',
      };
    case 'period-closed':
      return {
        what: `${day(refusal.date)} is closed: these books are closed through ${day(refusal.closedThrough)}.`,
        next: 'Set the closing date back under Proved, Close, or leave it for the accountant.',
      };
    case 'already-posted':
      return { what: `The ${refusal.what} ${refusal.name} is posted already.`, next: 'Nothing needs doing.' };
    case 'not-posted':
      return {
        what: `The ${refusal.what} ${refusal.name} is not posted.`,
        next: 'Only what is posted can be reversed.',
      };
    case 'invoice-not-posted':
      return {
        what: `Receipt ${refusal.receipt} pays invoice ${refusal.invoice}, which is not posted yet.`,
        next: 'Post the invoice under Owed first, then the receipt.',
      };
    case 'invoice-has-receipts':
      return {
        what: `Invoice ${refusal.invoice} has ${formatAmount(refusal.paid, refusal.currency)} paid on it.`,
        next: 'Reverse its receipts first, or take the match apart that paid it; then the invoice.',
      };
    case 'left-to-explain':
      return {
        what: `${formatAmount(refusal.left, refusal.currency)} is left to explain.`,
        next: 'Add or take off parts, or book the rest to an account; it is confirmed at 0.00 only.',
      };
    case 'nothing-laid':
      return {
        what: 'Nothing is laid on the sheet.',
        next: 'Add a payout, receipts or an invoice, or book all of it to an account.',
      };
    case 'line-taken':
      return {
        what: `The line of ${day(refusal.date)}, “${refusal.text}”, was confirmed by ${refusal.by} meanwhile.`,
        next: 'Load the page again; to explain it otherwise, take that match apart first.',
      };
    case 'part-taken':
      return {
        what: `${refusal.part} already explains another line, confirmed by ${refusal.by}.`,
        next: 'Take it off the sheet, or take that other match apart first.',
      };
    case 'part-aside':
      return {
        what: `${refusal.part} is set aside: ${refusal.aside}.`,
        next: 'Take it back from there first, or take it off the sheet.',
      };
    case 'part-other-currency':
      return {
        what: `${refusal.part} is in ${refusal.is}, this line in ${refusal.currency}.`,
        next: 'Take it off the sheet, and book each of the two to an account.',
      };
    case 'part-not-posted':
      return {
        what: `${refusal.part} is not posted, so nothing is held for it yet.`,
        next: 'Post it first, then lay it on the sheet.',
      };
    case 'part-in-payout':
      return {
        what: `${refusal.part} is in payout ${refusal.payout}.`,
        next: 'Lay that payout on the sheet instead.',
      };
    case 'part-too-large':
      return {
        what: `${refusal.part} has ${formatAmount(refusal.open, refusal.currency)} open, less than the ${formatAmount(refusal.asked, refusal.currency)} asked of it.`,
        next: 'Lay what is open on the sheet and book the rest to an account.',
      };
    case 'rest-account':
      return {
        what: `The rest cannot be booked to ${refusal.account}: the books keep that account by themselves.`,
        next: 'Choose an income or expense account, or one of your own.',
      };
    case 'not-proven':
      return {
        what: `${refusal.count === 1 ? 'One line is' : `${refusal.count} lines are`} not ${refusal.certainty === 'not-ours' ? 'booked by a rule' : refusal.certainty} any more; something changed meanwhile.`,
        next: 'Load the page again and confirm those that still are.',
      };
    case 'posted-already':
      return {
        what: `The ${refusal.what} ${refusal.name} is posted.`,
        next: 'Reverse it first; then it can be changed and posted again.',
      };
    case 'in-summary':
      return {
        what: `Receipt ${refusal.receipt} is part of the summary of ${day(refusal.date)}.`,
        next: 'Reverse that summary; the day is then posted again as a whole.',
      };
    case 'name-taken':
      return { what: `There is a ${refusal.what} ${refusal.name} already.`, next: 'Choose another name.' };
    case 'email-taken':
      return {
        what: `The email ${refusal.email} is that of ${refusal.payer}.`,
        next: 'Choose that payer, or say that they are two.',
      };
    case 'in-use':
      return {
        what: `The ${refusal.what} ${refusal.name} is in use.`,
        next: 'What is booked under it stays; switch it off so that it is not offered any more.',
      };
    case 'merged':
      return {
        what: `The ${refusal.what} ${refusal.name} was merged into ${refusal.into}.`,
        next: `Use ${refusal.into}, or part them first.`,
      };
    case 'dimension-asked':
      return {
        what: `Account ${refusal.account} asks for a ${refusal.dimension}.`,
        next: `Choose the ${refusal.dimension} of what is booked there.`,
      };
    case 'role-taken':
      return {
        what: `Account ${refusal.account} is the books’ one account for ${refusal.role.replaceAll('_', ' ')}.`,
        next: 'Leave the role of the other empty.',
      };
    case 'account-differs':
      return {
        what: `Account ${refusal.account} is here as ${refusal.is.replaceAll('_', ' ')}.`,
        next: 'What it is stays, since entries stand on it; give the other a code of its own.',
      };
    case 'account-unfit':
      return { what: `Account ${refusal.account} cannot be used here.`, next: UNFIT[refusal.decides] };
    case 'nothing-decides':
      return {
        what: `Nothing decides the ${refusal.what} of receipt ${refusal.receipt}.`,
        next: 'Give it one on the receipt, by a map rule, or as a default under Set-up, Account map.',
      };
    case 'dimension-missing':
      return {
        what: `Account ${refusal.account} asks for a ${refusal.dimension}, and nothing gives receipt ${refusal.receipt} one.`,
        next: `Set the ${refusal.dimension} on the receipt, or decide it by a map rule or a default.`,
      };
    case 'channel-account-missing':
      return {
        what: `Receipt ${refusal.receipt} has ${refusal.account}, and ${refusal.channel} has no account for them.`,
        next: `Choose one for ${refusal.channel} under Set-up, Channels.`,
      };
    case 'in-collection':
      return {
        what: `Debit ${refusal.receipt} is still in collection, and ${refusal.channel} counts debits as paid when they are collected.`,
        next: 'It can be posted once the channel says which payout it is in; or let the channel count the debit’s day, under Set-up, Channels.',
      };
    case 'rate-missing':
      return {
        what: `Receipt ${refusal.receipt} is in ${refusal.currency}, and there is no ${refusal.currency} rate for ${day(refusal.day)}.`,
        next: 'Enter the rate of that day, or of a day shortly before, under Set-up, Rates.',
      };
    case 'match-undone':
      return { what: `Match ${refusal.match} was taken apart already.`, next: 'Load the page again.' };
    case 'close-backwards':
      return {
        what: `${day(refusal.date)} is not after ${day(refusal.closedThrough)}, the date these books are closed through.`,
        next: 'To open days again, set the closing date back.',
      };
    case 'close-ahead':
      return {
        what: `${day(refusal.date)} is not over yet: today is ${day(refusal.today)}.`,
        next: 'Close through a day in the past.',
      };
    case 'import-rested-on':
      return {
        what: `The file ${refusal.file} cannot be taken back: ${refusal.on.join('; ')}.`,
        next:
          refusal.of === 'statement'
            ? 'Take those matches apart first, then take the file back.'
            : 'Reverse or take apart the single entries instead; a file whose contents were ever posted stays in the books.',
      };
    case 'import-undone':
      return { what: `The file ${refusal.file} was taken back already.`, next: 'Nothing needs doing.' };
    case 'nothing-to-undo':
      return { what: 'There is no change here that can be undone.', next: 'Nothing needs doing.' };
    case 'books-exist':
      return { what: `There are books named ${refusal.name} already.`, next: 'Choose another name.' };
    case 'books-busy':
      return {
        what: 'Another job is writing these books.',
        next: 'Wait until it has ended, then try again; nothing was changed.',
      };
    case 'cancelled':
      return { what: 'It was cancelled.', next: 'The books are as they were before.' };
    default:
      return owedRefusalWords(refusal);
  }
}
