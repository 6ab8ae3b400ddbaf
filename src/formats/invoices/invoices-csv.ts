import type { PlainDate } from '../../core/calendar';
import type { Currency, Minor } from '../../core/money';
import { readTable } from '../csv';
import { Cells, recordOr } from '../csv/cells';
import { refusalsAsFindings, type Batch, type ByteSource, type Finding } from '../finding';

/** One line of an invoice with the head it repeats. Amounts in minor units. */
export interface InvoiceLineRecord {
  readonly line: number;
  readonly number: string;
  readonly payer: string;
  readonly email: string;
  readonly issued: PlainDate;
  readonly due: PlainDate;
  readonly currency: Currency;
  readonly item: string;
  readonly description: string;
  readonly net: Minor;
  readonly taxCode: string;
  /** Null where the file leaves it to be worked out from the code. */
  readonly tax: Minor | null;
}

const REQUIRED = ['Number', 'Payer', 'Issued', 'Due', 'Currency', 'Item', 'Net', 'Tax code'] as const;
const OPTIONAL = ['Email', 'Description', 'Tax'] as const;
type Column = (typeof REQUIRED)[number] | (typeof OPTIONAL)[number];

function readLine(cells: Cells<Column>): InvoiceLineRecord {
  const currency = cells.currency('Currency');
  const issued = cells.date('Issued');
  const due = cells.date('Due');
  if (due < issued) cells.refuse('dates-reversed', { field: 'Due', expected: issued, found: due });
  return {
    line: cells.line,
    number: cells.needed('Number'),
    payer: cells.needed('Payer'),
    email: cells.text('Email'),
    issued,
    due,
    currency,
    item: cells.needed('Item'),
    description: cells.text('Description'),
    net: cells.amount('Net', currency),
    taxCode: cells.needed('Tax code'),
    tax: cells.optionalAmount('Tax', currency),
  };
}

async function* readBatches(source: ByteSource): AsyncGenerator<Batch<InvoiceLineRecord>> {
  for await (const batch of readTable<Column>(source, { required: REQUIRED, optional: OPTIONAL })) {
    const findings: Finding[] = [...batch.findings];
    const records: InvoiceLineRecord[] = [];
    for (const row of batch.rows) {
      const cells = new Cells(row.line, row.fields, batch.at);
      const record = recordOr(cells.text('Number'), () => readLine(cells), findings);
      if (record !== null) records.push(record);
    }
    yield { records, findings, bytes: batch.bytes };
  }
}

/**
 * Reads invoices from a CSV with one row per invoice line; rows with the same number are one invoice and stand together.
 * Net and tax are per line; the tax may be left out.
 */
export function readInvoicesCsv(source: ByteSource): AsyncGenerator<Batch<InvoiceLineRecord>> {
  return refusalsAsFindings(readBatches(source));
}
