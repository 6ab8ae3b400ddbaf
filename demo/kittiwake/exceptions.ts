import { cardFee, emailOf, type Builder, type Item } from './builder';

/** The ordinary mess of real life, on days of its own. */
export function exceptions(b: Builder, day: string): void {
  const of = (payer: string) => b.invoices.find((i) => i.payer === payer)!;
  switch (day) {
    case '2026-09-03':
      b.invoice(day, 'Fulmar Ferries', [['repair', 40_000]]);
      break;
    case '2026-09-10':
      b.onInvoice(day, of('Fulmar Ferries'), 30_000, { note: 'first part' });
      break;
    case '2026-09-24':
      b.onInvoice(day, of('Fulmar Ferries'), of('Fulmar Ferries').gross - 30_000, { note: 'the rest' });
      break;
    case '2026-10-01':
      b.invoice(day, 'Inishcoe Sea School', [['lesson', 20_000]]);
      break;
    case '2026-10-06':
      b.onInvoice(day, of('Inishcoe Sea School'), of('Inishcoe Sea School').gross + 2_000, { note: 'rounded up' });
      break;
    case '2026-10-14': {
      const whole = b.receipt('2026-10-12', 12_300, { payer: 'H. Wrack', email: emailOf('H. Wrack'), item: 'parts' });
      b.receipt(day, -12_300, {
        fee: -cardFee(12_300),
        refundOf: whole.id,
        payer: 'H. Wrack',
        email: emailOf('H. Wrack'),
      });
      break;
    }
    case '2026-10-21': {
      const paid = b.movements.find((m) => m.document !== '' && m.day < '2026-10-10' && m.gross > 10_000)!;
      b.receipt(day, -4_000, { document: paid.document, payer: paid.payer, email: paid.email, refundOf: paid.id });
      break;
    }
    case '2026-11-02':
      b.invoice(day, 'Brandon Quay Charters', [['repair', 25_203]]);
      b.invoice(day, 'A. Tern', [['repair', 12_000]]);
      break;
    case '2026-11-09':
      b.receipt(day, 15_000, { item: 'rig-check', payer: 'Gannet Dive Centre', email: emailOf('Gannet Dive Centre') });
      break;
    case '2026-11-11':
      b.receipt(day, 9_750, { item: 'lesson', payer: 'E. Lough', email: emailOf('E. Lough') });
      break;
    case '2026-11-03':
      b.receipt(day, 5_250, { document: 'KS-2999', payer: 'V. Shoal', email: emailOf('V. Shoal') });
      break;
  }
}

/** Two days with one equal receipt each: their payouts cannot be told apart at the bank. */
export const EQUAL_DAYS = ['2026-11-04', '2026-11-05'];
/** The card desk's report broke down on this day: no fees, no payout. */
export const NO_REPORT = '2026-11-10';

export function bankOnly(b: Builder): void {
  for (const month of ['2026-09', '2026-10', '2026-11']) {
    b.line(`${month}-02`, -850_00, 'SO WORKSHOP RENT PORTMARA PIER', 'Portmara Harbour Board', {
      kind: 'account',
      account: '6010',
    });
  }
  b.line('2026-09-30', -12_40, 'ACCOUNT CHARGES Q3', '', { kind: 'account', account: '6110' });
  b.line('2026-09-16', -312_75, 'CANVAS AND THREAD 88213', 'Lough Derrow Canvas', { kind: 'account', account: '6020' });
  b.line('2026-10-19', -148_20, 'CANVAS AND THREAD 88920', 'Lough Derrow Canvas', { kind: 'account', account: '6020' });
  b.line('2026-11-12', -96_00, 'CANVAS AND THREAD 89377', 'Lough Derrow Canvas', { kind: 'account', account: '6020' });
}

/** Invoices that are settled by transfer: who owes them, and when they were issued. */
const BY_TRANSFER: readonly (readonly [day: string, payer: string, item: Item, net: number])[] = [
  ['2026-09-07', 'Cormorant Boatyard', 'repair', 60_000],
  ['2026-10-05', 'O. Marrable', 'parts', 20_000],
  ['2026-10-20', 'Skarra Yacht Club', 'repair', 18_000],
  ['2026-10-22', 'T. Hollow', 'rig-check', 7_542],
  ['2026-10-23', 'Skarra Yacht Club', 'repair', 14_000],
  ['2026-10-28', 'Skarra Yacht Club', 'repair', 16_000],
  ['2026-10-29', 'O. Marrable', 'repair', 20_000],
  ['2026-10-30', 'T. Hollow', 'rig-check', 7_542],
];

/** The transfers for them, with the words each payer finds: a number run together, a typo in one, none at all, another name. */
export function transfers(b: Builder, day: string): void {
  for (const [issued, payer, item, net] of BY_TRANSFER) if (issued === day) b.invoice(day, payer, [[item, net]]);
  const pay = (payer: string, which: readonly number[], text: (digits: readonly string[]) => string, from = payer) => {
    const owed = b.invoices.filter((i) => i.payer === payer);
    const paid = which.map((index) => owed[index]!);
    const amount = paid.reduce((total, i) => total + i.gross, 0);
    const numbers = paid.map((i) => i.number);
    const digits = numbers.map((number) => number.slice(3));
    b.line(day, amount, text(digits), from, { kind: 'invoices', invoices: numbers });
  };
  const swapLast = (digits: string) => digits.slice(0, -2) + digits.at(-1)! + digits.at(-2)!;
  switch (day) {
    case '2026-09-21':
      return pay('Cormorant Boatyard', [0], ([n]) => `INV KS-${n} CORMORANT`, 'CB Marine Holdings');
    case '2026-10-16':
      return pay('O. Marrable', [0], ([n]) => `O MARRABLE INV KS${n}`);
    case '2026-11-09':
      return pay('T. Hollow', [0], () => 'T HOLLOW RIG CHECK');
    case '2026-11-10':
      return pay('T. Hollow', [1], () => 'HOLLOW T');
    case '2026-11-11':
      pay('O. Marrable', [1], ([n]) => `O MARRABLE INV KS${n}`);
      pay('Skarra Yacht Club', [0, 1, 2], ([a, c, d]) => `SKARRA YC ${a} ${c} ${swapLast(d!)} THANKS`);
  }
}

export function worstDay(b: Builder): void {
  const charter = b.invoices.find((i) => i.payer === 'Brandon Quay Charters')!;
  const tern = b.invoices.find((i) => i.payer === 'A. Tern' && i.issued === '2026-11-02')!;
  const bare = { fee: null } as const;
  const four = [
    b.onInvoice(NO_REPORT, charter, charter.gross, bare),
    b.receipt(NO_REPORT, 8_500, { ...bare, payer: 'P. Strand', email: emailOf('P. Strand'), item: 'rig-check' }),
    b.onInvoice(NO_REPORT, tern, tern.gross, bare),
    b.receipt(NO_REPORT, 6_240, { ...bare, note: 'winch, Eilis', item: 'parts' }),
  ];
  b.line('2026-11-12', 592_52, 'CD SETTLEMENT 1011 KITTIWAKE SAILS 4471', 'Card desk', {
    kind: 'receipts',
    receipts: four.map((m) => m.id),
  });
}
