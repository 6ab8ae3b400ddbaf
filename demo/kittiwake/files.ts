import { writeAmount, type Minor } from '@/core/money';
import { csvLine } from '@/formats/csv';
import { INVOICE_COLUMNS } from '../lib/columns';
import { camt053 } from '@/standins/bank/camt053-writer';
import { KITTIWAKE } from './books';
import type { Scenario, ScenarioInvoice, ScenarioLine, ScenarioMovement } from './builder';

const money = (cents: number | null) => (cents === null ? '' : writeAmount(cents as Minor, 'EUR'));
const IBAN = KITTIWAKE.bankAccounts[0]!.iban.replace(/ /g, '');
const OPENING = KITTIWAKE.opening.balances[0]!.amount;

export function invoicesCsv(invoices: readonly ScenarioInvoice[]): string {
  const rows = invoices.flatMap((i) =>
    i.lines.map((l) =>
      csvLine([
        i.number,
        i.payer,
        i.email,
        i.issued,
        i.due,
        'EUR',
        l.item,
        l.description,
        money(l.net),
        l.taxCode,
        money(l.tax),
      ]),
    ),
  );
  return csvLine(INVOICE_COLUMNS) + rows.join('');
}

/** The export as the card desk would have written it at the end of `through`: later payouts are not known yet. */
export function cardDeskCsv(movements: readonly ScenarioMovement[], from: string, through: string): string {
  const payoutDay = new Map(movements.filter((m) => m.type === 'payout').map((m) => [m.id, m.day]));
  const rows = movements
    .filter((m) => m.day >= from && m.day <= through)
    .map((m) =>
      csvLine([
        m.id,
        m.type,
        m.time,
        'EUR',
        money(m.gross),
        m.tip === 0 ? '' : money(m.tip),
        money(m.fee),
        money(m.fee === null ? null : m.gross - m.fee),
        m.payer,
        m.email,
        m.document,
        m.item,
        m.note,
        m.payout !== '' && payoutDay.get(m.payout)! <= through ? m.payout : '',
        m.refundOf,
      ]),
    );
  const head = [
    'Id',
    'Type',
    'Time',
    'Currency',
    'Gross',
    'Tip',
    'Fee',
    'Net',
    'Payer',
    'Email',
    'Document',
    'Item',
    'Note',
  ];
  return csvLine([...head, 'Payout', 'Refund of']) + rows.join('');
}

const before = (lines: readonly ScenarioLine[], day: string) =>
  lines.filter((line) => line.date < day).reduce((total, line) => total + line.amount, OPENING as number);

const within = (lines: readonly ScenarioLine[], from: string, to: string) =>
  lines.filter((line) => line.date >= from && line.date <= to);

export function statementXml(lines: readonly ScenarioLine[], id: string, from: string, to: string): string {
  const statement = { id, iban: IBAN, currency: 'EUR', opening: before(lines, from), from, to };
  return [...camt053({ ...statement, lines: within(lines, from, to) })].join('');
}

export function statementCsv(lines: readonly ScenarioLine[], from: string, to: string): string {
  let balance = before(lines, from);
  const rows = within(lines, from, to).map((line) => {
    balance += line.amount;
    return csvLine([
      IBAN,
      line.date,
      line.date,
      money(line.amount),
      'EUR',
      line.text,
      line.party,
      line.reference,
      money(balance),
    ]);
  });
  const head = ['Account', 'Booked', 'Value', 'Amount', 'Currency', 'Text', 'Counterparty', 'Reference', 'Balance'];
  return csvLine(head) + rows.join('');
}

/** Every file of the demo by name. Those that end in "-b" overlap with the one before and are left for the user. */
export function kittiwakeFiles({ invoices, movements, lines }: Scenario): ReadonlyMap<string, string> {
  const issued = (from: string, to: string) => invoices.filter((i) => i.issued >= from && i.issued <= to);
  return new Map([
    ['invoices-2026-09-to-10.csv', invoicesCsv(issued('2026-09-01', '2026-10-31'))],
    ['invoices-2026-11-a.csv', invoicesCsv(issued('2026-11-01', '2026-11-10'))],
    ['invoices-2026-11-b.csv', invoicesCsv(issued('2026-11-09', '2026-11-16'))],
    ['card-desk-2026-09-to-10.csv', cardDeskCsv(movements, '2026-09-01', '2026-10-31')],
    ['card-desk-2026-11-a.csv', cardDeskCsv(movements, '2026-10-29', '2026-11-11')],
    ['card-desk-2026-11-b.csv', cardDeskCsv(movements, '2026-11-06', '2026-11-16')],
    ['statement-2026-09.xml', statementXml(lines, 'SK-2026-09', '2026-09-01', '2026-09-30')],
    ['statement-2026-10.xml', statementXml(lines, 'SK-2026-10', '2026-10-01', '2026-10-31')],
    ['statement-2026-11-a.xml', statementXml(lines, 'SK-2026-11', '2026-11-01', '2026-11-12')],
    ['statement-2026-11-b.csv', statementCsv(lines, '2026-11-11', '2026-11-16')],
    ['truth.json', `${JSON.stringify(truthOf({ invoices, movements, lines }), null, 1)}\n`],
  ]);
}

/** What belongs to what, and what the accounts must come to when all of it is brought in, posted and confirmed. */
function truthOf({ movements, lines }: Scenario) {
  const receipts = movements.filter((m) => m.type !== 'payout');
  const landed = new Set(lines.flatMap(({ truth }) => (truth.kind === 'payout' ? [truth.payout] : [])));
  const picked = new Set(lines.flatMap(({ truth }) => (truth.kind === 'receipts' ? truth.receipts : [])));
  const inTransit = receipts.filter((m) => !picked.has(m.id) && !landed.has(m.payout));
  const statedFees = receipts.reduce((total, m) => total + (m.fee ?? 0), 0);
  const grossPicked = receipts.filter((m) => picked.has(m.id)).reduce((total, m) => total + m.gross, 0);
  const banked = lines.filter((l) => l.truth.kind === 'receipts').reduce((total, l) => total + l.amount, 0);
  return {
    lines: lines.map(({ date, amount, text, truth }) => ({ date, amount, text, ...truth })),
    payouts: movements
      .filter((m) => m.type === 'payout')
      .map((p) => ({ id: p.id, net: -p.gross, receipts: receipts.filter((m) => m.payout === p.id).map((m) => m.id) })),
    end: {
      bank: lines.reduce((total, line) => total + line.amount, OPENING as number),
      clearing: inTransit.reduce((total, m) => total + m.gross - m.fee!, 0),
      fees: statedFees + grossPicked - banked,
    },
  };
}
