'use client';

import { createContext, useContext, type ReactNode } from 'react';
import type { PlainDate } from '@/core/calendar';
import { formatAmount, type Currency, type Minor } from '@/core/money';

export interface BooksFrame {
  readonly id: string;
  readonly currency: Currency;
  readonly today: PlainDate;
}

const Context = createContext<BooksFrame | null>(null);

export function BooksProvider({ frame, children }: { frame: BooksFrame; children: ReactNode }) {
  return <Context.Provider value={frame}>{children}</Context.Provider>;
}

/** The books of the page: their id, currency and day. */
export function useBooks(): BooksFrame {
  const frame = useContext(Context);
  if (frame === null) throw new Error('outside of any books');
  return frame;
}

/** Writes an amount in the books' currency. */
export function useMoney(): (amount: Minor, of?: Currency) => string {
  const { currency } = useBooks();
  return (amount, of = currency) => (of === currency ? formatAmount(amount, of) : `${formatAmount(amount, of)} ${of}`);
}
