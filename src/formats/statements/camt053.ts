import { parsePlainDate, type PlainDate } from '../../core/calendar';
import { isCurrencyCode, negate, parseAmount, type Minor } from '../../core/money';
import { LIMITS, refusalsAsFindings, refuseFile, type Batch, type ByteSource } from '../finding';
import { decodeText } from '../text';
import { attributeOf, XmlError, XmlTokenizer } from '../xml/tokenizer';
import { CAMT_TREE, nothingGathered, ROOT, type CamtNode, type OpenStatement } from './camt053-paths';
import { FootingCheck, type StatementRecord } from './record';

/** Follows one camt.053 document element by element and puts out records as each is complete. */
class CamtReader {
  private readonly xml = new XmlTokenizer(
    {
      open: (name, attributes) => this.open(name, attributes),
      close: () => this.close(),
      text: (text) => this.take(text),
    },
    LIMITS.lineLength,
  );
  /** The elements that are open; null for those that nothing is wanted of, and all within them. */
  private readonly path: (CamtNode | null)[] = [CAMT_TREE];
  private text = '';
  private wanted = false;
  private statement: OpenStatement | null = null;
  private gathered = nothingGathered();
  private entryLine = 0;
  private seenStatement = false;
  private records: StatementRecord[] = [];

  feed(text: string): StatementRecord[] {
    this.read(() => this.xml.write(text));
    return this.flush();
  }

  end(): StatementRecord[] {
    this.read(() => this.xml.end());
    if (!this.seenStatement) this.refuse('not-a-statement', { expected: 'Document/BkToCstmrStmt/Stmt' });
    return this.flush();
  }

  private read(step: () => void): void {
    try {
      step();
    } catch (error) {
      if (!(error instanceof XmlError)) throw error;
      if (error.fault === 'too-long') refuseFile('line-too-long', error.line, { field: error.detail });
      refuseFile(error.fault, error.line, { found: error.detail });
    }
  }

  private flush(): StatementRecord[] {
    const records = this.records;
    this.records = [];
    return records;
  }

  private refuse(code: Parameters<typeof refuseFile>[0], detail: Parameters<typeof refuseFile>[2] = {}): never {
    refuseFile(code, this.xml.line, detail);
  }

  private take(text: string): void {
    if (!this.wanted) return;
    if (this.text.length + text.length > LIMITS.lineLength) {
      this.refuse('line-too-long', { field: this.path.at(-1)!.path });
    }
    this.text += text;
  }

  private open(tag: string, attributes: string): void {
    const name = tag.slice(tag.indexOf(':') + 1);
    const depth = this.path.length - 1;
    if (depth < ROOT.length && name !== ROOT[depth]) {
      this.refuse('not-a-statement', { expected: ROOT.join('/'), found: [...ROOT.slice(0, depth), name].join('/') });
    }
    const node = this.path.at(-1)?.children.get(name) ?? null;
    this.path.push(node);
    this.text = '';
    this.wanted = node?.take !== undefined;
    switch (node?.mark) {
      case 'statement':
        this.seenStatement = true;
        this.statement = { reference: '', account: '', currency: '', opening: null, closing: null, check: null };
        break;
      case 'balance':
      case 'entry':
        this.gathered = nothingGathered();
        this.entryLine = this.xml.line;
        break;
      case 'currency-of-amount':
        this.gathered.currency = attributeOf(attributes, 'Ccy') ?? '';
    }
  }

  private close(): void {
    const node = this.path.pop();
    const { statement } = this;
    if (!node || statement === null) return;
    if (node.take) node.take({ gathered: this.gathered, statement }, this.text.trim());
    this.text = '';
    this.wanted = this.path.at(-1)?.take !== undefined;
    switch (node.mark) {
      case 'balance':
        return this.closeBalance(statement);
      case 'entry':
        return this.closeEntry(statement);
      case 'statement':
        return this.closeStatement(statement);
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
    this.records.push(check.end(statement.closing, this.xml.line));
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
