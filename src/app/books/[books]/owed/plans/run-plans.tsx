'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { plural } from '@/core/words';
import { useBooks } from '@/ui/frame/books-context';
import { useToasts } from '@/ui/frame/toasts';
import { runPlansNow } from './actions';

/** Bills what is due by all plans that are on. */
export function RunPlans({ due }: { due: number }) {
  const { id } = useBooks();
  const router = useRouter();
  const toasts = useToasts();
  const [busy, setBusy] = useState(false);
  const run = async () => {
    setBusy(true);
    const answer = await runPlansNow(id, null);
    setBusy(false);
    if (!answer.ok) return toasts.refused(answer.what, answer.next);
    if (answer.change) toasts.changed(answer.change);
    const [failed] = answer.value.failed;
    if (failed)
      toasts.refused(`Plan ${failed.plan} could not bill. ${failed.why}`, 'Change the plan, then bill again.');
    router.refresh();
  };
  return (
    <Button variant="plain" disabled={busy} onClick={() => void run()}>
      Bill {plural(due, 'due run')} now
    </Button>
  );
}
