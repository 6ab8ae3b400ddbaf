import {
  dayOfNumber,
  NameFinder,
  proposeInvoices,
  referenceKey,
  referenceKeysIn,
  type Remittance,
} from '@/core/matching';
import { minor } from '@/core/money';
import type { OwedPayment, OwedWorld } from './owed-world';

/** How payments of one kind were told: as often as they are. */
export interface OwedCount {
  payments: number;
  proven: number;
  probable: number;
  open: number;
  /** Open with the truth among what is shown. */
  shown: number;
  wrong: number;
  wrongProven: number;
  /** Laid on other invoices of the same amounts. */
  swaps: number;
}

const key = (ids: readonly number[]) => [...ids].sort((a, b) => a - b).join();

/** Day by day: what a day's payments are is asked of what is owed that day, and then known as it truly was. */
export function judgeOwed(world: OwedWorld, counts: Map<OwedPayment['kind'], OwedCount>): void {
  const names = new NameFinder(world.payers.map((name, n) => ({ payer: n + 1, name })));
  const amountOf = new Map(world.invoices.map(({ id, amount }) => [id, amount]));
  const settled = new Set<number>();
  for (let from = 0; from < world.payments.length;) {
    let to = from;
    while (to < world.payments.length && world.payments[to]!.day === world.payments[from]!.day) to++;
    const today = world.payments.slice(from, to);
    const day = today[0]!.day;
    const open = world.invoices
      .filter((invoice) => invoice.day <= day && !settled.has(invoice.id))
      .map((invoice) => ({
        id: invoice.id,
        payer: invoice.payer,
        number: invoice.number,
        key: referenceKey(invoice.number),
        due: dayOfNumber(invoice.day + 14),
        open: minor(invoice.amount),
        early: null,
      }));
    const lines = today.map(({ id, amount, text }): Remittance => ({
      id,
      date: dayOfNumber(day),
      amount: minor(amount),
      keys: referenceKeysIn(text),
      text,
      details: [],
    }));
    const proposals = new Map(proposeInvoices(lines, open, names).map((proposal) => [proposal.line, proposal]));
    for (const payment of today) {
      const { certainty, laid, others } = proposals.get(payment.id)!;
      const count = counts.get(payment.kind) ?? {
        payments: 0,
        proven: 0,
        probable: 0,
        open: 0,
        shown: 0,
        wrong: 0,
        wrongProven: 0,
        swaps: 0,
      };
      counts.set(payment.kind, count);
      count.payments++;
      for (const id of payment.pays) settled.add(id);
      if (laid === null) {
        if (certainty !== 'open') continue;
        count.open++;
        if (others.some(({ parts }) => key(parts.map(({ id }) => id)) === key(payment.pays))) count.shown++;
        continue;
      }
      const ids = laid.parts.map(({ id }) => id);
      if (key(ids) === key(payment.pays)) {
        if (certainty === 'proven') count.proven++;
        else if (certainty === 'probable') count.probable++;
        else count.open++;
        continue;
      }
      // What is open is nobody's answer yet.
      if (certainty === 'open') {
        count.open++;
        continue;
      }
      count.wrong++;
      if (certainty === 'proven') count.wrongProven++;
      const amounts = (list: readonly number[]) => key(list.map((id) => amountOf.get(id)!));
      if (amounts(ids) === amounts(payment.pays)) count.swaps++;
    }
    from = to;
  }
}
