import { csvLine } from '@/formats/csv';
import { writeAmount, type Minor } from '@/core/money';
import { camt053 } from '@/standins/bank/camt053-writer';
import { Chance } from '@/standins/chance';
import { DESK_COLUMNS } from './columns';

const money = (cents: number) => writeAmount(cents as Minor, 'EUR');
const dayOf = (n: number) => new Date(Date.UTC(2026, 0, 5) + n * 86_400_000).toISOString().slice(0, 10);

export interface LargeWorld {
  readonly invoices: string;
  readonly cardDesk: string;
  readonly statement: string;
}

/** Receipts per payout: a busy card desk's, so that 100,000 receipts are some thousands of payouts. */
const PER_PAYOUT = 16;

/**
 * A card desk's export with `receipts` receipts (some on invoices, some refunds), its payouts, and a statement with
 * `lines` lines in which the payouts land among others. The same for the same seed.
 */
export function largeWorld(receipts: number, lines: number, seed: number): LargeWorld {
  const chance = new Chance(seed);
  const invoices: string[] = [
    csvLine(['Number', 'Payer', 'Email', 'Issued', 'Due', 'Currency', 'Item', 'Net', 'Tax code']),
  ];
  const desk: string[] = [csvLine(DESK_COLUMNS)];
  const landed: { date: string; amount: number; text: string; party: string; reference: string }[] = [];
  const days = 300;
  let net = 0;
  let payout = 1;
  let number = 1;
  for (let n = 0; n < receipts; n++) {
    const day = Math.floor((n * days) / receipts);
    const payer = `Payer ${chance.int(1, 5_000)}`;
    const email = `${payer.toLowerCase().replace(' ', '.')}@mail.example`;
    const kind = chance.int(1, 100);
    const cents = chance.int(4, 900) * 25;
    const gross = kind > 98 ? -cents : cents;
    const fee = gross < 0 ? 0 : Math.round(cents * 0.019) + 25;
    let document = '';
    if (kind <= 30) {
      document = `L-${number++}`;
      invoices.push(
        csvLine([document, payer, email, dayOf(day), dayOf(day + 21), 'EUR', 'repair', money(cents), 'S23']),
      );
    }
    const item = document === '' && kind <= 70 ? 'parts' : '';
    desk.push(
      csvLine([
        `R-${n}`,
        gross < 0 ? 'refund' : 'receipt',
        `${dayOf(day)}T10:${String(n % 60).padStart(2, '0')}:00Z`,
        'EUR',
        money(gross),
        money(fee),
        money(gross - fee),
        payer,
        email,
        document,
        item,
        item === '' && document === '' ? 'note to self' : '',
        `P-${10_000 + payout}`,
        '',
      ]),
    );
    net += gross - fee;
    if (((n + 1) % PER_PAYOUT === 0 || n === receipts - 1) && net > 0) {
      const id = `P-${10_000 + payout++}`;
      desk.push(
        csvLine([
          id,
          'payout',
          `${dayOf(day + 1)}T05:00:00Z`,
          'EUR',
          money(-net),
          '0.00',
          money(-net),
          '',
          '',
          '',
          '',
          '',
          '',
          '',
        ]),
      );
      const text = chance.in100(70) ? `CD SETTLEMENT REF ${id} BATCH ${n}` : `CD SETTLEMENT BATCH ${n}`;
      landed.push({ date: dayOf(day + 3), amount: net, text, party: 'Card desk', reference: `B${n}` });
      net = 0;
    }
  }
  const other = (n: number) => ({
    date: dayOf(Math.floor((n * days) / lines)),
    amount: chance.int(1, 90_000) * (chance.in100(50) ? 1 : -1),
    text: `TRANSFER ${chance.int(1, 999_999)} MISC SERVICES`,
    party: `Party ${chance.int(1, 900)}`,
    reference: `N${n}`,
  });
  const all = landed.slice(0, lines);
  for (let n = 0; all.length < lines; n++) all.push(other(n));
  all.sort((a, b) => (a.date < b.date ? -1 : a.date > b.date ? 1 : 0));
  const statement = [
    ...camt053({
      id: 'LARGE',
      iban: 'IE29SKER93115212345678',
      currency: 'EUR',
      opening: 0,
      from: dayOf(0),
      to: dayOf(days),
      lines: all,
    }),
  ].join('');
  return { invoices: invoices.join(''), cardDesk: desk.join(''), statement };
}
