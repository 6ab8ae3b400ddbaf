import { groupBy } from '@/core/group-by';
import type { Undo } from './command';

/**
 * How things that were taken back are set aside again: each for the reason it had, in one change.
 * @param before at least one.
 */
export function asideAgain(
  command: string,
  before: readonly { readonly id: number; readonly reason: string }[],
  label: string,
): Undo {
  const undos = [...groupBy(before, ({ reason }) => reason)].map(([reason, those]) => ({
    command,
    input: { ids: those.map(({ id }) => id), reason },
    label,
  }));
  return undos.length === 1 ? undos[0]! : { ...undos[0]!, command: 'undo-many', input: undos };
}
