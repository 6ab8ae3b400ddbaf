import type { Currency, Minor } from '../../core/money';
import { accountKey, type FootingCheck } from './record';

/** What is gathered of one payment: of an entry's details, or of the entry where it is one payment. */
export interface GatheredPayment {
  amount: string;
  currency: string;
  direction: string;
  endToEnd: string;
  mandate: string;
  remittance: string[];
  additional: string[];
  debtor: string;
  creditor: string;
  /** Why it came back (ISO 20022 external return reason code), where it did. */
  returned: string;
}

/** What is gathered of one Bal or Ntry element while its children go by. */
export interface Gathered {
  amount: string;
  currency: string;
  direction: string;
  balanceType: string;
  booked: string;
  value: string;
  status: string;
  bankReference: string;
  additional: string[];
  readonly payments: GatheredPayment[];
}

export const nothingGathered = (): Gathered => ({
  amount: '',
  currency: '',
  direction: '',
  balanceType: '',
  booked: '',
  value: '',
  status: '',
  bankReference: '',
  additional: [],
  payments: [],
});

const noPayment = (): GatheredPayment => ({
  amount: '',
  currency: '',
  direction: '',
  endToEnd: '',
  mandate: '',
  remittance: [],
  additional: [],
  debtor: '',
  creditor: '',
  returned: '',
});

export interface OpenStatement {
  reference: string;
  account: string;
  currency: Currency;
  opening: Minor | null;
  closing: Minor | null;
  check: FootingCheck | null;
}

/** Something that happens when an element begins or ends. */
type Mark = 'statement' | 'balance' | 'entry' | 'payment' | 'amount' | 'amount-of-payment';

/** One element that is looked at, where it stands in the document; what no node is made for is only passed over. */
export interface CamtNode {
  readonly path: string;
  readonly children: Map<string, CamtNode>;
  mark?: Mark;
  take?: (reader: { readonly gathered: Gathered; readonly statement: OpenStatement }, text: string) => void;
}

/**
 * The messages that are read, by the element below Document, and what their statements are called: the bank's statement
 * (camt.053) and its notification of single movements (camt.054), which has no balances.
 */
export const MESSAGES: Readonly<Record<string, string>> = { BkToCstmrStmt: 'Stmt', BkToCstmrDbtCdtNtfctn: 'Ntfctn' };

const gather = (put: (into: Gathered, text: string) => void): CamtNode['take'] => {
  return ({ gathered }, text) => put(gathered, text);
};
/** Puts a text to the payment that is open. */
const pay = (put: (into: GatheredPayment, text: string) => void): CamtNode['take'] => {
  return ({ gathered }, text) => put(gathered.payments.at(-1)!, text);
};

export const beginPayment = (into: Gathered): void => void into.payments.push(noPayment());

