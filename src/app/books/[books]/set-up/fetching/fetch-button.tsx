'use client';

import { useRouter } from 'next/navigation';
import Button from 'react-bootstrap/Button';
import type { FetchReport } from '@/books/fetching/fetch';
import { useToasts } from '@/ui/frame/toasts';
import { useJob } from '@/ui/parts/job';
import { outcomeWords } from '@/books/fetching/outcome-words';

/** Fetches one connection now, and can be stopped while it does. */
export function FetchButton({ connection, name }: { connection: number; name: string }) {
  const router = useRouter();
  const toasts = useToasts();
  const job = useJob();
  const fetchIt = async () => {
    const answer = await job.run<FetchReport>({ kind: 'fetch', connection });
    if (!answer.ok) toasts.refused(answer.what, answer.next);
    else if (answer.value.outcome === 'failed') {
      toasts.refused(`${name}: ${answer.value.why}.`, 'Nothing was lost: the next run asks for the same again.');
    } else toasts.told(`${name}: ${outcomeWords(answer.value)}`);
    router.refresh();
  };
  if (job.running !== null) {
    const { done } = job.running;
    return (
      <Button size="sm" variant="plain" onClick={job.cancel} aria-label={`Stop fetching ${name}`}>
        {done > 0 ? `${done} fetched, stop` : 'Fetching, stop'}
      </Button>
    );
  }
  return (
    <Button
      size="sm"
      variant="plain"
      className="text-nowrap"
      onClick={() => void fetchIt()}
      aria-label={`Fetch now: ${name}`}
    >
      Fetch now
    </Button>
  );
}
