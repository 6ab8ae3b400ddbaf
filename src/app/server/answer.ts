import 'server-only';
import { refusalWords, type Change, type Refusal, type Result } from '@/books/command';

/** What a page's script gets back from a change or a preview: refusals are already in words. */
export type Answer<T> =
  | { readonly ok: true; readonly value: T; readonly change: Change | null }
  | { readonly ok: false; readonly code: Refusal['code']; readonly what: string; readonly next: string };

export function answer<T>(result: Result<T>): Answer<T> {
  if (result.ok) return result;
  return { ok: false, code: result.refusal.code, ...refusalWords(result.refusal) };
}
