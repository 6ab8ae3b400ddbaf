import { plainDate } from '../../core/calendar';
import { add, isCurrencyCode, subtract, sum, writeAmount, ZERO, type Currency, type Minor } from '../../core/money';
import { recordOr, RecordRefused } from '../csv/cells';
import type { Batch, Finding } from '../finding';
import { checkCount, type RowSource } from '../table/rows';
import type { ReceiptProfile } from './profile';
import { DerivedIds, profiledRows, readRow } from './receipts-table';
import type { ReceiptRecord, RecordLine, RecordTender } from './record';
import type { Row } from './row';

/** The rows of one day at one site as they come: they stand together in the file, sites may alternate within a day. */
class TillDay {
  readonly lines: RecordLine[] = [];
  readonly tenders = new Map<string, Minor>();
  tip = ZERO;
  until: number;
  /** A row of it was refused, so the day cannot come in. */
  broken = false;

  constructor(
    readonly first: Row,
    readonly at: Date,
    readonly site: string,
    readonly currency: Currency,
  ) {
    this.until = first.line;
  }

  take(row: Row, kind: string, profile: ReceiptProfile): void {
    this.until = row.line;
    if (profile.skipped.includes(kind)) return;
    const amount = row.amount('gross', this.currency) ?? row.refuse('missing-value', 'gross');
    if (profile.tips.includes(kind)) {
      this.tip = add(this.tip, amount);
    } else if (profile.tenders.includes(kind)) {
      const tender = (row.text('method') || row.text('item')).toLowerCase();
      if (tender === '') row.refuse('missing-value', 'item');
      this.tenders.set(tender, add(this.tenders.get(tender) ?? ZERO, amount));
    } else {
      this.lines.push(sold(row, amount, this.currency, profile));
    }
  }

  /**
   * The day as one receipt. Its tenders must come to what was sold and the tips, or it is refused with both figures.
   */
  record(): ReceiptRecord | Finding {
    const { first, currency, tip, site } = this;
    const day = this.at.toISOString().slice(0, 10);
    const id = first.text('id') || ['day', site, plainDate(day)].filter(Boolean).join(' ');
    const tenders: RecordTender[] = [...this.tenders].map(([tender, amount]) => ({ tender, amount }));
    const paid = sum(tenders.map(({ amount }) => amount));
    const expected = add(sum(this.lines.map(({ gross }) => gross)), tip);
    if (paid !== expected || this.lines.length === 0) {
      return {
        scope: 'record',
        code: this.lines.length === 0 ? 'missing-value' : 'tenders-differ',
        line: first.line,
        until: this.until,
        subject: id,
        ...(this.lines.length === 0
          ? { field: 'item' }
          : { expected: writeAmount(expected, currency), found: writeAmount(paid, currency) }),
      };
    }
    return {
      line: first.line,
      kind: 'receipt',
      id,
      at: this.at,
      currency,
      gross: paid,
      tip,
      fee: null,
      discount: ZERO,
      payer: '',
      email: '',
      payerId: '',
      document: '',
      item: '',
      note: '',
      method: tenders.length === 1 ? tenders[0]!.tender : '',
      site,
      country: '',
      region: '',
      fund: '',
      payout: first.text('payout'),
      refundOf: '',
      lines: this.lines,
      tenders,
    };
  }
}

/** What a row says was sold: its amount is before the discount, with its tax in it or beside it as the profile says. */
function sold(row: Row, amount: Minor, currency: Currency, profile: ReceiptProfile): RecordLine {
  const given = row.amount('discount', currency) ?? ZERO;
  const discount = (given < 0 ? -given : given) as Minor;
  const tax = row.amount('tax', currency);
  const paid = subtract(amount, discount);
  return {
    item: row.text('item'),
    description: row.text('note'),
    units: row.units(),
    gross: profile.taxIn === 'added' ? add(paid, tax ?? ZERO) : paid,
    discount,
    tax,
  };
}

/**
 * Reads a till's days: rows of what was sold, of how it was paid and of tips, one receipt for a day and site. A day with a
 * row that cannot be read, or whose tenders are not what was sold, is refused as a whole; the other days come in.
 */
export async function* readTillDays(rows: RowSource, profile: ReceiptProfile): AsyncGenerator<Batch<ReceiptRecord>> {
  const ids = new DerivedIds();
  let open = new Map<string, TillDay>();
  let day = '';
  /** The moment read last, and its date: rows of a day follow each other. */
  let moment = NaN;
  let date = '';
  let count = 0;
  let bytes = 0;
  const close = (findings: Finding[]): ReceiptRecord[] => {
    const records: ReceiptRecord[] = [];
    for (const till of open.values()) {
      if (till.broken) continue;
      const record = till.record();
      if ('scope' in record) findings.push(record);
      else records.push(record);
    }
    open = new Map();
    count += records.length;
    checkCount(count);
    return records;
  };
  for await (const batch of profiledRows(rows, profile)) {
    bytes = batch.bytes;
    const findings: Finding[] = [];
    const records: ReceiptRecord[] = [];
    for (const row of batch.rows) {
      const kind = row.text('kind').toLowerCase();
      if (profile.payouts.includes(kind)) {
        const payout = recordOr(row.text('id'), () => readRow(row, profile, ids), findings);
        if (payout !== null) records.push(payout);
        continue;
      }
      const at = recordOr(row.text('id'), () => row.time(), findings);
      if (at === null) continue;
      if (at.getTime() !== moment) {
        moment = at.getTime();
        date = at.toISOString().slice(0, 10);
      }
      if (date !== day) {
        records.push(...close(findings));
        day = date;
      }
      const site = row.text('site');
      let till = open.get(site);
      if (till === undefined) {
        const currency = row.text('currency').toUpperCase() || profile.currency;
        if (!isCurrencyCode(currency)) {
          findings.push({ scope: 'record', code: 'bad-currency', line: row.line, field: 'currency', found: currency });
          continue;
        }
        open.set(site, (till = new TillDay(row, at, site, currency)));
      }
      try {
        till.take(row, kind, profile);
      } catch (error) {
        if (!(error instanceof RecordRefused)) throw error;
        till.broken = true;
        findings.push(error.finding);
      }
    }
    yield { records, findings, bytes };
  }
  const findings: Finding[] = [];
  yield { records: close(findings), findings, bytes };
}
