import { Chance } from '@/standins/chance';
import {
  Builder,
  dayAfter,
  emailOf,
  FIRST,
  isWorking,
  LAST,
  PAYERS,
  weekday,
  type Item,
  type Scenario,
  type ScenarioInvoice,
  type ScenarioMovement,
} from './builder';
import { bankOnly, EQUAL_DAYS, exceptions, NO_REPORT, transfers, worstDay } from './exceptions';

const ITEMS: readonly Item[] = ['repair', 'rig-check', 'lesson', 'parts'];

function ordinaryDay(b: Builder, day: string, waiting: { invoice: ScenarioInvoice; on: string }[]): void {
  const { chance } = b;
  if (isWorking(day)) {
    for (let n = chance.int(0, 2); n > 0; n--) {
      const payer = chance.pick(
        PAYERS.slice(5).filter(
          (name) => name !== 'Fulmar Ferries' && name !== 'Inishcoe Sea School' && name !== 'Cormorant Boatyard',
        ),
      );
      const count = chance.in100(30) ? 2 : 1;
      const nets = Array.from({ length: count }, () => [chance.pick(ITEMS), chance.int(8, 90) * 500] as const);
      const invoice = b.invoice(day, payer, nets);
      if (chance.in100(90)) waiting.push({ invoice, on: dayAfter(day, chance.int(1, 19)) });
    }
  }
  for (const { invoice, on } of waiting) if (on === day) b.onInvoice(day, invoice);
  if (weekday(day) !== 0) {
    for (let n = chance.int(0, 3); n > 0; n--) {
      const item = chance.in100(70) ? chance.pick(ITEMS) : '';
      const tip = item === 'lesson' && chance.in100(40) ? 500 : 0;
      const named = chance.in100(70);
      const payer = named ? chance.pick(PAYERS.slice(8)) : '';
      b.receipt(day, chance.int(6, 48) * 250 + tip, {
        item,
        tip,
        payer,
        email: named ? emailOf(payer) : '',
        note: named
          ? ''
          : chance.pick(['shackles, Orla M.', 'rope', 'rig check, berth 14', 'lesson, Finn', 'repair kit']),
      });
    }
  }
}

/** Builds Kittiwake's autumn: the same for the same seed, to the byte. */
export function kittiwakeScenario(seed: number): Scenario {
  const b = new Builder(new Chance(seed));
  bankOnly(b);
  const waiting: { invoice: ScenarioInvoice; on: string }[] = [];
  let payouts = 0;
  for (let day = FIRST; day <= LAST; day = dayAfter(day, 1)) {
    exceptions(b, day);
    transfers(b, day);
    if (EQUAL_DAYS.includes(day)) {
      b.receipt(day, 8_500, { item: 'rig-check', payer: b.chance.pick(PAYERS.slice(20)) });
    } else if (day === NO_REPORT) {
      worstDay(b);
    } else {
      ordinaryDay(b, day, waiting);
    }
    if (isWorking(day)) {
      b.payOut(
        day,
        (id) => {
          payouts++;
          const date = `${day.slice(8)}${day.slice(5, 7)}`;
          if (['2026-11-05', '2026-11-06'].includes(day)) return 'CD SETTLEMENT KITTIWAKE SAILS';
          return payouts % 4 === 0 || day >= '2026-11-10'
            ? `CD SETTLEMENT ${date} KITTIWAKE SAILS`
            : `CD SETTLEMENT ${date} REF ${id} KITTIWAKE`;
        },
        // One payout is held up at the bank over a week-end and comes two working days late.
        (_id, usual) => (day === '2026-11-10' ? '2026-11-16' : usual),
      );
    }
  }
  // A waiting invoice that was to be paid on a day of exceptions stays open, as some do.
  const byTime = (a: ScenarioMovement, c: ScenarioMovement) => (a.time < c.time ? -1 : a.time > c.time ? 1 : 0);
  const byDate = (a: { date: string }, c: { date: string }) => (a.date < c.date ? -1 : a.date > c.date ? 1 : 0);
  const byIssue = (a: ScenarioInvoice, c: ScenarioInvoice) =>
    a.issued === c.issued ? (a.number < c.number ? -1 : 1) : a.issued < c.issued ? -1 : 1;
  return {
    invoices: [...b.invoices].sort(byIssue),
    movements: [...b.movements].sort(byTime),
    lines: [...b.lines].sort(byDate),
  };
}
