import { subtract, writeAmount, ZERO, isCurrencyCode, type Currency, type Minor } from '../../core/money';
import { recordOr } from '../csv/cells';
import type { CsvRow } from '../csv/tokenizer';
import { refuseFile, type Batch, type Finding } from '../finding';
import { checkCount, type RowSource } from '../table/rows';
import type { ReceiptField, ReceiptProfile } from './profile';
import { wrongSign, type ReceiptRecord } from './record';
import { Row } from './row';
import { sameRow } from '../table/header';

const REQUIRED: readonly ReceiptField[] = ['time'];
const AMOUNTS: readonly ReceiptField[] = ['gross', 'net', 'paidIn', 'paidOut'];

type Kind = ReceiptRecord['kind'];

function kindOf(row: Row, profile: ReceiptProfile): Kind | 'skip' | null {
  if (profile.columns.kind === undefined) return null;
  const value = row.text('kind').toLowerCase();
  if (profile.skipped.includes(value)) return 'skip';
  if (profile.refunds.includes(value)) return 'refund';
  if (profile.payouts.includes(value)) return 'payout';
  return profile.chargebacks.includes(value) ? 'chargeback' : 'receipt';
}

/** Money in and out in columns of their own; null where neither says anything. */
function inLessOut(row: Row, currency: Currency): Minor | null {
  const paidIn = row.amount('paidIn', currency);
  const out = row.amount('paidOut', currency);
  if (paidIn === null && out === null) return null;
  const left = (Math.abs(out ?? ZERO) || 0) as Minor;
  return subtract(paidIn ?? ZERO, left);
}

/** Gross, fee and net, whichever of them are given; they must agree where all are. */
function money(row: Row, currency: Currency, kind: Kind | null, profile: ReceiptProfile) {
  let gross = row.amount('gross', currency) ?? inLessOut(row, currency);
  let fee = row.amount('fee', currency);
  let net = row.amount('net', currency);
  if (fee !== null && profile.feeSign === 'minus') fee = subtract(ZERO, fee);
  const turn = (amount: Minor | null) => (amount === null ? null : subtract(ZERO, amount));
  // A refund or payout that is written without a sign: the kind says which way the money went.
  if ((kind === 'refund' || kind === 'payout') && (gross ?? net ?? ZERO) > 0) {
    gross = turn(gross);
    net = turn(net);
    if (kind === 'refund' && fee !== null && fee > 0 && gross !== null) fee = turn(fee);
  }
  if (gross === null && net !== null) gross = subtract(net, subtract(ZERO, fee ?? ZERO));
  if (gross === null) row.refuse('missing-value', 'gross');
  if (net !== null) {
    const difference = subtract(gross, net);
    if (fee !== null && fee !== difference) {
      row.refuse('net-differs', 'net', {
        expected: writeAmount(subtract(gross, fee), currency),
        found: writeAmount(net, currency),
      });
    }
    fee = difference;
  }
  return { gross, fee };
}

/** Rows without an id are told apart by what they say, and by how many of them say the same. */
export class DerivedIds {
  private readonly seen = new Map<string, number>();

  of(row: Row, at: Date, gross: Minor): string {
    const key = [
      at.toISOString(),
      gross,
      row.text('payer'),
      row.text('email'),
      row.text('document'),
      row.text('note'),
    ].join('|');
    const n = (this.seen.get(key) ?? 0) + 1;
    this.seen.set(key, n);
    let hash = 0xcbf29ce484222325n;
    for (let i = 0; i < key.length; i++) hash = BigInt.asUintN(64, (hash ^ BigInt(key.charCodeAt(i))) * 0x100000001b3n);
    return `row-${at.toISOString().slice(0, 10)}-${hash.toString(36)}${n > 1 ? `-${n}` : ''}`;
  }
}

