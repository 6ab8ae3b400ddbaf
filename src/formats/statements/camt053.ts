import { SaxesParser, type SaxesTagPlain } from 'saxes';
import { parsePlainDate, type PlainDate } from '../../core/calendar';
import { isCurrencyCode, negate, parseAmount, type Currency, type Minor } from '../../core/money';
import { LIMITS, refusalsAsFindings, refuseFile, type Batch, type ByteSource } from '../finding';
import { decodeText } from '../text';
import { accountKey, FootingCheck, type StatementRecord } from './record';

/** What is gathered of one Bal or Ntry element while its children go by. */
interface Gathered {
  amount: string;
  currency: string;
  direction: string;
  balanceType: string;
  booked: string;
  value: string;
  status: string;
  bankReference: string;
  endToEnd: string;
  remittance: string[];
  additional: string[];
  debtor: string;
  creditor: string;
}

const nothingGathered = (): Gathered => ({
  amount: '',
  currency: '',
  direction: '',
  balanceType: '',
  booked: '',
  value: '',
  status: '',
  bankReference: '',
  endToEnd: '',
  remittance: [],
  additional: [],
  debtor: '',
  creditor: '',
});

interface OpenStatement {
  reference: string;
  account: string;
  currency: Currency;
  opening: Minor | null;
  closing: Minor | null;
  check: FootingCheck | null;
}

const ROOT = 'Document/BkToCstmrStmt/';
const STATEMENT = `${ROOT}Stmt/`;
const ENTRY = `${STATEMENT}Ntry/`;
const DETAILS = `${ENTRY}NtryDtls/TxDtls/`;

/** Paths that something happens at, made once: an element is compared with them thousands of times a second. */
const AT = {
  statement: `${ROOT}Stmt`,
  id: `${STATEMENT}Id`,
  iban: `${STATEMENT}Acct/Id/IBAN`,
  otherId: `${STATEMENT}Acct/Id/Othr/Id`,
  currency: `${STATEMENT}Acct/Ccy`,
  balance: `${STATEMENT}Bal`,
  balanceAmount: `${STATEMENT}Bal/Amt`,
  entry: `${STATEMENT}Ntry`,
  entryAmount: `${ENTRY}Amt`,
} as const;

/** Where each wanted text stands, and what takes it. Later versions moved a few; both places are listed. */
const ENTRY_TEXT: Readonly<Record<string, (into: Gathered, text: string) => void>> = {
  [`${ENTRY}Amt`]: (e, t) => (e.amount = t),
  [`${ENTRY}CdtDbtInd`]: (e, t) => (e.direction = t),
  [`${ENTRY}Sts`]: (e, t) => (e.status ||= t),
  [`${ENTRY}Sts/Cd`]: (e, t) => (e.status = t),
  [`${ENTRY}BookgDt/Dt`]: (e, t) => (e.booked = t),
  [`${ENTRY}BookgDt/DtTm`]: (e, t) => (e.booked = t.slice(0, 10)),
  [`${ENTRY}ValDt/Dt`]: (e, t) => (e.value = t),
  [`${ENTRY}ValDt/DtTm`]: (e, t) => (e.value = t.slice(0, 10)),
  [`${ENTRY}AcctSvcrRef`]: (e, t) => (e.bankReference = t),
  [`${ENTRY}AddtlNtryInf`]: (e, t) => e.additional.push(t),
  [`${DETAILS}Refs/EndToEndId`]: (e, t) => (e.endToEnd = t),
  [`${DETAILS}RmtInf/Ustrd`]: (e, t) => e.remittance.push(t),
  [`${DETAILS}RmtInf/Strd/CdtrRefInf/Ref`]: (e, t) => e.remittance.push(t),
  [`${DETAILS}AddtlTxInf`]: (e, t) => e.additional.push(t),
  [`${DETAILS}RltdPties/Dbtr/Nm`]: (e, t) => (e.debtor = t),
  [`${DETAILS}RltdPties/Dbtr/Pty/Nm`]: (e, t) => (e.debtor = t),
  [`${DETAILS}RltdPties/Cdtr/Nm`]: (e, t) => (e.creditor = t),
  [`${DETAILS}RltdPties/Cdtr/Pty/Nm`]: (e, t) => (e.creditor = t),
};

