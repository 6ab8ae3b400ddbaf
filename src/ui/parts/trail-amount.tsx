'use client';

import { createContext, useContext } from 'react';
import type { TrailRef } from '@/books/trail/ref';
import type { Currency, Minor } from '@/core/money';
import { useMoney } from '../frame/books-context';

interface TrailDrawer {
  open(ref: TrailRef): void;
}

/** The drawer that trails are shown in; provided by TrailProvider. */
export const TrailContext = createContext<TrailDrawer | null>(null);

export function useTrail(): TrailDrawer {
  const drawer = useContext(TrailContext);
  if (drawer === null) throw new Error('outside of TrailProvider');
  return drawer;
}

interface AmountProps {
  readonly of: TrailRef;
  readonly amount: Minor;
  /** Where it is not the books' own. */
  readonly currency?: Currency;
  readonly label?: string;
}

/** An amount that opens the trail behind it. */
export function TrailAmount({ of, amount, currency, label }: AmountProps) {
  const { open } = useTrail();
  const money = useMoney();
  return (
    <button
      type="button"
      className="btn-quiet num"
      title="Open the trail"
      onClick={(event) => {
        event.stopPropagation();
        open(of);
      }}
    >
      {label ?? money(amount, currency)}
    </button>
  );
}