/** One row as a movement; null where the profile says to pass it over. Throws what refuses the row. */
export function readRow(row: Row, profile: ReceiptProfile, ids: DerivedIds): ReceiptRecord | null {
  let kind = kindOf(row, profile);
  if (kind === 'skip') return null;
  const at = row.time();
  const said = row.text('currency').toUpperCase();
  const currency = said === '' ? profile.currency : said;
  if (!isCurrencyCode(currency)) row.refuse('bad-currency', 'currency', { found: said.slice(0, 20) });
  const { gross, fee } = money(row, currency, kind, profile);
  kind ??= gross < 0 ? 'refund' : 'receipt';
  const expected = gross === 0 ? 'another amount than nothing' : wrongSign(kind, gross);
  if (expected !== null) row.refuse('wrong-sign', 'gross', { expected, found: writeAmount(gross, currency) });
  const tip = row.amount('tip', currency) ?? ZERO;
  if (Math.abs(tip) > Math.abs(gross)) {
    row.refuse('tip-too-large', 'tip', { expected: writeAmount(gross, currency), found: writeAmount(tip, currency) });
  }
  const discount = row.amount('discount', currency) ?? ZERO;
  return {
    line: row.line,
    kind,
    id: row.text('id') || ids.of(row, at, gross),
    at,
    currency,
    gross,
    tip: kind === 'refund' && tip > 0 ? subtract(ZERO, tip) : tip,
    fee: kind === 'payout' ? null : fee,
    discount: (discount < 0 ? -discount : discount) as Minor,
    payer: row.text('payer'),
    email: row.text('email'),
    payerId: row.text('payerId'),
    document: row.text('document'),
    item: row.text('item'),
    note: row.text('note'),
    method: row.text('method').toLowerCase(),
    site: row.text('site'),
    country: row.text('country').toUpperCase(),
    region: row.text('region').toUpperCase(),
    fund: row.text('fund'),
    payout: row.text('payout'),
    refundOf: row.text('refundOf'),
  };
}

/** The rows of a profile's table under its header: titles, repeated headers, empty rows and totals are passed over. */
export async function* profiledRows(
  rows: RowSource,
  profile: ReceiptProfile,
): AsyncGenerator<{ readonly rows: readonly Row[]; readonly bytes: number }> {
  let passed = 0;
  let header: readonly string[] | null = null;
  let at: Partial<Record<ReceiptField, number>> = {};
  const locate = (row: CsvRow) => {
    header = row.fields.map((name) => name.trim());
    for (const [field, name] of Object.entries(profile.columns) as [ReceiptField, string][]) {
      const position = header.indexOf(name);
      if (position < 0)
        refuseFile('missing-columns', row.line, { expected: name, found: header.join(', ').slice(0, 300) });
      at = { ...at, [field]: position };
    }
    const missing = REQUIRED.filter((field) => at[field] === undefined);
    if (missing.length > 0 || AMOUNTS.every((field) => at[field] === undefined)) {
      const expected = missing.length > 0 ? 'a date or time' : 'an amount';
      refuseFile('missing-columns', row.line, { expected, found: header.join(', ').slice(0, 300) });
    }
  };
  for await (const { rows: batch, bytes } of rows) {
    const found: Row[] = [];
    for (const raw of batch) {
      if (header === null) {
        if (passed++ < profile.above) continue;
        locate(raw);
        continue;
      }
      if (sameRow(raw.fields, header)) continue;
      const row = new Row(raw.line, raw.fields, at, profile);
      if (!row.isEmpty && !row.isTotal) found.push(row);
    }
    yield { rows: found, bytes };
  }
  if (header === null) refuseFile('empty-file', null);
}

/** Reads receipts by a profile. A row that cannot be taken is refused alone, with its line, column and what stands there. */
export async function* readReceipts(rows: RowSource, profile: ReceiptProfile): AsyncGenerator<Batch<ReceiptRecord>> {
  const ids = new DerivedIds();
  let count = 0;
  for await (const { rows: batch, bytes } of profiledRows(rows, profile)) {
    const records: ReceiptRecord[] = [];
    const findings: Finding[] = [];
    for (const row of batch) {
      const record = recordOr(row.text('id'), () => readRow(row, profile, ids), findings);
      if (record !== null) records.push(record);
    }
    count += records.length;
    checkCount(count);
    yield { records, findings, bytes };
  }
}
