import { parsePlainDate, type PlainDate } from '../../core/calendar';
import { isCurrencyCode, minor, negate, type Currency, type Minor } from '../../core/money';
import { LIMITS, refusalsAsFindings, refuseFile, type Batch, type ByteSource } from '../finding';
import { textLines } from '../text-lines';
import { accountKey, FootingCheck, type StatementRecord } from './record';

/** Summary types of an account (BAI2 uniform codes): opening and closing ledger balance. */
const OPENING = '010';
const CLOSING = '015';

/** Adds up what its trailer must say: amounts as they are written, and records. */
interface Control {
  total: number;
  records: number;
  parts: number;
}
const control = (): Control => ({ total: 0, records: 0, parts: 0 });

interface Account {
  readonly number: string;
  readonly currency: Currency;
  readonly check: FootingCheck;
  readonly closing: Minor | null;
  readonly control: Control;
}

/** Follows a BAI2 file record by record; a record may go on in records of the kind 88. */
class Bai2Reader {
  private code = '';
  private body = '';
  private at = 1;
  private physical = 0;
  private file: Control | null = null;
  private group: (Control & { readonly day: PlainDate; readonly currency: Currency }) | null = null;
  private account: Account | null = null;
  private ended = false;
  private records: StatementRecord[] = [];

  take(line: string, at: number): void {
    const text = line.trimEnd();
    if (text === '') return;
    const code = text.slice(0, 2);
    if (!/^\d{2}$/.test(code) || (text.length > 2 && text[2] !== ',')) {
      refuseFile('not-a-statement', at, { expected: '01, 02, 03, 16, 49, 88, 98, 99', found: text.slice(0, 60) });
    }
    const rest = text.slice(3);
    if (code === '88') {
      if (this.code === '') refuseFile('not-a-statement', at, { found: '88', expected: 'a record before it' });
      // A slash ends the fields of a record; text that reached the end of its line goes on.
      this.body = this.body.endsWith('/') ? `${this.body.slice(0, -1)},${rest}` : `${this.body} ${rest}`;
      this.physical++;
      if (this.body.length > LIMITS.lineLength) refuseFile('line-too-long', this.at);
      return;
    }
    this.record();
    [this.code, this.body, this.at, this.physical] = [code, rest, at, 1];
  }

  end(): StatementRecord[] {
    this.record();
    if (this.file === null && !this.ended) refuseFile('not-a-statement', null, { expected: '01' });
    if (!this.ended) refuseFile('truncated', this.at, { field: '99' });
    return this.flush();
  }

  flush(): StatementRecord[] {
    const { records } = this;
    this.records = [];
    return records;
  }

  private refuse(code: Parameters<typeof refuseFile>[0], detail: Parameters<typeof refuseFile>[2] = {}): never {
    refuseFile(code, this.at, detail);
  }

  private record(): void {
    const { code } = this;
    if (code === '') return;
    this.code = '';
    if (this.ended) this.refuse('not-a-statement', { found: code, expected: 'nothing after 99' });
    const body = this.body.endsWith('/') ? this.body.slice(0, -1) : this.body;
    for (const level of [this.file, this.group, this.account?.control]) if (level) level.records += this.physical;
    switch (code) {
      case '01':
        this.file = { ...control(), records: this.physical };
        return;
      case '02':
        return this.beginGroup(body.split(','));
      case '03':
        return this.beginAccount(body.split(','));
      case '16':
        return this.movement(body);
      case '49':
        return this.endAccount(body.split(','));
      case '98':
        return this.endGroup(body.split(','));
      case '99':
        return this.endFile(body.split(','));
      default:
        this.refuse('not-a-statement', { found: code, expected: '01, 02, 03, 16, 49, 88, 98, 99' });
    }
  }

  private day(field: string, yymmdd: string): PlainDate {
    const day = /^\d{6}$/.test(yymmdd)
      ? parsePlainDate(`20${yymmdd.slice(0, 2)}-${yymmdd.slice(2, 4)}-${yymmdd.slice(4)}`)
      : null;
    return day ?? this.refuse('bad-date', { field, found: yymmdd.slice(0, 60) });
  }

  /** Amounts are whole numbers of the currency's smallest unit, with no point. */
  private amount(field: string, text: string): Minor {
    if (!/^[+-]?\d{1,15}$/.test(text)) this.refuse('bad-amount', { field, found: text.slice(0, 60) });
    return minor(Number(text));
  }

  private beginGroup(fields: readonly string[]): void {
    if (this.file === null) this.refuse('missing-element', { field: '01' });
    if (this.group !== null) this.refuse('truncated', { field: '98' });
    const [, , , asOf, , currency] = fields;
    this.group = { ...control(), records: this.physical, day: this.day('02', asOf ?? ''), currency: currency || 'USD' };
  }

