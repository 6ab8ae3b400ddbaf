import { z } from 'zod';
import { DELIMITERS, type Delimiter } from '../table/header';
import type { DateOrder, DecimalMark } from '../table/loose';
import { ENCODINGS, type Encoding } from '../text';

/** What a column of a bank's table can be read as. */
export const STATEMENT_FIELDS = [
  'booked',
  'value',
  'amount',
  'paidIn',
  'paidOut',
  'mark',
  'balance',
  'currency',
  'account',
  'counterparty',
  'reference',
  'bankId',
] as const;
export type StatementField = (typeof STATEMENT_FIELDS)[number];

/** How a bank's table is read: which column is what, and how values are written. Kept per header. */
export interface StatementProfile {
  /** Field to the header it stands under. */
  readonly columns: Readonly<Partial<Record<StatementField, string>>>;
  /** Headers of the columns that make the bank's text, in their order. */
  readonly texts: readonly string[];
  readonly delimiter: Delimiter;
  /** Rows above the header. */
  readonly above: number;
  readonly decimal: DecimalMark;
  readonly dateOrder: DateOrder;
  /** Values of the mark column, lower case, under which money went out. */
  readonly outs: readonly string[];
  /** Currency of rows where no column has it. */
  readonly currency: string;
  /** The account of rows where no column has it; empty where nobody has said. */
  readonly account: string;
  readonly newestFirst: boolean;
  readonly encoding: Encoding;
}

export const statementProfile: z.ZodType<StatementProfile, unknown> = z.object({
  columns: z.partialRecord(z.enum(STATEMENT_FIELDS), z.string().min(1).max(200)),
  texts: z.array(z.string().min(1).max(200)).max(20),
  delimiter: z.enum(DELIMITERS),
  above: z.number().int().min(0).max(100),
  decimal: z.enum(['.', ',']),
  dateOrder: z.enum(['YMD', 'DMY', 'MDY', 'serial']),
  outs: z.array(z.string().max(80)).max(50),
  currency: z.string().regex(/^[A-Z]{3}$/),
  account: z.string().max(60),
  newestFirst: z.boolean(),
  encoding: z.enum(ENCODINGS).default('auto'),
});

/** Words of the trade that a bank's column is named by; the first field that fits takes it, each column once. */
export const STATEMENT_WORDS: Readonly<Record<StatementField, RegExp>> = {
  value: /^(value|value date|valuta|date de valeur|effective date|interest date)$/,
  booked:
    /^(booked|booking date|date|posted|posted date|posting date|post date|entry date|transaction date|buchungstag|buchungsdatum|date comptable|booked on|datum|day)$/,
  balance: /^(balance|running balance|balance after|saldo|solde|closing balance|ledger balance)$/,
  paidIn: /^(in|money in|paid in|credit|credits|credit amount|deposits?|haben|eingang|amount in|received)$/,
  paidOut: /^(out|money out|paid out|debit|debits|debit amount|withdrawals?|soll|ausgang|amount out|spent)$/,
  amount: /^(amount|betrag|montant|value amount|sum|umsatz|net amount|transaction amount)$/,
  mark: /^(d[ /]?c|c[ /]?d|cr[ /]dr|dr[ /]cr|debit[ /]credit|credit[ /]debit|sign|direction|soll[ /]haben|s[ /]h|mark)$/,
  currency: /^(currency|ccy|cur|währung|devise|waers)$/,
  account: /^(account|account number|account no|own account|iban|auftragskonto|konto|compte|our account|account iban)$/,
  counterparty:
    /^(counterparty|name|payee|payer|other party|beneficiary|from to|counter party|party|beguenstigter zahlungspflichtiger|empfänger|auftraggeber|sender|who)$/,
  bankId: /^(id|transaction id|bank reference|bank id|entry reference|fitid|movement id|unique id)$/,
  reference: /^(reference|ref|end to end id|end to end|customer reference|e2e|kundenreferenz|payment reference)$/,
};

/** Columns that make the bank's text beside or in place of one that is called so. */
export const TEXT_WORDS =
  /^(text|description|details|narrative|narration|memo|particulars|verwendungszweck|libellé|libelle|booking text|buchungstext|remittance|remittance information|message|note|notes|information|additional information|transaction details|type|transaction type|code|analysis)$/;

/** Marks that say money went out. */
export const OUT_WORDS = /^(d|dr|db|dbit|debit|debet|s|soll|out|-|withdrawal|h?abbuchung)$/;
