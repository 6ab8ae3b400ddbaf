import { parsePlainDate, type PlainDate } from '../../core/calendar';
import { isCurrencyCode, negate, parseAmount, type Currency, type Minor } from '../../core/money';
import { LIMITS, refusalsAsFindings, refuseFile, type Batch, type ByteSource } from '../finding';
import { decodeXml } from '../text';
import { attributeOf, XmlError, XmlTokenizer } from '../xml/tokenizer';
import {
  beginPayment,
  CAMT_TREE,
  MESSAGES,
  nothingGathered,
  type CamtNode,
  type GatheredPayment,
  type OpenStatement,
} from './camt-paths';
import { FootingCheck, type LineDetail, type StatementRecord } from './record';

/** What is no part of the booked balance: pending, for information, to come (ISO 20022 entry status). */
const NOT_BOOKED: readonly string[] = ['PDNG', 'INFO', 'FUTR'];

/** Follows one camt.053 or camt.054 document element by element and puts out records as each is complete. */
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
  /** A notification tells single movements and no balances. */
  private notification = false;
  private records: StatementRecord[] = [];

  feed(text: string): StatementRecord[] {
    this.read(() => this.xml.write(text));
    return this.flush();
  }

  end(): StatementRecord[] {
    this.read(() => this.xml.end());
    if (!this.seenStatement) this.refuse('not-a-statement', { expected: 'camt.053 or camt.054' });
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
    if ((depth === 0 && name !== 'Document') || (depth === 1 && !(name in MESSAGES))) {
      this.refuse('not-a-statement', { expected: 'camt.053 or camt.054', found: name.slice(0, 60) });
    }
    if (depth === 1) this.notification = MESSAGES[name] === 'Ntfctn';
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
      case 'payment':
        beginPayment(this.gathered);
        break;
      case 'amount':
        this.gathered.currency = attributeOf(attributes, 'Ccy') ?? '';
        break;
      case 'amount-of-payment':
        this.gathered.payments.at(-1)!.currency ||= attributeOf(attributes, 'Ccy') ?? '';
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
      this.refuse(direction === '' ? 'missing-element' : 'bad-kind', {
        field: `${element}/CdtDbtInd`,
        expected: 'CRDT or DBIT',
        found: direction.slice(0, 60),
      });
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
    if (statement.opening === null && !this.notification) this.refuse('missing-element', { field: 'Bal (OPBD)' });
    const { reference, account, currency, opening } = statement;
    this.records.push({ kind: 'statement', reference, account, currency, opening });
    return (statement.check = new FootingCheck(opening, currency, account));
  }

  private dateOf(element: string, text: string): PlainDate {
    return parsePlainDate(text) ?? this.refuse('bad-date', { field: `Ntry/${element}`, found: text.slice(0, 60) });
  }

  private closeEntry(statement: OpenStatement): void {
    const e = this.gathered;
    if (NOT_BOOKED.includes(e.status)) return;
    // Whether an entry of any other status is booked nobody can say.
    if (e.status !== '' && e.status !== 'BOOK')
      this.refuse('bad-kind', {
        field: 'Sts',
        expected: ['BOOK', ...NOT_BOOKED].join(', '),
        found: e.status.slice(0, 60),
      });
    const amount = this.signedAmount(statement, 'Ntry');
    const check = this.head(statement);
    const bookDate = this.dateOf('BookgDt', e.booked || e.value);
    const details = this.detailsOf(amount, statement.currency);
    const [only] = e.payments.length === 1 ? e.payments : [];
    const record = {
      kind: 'line',
      account: statement.account,
      line: this.entryLine,
      bookDate,
      valueDate: e.value === '' ? bookDate : this.dateOf('ValDt', e.value),
      amount,
      text: textOf(e.additional, only ? [only] : details.length > 0 ? [] : e.payments),
      counterparty: only ? partyOf(only, amount) : '',
      reference: (only && referenceOf(only)) || e.bankReference,
      bankId: e.bankReference,
      details,
    } as const;
    check.take(record);
    this.records.push(record);
  }

  /** The payments of an entry that is a sum of several; none where they do not come to it, or are in other currencies. */
  private detailsOf(amount: Minor, currency: Currency): LineDetail[] {
    const { payments } = this.gathered;
    if (payments.length < 2) return [];
    const details: LineDetail[] = [];
    let total = 0;
    for (const payment of payments) {
      const parsed = parseAmount(payment.amount, payment.currency || currency);
      if (!parsed.ok || (payment.currency || currency) !== currency) return [];
      const back = payment.direction !== '' && (payment.direction === 'CRDT') !== amount > 0;
      const signed = amount > 0 !== back ? parsed.minor : negate(parsed.minor);
      total += signed;
      details.push({
        amount: signed,
        text: textOf([], [payment]),
        counterparty: partyOf(payment, signed),
        reference: referenceOf(payment),
      });
    }
    return total === amount ? details : [];
  }

  private closeStatement(statement: OpenStatement): void {
    if (this.notification) {
      // Of no booked movement there is nothing to tell, not even a currency.
      if (statement.check !== null) this.records.push(statement.check.end(null, this.xml.line));
      this.statement = null;
      return;
    }
    const check = this.head(statement);
    if (statement.closing === null) this.refuse('missing-element', { field: 'Bal (CLBD)' });
    this.records.push(check.end(statement.closing, this.xml.line));
    this.statement = null;
  }
}

const NOT_PROVIDED = 'NOTPROVIDED';
const referenceOf = ({ endToEnd, mandate }: GatheredPayment) => (endToEnd === NOT_PROVIDED ? '' : endToEnd) || mandate;
const partyOf = ({ debtor, creditor }: GatheredPayment, amount: number) => (amount < 0 ? creditor : debtor);

/** All that a bank says of an entry: what its payments say, and why one came back; else what it says of the whole. */
function textOf(ofEntry: readonly string[], payments: readonly GatheredPayment[]): string {
  const remittance = payments.flatMap((payment) => payment.remittance);
  const additional = [...ofEntry, ...payments.flatMap((payment) => payment.additional)];
  const returned = payments.flatMap((payment) => (payment.returned === '' ? [] : [`returned ${payment.returned}`]));
  return [...(remittance.length > 0 ? remittance : additional), ...returned].join(' ');
}

async function* readBatches(source: ByteSource): AsyncGenerator<Batch<StatementRecord>> {
  const reader = new CamtReader();
  let bytes = 0;
  for await (const chunk of decodeXml(source)) {
    bytes = chunk.bytes;
    yield { records: reader.feed(chunk.text), findings: [], bytes };
  }
  if (bytes === 0) refuseFile('empty-file', null);
  yield { records: reader.end(), findings: [], bytes };
}

/**
 * Reads ISO 20022 camt.053 and camt.054 (versions 02 to 08) as a stream. A DOCTYPE, an undeclared entity, a document that stops
 * half-way, two currencies in one account or a closing balance that opening and movements do not lead to refuse the
 * whole file; a bank's statement is right as a whole or not at all.
 */
export function readCamt(source: ByteSource): AsyncGenerator<Batch<StatementRecord>> {
  return refusalsAsFindings(readBatches(source));
}
