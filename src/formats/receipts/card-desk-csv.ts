import { parseInstant } from '../../core/calendar';
import { subtract, writeAmount, ZERO, type Currency, type Minor } from '../../core/money';
import { readTable } from '../csv';
import { Cells, recordOr } from '../csv/cells';
import { refusalsAsFindings, type Batch, type ByteSource, type Finding } from '../finding';
import { wrongSign, type ReceiptRecord } from './record';

const REQUIRED = ['Id', 'Type', 'Time', 'Currency', 'Gross', 'Fee', 'Net', 'Payer', 'Document', 'Payout'] as const;
const OPTIONAL = ['Email', 'Item', 'Tip', 'Note', 'Refund of'] as const;
type Column = (typeof REQUIRED)[number] | (typeof OPTIONAL)[number];

const KINDS: Readonly<Record<string, ReceiptRecord['kind']>> = {
  receipt: 'receipt',
  refund: 'refund',
  chargeback: 'chargeback',
  payout: 'payout',
};

function feeOf(cells: Cells<Column>, currency: Currency, gross: Minor): Minor | null {
  const fee = cells.optionalAmount('Fee', currency);
  const net = cells.optionalAmount('Net', currency);
  if (net === null) return fee;
  const difference = subtract(gross, net);
  if (fee !== null && fee !== difference) {
    cells.refuse('net-differs', {
      field: 'Net',
      expected: writeAmount(subtract(gross, fee), currency),
      found: writeAmount(net, currency),
    });
  }
  return difference;
}

function readRecord(cells: Cells<Column>): ReceiptRecord {
  const id = cells.needed('Id');
  const kindText = cells.needed('Type');
  const kind =
    KINDS[kindText.toLowerCase()] ?? cells.refuse('bad-kind', { field: 'Type', found: kindText.slice(0, 60) });
  const time = cells.needed('Time');
  const at = parseInstant(time) ?? cells.refuse('bad-time', { field: 'Time', found: time.slice(0, 60) });
  const currency = cells.currency('Currency');
  const gross = cells.amount('Gross', currency);
  const expected = wrongSign(kind, gross);
  if (expected !== null) cells.refuse('wrong-sign', { field: 'Gross', expected, found: writeAmount(gross, currency) });
  const fee = feeOf(cells, currency, gross);
  if (kind === 'payout' && fee !== null && fee !== 0) {
    cells.refuse('fee-on-payout', { field: 'Fee', expected: '0', found: writeAmount(fee, currency) });
  }
  const tip = cells.optionalAmount('Tip', currency) ?? ZERO;
  if (Math.abs(tip) > Math.abs(gross) || (tip !== 0 && tip < 0 !== gross < 0)) {
    cells.refuse('tip-too-large', {
      field: 'Tip',
      expected: writeAmount(gross, currency),
      found: writeAmount(tip, currency),
    });
  }
  return {
    line: cells.line,
    kind,
    id,
    at,
    currency,
    gross,
    tip,
    fee,
    payer: cells.text('Payer'),
    email: cells.text('Email'),
    document: cells.text('Document'),
    item: cells.text('Item'),
    note: cells.text('Note'),
    payout: cells.text('Payout'),
    refundOf: cells.text('Refund of'),
    discount: ZERO,
    payerId: '',
    method: '',
    site: '',
    country: '',
    region: '',
    fund: '',
  };
}

async function* readBatches(source: ByteSource): AsyncGenerator<Batch<ReceiptRecord>> {
  for await (const batch of readTable<Column>(source, { required: REQUIRED, optional: OPTIONAL })) {
    const findings: Finding[] = [...batch.findings];
    const records: ReceiptRecord[] = [];
    for (const row of batch.rows) {
      const cells = new Cells(row.line, row.fields, batch.at);
      const record = recordOr(cells.text('Id'), () => readRecord(cells), findings);
      if (record !== null) records.push(record);
    }
    yield { records, findings, bytes: batch.bytes };
  }
}

/**
 * Reads a card desk's export: one row per receipt, refund or payout, with its UTC time, gross, fee, net, payer,
 * document number and payout id. A fee may be left empty (not known). A row whose net is not gross less fee, whose
 * sign does not fit its type, or whose amount or time cannot be read is refused alone.
 */
export function readCardDeskCsv(source: ByteSource): AsyncGenerator<Batch<ReceiptRecord>> {
  return refusalsAsFindings(readBatches(source));
}
