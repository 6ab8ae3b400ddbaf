'use client';

import { useCallback, useEffect, useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import ProgressBar from 'react-bootstrap/ProgressBar';
import { useBooks } from '../frame/books-context';
import type { ChangeTold } from '../frame/toasts';

/** A job's answer as the server words it. */
export type JobAnswer<T> =
  | { readonly ok: true; readonly value: T; readonly change: ChangeTold | null }
  | { readonly ok: false; readonly code: string; readonly what: string; readonly next: string };

interface Running {
  readonly job: string;
  readonly doing: string;
  readonly done: number;
  readonly total: number;
}

const LOOK_EVERY = 250;
const UNREACHED = {
  ok: false,
  code: 'unreached',
  what: 'The server does not answer.',
  next: 'Check that it is running, then try again.',
} as const;

/** Starts long work, watches it, and can ask it to stop. One at a time. */
export function useJob() {
  const { id } = useBooks();
  const [running, setRunning] = useState<Running | null>(null);
  const alive = useRef(true);
  useEffect(() => {
    alive.current = true;
    return () => {
      alive.current = false;
    };
  }, []);

  const run = useCallback(
    async <T,>(task: unknown): Promise<JobAnswer<T>> => {
      try {
        const started = await fetch(`/api/books/${id}/jobs`, { method: 'POST', body: JSON.stringify(task) });
        const body = (await started.json()) as { job?: string; what?: string; next?: string };
        if (!body.job) return { ok: false, code: 'refused', what: body.what ?? '', next: body.next ?? '' };
        const { job } = body;
        setRunning({ job, doing: 'Starting', done: 0, total: 0 });
        for (;;) {
          const seen = (await (await fetch(`/api/books/${id}/jobs/${job}`)).json()) as
            { state: 'running'; progress: Omit<Running, 'job'> } | { state: 'done'; answer: JobAnswer<T> };
          if (seen.state === 'done') return seen.answer;
          if (!alive.current) return UNREACHED;
          setRunning({ job, ...seen.progress });
          await new Promise((resolve) => setTimeout(resolve, LOOK_EVERY));
        }
      } catch {
        return UNREACHED;
      } finally {
        setRunning(null);
      }
    },
    [id],
  );
  const cancel = useCallback(() => {
    if (running) void fetch(`/api/books/${id}/jobs/${running.job}`, { method: 'DELETE' });
  }, [id, running]);
  return { running, run, cancel };
}

/** What the job is doing, how far it is, and the way out. */
export function JobProgress({ job }: { job: ReturnType<typeof useJob> }) {
  if (job.running === null) return null;
  const { doing, done, total } = job.running;
  const percent = total === 0 ? 100 : Math.min(100, Math.round((100 * done) / total));
  return (
    <div className="notice d-flex gap-3 align-items-center" role="status">
      <span className="text-nowrap">{doing}</span>
      <ProgressBar
        className="flex-grow-1"
        now={percent}
        animated={total === 0}
        label={total === 0 ? '' : `${percent} %`}
        aria-label={doing}
      />
      <Button size="sm" variant="plain" onClick={job.cancel}>
        Cancel
      </Button>
    </div>
  );
}
