import { csvLine } from '@/formats/csv';
import { DESK_COLUMNS, INVOICE_COLUMNS } from '../lib/columns';
import { CUTS, statementFiles, within, type Cut } from '../lib/cuts';
import { DRIFTLINE } from './books';
import { atMillionths, taxIn, type Driftline, type Movement } from './scenario';

const IBAN = DRIFTLINE.bankAccounts[0]!.iban.replace(/ /g, '');
const OPENING = DRIFTLINE.opening.balances[0]!.amount;

const money = (cents: number) => (cents / 100).toFixed(2);
const dotted = (day: string) => day.split('-').reverse().join('.');

/** The debit bureau's list: tabs, days before months, a debit without a sign, a return with its reason. */
function debitList({ movements }: Driftline, cut: Cut): string {
  const word = { receipt: 'debit', chargeback: 'return', payout: 'payout', refund: 'refund' };
  const rows = movements
    .filter((one) => one.channel === 'debit' && within(one.day, cut))
    .map((one) =>
      [
        one.id,
        dotted(one.day),
        word[one.kind],
        one.member.no,
        one.member.name,
        one.invoice,
        money(one.kind === 'payout' ? -one.gross : one.gross),
        one.kind === 'payout' ? '' : money(one.fee),
        one.payout,
        one.takesBack,
        one.note,
      ].join('\t'),
    );
  const head = [
    'Id',
    'Date',
    'Type',
    'Member no',
    'Member',
    'Invoice',
    'Amount',
    'Charge',
    'Payout',
    'Refund of',
    'Note',
  ];
  return `${[head.join('\t'), ...rows].join('\n')}\n`;
}

/** The card fall-back's export, in this program's own columns. */
function cardList({ movements }: Driftline, cut: Cut): string {
  const rows = movements
    .filter((one) => one.channel === 'card' && within(one.day, cut))
    .map((one) => [
      one.id,
      one.kind,
      `${one.day}T${one.clock}:00Z`,
      'EUR',
      money(one.gross),
      one.kind === 'payout' ? '' : money(one.fee),
      money(one.gross - one.fee),
      one.member.name,
      one.member.email,
      one.invoice,
      one.item,
      one.note,
      one.payout,
      one.takesBack,
    ]);
  return [DESK_COLUMNS, ...rows].map(csvLine).join('');
}

/** The wallet's export: money in and money out in columns of their own, in pounds. */
function walletList({ movements }: Driftline, cut: Cut): string {
  const rows = movements
    .filter((one) => one.channel === 'wallet' && within(one.day, cut))
    .map((one) => {
      const paidOut = one.kind === 'payout';
      return [
        one.id,
        `${one.day} ${one.clock}`,
        one.kind,
        'GBP',
        paidOut ? '' : `£${money(one.gross)}`,
        paidOut ? `£${money(-one.gross)}` : '',
        paidOut ? '' : money(one.fee),
        one.member.name,
        one.item,
        one.payout,
      ];
    });
  return [['Ref', 'When', 'Type', 'Currency', 'Money in', 'Money out', 'Fee', 'From', 'Item', 'Payout'], ...rows]
    .map(csvLine)
    .join('');
}

function invoiceList({ invoices }: Driftline, cut: Cut): string {
  const rows = invoices
    .filter(({ issued }) => within(issued, cut))
    .map(({ number, member, issued, net, tax }) => [
      number,
      member.name,
      member.email,
      issued,
      `${issued.slice(0, 8)}15`,
      'EUR',
      member.box,
      member.box === 'small' ? 'Small box' : 'Large box',
      money(net),
      'S23',
      money(tax),
    ]);
  return [INVOICE_COLUMNS, ...rows].map(csvLine).join('');
}

const sumOf = <T>(list: readonly T[], of: (one: T) => number) => list.reduce((sum, one) => sum + of(one), 0);

