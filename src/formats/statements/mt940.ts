import { parsePlainDate, type PlainDate } from '../../core/calendar';
import { isCurrencyCode, negate, parseAmount, type Currency, type Minor } from '../../core/money';
import { LIMITS, refusalsAsFindings, refuseFile, type Batch, type ByteSource } from '../finding';
import { textLines } from '../text-lines';
import { informationOf } from './mt940-information';
import { accountKey, FootingCheck, type StatementLineRecord, type StatementRecord } from './record';

/** :60F:/:62F: and their intermediate forms: credit or debit, day, currency, amount (SWIFT MT940, field 60a and 62a). */
const BALANCE = /^([CD])(\d{6})([A-Z]{3})(\d[\d,]*)$/;
/**
 * :61: value day, booking day, mark, funds code, amount, kind, reference for the account owner, reference of the bank
 * (SWIFT MT940, field 61).
 */
const MOVEMENT = /^(\d{6})(\d{4})?(R?[CD])([A-Z])?(\d[\d,]*)([NFS][A-Z0-9]{3})(.*?)(?:\/\/(.*))?$/;
const TAG = /^:(\d{2}[A-Z]?):(.*)$/s;

interface Open {
  reference: string;
  account: string;
  currency: Currency;
  check: FootingCheck | null;
}

type Draft = Omit<StatementLineRecord, 'text' | 'counterparty'> & { supplement: string };

/** Follows one file field by field; a field may go on over several lines. */
class Mt940Reader {
  private tag = '';
  private value = '';
  private at = 1;
  private open: Open | null = null;
  private draft: Draft | null = null;
  private seen = false;
  private records: StatementRecord[] = [];

