import { add, isCurrencyCode, negate, subtract, writeAmount, ZERO, type Currency, type Minor } from '../../core/money';
import { parsePlainDate, type PlainDate } from '../../core/calendar';
import { RecordRefused, refuseRecord } from '../csv/cells';
import type { CsvRow } from '../csv/tokenizer';
import { refuseFile, type Batch, type Finding } from '../finding';
import { sameRow } from '../table/header';
import { parseLooseAmount, parseLooseInstant, unwrap } from '../table/loose';
import { checkCount, type RowSource } from '../table/rows';
import type { StatementField, StatementProfile } from './profile';
import { accountKey, FootingCheck, type StatementEnd, type StatementLineRecord, type StatementRecord } from './record';

/** A statement goes by the day, so few dates are read anew. */
const DAYS_HELD = 2_000;

/** Where the fields of a profile stand in a table, looked up once for all of its rows. */
interface Places {
  readonly fields: Readonly<Partial<Record<StatementField, number>>>;
  readonly texts: readonly number[];
}

function placesOf(profile: StatementProfile, header: readonly string[]): Places {
  const at = new Map(header.map((name, index) => [name, index]));
  const fields = Object.entries(profile.columns).map(([field, name]) => [field, at.get(name)] as const);
  return {
    fields: Object.fromEntries(fields.filter(([, place]) => place !== undefined)) as Places['fields'],
    texts: profile.texts.flatMap((name) => at.get(name) ?? []),
  };
}

/** The cells of the row in hand by field; each reading refuses the row with its line, column and what stands there. */
class Row {
  line = 0;
  private cells: readonly string[] = [];
  private readonly days = new Map<string, PlainDate>();
  private readonly accounts = new Map<string, string>();
  private readonly currencies = new Map<string, Currency>();

  constructor(
    private readonly places: Places,
    private readonly profile: StatementProfile,
  ) {}

  /** Takes the next row in hand. */
  at({ line, fields }: CsvRow): this {
    this.line = line;
    this.cells = fields;
    return this;
  }

  private cell(place: number | undefined): string {
    return place === undefined ? '' : unwrap(this.cells[place] ?? '');
  }

  text(field: StatementField): string {
    return this.cell(this.places.fields[field]);
  }

  /** All that the bank's text is made of, each piece once. */
  words(): string {
    const { texts } = this.places;
    if (texts.length === 1) return this.cell(texts[0]);
    return [...new Set(texts.map((place) => this.cell(place)))].filter(Boolean).join(' ');
  }

  refuse(code: Finding['code'], field: StatementField, detail: Partial<Finding> = {}): never {
    refuseRecord(code, this.line, { field: this.profile.columns[field] ?? field, ...detail });
  }

  currency(): Currency {
    const said = this.text('currency');
    const known = this.currencies.get(said);
    if (known !== undefined) return known;
    const code = said === '' ? this.profile.currency : said.toUpperCase();
    if (!isCurrencyCode(code)) this.refuse('bad-currency', 'currency', { found: code.slice(0, 20) });
    this.currencies.set(said, code);
    return code;
  }

  account(otherwise: string): string {
    const text = this.text('account') || otherwise;
    const known = this.accounts.get(text);
    if (known !== undefined) return known;
    const key = accountKey(text);
    if (this.accounts.size < DAYS_HELD) this.accounts.set(text, key);
    return key;
  }

  amount(field: StatementField, currency: Currency): Minor | null {
    const text = this.text(field);
    if (text === '') return null;
    if (text.startsWith('=')) this.refuse('formula', field, { found: text.slice(0, 60) });
    const parsed = parseLooseAmount(text, currency, this.profile.decimal);
    return parsed.ok
      ? parsed.minor
      : this.refuse('bad-amount', field, { found: text.slice(0, 60), expected: parsed.fault });
  }

  date(field: StatementField): PlainDate {
    const text = this.text(field);
    if (text === '') this.refuse('missing-value', field);
    const known = this.days.get(text);
    if (known !== undefined) return known;
    // A day without a time is noon of that day, so it is the day that is written.
    const instant = parseLooseInstant(text, this.profile.dateOrder, 'UTC');
    const day = instant && parsePlainDate(instant.toISOString().slice(0, 10));
    if (day === null) this.refuse('bad-date', field, { found: text.slice(0, 60) });
    if (this.days.size < DAYS_HELD) this.days.set(text, day);
    return day;
  }
}

interface Read {
  readonly record: StatementLineRecord;
  readonly currency: Currency;
  readonly balance: Minor | null;
}

/** What a row moves: an amount with its sign or its mark, or money in and money out in columns of their own. */
function movement(row: Row, currency: Currency, profile: StatementProfile): Minor {
  const [paidIn, paidOut] = [row.amount('paidIn', currency), row.amount('paidOut', currency)];
  const amount = row.amount('amount', currency);
  if (paidIn !== null || paidOut !== null) {
    const out = Math.abs(paidOut ?? ZERO) as Minor;
    return subtract(paidIn ?? ZERO, out);
  }
  if (amount === null) row.refuse('missing-value', profile.columns.amount === undefined ? 'paidIn' : 'amount');
  const out = profile.columns.mark !== undefined && profile.outs.includes(row.text('mark').toLowerCase());
  return out && amount > 0 ? negate(amount) : amount;
}