  private beginAccount(fields: readonly string[]): void {
    if (this.group === null) this.refuse('missing-element', { field: '02' });
    if (this.account !== null) this.refuse('truncated', { field: '49' });
    const [number, currency] = [accountKey(fields[0] ?? ''), fields[1] || this.group.currency];
    if (number === '') this.refuse('missing-element', { field: '03 account' });
    if (!isCurrencyCode(currency)) this.refuse('bad-currency', { field: '03', found: currency.slice(0, 60) });
    const sums = { ...control(), records: this.physical };
    const balances = new Map<string, Minor>();
    for (let at = 2; at < fields.length;) {
      const [type, amount] = [fields[at] ?? '', fields[at + 1] ?? ''];
      if (type !== '' && amount !== '') {
        const value = this.amount(`03 ${type}`, amount);
        sums.total += value;
        balances.set(type, value);
      }
      at += 3 + this.fundsFields(fields, at + 3);
    }
    const opening = balances.get(OPENING) ?? null;
    const check = new FootingCheck(opening, currency, number);
    this.account = { number, currency, check, closing: balances.get(CLOSING) ?? null, control: sums };
    this.records.push({ kind: 'statement', reference: '', account: number, currency, opening });
  }

  /** How many fields the kind of funds takes, itself included: when they are there is told in some of the kinds. */
  private fundsFields(fields: readonly string[], at: number): number {
    switch (fields[at]) {
      case 'S':
        return 4;
      case 'V':
        return 3;
      case 'D':
        return 2 + 2 * Math.min(Number(fields[at + 1]) || 0, 100);
      default:
        return 1;
    }
  }

  private movement(body: string): void {
    const { account, group } = this;
    if (account === null || group === null) this.refuse('missing-element', { field: '03' });
    const fields = body.split(',');
    const type = fields[0] ?? '';
    const number = Number(type);
    if (!/^\d{3}$/.test(type) || number < 100 || number > 999) {
      this.refuse('bad-kind', { field: '16', expected: '100 to 699', found: type.slice(0, 60) });
    }
    const written = this.amount('16', fields[1] ?? '');
    account.control.total += written;
    // Types above 699 say something beside what was booked.
    if (number > 699) return;
    const behind = 2 + this.fundsFields(fields, 2);
    const valueDate = fields[2] === 'V' && fields[3] ? this.day('16', fields[3]) : group.day;
    const record = {
      kind: 'line',
      account: account.number,
      line: this.at,
      bookDate: group.day,
      valueDate,
      amount: number < 400 ? written : negate(written),
      text: fields
        .slice(behind + 2)
        .join(',')
        .replace(/\s+/g, ' ')
        .trim(),
      counterparty: '',
      reference: (fields[behind + 1] ?? '').trim() || (fields[behind] ?? '').trim(),
      bankId: (fields[behind] ?? '').trim(),
      details: [],
    } as const;
    account.check.take(record);
    this.records.push(record);
  }

  /** Compares what a trailer says with what was counted. */
  private trailer(code: string, fields: readonly string[], sums: Control, parts: number | null): void {
    const total = this.amount(code, fields[0] ?? '');
    if (total !== sums.total) {
      this.refuse('control-total', { field: code, expected: String(sums.total), found: String(total) });
    }
    const said = parts === null ? [Number(fields[1])] : [Number(fields[1]), Number(fields[2])];
    const counted = parts === null ? [sums.records] : [parts, sums.records];
    if (said.some((n, index) => n !== counted[index])) {
      this.refuse('control-total', { field: code, expected: counted.join(' and '), found: said.join(' and ') });
    }
  }

  private endAccount(fields: readonly string[]): void {
    const { account, group } = this;
    if (account === null || group === null) this.refuse('missing-element', { field: '03' });
    this.trailer('49', fields, account.control, null);
    group.total += account.control.total;
    group.parts++;
    this.records.push(account.check.end(account.closing, this.at));
    this.account = null;
  }

  private endGroup(fields: readonly string[]): void {
    const { group, file } = this;
    if (group === null || file === null) this.refuse('missing-element', { field: '02' });
    if (this.account !== null) this.refuse('truncated', { field: '49' });
    this.trailer('98', fields, group, group.parts);
    file.total += group.total;
    file.parts++;
    this.group = null;
  }

  private endFile(fields: readonly string[]): void {
    const { file } = this;
    if (file === null) this.refuse('missing-element', { field: '01' });
    if (this.group !== null) this.refuse('truncated', { field: '98' });
    this.trailer('99', fields, file, file.parts);
    this.ended = true;
  }
}

async function* readBatches(source: ByteSource): AsyncGenerator<Batch<StatementRecord>> {
  const reader = new Bai2Reader();
  let bytes = 0;
  for await (const batch of textLines(source)) {
    bytes = batch.bytes;
    batch.lines.forEach((line, index) => reader.take(line, batch.first + index));
    yield { records: reader.flush(), findings: [], bytes };
  }
  yield { records: reader.end(), findings: [], bytes };
}

/**
 * Reads BAI2: several groups and accounts in one file, continuation records, control totals and counts of records at all three
 * levels. A total or count that is not what was read, or a file without its trailer, refuses the whole file.
 */
export function readBai2(source: ByteSource): AsyncGenerator<Batch<StatementRecord>> {
  return refusalsAsFindings(readBatches(source));
}
