import type { Progress } from '@/books/command';

/** What a job can be doing; the place in the list is what crosses the thread. */
const DOINGS = [
  'Waiting',
  'Reading',
  'Comparing with the books',
  'Writing to the books',
  'Posting receipts',
  'Posting invoices',
  'Confirming',
  'Looking through receipts',
  'Fetching',
  'Reversing',
] as const;

const CANCEL = 0;
const DOING = 1;
const DONE = 2;
const TOTAL = 3;

export interface ProgressView {
  readonly doing: string;
  readonly done: number;
  /** 0 where the end is not known. */
  readonly total: number;
}

/** Progress and cancel in a few shared integers: written by the worker, read by the page's requests, without messages. */
export class SharedProgress implements Progress {
  private readonly cells: Int32Array;

  constructor(readonly buffer: SharedArrayBuffer = new SharedArrayBuffer(4 * Int32Array.BYTES_PER_ELEMENT)) {
    this.cells = new Int32Array(buffer);
  }

  report(doing: string, done: number, total: number): void {
    Atomics.store(this.cells, DOING, Math.max(0, DOINGS.indexOf(doing as (typeof DOINGS)[number])));
    Atomics.store(this.cells, DONE, done);
    Atomics.store(this.cells, TOTAL, total);
  }

  get cancelled(): boolean {
    return Atomics.load(this.cells, CANCEL) === 1;
  }

  cancel(): void {
    Atomics.store(this.cells, CANCEL, 1);
  }

  view(): ProgressView {
    return {
      doing: DOINGS[Atomics.load(this.cells, DOING)]!,
      done: Atomics.load(this.cells, DONE),
      total: Atomics.load(this.cells, TOTAL),
    };
  }
}
