/** An amount of cents as the schema writes it. */
const written = (cents: number) => `${Math.floor(cents / 100)}.${String(cents % 100).padStart(2, '0')}`;

export interface StatementToWrite {
  readonly id: string;
  readonly iban: string;
  readonly currency: string;
  readonly opening: number;
  readonly from: string;
  readonly to: string;
  readonly lines: readonly {
    readonly date: string;
    readonly amount: number;
    readonly text: string;
    readonly party: string;
    readonly reference: string;
  }[];
}

const escape = (text: string) =>
  text.replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c]!);

/** A camt.053.001.08 statement, element order as in the schema. */
export function* camt053(statement: StatementToWrite): Generator<string> {
  const { currency } = statement;
  const money = (amount: number) =>
    `<Amt Ccy="${currency}">${written(Math.abs(amount))}</Amt>` +
    `<CdtDbtInd>${amount < 0 ? 'DBIT' : 'CRDT'}</CdtDbtInd>`;
  const balance = (code: string, amount: number, date: string) =>
    `      <Bal><Tp><CdOrPrtry><Cd>${code}</Cd></CdOrPrtry></Tp>${money(amount)}<Dt><Dt>${date}</Dt></Dt></Bal>\n`;
  const closing = statement.lines.reduce((total, line) => total + line.amount, statement.opening);
  yield `<?xml version="1.0" encoding="UTF-8"?>
<Document xmlns="urn:iso:std:iso:20022:tech:xsd:camt.053.001.08">
  <BkToCstmrStmt>
    <GrpHdr><MsgId>${statement.id}</MsgId><CreDtTm>${statement.to}T20:00:00Z</CreDtTm></GrpHdr>
    <Stmt>
      <Id>${statement.id}</Id>
      <CreDtTm>${statement.to}T20:00:00Z</CreDtTm>
      <Acct><Id><IBAN>${statement.iban}</IBAN></Id><Ccy>${currency}</Ccy></Acct>
`;
  yield balance('OPBD', statement.opening, statement.from);
  yield balance('CLBD', closing, statement.to);
  for (const line of statement.lines) {
    const party = line.amount < 0 ? 'Cdtr' : 'Dbtr';
    const parties = line.party
      ? `<RltdPties><${party}><Pty><Nm>${escape(line.party)}</Nm></Pty></${party}></RltdPties>`
      : '';
    yield (
      `      <Ntry>${money(line.amount)}<Sts><Cd>BOOK</Cd></Sts>` +
      `<BookgDt><Dt>${line.date}</Dt></BookgDt><ValDt><Dt>${line.date}</Dt></ValDt>` +
      `<AcctSvcrRef>${line.reference}</AcctSvcrRef><BkTxCd/><NtryDtls><TxDtls>` +
      `<Refs><EndToEndId>NOTPROVIDED</EndToEndId></Refs>${parties}` +
      `<RmtInf><Ustrd>${escape(line.text)}</Ustrd></RmtInf></TxDtls></NtryDtls></Ntry>\n`
    );
  }
  yield '    </Stmt>\n  </BkToCstmrStmt>\n</Document>\n';
}