  take(text: string, line: number): void {
    // Blocks of the envelope, and the end of a message, are no fields.
    const bare = text.replace(/^\{[\s\S]*\{4:|^\{1:.*$|^\{4:/, '').trimEnd();
    if (bare === '-}' || bare === '-' || bare === '') return;
    const field = TAG.exec(bare);
    if (field) {
      this.field();
      [this.tag, this.value, this.at] = [field[1]!, field[2]!, line];
    } else if (this.tag !== '') {
      this.value += `\n${bare}`;
      if (this.value.length > LIMITS.lineLength) refuseFile('line-too-long', this.at, { field: `:${this.tag}:` });
    } else if (!bare.startsWith('{'))
      refuseFile('not-a-statement', line, { expected: ':20:', found: bare.slice(0, 60) });
  }

  end(): StatementRecord[] {
    this.field();
    if (!this.seen) refuseFile('not-a-statement', null, { expected: ':20:' });
    if (this.open !== null) refuseFile('truncated', this.at, { field: ':62F:' });
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

  private field(): void {
    const { tag, value } = this;
    this.tag = '';
    switch (tag) {
      case '20':
        if (this.open !== null) this.refuse('truncated', { field: ':62F:' });
        this.seen = true;
        this.open = { reference: value.trim(), account: '', currency: '', check: null };
        return;
      case '25':
      case '25P':
        this.statement(':25:').account = accountKey(value.split('\n')[0]!);
        return;
      case '28C':
      case '28':
        this.statement(':28C:').reference ||= value.trim();
        return;
      case '60F':
      case '60M':
        return this.opening(value.trim());
      case '61':
        this.finish('');
        this.draft = this.movement(value);
        return;
      case '86':
        // After the closing balance it is about the statement, and not about a line.
        if (this.draft !== null) this.finish(value);
        return;
      case '62F':
      case '62M':
        return this.closing(value.trim());
    }
  }

  private statement(field: string): Open {
    return this.open ?? this.refuse('missing-element', { field: ':20:', expected: `:20: before ${field}` });
  }

  private balance(value: string, field: string): { readonly currency: Currency; readonly amount: Minor } {
    const found = BALANCE.exec(value);
    if (!found) this.refuse('bad-amount', { field, found: value.slice(0, 60) });
    const [, mark, , currency, text] = found;
    if (!isCurrencyCode(currency!)) this.refuse('bad-currency', { field, found: currency });
    const amount = this.amount(text!, currency!, field);
    return { currency: currency!, amount: mark === 'C' ? amount : negate(amount) };
  }

  /** An amount in the standard's way: a comma that is always there, and digits behind it that may be fewer. */
  private amount(text: string, currency: Currency, field: string): Minor {
    const parsed = parseAmount(text.replace(',', '.').replace(/\.$/, ''), currency);
    return parsed.ok ? parsed.minor : this.refuse('bad-amount', { field, found: text.slice(0, 60) });
  }

  private opening(value: string): void {
    const open = this.statement(':60F:');
    if (open.account === '') this.refuse('missing-element', { field: ':25:' });
    if (open.check !== null) this.refuse('not-a-statement', { field: ':60F:', expected: 'one opening balance' });
    const { currency, amount } = this.balance(value, ':60F:');
    open.currency = currency;
    open.check = new FootingCheck(amount, currency, open.account);
    const { reference, account } = open;
    this.records.push({ kind: 'statement', reference, account, currency, opening: amount });
  }

  private day(yymmdd: string): PlainDate {
    const day = parsePlainDate(`20${yymmdd.slice(0, 2)}-${yymmdd.slice(2, 4)}-${yymmdd.slice(4)}`);
    return day ?? this.refuse('bad-date', { field: ':61:', found: yymmdd });
  }

  /** The booking day has no year: it is in that of the value day, or the one beside it where that is nearer. */
  private bookDay(valueDay: PlainDate, mmdd: string): PlainDate {
    const year = Number(valueDay.slice(0, 4));
    const day = (y: number) => parsePlainDate(`${y}-${mmdd.slice(0, 2)}-${mmdd.slice(2)}`);
    const same = day(year);
    if (same !== null && Math.abs(Number(mmdd.slice(0, 2)) - Number(valueDay.slice(5, 7))) < 5) return same;
    const apart = (date: PlainDate) => Math.abs(Date.parse(date) - Date.parse(valueDay));
    const near = [same, day(year - 1), day(year + 1)].filter((date) => date !== null);
    near.sort((a, b) => apart(a) - apart(b));
    return near[0] ?? this.refuse('bad-date', { field: ':61:', found: mmdd });
  }

  private movement(value: string): Draft {
    const open = this.statement(':61:');
    if (open.check === null) this.refuse('missing-element', { field: ':60F:' });
    const [first, ...more] = value.split('\n');
    const found = MOVEMENT.exec(first!.trim());
    if (!found) this.refuse('not-a-statement', { field: ':61:', found: first!.slice(0, 60) });
    const [, valued, booked, mark, , text, , reference, bankId] = found;
    const valueDate = this.day(valued!);
    const amount = this.amount(text!, open.currency, ':61:');
    return {
      kind: 'line',
      account: open.account,
      line: this.at,
      bookDate: booked ? this.bookDay(valueDate, booked) : valueDate,
      valueDate,
      // A reversed debit comes back, a reversed credit goes.
      amount: mark === 'C' || mark === 'RD' ? amount : negate(amount),
      reference: reference!.trim() === 'NONREF' ? '' : reference!.trim(),
      bankId: bankId?.trim() ?? '',
      details: [],
      supplement: more.join(' ').trim(),
    };
  }

  private finish(information: string): void {
    const { draft, open } = this;
    if (draft === null || open === null) return;
    this.draft = null;
    const { supplement, ...line } = draft;
    const said = informationOf(information);
    const record: StatementLineRecord = {
      ...line,
      text: [said.text, supplement].filter(Boolean).join(' '),
      counterparty: said.counterparty,
      reference: said.reference || line.reference || line.bankId,
    };
    open.check!.take(record);
    this.records.push(record);
  }

  private closing(value: string): void {
    const open = this.statement(':62F:');
    if (open.check === null) this.refuse('missing-element', { field: ':60F:' });
    this.finish('');
    const { currency, amount } = this.balance(value, ':62F:');
    if (currency !== open.currency) {
      this.refuse('other-currency', { field: ':62F:', expected: open.currency, found: currency });
    }
    this.records.push(open.check.end(amount, this.at));
    this.open = null;
  }
}

async function* readBatches(source: ByteSource): AsyncGenerator<Batch<StatementRecord>> {
  const reader = new Mt940Reader();
  let bytes = 0;
  for await (const batch of textLines(source)) {
    bytes = batch.bytes;
    batch.lines.forEach((line, index) => reader.take(line, batch.first + index));
    yield { records: reader.flush(), findings: [], bytes };
  }
  yield { records: reader.end(), findings: [], bytes };
}

/**
 * Reads SWIFT MT940, with or without its envelope; several accounts, and statements of several pages. A field that cannot be
 * read, a statement without its end, or a closing balance that opening and lines do not lead to refuse the whole file.
 */
export function readMt940(source: ByteSource): AsyncGenerator<Batch<StatementRecord>> {
  return refusalsAsFindings(readBatches(source));
}
