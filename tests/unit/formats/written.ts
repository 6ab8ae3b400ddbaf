/** Writers of statements, one for each format, for tests: what they write is known, so what is read can be held against it. */

/** One booking as any bank has it. Texts are of the characters that every format carries. */
export interface Booking {
  readonly day: string;
  /** Minor units of a currency with cents. */
  readonly amount: number;
  readonly text: string;
  readonly id: string;
}

export interface Written {
  readonly iban: string;
  readonly opening: number;
  readonly bookings: readonly Booking[];
}

const closingOf = ({ opening, bookings }: Written) => bookings.reduce((sum, { amount }) => sum + amount, opening);
const point = (cents: number) =>
  `${Math.floor(Math.abs(cents) / 100)}.${String(Math.abs(cents) % 100).padStart(2, '0')}`;
const signed = (cents: number) => (cents < 0 ? '-' : '') + point(cents);
const comma = (cents: number) => point(cents).replace('.', ',');
/** 2026-11-02 as 261102, or as 20261102. */
const short = (day: string) => day.replace(/-/g, '').slice(2);
const long = (day: string) => day.replace(/-/g, '');
const mark = (cents: number) => (cents < 0 ? 'D' : 'C');
const lastDay = ({ bookings }: Written) => bookings.at(-1)!.day;
const xml = (text: string) => text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;');

function camt(of: Written): string {
  const balance = (code: string, amount: number, day: string) =>
    `<Bal><Tp><CdOrPrtry><Cd>${code}</Cd></CdOrPrtry></Tp><Amt Ccy="EUR">${point(amount)}</Amt><CdtDbtInd>${amount < 0 ? 'DBIT' : 'CRDT'}</CdtDbtInd><Dt><Dt>${day}</Dt></Dt></Bal>`;
  const entries = of.bookings.map(
    ({ day, amount, text, id }) =>
      `<Ntry><Amt Ccy="EUR">${point(amount)}</Amt><CdtDbtInd>${amount < 0 ? 'DBIT' : 'CRDT'}</CdtDbtInd><Sts><Cd>BOOK</Cd></Sts><BookgDt><Dt>${day}</Dt></BookgDt><ValDt><Dt>${day}</Dt></ValDt><AcctSvcrRef>${id}</AcctSvcrRef><NtryDtls><TxDtls><RmtInf><Ustrd>${xml(text)}</Ustrd></RmtInf></TxDtls></NtryDtls></Ntry>`,
  );
  return `<?xml version="1.0" encoding="UTF-8"?>\n<Document xmlns="urn:iso:std:iso:20022:tech:xsd:camt.053.001.08"><BkToCstmrStmt><GrpHdr><MsgId>M</MsgId></GrpHdr><Stmt><Id>S</Id><Acct><Id><IBAN>${of.iban}</IBAN></Id><Ccy>EUR</Ccy></Acct>${balance('OPBD', of.opening, of.bookings[0]!.day)}${balance('CLBD', closingOf(of), lastDay(of))}${entries.join('\n')}</Stmt></BkToCstmrStmt></Document>\n`;
}

function mt940(of: Written): string {
  const lines = of.bookings.map(
    ({ day, amount, text, id }) =>
      `:61:${short(day)}${short(day).slice(2)}${mark(amount)}${comma(amount)}NTRFNONREF//${id}\n:86:${text}\n`,
  );
  const balance = (tag: string, amount: number, day: string) =>
    `:${tag}:${mark(amount)}${short(day)}EUR${comma(amount)}\n`;
  return `:20:S\n:25:${of.iban}\n:28C:1/1\n${balance('60F', of.opening, of.bookings[0]!.day)}${lines.join('')}${balance('62F', closingOf(of), lastDay(of))}-\n`;
}

const ofxEntries = (of: Written, close: boolean) => {
  const leaf = (name: string, value: string) => `<${name}>${xml(value)}${close ? `</${name}>` : '\n'}`;
  return of.bookings
    .map(
      ({ day, amount, text, id }) =>
        `<STMTTRN>${leaf('TRNTYPE', amount < 0 ? 'DEBIT' : 'CREDIT')}${leaf('DTPOSTED', long(day))}${leaf('TRNAMT', signed(amount))}${leaf('FITID', id)}${leaf('MEMO', text)}</STMTTRN>`,
    )
    .join('\n');
};

function ofx(of: Written, version: 1 | 2): string {
  const close = version === 2;
  const leaf = (name: string, value: string) => `<${name}>${value}${close ? `</${name}>` : '\n'}`;
  const head = close
    ? '<?xml version="1.0" encoding="UTF-8"?>\n<?OFX OFXHEADER="200" VERSION="220" SECURITY="NONE" OLDFILEUID="NONE" NEWFILEUID="NONE"?>\n'
    : 'OFXHEADER:100\nDATA:OFXSGML\nVERSION:102\nENCODING:UTF-8\n\n';
  return `${head}<OFX><BANKMSGSRSV1><STMTTRNRS><STMTRS>${leaf('CURDEF', 'EUR')}<BANKACCTFROM>${leaf('ACCTID', of.iban)}</BANKACCTFROM><BANKTRANLIST>${ofxEntries(of, close)}</BANKTRANLIST><LEDGERBAL>${leaf('BALAMT', signed(closingOf(of)))}${leaf('DTASOF', long(lastDay(of)))}</LEDGERBAL></STMTRS></STMTTRNRS></BANKMSGSRSV1></OFX>\n`;
}

/** A group for each day, since a booking is of the day of its group. Totals are of amounts without their signs, counts of records. */
function bai2(of: Written): string {
  let balance = of.opening;
  let [all, records] = [0, 2];
  const days = [...new Set(of.bookings.map(({ day }) => day))].map((day) => {
    const own = of.bookings.filter((booking) => booking.day === day);
    const opening = balance;
    balance = own.reduce((sum, { amount }) => sum + amount, opening);
    const lines = own.map(
      ({ amount, text, id }) => `16,${amount < 0 ? 475 : 165},${Math.abs(amount)},V,${short(day)},,${id},,${text}\n`,
    );
    const total = own.reduce((sum, { amount }) => sum + Math.abs(amount), 0) + opening + balance;
    all += total;
    records += own.length + 4;
    return `02,US,BANK,1,${short(day)},,EUR,2/\n03,${of.iban},EUR,010,${opening},,,015,${balance},,/\n${lines.join('')}49,${total},${own.length + 2}/\n98,${total},1,${own.length + 4}/\n`;
  });
  return `01,BANK,US,${short(lastDay(of))},0700,1,,,2/\n${days.join('')}99,${all},${days.length},${records}/\n`;
}

function csv(of: Written): string {
  let balance = of.opening;
  const lines = of.bookings.map(
    ({ day, amount, text, id }) =>
      `${of.iban},${day},${signed(amount)},EUR,"${text}",${id},${signed((balance += amount))}\n`,
  );
  return `Account,Booked,Amount,Currency,Text,Reference,Balance\n${lines.join('')}`;
}

export const WRITERS = {
  'camt.053': camt,
  MT940: mt940,
  'OFX 1': (of: Written) => ofx(of, 1),
  'OFX 2': (of: Written) => ofx(of, 2),
  BAI2: bai2,
  CSV: csv,
} as const satisfies Readonly<Record<string, (of: Written) => string>>;
export type WrittenFormat = keyof typeof WRITERS;
