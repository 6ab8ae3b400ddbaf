import { randomUUID } from 'node:crypto';
import { join } from 'node:path';
import { Piscina } from 'piscina';
import type { Actor, Result } from '@/books/command';
import { SharedProgress, type ProgressView } from './shared-progress';
import type { Task, WorkerInput } from './task';

export type JobState =
  | { readonly state: 'running'; readonly progress: ProgressView }
  | { readonly state: 'done'; readonly result: Result<unknown> }
  | { readonly state: 'failed' };

interface Job {
  readonly books: string;
  readonly progress: SharedProgress;
  outcome: Result<unknown> | 'failed' | null;
  endedAt: number;
  ended: Promise<void>;
}

/** A job's answer is kept this long for a page that asks late. */
const KEPT = 15 * 60_000;

/** Long work in threads of its own: started, watched, cancelled by an id that only its page knows. */
export class Jobs {
  private readonly pool = new Piscina({
    filename: process.env.NEST_EGG_WORKER ?? join(process.cwd(), 'dist', 'worker.js'),
    minThreads: 0,
    maxThreads: 2,
    idleTimeout: 30_000,
  });
  private readonly jobs = new Map<string, Job>();

  start(booksId: string, booksPath: string, actor: Actor, task: Task): string {
    this.forget();
    const id = randomUUID();
    const job: Job = {
      books: booksId,
      progress: new SharedProgress(),
      outcome: null,
      endedAt: 0,
      ended: Promise.resolve(),
    };
    this.jobs.set(id, job);
    const input: WorkerInput = { books: booksPath, actor, task, progress: job.progress.buffer };
    const end = (outcome: Job['outcome']) => {
      job.outcome = outcome;
      job.endedAt = Date.now();
    };
    job.ended = this.pool.run(input).then(end, (error: unknown) => {
      console.error('job failed', error);
      end('failed');
    });
    return id;
  }

  look(booksId: string, id: string): JobState | null {
    const job = this.jobs.get(id);
    if (!job || job.books !== booksId) return null;
    if (job.outcome === null) return { state: 'running', progress: job.progress.view() };
    return job.outcome === 'failed' ? { state: 'failed' } : { state: 'done', result: job.outcome };
  }

  /** Waits until a job has ended, however it did. */
  async finish(id: string): Promise<void> {
    await this.jobs.get(id)?.ended;
  }

  /** Asks the job to stop; it rolls back and answers `cancelled`. */
  cancel(booksId: string, id: string): boolean {
    const job = this.jobs.get(id);
    if (!job || job.books !== booksId) return false;
    job.progress.cancel();
    return true;
  }

  private forget(): void {
    const before = Date.now() - KEPT;
    for (const [id, job] of this.jobs) if (job.outcome !== null && job.endedAt < before) this.jobs.delete(id);
  }
}