const BALANCE = `${STATEMENT}Bal/`;
const BALANCE_TEXT: Readonly<Record<string, (into: Gathered, text: string) => void>> = {
  [`${BALANCE}Amt`]: (e, t) => (e.amount = t),
  [`${BALANCE}CdtDbtInd`]: (e, t) => (e.direction = t),
  [`${BALANCE}Tp/CdOrPrtry/Cd`]: (e, t) => (e.balanceType = t),
};

/** Follows one camt.053 document element by element and puts out records as each is complete. */
class CamtReader {
  private readonly parser = new SaxesParser({ xmlns: false, position: true });
  private readonly path: number[] = [];
  private pathText = '';
  private text = '';
  private statement: OpenStatement | null = null;
  private gathered = nothingGathered();
  private entryLine = 0;
  private seenStatement = false;
  private records: StatementRecord[] = [];

  constructor() {
    this.parser.on('doctype', () => this.refuse('doctype'));
    this.parser.on('error', () => this.refuse(this.closing ? 'truncated' : 'not-xml', { found: this.pathText }));
    this.parser.on('opentag', (tag) => this.open(tag));
    this.parser.on('closetag', () => this.close());
    this.parser.on('text', (text) => this.take(text));
    this.parser.on('cdata', (text) => this.take(text));
  }

  private closing = false;

  feed(text: string): StatementRecord[] {
    this.parser.write(text);
    return this.flush();
  }

  end(): StatementRecord[] {
    this.closing = true;
    this.parser.close();
    if (!this.seenStatement) this.refuse('not-a-statement', { expected: 'Document/BkToCstmrStmt/Stmt' });
    return this.flush();
  }

  private flush(): StatementRecord[] {
    const records = this.records;
    this.records = [];
    return records;
  }

  private refuse(code: Parameters<typeof refuseFile>[0], detail: Parameters<typeof refuseFile>[2] = {}): never {
    refuseFile(code, this.parser.line, detail);
  }

  private take(text: string): void {
    if (this.text.length + text.length > LIMITS.lineLength) this.refuse('line-too-long', { field: this.pathText });
    this.text += text;
  }

  private open(tag: SaxesTagPlain): void {
    const name = tag.name.slice(tag.name.indexOf(':') + 1);
    // The path grows and shrinks as one text: joining it anew at each element cost as much as the parsing.
    this.path.push(this.pathText.length);
    this.pathText += this.pathText === '' ? name : `/${name}`;
    this.text = '';
    if (this.path.length <= 2 && !ROOT.startsWith(`${this.pathText}/`)) {
      this.refuse('not-a-statement', { expected: 'Document/BkToCstmrStmt', found: this.pathText });
    }
    if (this.pathText === AT.statement) {
      this.seenStatement = true;
      this.statement = { reference: '', account: '', currency: '', opening: null, closing: null, check: null };
    } else if (this.pathText === AT.entry || this.pathText === AT.balance) {
      this.gathered = nothingGathered();
      this.entryLine = this.parser.line;
    } else if (name === 'Amt' && (this.pathText === AT.entryAmount || this.pathText === AT.balanceAmount)) {
      this.gathered.currency = tag.attributes['Ccy'] ?? '';
    }
  }

  private close(): void {
    const path = this.pathText;
    const text = this.text.trim();
    this.text = '';
    if (this.statement !== null && path.startsWith(STATEMENT)) this.closeInStatement(path, text, this.statement);
    else if (this.statement !== null && path === AT.statement) this.closeStatement(this.statement);
    this.pathText = this.pathText.slice(0, this.path.pop());
  }

  private closeInStatement(path: string, text: string, statement: OpenStatement): void {
    ENTRY_TEXT[path]?.(this.gathered, text);
    BALANCE_TEXT[path]?.(this.gathered, text);
    switch (path) {
      case AT.id:
        statement.reference = text;
        break;
      case AT.iban:
      case AT.otherId:
        statement.account = accountKey(text);
        break;
      case AT.currency:
        statement.currency = text;
        break;
      case AT.balance:
        this.closeBalance(statement);
        break;
      case AT.entry:
        this.closeEntry(statement);
        break;
    }
  }

