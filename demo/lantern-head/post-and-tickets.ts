import { Chance } from '@/standins/chance';
import { dayAfter, emailOf, isWorking, PAYERS, percentOf, weekday, workingDaysLater } from '../kittiwake/builder';
import { FUNDS } from './books';

/** A gift that came by post: a cheque, or coins and notes in an envelope. Amounts in cents. */
export interface PostedGift {
  readonly id: string;
  readonly day: string;
  readonly donor: string;
  readonly fund: string;
  readonly amount: number;
  readonly method: 'cheque' | 'cash';
}

/** A ticket for the open day, paid by card when it was booked. */
export interface Ticket {
  readonly id: string;
  readonly time: string;
  readonly payer: string;
  readonly email: string;
  readonly amount: number;
  readonly fee: number;
  payout: string;
}

export interface TicketPayout {
  readonly id: string;
  readonly day: string;
  readonly net: number;
  readonly lands: string;
}

export interface PostAndTickets {
  readonly posted: readonly PostedGift[];
  readonly tickets: readonly Ticket[];
  readonly ticketPayouts: readonly TicketPayout[];
}

const FIRST = '2026-09-01';
const LAST = '2026-11-15';
/** Booking was open for these weeks before the open day. */
const BOOKING = { from: '2026-09-14', to: '2026-10-21' } as const;
const pad = (n: number) => String(n).padStart(2, '0');

/** What came by post and for the open day, from a seed of its own so that nothing else of the scenario moves. */
export function postAndTickets(seed: number): PostAndTickets {
  const chance = new Chance(seed * 5 + 3);
  const posted: PostedGift[] = [];
  const tickets: Ticket[] = [];
  const ticketPayouts: TicketPayout[] = [];
  let held: Ticket[] = [];
  for (let day = FIRST; day <= LAST; day = dayAfter(day, 1)) {
    if (isWorking(day) && chance.in100(25)) {
      const fund = chance.in100(60) ? FUNDS[0] : FUNDS[1];
      const method = chance.in100(70) ? 'cheque' : 'cash';
      posted.push({
        id: `L-${101 + posted.length}`,
        day,
        donor: chance.pick(PAYERS),
        fund: fund.name,
        amount: chance.int(2, 20) * 500,
        method,
      });
    }
    if (day < BOOKING.from || day > dayAfter(BOOKING.to, 7)) continue;
    for (let n = day <= BOOKING.to ? chance.int(0, 3) : 0; n > 0; n--) {
      const payer = chance.pick(PAYERS);
      const amount = chance.in100(60) ? 8_00 : 5_00;
      const time = `${day}T${pad(chance.int(8, 20))}:${pad(chance.int(0, 59))}:00Z`;
      held.push({
        id: `OD-${301 + tickets.length + held.length}`,
        time,
        payer,
        email: emailOf(payer),
        amount,
        fee: percentOf(amount, 150) + 20,
        payout: '',
      });
    }
    if (weekday(day) !== 5 || held.length === 0) continue;
    const id = `OP-${11 + ticketPayouts.length}`;
    const net = held.reduce((sum, ticket) => sum + ticket.amount - ticket.fee, 0);
    ticketPayouts.push({ id, day, net, lands: workingDaysLater(day, 2) });
    tickets.push(...held.map((ticket) => ({ ...ticket, payout: id })));
    held = [];
  }
  return { posted, tickets: [...tickets, ...held], ticketPayouts };
}
