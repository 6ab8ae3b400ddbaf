import { subtract, writeAmount, ZERO, isCurrencyCode, type Currency, type Minor } from '../../core/money';
import { recordOr, refuseRecord } from '../csv/cells';
import type { CsvRow } from '../csv/tokenizer';
import { refuseFile, type Batch, type Finding } from '../finding';
import { parseLooseAmount, parseLooseInstant, unwrap } from '../table/loose';
import { checkCount, type RowSource } from '../table/rows';
import type { ReceiptField, ReceiptProfile } from './profile';
import type { ReceiptRecord } from './record';
import { sameRow } from './sniff';

const REQUIRED: readonly ReceiptField[] = ['time'];

/** The cells of one row by field; each reading refuses the row with its line, column and what stands there. */
class Row {
  constructor(
    readonly line: number,
    private readonly fields: readonly string[],
    private readonly at: Readonly<Partial<Record<ReceiptField, number>>>,
    private readonly profile: ReceiptProfile,
  ) {}

  text(field: ReceiptField): string {
    const position = this.at[field];
    return position === undefined ? '' : unwrap(this.fields[position] ?? '');
  }

  get isEmpty(): boolean {
    return this.fields.every((field) => field.trim() === '');
  }

  /** A line of sums under the rows: it has no date, and says what it is or has no id. */
  get isTotal(): boolean {
    if (/\d/.test(this.text('time'))) return false;
    return (
      this.fields.some((field) => /^(grand )?(sub)?totals?\b|^sum\b|^summe\b/i.test(field.trim())) ||
      this.text('id') === ''
    );
  }

  refuse(code: Finding['code'], field: ReceiptField, detail: Partial<Finding> = {}): never {
    refuseRecord(code, this.line, { field: this.profile.columns[field] ?? field, ...detail });
  }

  amount(field: ReceiptField, currency: Currency): Minor | null {
    const text = this.text(field);
    if (text === '') return null;
    if (text.startsWith('=')) this.refuse('formula', field, { found: text.slice(0, 60) });
    const parsed = parseLooseAmount(text, currency, this.profile.decimal);
    return parsed.ok
      ? parsed.minor
      : this.refuse('bad-amount', field, { found: text.slice(0, 60), expected: parsed.fault });
  }

  time(): Date {
    const date = this.text('time');
    if (date === '') this.refuse('missing-value', 'time');
    const clock = this.text('clock');
    const text = clock === '' ? date : `${date} ${clock}`;
    const { dateOrder, zone } = this.profile;
    return parseLooseInstant(text, dateOrder, zone) ?? this.refuse('bad-time', 'time', { found: text.slice(0, 60) });
  }
}

type Kind = ReceiptRecord['kind'];

function kindOf(row: Row, profile: ReceiptProfile): Kind | 'skip' | null {
  if (profile.columns.kind === undefined) return null;
  const value = row.text('kind').toLowerCase();
  if (profile.skipped.includes(value)) return 'skip';
  return profile.refunds.includes(value) ? 'refund' : profile.payouts.includes(value) ? 'payout' : 'receipt';
}

/** Gross, fee and net, whichever of them are given; they must agree where all are. */
function money(row: Row, currency: Currency, kind: Kind | null, profile: ReceiptProfile) {
  let gross = row.amount('gross', currency);
  let fee = row.amount('fee', currency);
  let net = row.amount('net', currency);
  if (fee !== null && profile.feeSign === 'minus') fee = subtract(ZERO, fee);
  const turn = (amount: Minor | null) => (amount === null ? null : subtract(ZERO, amount));
  // A refund or payout that is written without a sign: the kind says which way the money went.
  if (kind !== null && kind !== 'receipt' && (gross ?? net ?? ZERO) > 0) {
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
class DerivedIds {
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

function read(row: Row, profile: ReceiptProfile, ids: DerivedIds): ReceiptRecord | null {
  let kind = kindOf(row, profile);
  if (kind === 'skip') return null;
  const at = row.time();
  const said = row.text('currency').toUpperCase();
  const currency = said === '' ? profile.currency : said;
  if (!isCurrencyCode(currency)) row.refuse('bad-currency', 'currency', { found: said.slice(0, 20) });
  const { gross, fee } = money(row, currency, kind, profile);
  kind ??= gross < 0 ? 'refund' : 'receipt';
  if (gross === 0) row.refuse('wrong-sign', 'gross', { expected: 'another amount than nothing', found: '0' });
  if (kind === 'receipt' ? gross < 0 : gross > 0) {
    row.refuse('wrong-sign', 'gross', {
      expected: kind === 'receipt' ? 'above zero' : 'below zero',
      found: writeAmount(gross, currency),
    });
  }
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

/**
 * Reads receipts by a profile. Titles above the header, repeated headers, empty rows and a row of totals are passed over; a
 * row that cannot be taken is refused alone, with its line, column and what stands there.
 */
export async function* readReceipts(rows: RowSource, profile: ReceiptProfile): AsyncGenerator<Batch<ReceiptRecord>> {
  const ids = new DerivedIds();
  let passed = 0;
  let header: readonly string[] | null = null;
  let at: Partial<Record<ReceiptField, number>> = {};
  let count = 0;
  const locate = (row: CsvRow) => {
    header = row.fields.map((name) => name.trim());
    for (const [field, name] of Object.entries(profile.columns) as [ReceiptField, string][]) {
      const position = header.indexOf(name);
      if (position < 0)
        refuseFile('missing-columns', row.line, { expected: name, found: header.join(', ').slice(0, 300) });
      at = { ...at, [field]: position };
    }
    const missing = REQUIRED.filter((field) => at[field] === undefined);
    if (missing.length > 0 || (at.gross === undefined && at.net === undefined)) {
      const expected = missing.length > 0 ? 'a date or time' : 'an amount';
      refuseFile('missing-columns', row.line, { expected, found: header.join(', ').slice(0, 300) });
    }
  };
  for await (const { rows: batch, bytes } of rows) {
    const records: ReceiptRecord[] = [];
    const findings: Finding[] = [];
    for (const raw of batch) {
      if (header === null) {
        if (passed++ < profile.above) continue;
        locate(raw);
        continue;
      }
      if (sameRow(raw.fields, header)) continue;
      const row = new Row(raw.line, raw.fields, at, profile);
      if (row.isEmpty || row.isTotal) continue;
      const record = recordOr(row.text('id'), () => read(row, profile, ids), findings);
      if (record !== null) records.push(record);
    }
    count += records.length;
    checkCount(count);
    yield { records, findings, bytes };
  }
  if (header === null) refuseFile('empty-file', null);
}
