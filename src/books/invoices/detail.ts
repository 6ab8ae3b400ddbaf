import type { PlainDate } from '@/core/calendar';
import { invoiceState, type InvoiceState } from '@/core/receivables';
import type { Minor } from '@/core/money';
import type { Reading } from '../store';

export interface InvoiceDetailLine {
  readonly item: string;
  readonly description: string;
  readonly net: Minor;
  readonly taxCode: string;
  readonly tax: Minor;
}

/** One invoice with its lines. Amounts in minor units. */
export interface InvoiceDetail {
  readonly id: number;
  readonly number: string;
  readonly payer: string;
  readonly email: string;
  readonly issued: PlainDate;
  readonly due: PlainDate;
  readonly net: Minor;
  readonly tax: Minor;
  readonly gross: Minor;
  readonly paid: Minor;
  readonly state: InvoiceState;
  readonly journal: number | null;
  readonly file: string;
  readonly lines: readonly InvoiceDetailLine[];
}

export async function invoiceDetail(db: Reading, id: number, today: PlainDate): Promise<InvoiceDetail | null> {
  const row = await db
    .selectFrom('invoice')
    .innerJoin('payer', 'payer.id', 'invoice.payer_id')
    .innerJoin('run', 'run.id', 'invoice.run_id')
    .select([
      'invoice.id',
      'number',
      'payer.name as payer',
      'payer.email',
      'issued',
      'due',
      'net',
      'tax',
      'gross',
      'paid',
      'journal_id as journal',
      'run.file_name as file',
    ])
    .where('invoice.id', '=', id)
    .executeTakeFirst();
  if (!row) return null;
  const lines = await db
    .selectFrom('invoice_line')
    .innerJoin('item', 'item.id', 'invoice_line.item_id')
    .innerJoin('tax_code', 'tax_code.id', 'invoice_line.tax_code_id')
    .select(['item.name as item', 'description', 'net', 'tax_code.code as taxCode', 'tax'])
    .where('invoice_id', '=', id)
    .orderBy('line_no')
    .execute();
  return { ...row, state: invoiceState({ ...row, posted: row.journal !== null }, today), lines };
}
