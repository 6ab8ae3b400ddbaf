'use server';

import { mailer } from '@/adapters/mailer';
import { setAttachment } from '@/books/billing/attachments';
import { correctInvoice } from '@/books/billing/correct';
import { creditInvoice, withdrawCreditNote } from '@/books/billing/credit';
import { dropInvoiceDraft, saveInvoiceDraft } from '@/books/billing/drafts';
import { handOn, sendInvoice, type SendInput } from '@/books/billing/hand-out';
import { issueInvoice, previewBill } from '@/books/billing/issue';
import { payerDetails, setPayerDetails } from '@/books/payers/details';
import { settleInvoices } from '@/books/settling/settle';
import { openBooks } from '../../../server/books';
import { change, preview } from '../../../server/change';
import { origin } from '../../../server/fetching';

export const saveBillNow = async (books: string, input: unknown) => change(books, saveInvoiceDraft, input);
export const dropBillNow = async (books: string, input: unknown) => change(books, dropInvoiceDraft, input);
export const issueNow = async (books: string, input: unknown) => change(books, issueInvoice, input);
export const previewBillNow = async (books: string, input: unknown) => preview(books, previewBill, input);
export const correctNow = async (books: string, input: unknown) => change(books, correctInvoice, input);
export const previewCorrect = async (books: string, input: unknown) => preview(books, correctInvoice, input);
export const creditNow = async (books: string, input: unknown) => change(books, creditInvoice, input);
export const previewCredit = async (books: string, input: unknown) => preview(books, creditInvoice, input);
export const withdrawNow = async (books: string, note: number) => change(books, withdrawCreditNote, { note });
export const setAttachmentNow = async (books: string, input: unknown) => change(books, setAttachment, input);
export const setPayerDetailsNow = async (books: string, input: unknown) => change(books, setPayerDetails, input);
export const settleNow = async (books: string, input: unknown) => change(books, settleInvoices, input);
export const previewSettle = async (books: string, input: unknown) => preview(books, settleInvoices, input);

/** Writes the letter and hands it on, where there is a mail server; without one it stays in the outbox. */
export async function sendNow(books: string, input: Pick<SendInput, 'invoice' | 'to' | 'message'>) {
  const answer = await change(books, sendInvoice, { ...input, origin: origin(), books });
  if (answer.ok) await handOn(openBooks(books), answer.value.mail, mailer(process.env.NEST_EGG_SMTP));
  return answer;
}

/** Who a bill goes to: their terms, for the form. */
export async function payerTermsNow(books: string, payer: number) {
  const details = await payerDetails(openBooks(books).reader, payer);
  return details?.terms ?? null;
}
