import { subtract, writeAmount, type Minor } from '../../core/money';
import { readTable } from '../csv';
import { Cells, recordOr } from '../csv/cells';
import { refusalsAsFindings, refuseFile, type Batch, type ByteSource, type Finding } from '../finding';
import { accountKey, FootingCheck, type StatementLineRecord, type StatementRecord } from './record';

const REQUIRED = ['Account', 'Booked', 'Amount', 'Currency', 'Text', 'Balance'] as const;
const OPTIONAL = ['Value', 'Counterparty', 'Reference'] as const;
type Column = (typeof REQUIRED)[number] | (typeof OPTIONAL)[number];

interface Row extends StatementLineRecord {
  readonly account: string;
  readonly currency: string;
  readonly balance: Minor;
}

function readRow(cells: Cells<Column>): Row {
  const currency = cells.currency('Currency');
  const bookDate = cells.date('Booked');
  return {
    kind: 'line',
    line: cells.line,
    account: accountKey(cells.needed('Account')),
    currency,
    bookDate,
    valueDate: cells.text('Value') === '' ? bookDate : cells.date('Value'),
    amount: cells.amount('Amount', currency),
    balance: cells.amount('Balance', currency),
    text: cells.text('Text'),
    counterparty: cells.text('Counterparty'),
    reference: cells.text('Reference'),
  };
}

async function* readBatches(source: ByteSource): AsyncGenerator<Batch<StatementRecord>> {
  let first: Row | null = null;
  let check: FootingCheck | null = null;
  let last: Row | null = null;
  let bytes = 0;
  for await (const batch of readTable<Column>(source, { required: REQUIRED, optional: OPTIONAL })) {
    bytes = batch.bytes;
    const records: StatementRecord[] = [];
    const findings: Finding[] = [...batch.findings];
    for (const data of batch.rows) {
      const row = recordOr('', () => readRow(new Cells(data.line, data.fields, batch.at)), findings);
      if (row === null) continue;
      if (first === null) {
        first = row;
        const opening = subtract(row.balance, row.amount);
        check = new FootingCheck(opening, row.currency);
        records.push({ kind: 'statement', reference: '', account: row.account, currency: row.currency, opening });
      }
      if (row.account !== first.account) {
        refuseFile('other-account', row.line, { field: 'Account', expected: first.account, found: row.account });
      }
      if (row.currency !== first.currency) {
        refuseFile('other-currency', row.line, { field: 'Currency', expected: first.currency, found: row.currency });
      }
      check!.take(row);
      if (check!.running !== row.balance) {
        refuseFile('balance-breaks', row.line, {
          field: 'Balance',
          expected: writeAmount(check!.running, row.currency),
          found: writeAmount(row.balance, row.currency),
        });
      }
      last = row;
      records.push(row);
    }
    // A statement with a line missing cannot foot: here a refused row refuses the file.
    if (findings[0]) refuseFile(findings[0].code, findings[0].line, findings[0]);
    yield { records, findings: [], bytes };
  }
  if (last === null || check === null) refuseFile('empty-file', null);
  yield { records: [check.end(check.running, last.line)], findings: [], bytes };
}

/**
 * Reads a bank's CSV of one account, oldest line first, with the balance after each line. The opening balance is the
 * first balance less the first amount, and every balance must follow from the one before: where it does not, the
 * file is refused with both figures, since a line is missing or changed.
 */
export function readStatementCsv(source: ByteSource): AsyncGenerator<Batch<StatementRecord>> {
  return refusalsAsFindings(readBatches(source));
}
