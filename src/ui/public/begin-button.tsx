'use client';

import { useState, useSyncExternalStore } from 'react';
import Button from 'react-bootstrap/Button';

type Begun = { readonly ok: true; readonly value: { readonly pay: string } } | { readonly ok: false; readonly what: string; readonly next: string }; // prettier-ignore

const never = () => () => undefined;

/**
 * Begins something that is paid elsewhere and goes there; pressed twice, it begins once. It cannot be pressed before the page
 * answers: a press that came too early would be lost.
 */
export function BeginButton({ begin, children }: { begin: () => Promise<Begun>; children: string }) {
  const ready = useSyncExternalStore(
    never,
    () => true,
    () => false,
  );
  const [busy, setBusy] = useState(false);
  const [refused, setRefused] = useState('');
  const go = async () => {
    setBusy(true);
    setRefused('');
    const answer = await begin();
    if (answer.ok) return window.location.assign(answer.value.pay);
    setBusy(false);
    setRefused(`${answer.what} ${answer.next}`);
  };
  return (
    <>
      <Button variant="primary" size="lg" disabled={busy || !ready} onClick={() => void go()}>
        {children}
      </Button>
      {refused ? (
        <p className="notice refused mt-2" role="alert">
          {refused}
        </p>
      ) : null}
    </>
  );
}
