import type { Finding } from './finding';

export interface FindingWords {
  readonly what: string;
  readonly next: string;
}

const quoted = (text: string | undefined) => `“${text ?? ''}”`;

function sentences(f: Finding): FindingWords {
  const column = f.field ? `Column ${f.field}` : 'The row';
  switch (f.code) {
    case 'empty-file':
      return { what: 'The file has no rows.', next: 'Export it again and check that the period has movements.' };
    case 'not-text':
      return {
        what: 'The file holds bytes that no text has.',
        next: 'Export it as CSV or XML, not as a spreadsheet or archive.',
      };
    case 'encoding':
      return { what: `The file is not ${f.expected}.`, next: 'Export it again with the encoding UTF-8.' };
    case 'encoding-unknown':
      return {
        what: `The file says that its letters are in ${f.found}, which is no encoding that is known.`,
        next: 'Export it again with the encoding UTF-8.',
      };
    case 'in-future':
      return {
        what: `It is booked on ${f.found}, and today is ${f.expected}.`,
        next: 'Check the order of day and month in the file, or bring it in once that day has come.',
      };
    case 'line-too-long':
      return {
        what: `A line is longer than ${f.expected ?? 'any line may be'}.`,
        next: 'Check that it is the right kind of file, with line ends.',
      };
    case 'too-many-records':
      return { what: `The file has more than ${f.expected} rows.`, next: 'Export it in shorter periods.' };
    case 'unclosed-quote':
      return {
        what: 'A quoted field begins here and never ends.',
        next: 'Add the closing quote, or export the file again.',
      };
    case 'stray-quote':
      return {
        what: `Something follows the closing quote of ${quoted(f.found)}.`,
        next: 'Double the quotes inside the field, or export the file again.',
      };
    case 'missing-columns':
      return {
        what: `The header lacks ${f.expected}; it has: ${f.found}.`,
        next: 'Export the file with these columns, or check that it is the right file.',
      };
    case 'repeated-column':
      return { what: `The column ${f.field} stands in the header twice.`, next: 'Take one of them out.' };
    case 'field-count':
      return {
        what: `The row has ${f.found} fields where the header has ${f.expected}.`,
        next: 'Quote fields that hold the separator.',
      };
    case 'missing-value':
      return { what: `${column} is empty.`, next: 'Fill it in and bring the file in again.' };
    case 'bad-amount':
      return f.expected === 'too-many-decimals'
        ? {
            what: `${column} has more decimals than the currency: ${quoted(f.found)}.`,
            next: 'Round it as the channel did, or correct it.',
          }
        : f.expected === 'too-large'
          ? { what: `${column} is larger than any amount taken here: ${quoted(f.found)}.`, next: 'Check the amount.' }
          : {
              what: `${column} is no amount: ${quoted(f.found)}.`,
              next: 'Write it like 1204.50, without separators or signs of currency.',
            };
    case 'bad-date':
      return {
        what: `${column} is no date: ${quoted(f.found)}.`,
        next: 'Write it as year-month-day, like 2026-11-09.',
      };
    case 'bad-time':
      return { what: `${column} is no UTC time: ${quoted(f.found)}.`, next: 'Write it like 2026-11-09T10:12:33Z.' };
    case 'bad-currency':
      return {
        what: `${column} is no currency code: ${quoted(f.found)}.`,
        next: 'Use three capital letters, like EUR.',
      };
    case 'bad-kind':
      return {
        what: `${column} is ${quoted(f.found)}.`,
        next: `It can be ${f.expected ?? 'receipt, refund, chargeback or payout'}.`,
      };
    case 'wrong-sign':
      return {
        what: `${column} is ${f.found}; for this type it must be ${f.expected}.`,
        next: 'Check type and amount: what leaves the channel is negative.',
      };
    case 'net-differs':
      return {
        what: `Net is ${f.found}, but gross less fee is ${f.expected}.`,
        next: 'Correct whichever is wrong, or leave the fee empty if it is not known.',
      };
    case 'fee-on-payout':
      return {
        what: `A payout has a fee of ${f.found}.`,
        next: 'Give the fee with the receipts; a payout’s net is what reaches the bank.',
      };
    case 'tip-too-large':
      return {
        what: `The tip of ${f.found} does not fit the gross of ${f.expected}.`,
        next: 'A tip is part of the gross and has its sign.',
      };
    case 'repeated-id':
      return {
        what: `The id stands in this file twice with other figures: ${f.expected}; here ${f.found}.`,
        next: 'Find out which is right and take the other out.',
      };
    case 'no-header':
      return {
        what: `No row names the columns${f.found ? `; the file begins with: ${f.found}` : ''}.`,
        next: 'Export it with a header row, or add one above the first record.',
      };
    case 'not-json':
      return { what: 'The JSON cannot be read.', next: 'Export it again, as a list of records.' };
    case 'not-a-workbook':
      return { what: 'The workbook cannot be read.', next: 'Save it as XLSX again, or as CSV.' };
    case 'formula':
      return {
        what: `Column ${f.field} has a formula in place of a value: “${f.found}”.`,
        next: 'Save the sheet with values and bring it in again.',
      };
    case 'unknown-site':
      return {
        what: `There is no site ${f.found} at this channel.`,
        next: 'Add it to the channel, or correct the row.',
      };
    case 'before-history':
      return {
        what: `It is of ${f.found}, before this channel’s history begins on ${f.expected}.`,
        next: 'Nothing needs doing, unless the history should begin earlier: set that at the channel.',
      };
    case 'not-xml':
      return {
        what: `The XML cannot be read${f.found ? ` at ${f.found}` : ''}.`,
        next: 'Download the statement from the bank again.',
      };
    case 'doctype':
      return {
        what: 'The file has a DOCTYPE, which no bank statement has.',
        next: 'Do not use this file; download the statement from the bank itself.',
      };
    case 'not-a-statement':
      return {
        what: `This is no bank statement as expected${f.expected ? ` (${f.expected})` : ''}${f.found ? `: it says ${f.found}` : ''}.`,
        next: 'Download the statement again, as camt.053, MT940, OFX, BAI2 or CSV.',
      };
    case 'truncated':
      return {
        what: `The file ends in the middle${f.found ? ` of ${f.found}` : ''}${f.field ? `, before ${f.field}` : ''}.`,
        next: 'Download it again; the download was cut off.',
      };
    case 'missing-element':
      return {
        what: `${f.field} is missing${f.expected ? `; it should say ${f.expected}` : ''}.`,
        next: 'Ask the bank for a complete statement.',
      };
    case 'does-not-foot':
      return {
        what: `Opening and movements come to ${f.expected}, but the closing balance says ${f.found}.`,
        next: 'A line is missing or was changed; download the statement again.',
      };
    case 'balance-breaks':
      return {
        what: `After this line the balance should be ${f.expected}; the file says ${f.found}.`,
        next: 'A line is missing or was changed; download the statement again.',
      };
    case 'control-total':
      return {
        what: `Record ${f.field} says ${f.found}, but what stands before it comes to ${f.expected}.`,
        next: 'A record is missing or was changed; download the file again.',
      };
    case 'dates-unclear':
      return {
        what: 'Day and month cannot be told apart by any of its dates.',
        next: 'Say how its dates are written, and it is read again.',
      };
    case 'no-account':
      return {
        what: 'The file does not say which account it is of.',
        next: 'Choose the bank account, and it is read again.',
      };
    case 'other-currency':
      return {
        what: `The currency is ${f.found}; here it is ${f.expected}.`,
        next: 'Bring it in where that currency is kept.',
      };
    case 'other-account':
      return {
        what: `The statement is of account ${f.found}; these books have ${f.expected}.`,
        next: 'Bring it into the books that account belongs to.',
      };
    case 'dates-reversed':
      return { what: `Due on ${f.found}, before it is issued on ${f.expected}.`, next: 'Correct the dates.' };
    case 'bad-total':
      return {
        what: `The invoice comes to ${f.found}; it must be ${f.expected}.`,
        next: 'Credits are brought in another way; check the signs.',
      };
    case 'bad-tax':
      return {
        what: `The tax is ${f.found}; at the code’s rate it is ${f.expected}.`,
        next: 'Correct tax or tax code.',
      };
    case 'unknown-item':
      return {
        what: `These books have no item ${quoted(f.found)}.`,
        next: 'Use the code of an item under Set-up, or leave it empty on a paid sale.',
      };
    case 'unknown-tax-code':
      return { what: `These books have no tax code ${quoted(f.found)}.`, next: 'Use a code that stands under Set-up.' };
    case 'tenders-differ':
      return {
        what: `What was sold comes to ${f.expected}, but what was paid comes to ${f.found}.`,
        next: 'A row of the day is missing or wrong; compare it with the till’s own report.',
      };
    case 'not-a-movement':
      return {
        what: `This is no movement as the channel states them${f.field ? `: ${f.field}` : ''}.`,
        next: 'Tell whoever keeps the connection; nothing of it was taken in.',
      };
    case 'other-figures':
      return {
        what: `It is here already with other figures: ${f.expected}; the file says ${f.found}.`,
        next: 'Find out which is right; what is in the books is left as it is.',
      };
    case 'other-payout':
      return {
        what: `The books have it in payout ${f.expected}; the file says ${f.found}.`,
        next: 'Ask the channel which payout carried it.',
      };
  }
}

/** What is wrong, with its place first, and what to do. */
export function findingWords(finding: Finding): FindingWords {
  const { what, next } = sentences(finding);
  const subject = finding.subject ? `, ${finding.subject}` : '';
  return finding.line === null ? { what, next } : { what: `Line ${finding.line}${subject}: ${what}`, next };
}
