import { parsePlainDate, type PlainDate } from '../../core/calendar';
import { isCurrencyCode, parseAmount, type Currency, type Minor } from '../../core/money';
import { LIMITS, refusalsAsFindings, refuseFile, type Batch, type ByteSource } from '../finding';
import { decodeLenient } from '../text';
import { XmlError, XmlTokenizer } from '../xml/tokenizer';
import { accountKey, FootingCheck, type StatementRecord } from './record';
import { SgmlTokenizer } from './ofx-sgml';

/** Elements that hold others, as far as they are looked into; all else is a leaf or passed over. */
const STATEMENTS = new Set(['STMTRS', 'CCSTMTRS']);
const MOVEMENT = new Set(['STMTTRN']);
const DEEPEST = 1_000;
const ACCOUNTS = new Set(['BANKACCTFROM', 'CCACCTFROM']);
/** Leaves of a movement that say something of it, in the order in which they are put together. */
const SAID = ['NAME', 'PAYEE/NAME', 'MEMO', 'EXTDNAME'] as const;

interface Open {
  account: string;
  currency: Currency;
  closing: Minor | null;
  check: FootingCheck | null;
}

/** Follows one OFX document of either kind leaf by leaf. */
class OfxReader {
  private open: Open | null = null;
  private movement: Map<string, string> | null = null;
  private movementLine = 0;
  private within: string[] = [];
  private seen = false;
  private ended = false;
  private records: StatementRecord[] = [];
  line = 1;

  begin(name: string): void {
    if (this.ended) this.refuse('not-xml', { found: `<${name}> after </OFX>` });
    if (this.within.length >= DEEPEST)
      this.refuse('not-xml', { found: `<${name}>`, expected: 'fewer elements within each other' });
    this.within.push(name);
    if (STATEMENTS.has(name)) {
      if (this.open !== null) this.refuse('truncated', { field: name });
      this.seen = true;
      this.open = { account: '', currency: '', closing: null, check: null };
    } else if (name === 'STMTTRN') {
      if (this.movement !== null) this.refuse('truncated', { field: '</STMTTRN>' });
      this.head();
      this.movement = new Map();
      this.movementLine = this.line;
    } else if (name === 'BANKTRANLIST' && this.open !== null) this.head();
  }

  leaf(name: string, text: string): void {
    const { open } = this;
    if (open === null) return;
    if (this.movement !== null) {
      const key = this.within.includes('PAYEE') ? `PAYEE/${name}` : name;
      if (!this.movement.has(key)) this.movement.set(key, text);
      else if (name === 'MEMO') this.movement.set(key, `${this.movement.get(key)} ${text}`);
      return;
    }
    if (name === 'CURDEF') {
      if (!isCurrencyCode(text)) this.refuse('bad-currency', { field: name, found: text.slice(0, 60) });
      open.currency = text;
    } else if (name === 'ACCTID' && this.within.some((one) => ACCOUNTS.has(one))) open.account = accountKey(text);
    else if (name === 'BALAMT' && this.within.includes('LEDGERBAL')) open.closing = this.amount(name, text);
  }

  end(name: string): void {
    // Leaves of the older kind need not be closed, nor then their parents in order: what is open within closes with it.
    const at = this.within.lastIndexOf(name);
    if (at < 0) return;
    this.within.length = at;
    const inside = (names: ReadonlySet<string>) => names.has(name) || this.within.some((one) => names.has(one));
    if ((this.movement !== null && !inside(MOVEMENT)) || (this.open !== null && !inside(STATEMENTS))) {
      this.refuse('truncated', { field: this.movement === null ? '</STMTRS>' : '</STMTTRN>' });
    }
    if (name === 'STMTTRN') this.finish();
    else if (STATEMENTS.has(name)) this.close();
    else if (name === 'OFX') this.ended = true;
  }

  document(): StatementRecord[] {
    if (!this.seen && this.ended) this.refuse('not-a-statement', { expected: 'OFX/…/STMTRS' });
    if (!this.ended) this.refuse(this.seen ? 'truncated' : 'not-a-statement', { field: '</OFX>', expected: 'OFX' });
    return this.flush();
  }

  flush(): StatementRecord[] {
    const { records } = this;
    this.records = [];
    return records;
  }

  refuse(code: Parameters<typeof refuseFile>[0], detail: Parameters<typeof refuseFile>[2] = {}): never {
    refuseFile(code, this.line, detail);
  }

  private head(): FootingCheck {
    const { open } = this;
    if (open === null) this.refuse('missing-element', { field: 'STMTRS' });
    if (open.check !== null) return open.check;
    if (open.account === '') this.refuse('missing-element', { field: 'ACCTID' });
    if (open.currency === '') this.refuse('missing-element', { field: 'CURDEF' });
    // The ledger balance is as of a moment of the bank's choice, so an opening balance cannot be told from it.
    this.records.push({
      kind: 'statement',
      reference: '',
      account: open.account,
      currency: open.currency,
      opening: null,
    });
    return (open.check = new FootingCheck(null, open.currency, open.account));
  }