/** What the books must come to once all of it is brought in, posted and confirmed. */
function truth(scenario: Driftline) {
  const { invoices, movements, lines, rates, converted } = scenario;
  const of = (channel: Movement['channel']) => movements.filter((one) => one.channel === channel);
  const landed = (id: string) => lines.some((line) => line.text.includes(id));
  const open = (channel: Movement['channel']) =>
    of(channel).filter((one) => one.kind !== 'payout' && (one.payout === '' || !landed(one.payout)));
  const rateOn = (day: string) => [...rates].reverse().find((rate) => rate.day <= day)!.millionths;
  const net = (list: readonly Movement[]) => sumOf(list, (one) => one.gross - one.fee);
  const base = (one: Movement) => ({
    gross: atMillionths(one.gross, rateOn(one.day)),
    fee: atMillionths(one.fee, rateOn(one.day)),
  });
  const wallet = of('wallet').filter((one) => one.kind === 'receipt');
  const carried = (list: readonly Movement[]) => sumOf(list, (one) => base(one).gross - base(one).fee);
  const settled = [...of('debit'), ...of('card')].filter((one) => one.kind === 'receipt' && one.invoice !== '');
  const reopened = [...of('debit'), ...of('card')].filter((one) => one.kind === 'chargeback');
  const refunds = of('card').filter((one) => one.kind === 'refund');
  const loose = of('card').filter((one) => one.kind === 'receipt' && one.invoice === '');
  const gifts = [...wallet.map((one) => base(one).gross), ...loose.map((one) => one.gross)];
  const boxes = (box: string) =>
    -sumOf(
      invoices.filter(({ member }) => member.box === box),
      (invoice) => invoice.net,
    );
  return {
    bank: OPENING + sumOf(lines, (line) => line.amount),
    receivable:
      sumOf(invoices, ({ gross }) => gross) -
      sumOf(settled, ({ gross }) => gross) -
      sumOf(reopened, ({ gross }) => gross),
    clearing: { debit: net(open('debit')), card: net(open('card')), wallet: carried(open('wallet')) },
    walletPounds: net(open('wallet')),
    fees: {
      debit: sumOf(of('debit'), ({ fee }) => fee),
      card: sumOf(of('card'), ({ fee }) => fee) + sumOf(wallet, (one) => base(one).fee),
    },
    fx: sumOf(
      [...converted].filter(([id]) => landed(id)),
      ([id, euro]) => carried(wallet.filter((one) => one.payout === id)) - euro,
    ),
    refunds: sumOf(refunds, ({ gross }) => -gross - taxIn(-gross)),
    small: boxes('small'),
    large: boxes('large'),
    gifts: -sumOf(gifts, (gross) => gross - taxIn(gross)),
    receipts: movements.filter(({ kind }) => kind !== 'payout').length,
    payouts: movements.filter(({ kind }) => kind === 'payout').length,
    returned: of('debit').filter(({ kind }) => kind === 'chargeback').length,
  };
}
export type DriftlineTruth = ReturnType<typeof truth>;

/** Every file of the demo by its name. */
export function driftlineFiles(scenario: Driftline): [string, string][] {
  return [
    ...CUTS.flatMap((cut): [string, string][] => [
      [`invoices-${cut.name}.csv`, invoiceList(scenario, cut)],
      [`debits-${cut.name}.tsv`, debitList(scenario, cut)],
      [`cards-${cut.name}.csv`, cardList(scenario, cut)],
      [`wallet-${cut.name}.csv`, walletList(scenario, cut)],
    ]),
    [
      'rates.txt',
      scenario.rates.map(({ day, millionths }) => `${day} GBP ${(millionths / 1_000_000).toFixed(4)}\n`).join(''),
    ],
    ...statementFiles(scenario.lines, { prefix: 'DB', iban: IBAN, opening: OPENING }),
    ['truth.json', `${JSON.stringify(truth(scenario), null, 2)}\n`],
  ];
}