function readRow(row: Row, profile: StatementProfile): Read {
  const currency = row.currency();
  const account = row.account(profile.account);
  if (account === '') refuseFile('no-account', row.line);
  const bookDate = row.date('booked');
  return {
    currency,
    balance: row.amount('balance', currency),
    record: {
      kind: 'line',
      account,
      line: row.line,
      bookDate,
      valueDate: row.text('value') === '' ? bookDate : row.date('value'),
      amount: movement(row, currency, profile),
      text: row.words(),
      counterparty: row.text('counterparty'),
      reference: row.text('reference') || row.text('bankId'),
      bankId: row.text('bankId'),
      details: [],
    },
  };
}

/** A row that cannot be read refuses the whole file. */
function readOrRefuse(row: Row, profile: StatementProfile): Read {
  try {
    return readRow(row, profile);
  } catch (error) {
    if (!(error instanceof RecordRefused)) throw error;
    const { code, line } = error.finding;
    return refuseFile(code, line, error.finding);
  }
}

/** One account of the table as its rows go by, in whichever direction; balances must follow from one another. */
class AccountOfTable {
  private readonly check: FootingCheck;
  private opening: Minor | null = null;
  private closing: Minor | null = null;
  private before: Read | null = null;

  constructor(
    readonly currency: Currency,
    private readonly account: string,
    private readonly newestFirst: boolean,
  ) {
    this.check = new FootingCheck(null, currency, account);
  }

  take(read: Read): void {
    const { record, balance } = read;
    this.check.take(record);
    if (balance !== null) {
      const expected = this.expected(read);
      if (expected !== null && expected !== balance) {
        refuseFile('balance-breaks', record.line, {
          field: 'balance',
          expected: writeAmount(expected, this.currency),
          found: writeAmount(balance, this.currency),
        });
      }
      const before = subtract(balance, record.amount);
      if (this.newestFirst) [this.closing, this.opening] = [this.closing ?? balance, before];
      else [this.opening, this.closing] = [this.opening ?? before, balance];
    }
    this.before = read;
  }

  /** The balance that this row must have by the one before it; null where that does not tell. */
  private expected({ record }: Read): Minor | null {
    const { before } = this;
    if (before === null || before.balance === null) return null;
    return this.newestFirst ? subtract(before.balance, before.record.amount) : add(before.balance, record.amount);
  }

  end(): StatementEnd {
    const { opening, closing } = this;
    return { ...this.check.end(closing, null), account: this.account, opening };
  }
}

/**
 * Reads a bank's table as its profile says: one account or several, oldest line first or newest. Where it has balances each
 * must follow from the one before. A statement with a row missing would not foot, so a row that cannot be read refuses the
 * whole file.
 */
export async function* readStatementTable(
  rows: RowSource,
  profile: StatementProfile,
): AsyncGenerator<Batch<StatementRecord>> {
  const wanted = [...Object.values(profile.columns), ...profile.texts];
  const accounts = new Map<string, AccountOfTable>();
  let header: readonly string[] | null = null;
  let row = new Row({ fields: {}, texts: [] }, profile);
  let passed = 0;
  let count = 0;
  let bytes = 0;
  for await (const batch of rows) {
    bytes = batch.bytes;
    const records: StatementRecord[] = [];
    for (const raw of batch.rows) {
      if (header === null) {
        if (passed++ < profile.above) continue;
        header = raw.fields.map((name) => name.trim());
        row = new Row(placesOf(profile, header), profile);
        const missing = wanted.filter((name) => !header!.includes(name));
        const lacks = profile.columns.booked === undefined ? ['a date'] : missing;
        if (lacks.length > 0)
          refuseFile('missing-columns', raw.line, {
            expected: lacks.join(', '),
            found: header.join(', ').slice(0, 200),
          });
        continue;
      }
      if (raw.fields.every((field) => field.trim() === '') || sameRow(raw.fields, header)) continue;
      const read = readOrRefuse(row.at(raw), profile);
      const { account } = read.record;
      let of = accounts.get(account);
      if (of === undefined) {
        of = new AccountOfTable(read.currency, account, profile.newestFirst);
        accounts.set(account, of);
        records.push({ kind: 'statement', reference: '', account, currency: read.currency, opening: null });
      }
      if (of.currency !== read.currency) {
        refuseFile('other-currency', raw.line, { expected: of.currency, found: read.currency });
      }
      of.take(read);
      records.push(read.record);
    }
    count += records.length;
    checkCount(count);
    yield { records, findings: [], bytes };
  }
  if (accounts.size === 0) refuseFile('empty-file', null);
  yield { records: [...accounts.values()].map((of) => of.end()), findings: [], bytes };
}