  private amount(field: string, text: string): Minor {
    const parsed = parseAmount(text.replace(',', '.'), this.open!.currency);
    return parsed.ok ? parsed.minor : this.refuse('bad-amount', { field, found: text.slice(0, 60) });
  }

  /** A day as the bank states it: the first eight digits, whatever the hour and zone behind them. */
  private day(field: string, text: string): PlainDate {
    const day = /^\d{8}/.test(text)
      ? parsePlainDate(`${text.slice(0, 4)}-${text.slice(4, 6)}-${text.slice(6, 8)}`)
      : null;
    return day ?? this.refuse('bad-date', { field, found: text.slice(0, 60) });
  }

  private finish(): void {
    const { movement } = this;
    this.movement = null;
    if (movement === null) return;
    const of = (name: string) => movement.get(name) ?? '';
    const needed = (name: string) => of(name) || this.refuse('missing-element', { field: `STMTTRN/${name}` });
    const bookDate = this.day('DTPOSTED', needed('DTPOSTED'));
    const name = of('NAME') || of('PAYEE/NAME');
    const record = {
      kind: 'line',
      account: this.open!.account,
      line: this.movementLine,
      bookDate,
      valueDate: of('DTAVAIL') === '' ? bookDate : this.day('DTAVAIL', of('DTAVAIL')),
      amount: this.amount('TRNAMT', needed('TRNAMT')),
      text: [...new Set(SAID.map(of))].filter(Boolean).join(' '),
      counterparty: name,
      reference: of('REFNUM') || of('CHECKNUM'),
      bankId: of('FITID'),
      details: [],
    } as const;
    this.head().take(record);
    this.records.push(record);
  }

  private close(): void {
    const { open } = this;
    const check = this.head();
    this.records.push(check.end(open!.closing, this.line));
    this.open = null;
  }
}

/** OFX 2.x: XML, whose leaves are told by what is in them. */
function readingXml(reader: OfxReader) {
  let leaf = '';
  let text = '';
  const xml: XmlTokenizer = new XmlTokenizer(
    {
      open: (name) => {
        reader.line = xml.line;
        if (leaf !== '') reader.begin(leaf);
        [leaf, text] = [name.toUpperCase(), ''];
      },
      text: (piece) => {
        text += piece;
        if (text.length > LIMITS.lineLength) refuseFile('line-too-long', xml.line, { field: leaf });
      },
      close: (name) => {
        reader.line = xml.line;
        const closing = name.toUpperCase();
        // An element with nothing in it may be either; an empty leaf says nothing.
        if (leaf === closing) {
          if (text.trim() === '') {
            reader.begin(leaf);
            reader.end(leaf);
          } else reader.leaf(leaf, text.trim());
        } else reader.end(closing);
        [leaf, text] = ['', ''];
      },
    },
    LIMITS.lineLength,
  );
  return xml;
}

async function* readBatches(source: ByteSource): AsyncGenerator<Batch<StatementRecord>> {
  const reader = new OfxReader();
  let tokens: { write(text: string): void; end(): void } | null = null;
  let head = '';
  let bytes = 0;
  const step = (work: () => void) => {
    try {
      work();
    } catch (error) {
      if (!(error instanceof XmlError)) throw error;
      if (error.fault === 'too-long') refuseFile('line-too-long', error.line, { field: error.detail });
      refuseFile(error.fault, error.line, { found: error.detail });
    }
  };
  const begin = () => {
    const start = head.trimStart();
    tokens = start.startsWith('<?xml') ? readingXml(reader) : new SgmlTokenizer(reader);
    step(() => tokens!.write(start));
  };
  for await (const chunk of decodeLenient(source)) {
    bytes = chunk.bytes;
    if (tokens === null) {
      head += chunk.text;
      if (head.trimStart().length >= 5) begin();
    } else step(() => tokens!.write(chunk.text));
    yield { records: reader.flush(), findings: [], bytes };
  }
  if (bytes === 0) refuseFile('empty-file', null);
  if (tokens === null) begin();
  step(() => tokens!.end());
  yield { records: reader.document(), findings: [], bytes };
}

/**
 * Reads OFX 1.x (SGML, whose leaves need no end) and 2.x (XML); bank and card statements, several accounts in one file. The
 * format tells a ledger balance as of some moment and no opening, so its lines cannot be footed; a document without its end
 * refuses the whole file.
 */
export function readOfx(source: ByteSource): AsyncGenerator<Batch<StatementRecord>> {
  return refusalsAsFindings(readBatches(source));
}
