'use client';

import { useState } from 'react';

/** What beginning something that is paid elsewhere comes to: where it is paid, or why it was refused. */
export type Begun =
  | { readonly ok: true; readonly value: { readonly pay: string } }
  | { readonly ok: false; readonly what: string; readonly next: string };

/** Begins something that is paid elsewhere and goes there; what is refused is said in place. */
export function useBegin() {
  const [busy, setBusy] = useState(false);
  const [refused, refuse] = useState('');
  const begin = async (asked: () => Promise<Begun>) => {
    setBusy(true);
    refuse('');
    const answer = await asked();
    if (answer.ok) return window.location.assign(answer.value.pay);
    setBusy(false);
    refuse(`${answer.what} ${answer.next}`);
  };
  return { busy, refused, refuse, begin };
}
