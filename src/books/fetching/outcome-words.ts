import type { BeganBy, FetchRunTable } from '../store';

/** How a run began, in words. */
export function beganWords({ beganBy, actor }: { readonly beganBy: BeganBy; readonly actor: string }): string {
  switch (beganBy) {
    case 'hand':
      return `by ${actor}`;
    case 'schedule':
      return 'as scheduled';
    case 'event':
      return 'the channel said so';
  }
}

/** A run in one line: what was new and changed, or why nothing came. */
export function outcomeWords(
  run: Pick<FetchRunTable, 'outcome' | 'added' | 'changed' | 'refused' | 'posted' | 'why'>,
): string {
  if (run.outcome === 'cancelled') {
    return run.added > 0 ? `Cancelled after ${run.added} new` : 'Cancelled; nothing was taken in';
  }
  if (run.outcome === 'failed') return `Failed: ${run.why}`;
  const parts = [
    run.added > 0 ? `${run.added} new` : '',
    run.changed > 0 ? `${run.changed} changed` : '',
    run.posted > 0 ? `${run.posted} posted` : '',
    run.refused > 0 ? `${run.refused} refused` : '',
  ].filter(Boolean);
  return parts.length === 0 ? 'Nothing new' : parts.join(', ');
}