/** Where each wanted text stands below a statement, and what takes it. Later versions moved a few; both places are listed. */
const TEXTS: Readonly<Record<string, CamtNode['take']>> = {
  Id: ({ statement }, t) => (statement.reference = t),
  'Acct/Id/IBAN': ({ statement }, t) => (statement.account = accountKey(t)),
  'Acct/Id/Othr/Id': ({ statement }, t) => (statement.account = accountKey(t)),
  'Acct/Ccy': ({ statement }, t) => (statement.currency = t),
  'Bal/Amt': gather((e, t) => (e.amount = t)),
  'Bal/CdtDbtInd': gather((e, t) => (e.direction = t)),
  'Bal/Tp/CdOrPrtry/Cd': gather((e, t) => (e.balanceType = t)),
  'Ntry/Amt': gather((e, t) => (e.amount = t)),
  'Ntry/CdtDbtInd': gather((e, t) => (e.direction = t)),
  'Ntry/Sts': gather((e, t) => (e.status ||= t)),
  'Ntry/Sts/Cd': gather((e, t) => (e.status = t)),
  'Ntry/BookgDt/Dt': gather((e, t) => (e.booked = t)),
  'Ntry/BookgDt/DtTm': gather((e, t) => (e.booked = t.slice(0, 10))),
  'Ntry/ValDt/Dt': gather((e, t) => (e.value = t)),
  'Ntry/ValDt/DtTm': gather((e, t) => (e.value = t.slice(0, 10))),
  'Ntry/AcctSvcrRef': gather((e, t) => (e.bankReference = t)),
  'Ntry/AddtlNtryInf': gather((e, t) => e.additional.push(t)),
  'Ntry/NtryDtls/TxDtls/Amt': pay((p, t) => (p.amount = t)),
  'Ntry/NtryDtls/TxDtls/AmtDtls/TxAmt/Amt': pay((p, t) => (p.amount ||= t)),
  'Ntry/NtryDtls/TxDtls/CdtDbtInd': pay((p, t) => (p.direction = t)),
  'Ntry/NtryDtls/TxDtls/Refs/EndToEndId': pay((p, t) => (p.endToEnd = t)),
  'Ntry/NtryDtls/TxDtls/Refs/MndtId': pay((p, t) => (p.mandate = t)),
  'Ntry/NtryDtls/TxDtls/RmtInf/Ustrd': pay((p, t) => p.remittance.push(t)),
  'Ntry/NtryDtls/TxDtls/RmtInf/Strd/CdtrRefInf/Ref': pay((p, t) => p.remittance.push(t)),
  'Ntry/NtryDtls/TxDtls/RmtInf/Strd/RfrdDocInf/Nb': pay((p, t) => p.remittance.push(t)),
  'Ntry/NtryDtls/TxDtls/RmtInf/Strd/AddtlRmtInf': pay((p, t) => p.remittance.push(t)),
  'Ntry/NtryDtls/TxDtls/AddtlTxInf': pay((p, t) => p.additional.push(t)),
  'Ntry/NtryDtls/TxDtls/RltdPties/Dbtr/Nm': pay((p, t) => (p.debtor = t)),
  'Ntry/NtryDtls/TxDtls/RltdPties/Dbtr/Pty/Nm': pay((p, t) => (p.debtor = t)),
  'Ntry/NtryDtls/TxDtls/RltdPties/Cdtr/Nm': pay((p, t) => (p.creditor = t)),
  'Ntry/NtryDtls/TxDtls/RltdPties/Cdtr/Pty/Nm': pay((p, t) => (p.creditor = t)),
  'Ntry/NtryDtls/TxDtls/RtrInf/Rsn/Cd': pay((p, t) => (p.returned = t)),
};
const MARKS: Readonly<Record<string, Mark>> = {
  '': 'statement',
  Bal: 'balance',
  Ntry: 'entry',
  'Ntry/NtryDtls/TxDtls': 'payment',
  'Bal/Amt': 'amount',
  'Ntry/Amt': 'amount',
  'Ntry/NtryDtls/TxDtls/Amt': 'amount-of-payment',
  'Ntry/NtryDtls/TxDtls/AmtDtls/TxAmt/Amt': 'amount-of-payment',
};

/** The tree of what is looked at: an element costs one look-up of its name among its siblings. */
function tree(): CamtNode {
  const top: CamtNode = { path: '', children: new Map() };
  const below = new Set([...Object.keys(TEXTS), ...Object.keys(MARKS)]);
  const wanted = Object.entries(MESSAGES).flatMap(([message, statement]) =>
    [...below].map((path) => ({ path, whole: ['Document', message, statement, path].filter(Boolean).join('/') })),
  );
  for (const { path, whole } of wanted) {
    let node = top;
    for (const name of whole.split('/')) {
      let child = node.children.get(name);
      if (child === undefined) {
        child = { path: node.path === '' ? name : `${node.path}/${name}`, children: new Map() };
        node.children.set(name, child);
      }
      node = child;
    }
    node.mark = MARKS[path];
    node.take = TEXTS[path];
  }
  return top;
}
export const CAMT_TREE = tree();
