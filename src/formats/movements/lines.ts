import type { Minor } from '../../core/money';
import { LIMITS, refuseFile, type Batch, type ByteSource, type Finding } from '../finding';
import { wrongSign, type ReceiptRecord } from '../receipts/record';
import { checkCount } from '../table/rows';
import { decodeText } from '../text';
import { wireMovement } from './wire';

/** One movement a line (JSON Lines): how what was fetched is kept, so that it can be read again like any file. */
export async function* readMovements(source: ByteSource): AsyncGenerator<Batch<ReceiptRecord>> {
  let held = '';
  let line = 0;
  let count = 0;
  let bytes = 0;
  const take = (lines: readonly string[]): Batch<ReceiptRecord> => {
    const records: ReceiptRecord[] = [];
    const findings: Finding[] = [];
    for (const text of lines) {
      line++;
      if (text.trim() === '') continue;
      const read = readMovement(text, line);
      if ('scope' in read) findings.push(read);
      else records.push(read);
    }
    count += records.length;
    checkCount(count);
    return { records, findings, bytes };
  };
  for await (const chunk of decodeText(source)) {
    bytes = chunk.bytes;
    const lines = (held + chunk.text).split('\n');
    held = lines.pop()!;
    if (held.length > LIMITS.lineLength) refuseFile('line-too-long', line + 1);
    yield take(lines);
  }
  yield take([held]);
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}

function readMovement(text: string, line: number): ReceiptRecord | Finding {
  const read = wireMovement.safeParse(parsed(text));
  if (!read.success) {
    const issue = read.error.issues[0]!;
    const field = issue.path.join('.');
    return { scope: 'record', code: 'not-a-movement', line, field: [field, issue.message].filter(Boolean).join(', ') };
  }
  const { id, kind, at, currency, gross, tip, fee, payer, ...rest } = read.data;
  const expected = wrongSign(kind, gross as Minor);
  if (expected !== null) {
    return { scope: 'record', code: 'wrong-sign', line, subject: id, field: 'gross', expected, found: String(gross) };
  }
  return {
    line,
    kind,
    id,
    at: new Date(at),
    currency,
    gross: gross as Minor,
    tip: tip as Minor,
    fee: kind === 'payout' ? null : (fee as Minor | null),
    payer: payer?.name ?? '',
    email: payer?.email ?? '',
    payerId: payer?.id ?? '',
    document: rest.document,
    item: rest.item,
    note: rest.note,
    payout: rest.payout,
    refundOf: rest.takesBack,
    discount: 0 as Minor,
    method: rest.method.toLowerCase(),
    site: '',
    country: '',
    region: '',
    fund: rest.fund,
  };
}
