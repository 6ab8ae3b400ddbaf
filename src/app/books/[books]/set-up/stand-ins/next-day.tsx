'use client';

import { plural } from '@/core/words';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { useBooks } from '@/ui/frame/books-context';
import { useToasts } from '@/ui/frame/toasts';
import { turnDayNow, type DayTurned } from './actions';

function words({ days, events, runs }: DayTurned): string {
  const sum = (of: 'receipts' | 'payouts' | 'lines') => days.reduce((total, day) => total + day[of], 0);
  return [
    plural(sum('receipts'), 'receipt'),
    plural(sum('payouts'), 'payout'),
    plural(sum('lines'), 'bank line'),
    ...(events > 0 ? [plural(events, 'event')] : []),
    ...(runs > 0 ? [plural(runs, 'scheduled run')] : []),
  ].join(', ');
}

/** Turns the day of the demo. */
export function NextDay({ account, next }: { account: string; next: string }) {
  const { id } = useBooks();
  const router = useRouter();
  const toasts = useToasts();
  const [busy, setBusy] = useState(false);
  const turn = async () => {
    setBusy(true);
    const answer = await turnDayNow(id, account);
    setBusy(false);
    if (!answer.ok) return toasts.refused(answer.what, answer.next);
    toasts.told(`${answer.change?.summary ?? 'A new day'}: ${words(answer.value)}`);
    router.refresh();
  };
  return (
    <Button variant="primary" disabled={busy} onClick={() => void turn()}>
      {busy ? 'Turning the day' : `Next working day: ${next}`}
    </Button>
  );
}
