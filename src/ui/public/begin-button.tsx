'use client';

import { useSyncExternalStore } from 'react';
import Button from 'react-bootstrap/Button';
import { RefusedInPlace } from './ask-form';
import { useBegin, type Begun } from './use-begin';

const never = () => () => undefined;

/**
 * Begins something that is paid elsewhere and goes there; pressed twice, it begins once. It cannot be pressed before the page
 * answers: a press that came too early would be lost.
 */
export function BeginButton({ begin: asked, children }: { begin: () => Promise<Begun>; children: string }) {
  const { busy, refused, begin } = useBegin();
  const ready = useSyncExternalStore(
    never,
    () => true,
    () => false,
  );
  return (
    <>
      <Button variant="primary" size="lg" disabled={busy || !ready} onClick={() => void begin(asked)}>
        {children}
      </Button>
      <RefusedInPlace>{refused}</RefusedInPlace>
    </>
  );
}