  /** The gathered amount, signed by its direction: a credit came in, a debit went out (ISO 20022, CdtDbtInd). */
  private signedAmount(statement: OpenStatement, element: string): Minor {
    const { amount, currency, direction } = this.gathered;
    if (!isCurrencyCode(currency)) this.refuse('bad-currency', { field: `${element}/Amt Ccy`, found: currency });
    statement.currency ||= currency;
    if (currency !== statement.currency) {
      this.refuse('other-currency', { field: `${element}/Amt`, expected: statement.currency, found: currency });
    }
    const parsed = parseAmount(amount, currency);
    if (!parsed.ok || parsed.minor < 0)
      this.refuse('bad-amount', { field: `${element}/Amt`, found: amount.slice(0, 60) });
    if (direction !== 'CRDT' && direction !== 'DBIT') {
      this.refuse('missing-element', { field: `${element}/CdtDbtInd`, expected: 'CRDT or DBIT', found: direction });
    }
    return direction === 'CRDT' ? parsed.minor : negate(parsed.minor);
  }

  private closeBalance(statement: OpenStatement): void {
    const { balanceType } = this.gathered;
    if (balanceType === 'OPBD' || (balanceType === 'PRCD' && statement.opening === null)) {
      statement.opening = this.signedAmount(statement, 'Bal');
    } else if (balanceType === 'CLBD') {
      statement.closing = this.signedAmount(statement, 'Bal');
    }
  }

  private head(statement: OpenStatement): FootingCheck {
    if (statement.check !== null) return statement.check;
    if (statement.account === '') this.refuse('missing-element', { field: 'Acct/Id' });
    if (statement.opening === null) this.refuse('missing-element', { field: 'Bal (OPBD)' });
    const { reference, account, currency, opening } = statement;
    this.records.push({ kind: 'statement', reference, account, currency, opening });
    return (statement.check = new FootingCheck(opening, currency));
  }

  private dateOf(element: string, text: string): PlainDate {
    return parsePlainDate(text) ?? this.refuse('bad-date', { field: `Ntry/${element}`, found: text.slice(0, 60) });
  }

  private closeEntry(statement: OpenStatement): void {
    const check = this.head(statement);
    const e = this.gathered;
    // Pending and informational entries are no part of the booked balance.
    if (e.status !== '' && e.status !== 'BOOK') return;
    const amount = this.signedAmount(statement, 'Ntry');
    const bookDate = this.dateOf('BookgDt', e.booked || e.value);
    const reference = e.bankReference || (e.endToEnd === 'NOTPROVIDED' ? '' : e.endToEnd);
    const said = e.remittance.length > 0 ? e.remittance : e.additional;
    const record = {
      kind: 'line',
      line: this.entryLine,
      bookDate,
      valueDate: e.value === '' ? bookDate : this.dateOf('ValDt', e.value),
      amount,
      text: said.join(' '),
      counterparty: amount < 0 ? e.creditor : e.debtor,
      reference,
    } as const;
    check.take(record);
    this.records.push(record);
  }

  private closeStatement(statement: OpenStatement): void {
    const check = this.head(statement);
    if (statement.closing === null) this.refuse('missing-element', { field: 'Bal (CLBD)' });
    this.records.push(check.end(statement.closing, this.parser.line));
    this.statement = null;
  }
}

async function* readBatches(source: ByteSource): AsyncGenerator<Batch<StatementRecord>> {
  const reader = new CamtReader();
  let bytes = 0;
  for await (const chunk of decodeText(source)) {
    bytes = chunk.bytes;
    yield { records: reader.feed(chunk.text), findings: [], bytes };
  }
  if (bytes === 0) refuseFile('empty-file', null);
  yield { records: reader.end(), findings: [], bytes };
}

/**
 * Reads ISO 20022 camt.053 (versions 02 to 08) as a stream. A DOCTYPE, an undeclared entity, a document that stops
 * half-way, two currencies in one account or a closing balance that opening and movements do not lead to refuse the
 * whole file; a bank's statement is right as a whole or not at all.
 */
export function readCamt053(source: ByteSource): AsyncGenerator<Batch<StatementRecord>> {
  return refusalsAsFindings(readBatches(source));
}
