'use client';

import { useEffect, useState } from 'react';
import type { BillInput } from '@/books/billing/bill-input';

/** How long the form must rest before what it would write is asked for, in milliseconds. */
const REST = 400;

/** What a bill would write, asked for while it is being written; null where it cannot be asked yet. The bill is its text: a new object with the same in it asks nothing again. */
export function usePreview<T>(bill: BillInput, ready: boolean, ask: (bill: BillInput) => Promise<T>): T | null {
  const [answer, setAnswer] = useState<T | null>(null);
  const key = ready ? JSON.stringify(bill) : '';
  useEffect(() => {
    let wanted = true;
    const timer = setTimeout(() => {
      if (key === '') setAnswer(null);
      else void ask(JSON.parse(key) as BillInput).then((got) => wanted && setAnswer(() => got));
    }, REST);
    return () => {
      wanted = false;
      clearTimeout(timer);
    };
  }, [key]);
  return answer;
}
