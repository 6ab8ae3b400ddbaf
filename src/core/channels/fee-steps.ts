import type { PlainDate } from '../calendar';
import type { FeeSchedule } from './fee-schedule';

/** A schedule that is in force from a day on. */
export interface FeeStep {
  readonly since: PlainDate;
  readonly schedule: FeeSchedule;
  /** Told by what was charged, and not agreed so far. */
  readonly learnt: boolean;
}

/** What a channel takes, day by day: what was agreed first, and what came after it. */
export class FeeSteps {
  private readonly steps: readonly FeeStep[];

  /** @param steps in any order; each is in force until the next one is. */
  constructor(
    readonly first: FeeSchedule,
    steps: readonly FeeStep[],
  ) {
    this.steps = [...steps].sort((a, b) => (a.since < b.since ? 1 : -1));
  }

  /** The step in force on a day; null while it is what was agreed first. */
  step(day: PlainDate): FeeStep | null {
    return this.steps.find(({ since }) => since <= day) ?? null;
  }

  /** The schedule in force on a day. */
  on(day: PlainDate): FeeSchedule {
    return this.step(day)?.schedule ?? this.first;
  }

  /** Whether it takes nothing whatever the day is. */
  get none(): boolean {
    return [this.first, ...this.steps.map(({ schedule }) => schedule)].every(
      ({ rate, fixed }) => rate === 0 && fixed === 0,
    );
  }
}
