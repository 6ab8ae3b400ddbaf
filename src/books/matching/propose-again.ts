import { z } from 'zod';
import { done, type Command } from '../command';
import { certaintyGroups, type CertaintyGroups } from '../statements/list';
import { refreshProposals } from './proposals';

/** Asks again what explains every line; nothing that is booked changes, so nothing is to be undone. */
export const proposeAgain: Command<Record<string, never>, CertaintyGroups> = {
  name: 'propose-again',
  input: z.object({}),
  async run(tx) {
    await refreshProposals(tx, { all: true });
    return done(await certaintyGroups(tx.db), null);
  },
};
