import type { PlainDate } from '@/core/calendar';
import type { AccountId } from '@/core/ledger';
import { writeAmount, type Currency, type Minor } from '@/core/money';
import { csvLine } from '@/formats/csv';
import type { ByteSource } from '@/formats/finding';
import { invoiceFilter } from '../invoices/filter';
import { invoiceRows, type InvoiceListRow } from '../invoices/list';
import { refusedOfRun } from '../imports/runs';
import { accountBalances, accountBalancesUnder } from '../ledger/balances';
import { plainDateInput } from '../command/plain-date-input';
import { registerRows, type RegisterCursor } from '../ledger/register';
import { listPayers } from '../payers/list';
import { payoutFilter, payoutRows, type PayoutListRow } from '../payouts/list';
import { dayCells, dayDocument } from '../receipts/day-document';
import { receiptFilter } from '../receipts/filter';
import { receiptRows, type ReceiptListRow } from '../receipts/list';
import { lineFilter, lineRows, type LineListRow } from '../statements/list';
import type { BooksFile } from '../store';
import { chargedOtherwiseRows, depositIncomeRows } from './export-bank';
import { owedRows } from './export-owed';
import type { Cursor } from './page';

const BATCH = 2_000;

type Cells = readonly (string | number | null)[];

interface Export {
  /** Null where the first row is the head. */
  readonly head: Cells | null;
  /** Rows in the order of the list, a batch at a time, however many there are. */
  readonly batches: AsyncGenerator<readonly Cells[]>;
}

interface Context {
  readonly books: BooksFile;
  readonly currency: Currency;
  readonly today: PlainDate;
  readonly search: Readonly<Record<string, string>>;
  /** The bytes of a file kept with these books. */
  readonly fileBytes: (sha256: string) => ByteSource;
}

async function* paged<Row extends Cursor>(
  fetch: (after: Row | null) => Promise<readonly Row[]>,
  cells: (row: Row) => Cells,
): AsyncGenerator<readonly Cells[]> {
  for (let after: Row | null = null; ;) {
    const rows: readonly Row[] = await fetch(after);
    yield rows.map(cells);
    if (rows.length < BATCH) return;
    after = rows.at(-1)!;
  }
}

async function* registerBatches(
  context: Context,
  account: AccountId,
  value: number | null,
  money: (a: Minor) => string,
) {
  for (let after: RegisterCursor | null = null; ;) {
    const rows: Awaited<ReturnType<typeof registerRows>> = await registerRows(
      context.books.reader,
      account,
      after,
      BATCH,
      value,
    );
    yield rows.map((row) => [row.date, row.journal, row.memo, row.because, money(row.amount)] as Cells);
    if (rows.length < BATCH) return;
    const last = rows.at(-1)!;
    after = { date: last.date, journal: last.journal, line: last.lineNo };
  }
}

async function* payerBatches({ books, search }: Context, money: (a: Minor) => string) {
  for (let after: { name: string; id: number } | null = null; ;) {
    const page: Awaited<ReturnType<typeof listPayers>> = await listPayers(books.reader, search.text ?? '', after);
    yield page.rows.map((r) => [r.name, r.email, r.alsoKnownAs, r.invoices, money(r.open), r.receipts] as Cells);
    if (!page.more) return;
    after = page.rows.at(-1)!;
  }
}

async function* once(rows: Promise<readonly Cells[]>): AsyncGenerator<readonly Cells[]> {
  yield await rows;
}

