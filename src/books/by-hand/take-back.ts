import { z } from 'zod';
import { plural } from '@/core/words';
import { done, refuse, type Command } from '../command';
import { reverseReceipts } from '../ledger/reverse';
import { postReceipts } from '../receipts/post';
import { setAside } from '../receipts/set-aside';

const receiptsInput = z.object({ receipts: z.array(z.number().int()).min(1).max(10_000) });

/** Takes back what was keyed: its entries are reversed, and the receipts set aside, so that their references stay used. */
export const takeKeyedBack: Command<{ receipts: number[] }, null> = {
  name: 'take-keyed-back',
  input: receiptsInput,
  async run(tx, { receipts }, context) {
    const reversed = await reverseReceipts.run(tx, { ids: receipts }, context);
    if ('refusal' in reversed) return reversed;
    const aside = await setAside.run(tx, setAside.input.parse({ ids: receipts, reason: 'Keyed by mistake' }), context);
    if ('refusal' in aside) return aside;
    return done(null, `Took back ${plural(receipts.length, 'keyed receipt')}`, {
      command: 'key-again',
      input: { receipts },
      label: 'put it back',
    });
  },
};

/** Puts back what was taken back: the receipts are wanted again and posted. */
export const keyAgain: Command<{ receipts: number[] }, null> = {
  name: 'key-again',
  input: receiptsInput,
  async run(tx, { receipts }, context) {
    await tx.db.updateTable('receipt').set({ aside: null }).where('id', 'in', receipts).execute();
    const posted = await postReceipts.run(tx, { ids: receipts }, context);
    if ('refusal' in posted) return posted;
    if (posted.done.value.notPosted[0]) return refuse(posted.done.value.notPosted[0].refusal);
    return done(null, `Put back ${plural(receipts.length, 'keyed receipt')}`, {
      command: 'take-keyed-back',
      input: { receipts },
      label: 'take it back again',
    });
  },
};
