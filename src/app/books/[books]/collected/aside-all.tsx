'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { plural } from '@/core/words';
import { useBooks } from '@/ui/frame/books-context';
import { useToasts } from '@/ui/frame/toasts';
import { usePicks } from '@/ui/parts/picks';
import { setAsideNow } from '../actions';
import { AsideDialog } from './aside-dialog';

/** Sets what is picked aside, or else all that is shown and not posted, each for the same reason. */
export function AsideAll({ filter }: { filter: unknown }) {
  const { id } = useBooks();
  const router = useRouter();
  const toasts = useToasts();
  const picks = usePicks();
  const [asking, setAsking] = useState(false);
  const picked = [...(picks?.picked ?? [])];
  const what = picked.length > 0 ? { ids: picked } : { filter };
  const setAside = async (reason: string) => {
    const answer = await setAsideNow(id, { ...what, reason });
    if (!answer.ok) return toasts.refused(answer.what, answer.next);
    if (answer.change) toasts.changed(answer.change);
    else toasts.told('All of these are posted or set aside already.');
    setAsking(false);
    picks?.clear();
    router.refresh();
  };
  return (
    <>
      <Button variant="plain" onClick={() => setAsking(true)}>
        {picked.length > 0 ? `Set ${picked.length} picked aside…` : 'Set all shown aside…'}
      </Button>
      <AsideDialog
        shown={asking}
        name={picked.length > 0 ? plural(picked.length, 'receipt') : 'all that is shown and not posted'}
        onHide={() => setAsking(false)}
        onReason={(reason) => void setAside(reason)}
      />
    </>
  );
}
