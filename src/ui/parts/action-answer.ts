import type { ChangeTold } from '../frame/toasts';

/** What an action of a page answers: what came of it, or the two sentences of a refusal. */
export type ActionAnswer<T> =
  | { readonly ok: true; readonly value: T; readonly change: ChangeTold | null }
  | { readonly ok: false; readonly what: string; readonly next: string };