function exportOf(list: string, context: Context): Export | null {
  const { books, currency, today, search } = context;
  const db = books.reader;
  const money = (amount: Minor | null) => (amount === null ? '' : writeAmount(amount, currency));
  switch (list) {
    case 'invoices': {
      const filter = invoiceFilter.catch({}).parse(search);
      return {
        head: ['Number', 'Payer', 'Issued', 'Due', 'Gross', 'Open', 'State'],
        batches: paged<InvoiceListRow>(
          (after) => invoiceRows(db, filter, today, after, BATCH),
          (r) => [r.number, r.payer, r.date, r.due, money(r.gross), money(r.open), r.state],
        ),
      };
    }
    case 'receipts': {
      const filter = receiptFilter.catch({}).parse(search);
      return {
        head: [
          'Id',
          'Type',
          'Date',
          'Payer',
          'Document',
          'Item',
          'Note',
          'Currency',
          'Gross',
          'Fee',
          'Payout',
          'Journal',
        ],
        batches: paged<ReceiptListRow>(
          (after) => receiptRows(db, filter, after, BATCH),
          (r) => [
            r.name,
            r.kind,
            r.date,
            r.payer,
            r.document,
            r.item,
            r.note,
            r.currency,
            writeAmount(r.gross, r.currency),
            r.fee === null ? '' : writeAmount(r.fee, r.currency),
            r.payout,
            r.journal,
          ],
        ),
      };
    }
    case 'payers':
      return {
        head: ['Name', 'Email', 'Also known as', 'Invoices', 'Open', 'Receipts'],
        batches: payerBatches(context, money),
      };
    case 'day':
      return {
        head: ['Site', 'What', 'Units', 'Gross', 'Discount', 'Tax', 'Paid'],
        batches: once(
          dayDocument(db, Number(search.channel), plainDateInput.catch(today).parse(search.date)).then(dayCells),
        ),
      };
    case 'payouts': {
      const filter = payoutFilter.catch({}).parse(search);
      return {
        head: ['Payout', 'Left', 'Expected', 'Banked', 'Receipts', 'Currency', 'Gross', 'Fees', 'Net'],
        batches: paged<PayoutListRow>(
          (after) => payoutRows(db, filter, today, after, BATCH),
          (r) => [
            r.name,
            r.date,
            r.expected,
            r.banked,
            r.receipts,
            r.currency,
            ...[r.gross, r.fee, r.net].map((amount) => writeAmount(amount, r.currency)),
          ],
        ),
      };
    }
    case 'lines': {
      const filter = lineFilter.catch({ state: 'to-explain' }).parse(search);
      return {
        head: ['Date', 'Text', 'Counterparty', 'Reference', 'Amount', 'Certainty', 'Explained by'],
        batches: paged<LineListRow>(
          (after) => lineRows(db, filter, after, BATCH),
          (r) => [r.date, r.text, r.counterparty, r.reference, money(r.amount), r.certainty, r.laid],
        ),
      };
    }
    case 'deposit-income':
      return { head: null, batches: once(depositIncomeRows(db, currency)) };
    case 'charged-otherwise':
      return { head: null, batches: once(chargedOtherwiseRows(db, Number(search.channel))) };
    case 'ageing':
    case 'items':
    case 'tax-codes':
    case 'terms':
    case 'payers-list': {
      const of = list === 'payers-list' ? 'payers' : list;
      const rows = owedRows(db, of, currency, plainDateInput.catch(today).parse(search.date));
      return { head: null, batches: once(rows) };
    }
    case 'trial-balance': {
      const date = plainDateInput.catch(today).parse(search.date);
      const value = Number(search.value) || 0;
      return {
        head: ['Code', 'Account', 'Class', 'Debits', 'Credits', 'Balance'],
        batches: once(
          (value > 0 ? accountBalancesUnder(db, date, value) : accountBalances(db, date)).then((accounts) =>
            accounts.map((a) => [a.code, a.name, a.class, money(a.debit), money(a.credit), money(a.balance)]),
          ),
        ),
      };
    }
  }
  const register = /^register-(\d{1,15})$/.exec(list);
  if (register) {
    return {
      head: ['Date', 'Journal', 'What', 'Because', 'Amount'],
      batches: registerBatches(context, Number(register[1]) as AccountId, Number(search.value) || null, money),
    };
  }
  return null;
}

/** Exactly what a list shows as a CSV, streamed; null where there is no such list. */
export function exportCsv(list: string, context: Context): AsyncGenerator<string> | null {
  const refused = /^refused-(\d{1,15})$/.exec(list);
  if (refused) return refusedOfRun(context.books.reader, Number(refused[1]), context.fileBytes);
  const found = exportOf(list, context);
  if (found === null) return null;
  return (async function* () {
    if (found.head) yield csvLine(found.head);
    for await (const rows of found.batches) yield rows.map(csvLine).join('');
  })();
}
