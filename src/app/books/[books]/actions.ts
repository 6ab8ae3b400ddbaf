'use server';

import { postInvoices } from '@/books/invoices/post';
import { closeThrough } from '@/books/ledger/close';
import { reverse } from '@/books/ledger/reverse';
import { setMapDefault } from '@/books/map/defaults';
import { findPayers, mapPage } from '@/books/map/map-page';
import { moveMapRule, removeMapRule, saveMapRule } from '@/books/map/rules';
import { setAside, setLanding, takeBackAside } from '@/books/receipts/set-aside';
import { editChannel } from '@/books/channels/edit-channel';
import { setRates } from '@/books/currencies/rates';
import { connect, disconnect, setTiming } from '@/books/fetching/connections';
import { denyDoubled, mendDoubled } from '@/books/doubled/mend';
import { dropChannelDraft, openChannel, saveChannelDraft, setPostingMode } from '@/books/channels/open-channel';
import { addDimension, removeDimension, requireDimension, setDimensionValue } from '@/books/dimensions/dimensions';
import { confirmMatch } from '@/books/matching/confirm';
import { candidates } from '@/books/matching/candidates';
import { partInput } from '@/books/matching/part-input';
import { twinsOf } from '@/books/matching/twins';
import { laidLines } from '@/books/statements/list';
import { takeApart } from '@/books/matching/take-apart';
import { postReceipts } from '@/books/receipts/post';
import { proposePayers, setPayer } from '@/books/payers/payers';
import { mergePayers, saidIs } from '@/books/payers/same';
import { keepReading } from '@/books/receipts/readings';
import { takeChange } from '@/books/receipts/take-change';
import { undoImport } from '@/books/imports/undo-import';
import { setLinesAside, takeLinesBack } from '@/books/statements/set-aside';
import { undoChange } from '@/books/undo';
import { parseAmount } from '@/core/money';
import { openBooks } from '../../server/books';
import { change, preview } from '../../server/change';

export const postReceiptNow = async (books: string, id: number) => change(books, postReceipts, { ids: [id] });
export const postInvoiceNow = async (books: string, id: number) => change(books, postInvoices, { ids: [id] });
export const reverseNow = async (books: string, journal: number) =>
  change(books, reverse, { from: journal, to: journal });
export const previewReverse = async (books: string, journal: number) =>
  preview(books, reverse, { from: journal, to: journal });
export const confirmNow = async (books: string, input: unknown) => change(books, confirmMatch, input);
export const previewConfirm = async (books: string, input: unknown) => preview(books, confirmMatch, input);
export const setLinesAsideNow = async (books: string, input: unknown) => change(books, setLinesAside, input);
export const takeLinesBackNow = async (books: string, input: unknown) => change(books, takeLinesBack, input);
export const takeApartNow = async (books: string, match: number) => change(books, takeApart, { match });
export const previewTakeApart = async (books: string, match: number) => preview(books, takeApart, { match });
export const mendDoubledNow = async (books: string, line: number) => change(books, mendDoubled, { line });
export const previewMendDoubled = async (books: string, line: number) => preview(books, mendDoubled, { line });
export const denyDoubledNow = async (books: string, line: number) => change(books, denyDoubled, { line, denied: true });
export const closeNow = async (books: string, input: unknown) => change(books, closeThrough, input);
export const undoNow = async (books: string, audit: number) => change(books, undoChange, { audit });
export const takeBackImport = async (books: string, run: number) => change(books, undoImport, { run });
export const saveRuleNow = async (books: string, input: unknown) => change(books, saveMapRule, input);
export const removeRuleNow = async (books: string, input: unknown) => change(books, removeMapRule, input);
export const moveRuleNow = async (books: string, input: unknown) => change(books, moveMapRule, input);
export const setDefaultNow = async (books: string, input: unknown) => change(books, setMapDefault, input);
export const takeChangeNow = async (books: string, input: unknown) => change(books, takeChange, input);
export const forgetReadingNow = async (books: string, fingerprint: string) =>
  change(books, keepReading, { fingerprint, settings: null });
export const mergePayersNow = async (books: string, input: unknown) => change(books, mergePayers, input);
export const saidIsNow = async (books: string, input: unknown) => change(books, saidIs, input);
export const setPayerNow = async (books: string, input: unknown) => change(books, setPayer, input);
export const proposePayersNow = async (books: string, receipt: number) =>
  openBooks(books).read((db) => proposePayers(db, receipt));
export const setAsideNow = async (books: string, input: unknown) => change(books, setAside, input);
export const takeBackAsideNow = async (books: string, input: unknown) => change(books, takeBackAside, input);
export const setLandingNow = async (books: string, input: unknown) => change(books, setLanding, input);
export const addDimensionNow = async (books: string, input: unknown) => change(books, addDimension, input);
export const removeDimensionNow = async (books: string, input: unknown) => change(books, removeDimension, input);
export const setDimensionValueNow = async (books: string, input: unknown) => change(books, setDimensionValue, input);
export const requireDimensionNow = async (books: string, input: unknown) => change(books, requireDimension, input);
export const mapChoices = async (books: string) => openBooks(books).read((db) => mapPage(db));
export const saveDraftNow = async (books: string, input: unknown) => change(books, saveChannelDraft, input);
export const dropDraftNow = async (books: string, input: unknown) => change(books, dropChannelDraft, input);
export const openChannelNow = async (books: string, input: unknown) => change(books, openChannel, input);
export const editChannelNow = async (books: string, input: unknown) => change(books, editChannel, input);
export const setRatesNow = async (books: string, input: unknown) => change(books, setRates, input);
export const connectNow = async (books: string, input: unknown) => change(books, connect, input);
export const disconnectNow = async (books: string, input: unknown) => change(books, disconnect, input);
export const setTimingNow = async (books: string, input: unknown) => change(books, setTiming, input);
export const setModeNow = async (books: string, input: unknown) => change(books, setPostingMode, input);
export const findPayersNow = async (books: string, text: string) =>
  openBooks(books).read((db) => findPayers(db, text.slice(0, 100)));

/** What is looked at before lines are confirmed together, the newest first. */
export async function findLaid(books: string, certainty: 'probable' | 'not-ours') {
  return openBooks(books).read((db) => laidLines(db, certainty, 200));
}

/** Which parts of a sheet others would fit in the place of. */
export async function findTwins(books: string, line: number, parts: unknown) {
  const laid = partInput.array().max(5_000).safeParse(parts);
  return laid.success ? openBooks(books).read((db) => twinsOf(db, line, laid.data)) : [];
}

/** What could be laid on a sheet; a text that reads as an amount looks for that amount. */
export async function findCandidates(books: string, line: number, text: string) {
  const file = openBooks(books);
  return file.read(async (db) => {
    const { currency } = await db.selectFrom('books').select('currency').executeTakeFirstOrThrow();
    const amount = parseAmount(text.trim().replace(/,/g, ''), currency);
    return candidates(db, line, { text: text.trim().slice(0, 100), amount: amount.ok ? amount.minor : null });
  });
}
