'use client';

import type { Currency, Minor } from '@/core/money';
import { useMoney } from '../frame/books-context';

interface Props {
  readonly own: Minor;
  readonly others: readonly (readonly [Currency, Minor])[];
}

/** A sum in the books' own currency and, below it, what there is in others: never one figure of two currencies. */
export function Sums({ own, others }: Props) {
  const money = useMoney();
  return (
    <>
      {own === 0 && others.length > 0 ? null : money(own)}
      {others.map(([currency, amount]) => (
        <div key={currency}>{money(amount, currency)}</div>
      ))}
    </>
  );
}
