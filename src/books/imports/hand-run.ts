import type { CommandContext } from '../command';
import type { Reading } from '../store';

/** What was keyed here has a run too, so that every document says who brought it in and when, and can be taken back. */
export async function beginHandRun(db: Reading, { now, actor }: CommandContext, added = 1): Promise<number> {
  const at = now.toISOString();
  const { id } = await db
    .insertInto('run')
    .values({
      kind: 'by-hand',
      file_name: '',
      sha256: '',
      bytes: 0,
      started_at: at,
      ended_at: at,
      actor: actor.name,
      added,
      updated: 0,
      known: 0,
      refused: 0,
      undone_at: null,
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  return id;
}
