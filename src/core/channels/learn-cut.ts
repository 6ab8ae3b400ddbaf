/** Where one payout ends and the next begins: local minutes since any fixed midnight of its last and of the next one's first receipt. */
export interface Boundary {
  readonly last: number;
  readonly next: number;
}

/** The minute after midnight at which a channel's day is cut, and how many boundaries it fits. */
export interface LearntCut {
  readonly minute: number;
  readonly fit: number;
  readonly of: number;
  /** How many the cut that is set fits. */
  readonly asSet: number;
}

const DAY = 1440;
/** Cuts that people agree on are whole quarters of an hour. */
const STEP = 15;
const FEWEST = 5;
/** A cut is learnt where it fits this share of all. */
const CLEAR = 0.9;

/** Whether a cut at this minute of any day lies after the last receipt and not after the first of the next payout. */
export function cutFits({ last, next }: Boundary, minute: number): boolean {
  const first = last + 1;
  const cut = first + ((((minute - first) % DAY) + DAY) % DAY);
  return cut <= next;
}

const roundness = (minute: number) => (minute === 0 ? 3 : minute % 60 === 0 ? 2 : minute % 30 === 0 ? 1 : 0);

/**
 * When a channel cuts its day, of the ends of its known payouts: the quarter of an hour that fits most of them, the roundest of
 * those that fit as many. Null with fewer than five boundaries, and where none fits nine in ten, as where payouts are made by hand.
 */
export function learnCut(boundaries: readonly Boundary[], set: number): LearntCut | null {
  if (boundaries.length < FEWEST) return null;
  let best = { minute: 0, fit: -1 };
  for (let minute = 0; minute < DAY; minute += STEP) {
    const fit = boundaries.filter((boundary) => cutFits(boundary, minute)).length;
    if (fit > best.fit || (fit === best.fit && roundness(minute) > roundness(best.minute))) best = { minute, fit };
  }
  if (best.fit < boundaries.length * CLEAR) return null;
  const asSet = boundaries.filter((boundary) => cutFits(boundary, set)).length;
  // What is set and fits as well stays.
  return { minute: asSet === best.fit ? set : best.minute, fit: best.fit, of: boundaries.length, asSet };
}

/** A time of day in words, "22:30"; midnight is named. */
export const cutWords = (minute: number): string =>
  minute === 0
    ? 'midnight'
    : `${String(Math.floor(minute / 60)).padStart(2, '0')}:${String(minute % 60).padStart(2, '0')}`;
