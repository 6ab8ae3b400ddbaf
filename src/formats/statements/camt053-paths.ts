import type { Currency, Minor } from '../../core/money';
import { accountKey, type FootingCheck } from './record';

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
  endToEnd: string;
  remittance: string[];
  additional: string[];
  debtor: string;
  creditor: string;
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
  endToEnd: '',
  remittance: [],
  additional: [],
  debtor: '',
  creditor: '',
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
type Mark = 'statement' | 'balance' | 'entry' | 'currency-of-amount';

/** One element that is looked at, where it stands in the document; what no node is made for is only passed over. */
export interface CamtNode {
  readonly path: string;
  readonly children: Map<string, CamtNode>;
  mark?: Mark;
  take?: (reader: { readonly gathered: Gathered; readonly statement: OpenStatement }, text: string) => void;
}

const STATEMENT = 'Document/BkToCstmrStmt/Stmt';
const ENTRY = `${STATEMENT}/Ntry`;
const DETAILS = `${ENTRY}/NtryDtls/TxDtls`;
const BALANCE = `${STATEMENT}/Bal`;
export const ROOT = ['Document', 'BkToCstmrStmt'];

const gather = (put: (into: Gathered, text: string) => void): CamtNode['take'] => {
  return ({ gathered }, text) => put(gathered, text);
};

/** Where each wanted text stands, and what takes it. Later versions moved a few; both places are listed. */
const TEXTS: Readonly<Record<string, CamtNode['take']>> = {
  [`${STATEMENT}/Id`]: ({ statement }, t) => (statement.reference = t),
  [`${STATEMENT}/Acct/Id/IBAN`]: ({ statement }, t) => (statement.account = accountKey(t)),
  [`${STATEMENT}/Acct/Id/Othr/Id`]: ({ statement }, t) => (statement.account = accountKey(t)),
  [`${STATEMENT}/Acct/Ccy`]: ({ statement }, t) => (statement.currency = t),
  [`${BALANCE}/Amt`]: gather((e, t) => (e.amount = t)),
  [`${BALANCE}/CdtDbtInd`]: gather((e, t) => (e.direction = t)),
  [`${BALANCE}/Tp/CdOrPrtry/Cd`]: gather((e, t) => (e.balanceType = t)),
  [`${ENTRY}/Amt`]: gather((e, t) => (e.amount = t)),
  [`${ENTRY}/CdtDbtInd`]: gather((e, t) => (e.direction = t)),
  [`${ENTRY}/Sts`]: gather((e, t) => (e.status ||= t)),
  [`${ENTRY}/Sts/Cd`]: gather((e, t) => (e.status = t)),
  [`${ENTRY}/BookgDt/Dt`]: gather((e, t) => (e.booked = t)),
  [`${ENTRY}/BookgDt/DtTm`]: gather((e, t) => (e.booked = t.slice(0, 10))),
  [`${ENTRY}/ValDt/Dt`]: gather((e, t) => (e.value = t)),
  [`${ENTRY}/ValDt/DtTm`]: gather((e, t) => (e.value = t.slice(0, 10))),
  [`${ENTRY}/AcctSvcrRef`]: gather((e, t) => (e.bankReference = t)),
  [`${ENTRY}/AddtlNtryInf`]: gather((e, t) => e.additional.push(t)),
  [`${DETAILS}/Refs/EndToEndId`]: gather((e, t) => (e.endToEnd = t)),
  [`${DETAILS}/RmtInf/Ustrd`]: gather((e, t) => e.remittance.push(t)),
  [`${DETAILS}/RmtInf/Strd/CdtrRefInf/Ref`]: gather((e, t) => e.remittance.push(t)),
  [`${DETAILS}/AddtlTxInf`]: gather((e, t) => e.additional.push(t)),
  [`${DETAILS}/RltdPties/Dbtr/Nm`]: gather((e, t) => (e.debtor = t)),
  [`${DETAILS}/RltdPties/Dbtr/Pty/Nm`]: gather((e, t) => (e.debtor = t)),
  [`${DETAILS}/RltdPties/Cdtr/Nm`]: gather((e, t) => (e.creditor = t)),
  [`${DETAILS}/RltdPties/Cdtr/Pty/Nm`]: gather((e, t) => (e.creditor = t)),
};
const MARKS: Readonly<Record<string, Mark>> = {
  [STATEMENT]: 'statement',
  [BALANCE]: 'balance',
  [ENTRY]: 'entry',
  [`${BALANCE}/Amt`]: 'currency-of-amount',
  [`${ENTRY}/Amt`]: 'currency-of-amount',
};

/** The tree of what is looked at: an element costs one look-up of its name among its siblings. */
function tree(): CamtNode {
  const top: CamtNode = { path: '', children: new Map() };
  for (const path of new Set([...Object.keys(TEXTS), ...Object.keys(MARKS)])) {
    let node = top;
    for (const name of path.split('/')) {
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
