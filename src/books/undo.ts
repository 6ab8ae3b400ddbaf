import { z } from 'zod';
import { plural } from '@/core/words';
import { done, refuse, type Command, type CommandContext, type Outcome, type Undo } from './command';
import { undoImport } from './imports/undo-import';
import { closeThrough } from './ledger/close';
import { postAgain, reverse } from './ledger/reverse';
import { disconnect, setTiming } from './fetching/connections';
import { correctInvoice } from './billing/correct';
import { creditInvoice, withdrawCreditNote } from './billing/credit';
import { removePlan, savePlan, switchPlan } from './billing/plans';
import { dropInvoiceDraft, saveInvoiceDraft } from './billing/drafts';
import { editChannel } from './channels/edit-channel';
import { setFeeStep } from './channels/set-fee-step';
import { setPostingMode } from './channels/open-channel';
import { removeDimension, requireDimension, setDimensionValue } from './dimensions/dimensions';
import { setMapDefault } from './map/defaults';
import { moveMapRule, removeMapRule, saveMapRule } from './map/rules';
import { confirmAgain } from './matching/confirm';
import { turnBackIntoDeposits, turnIntoReceipts } from './matching/deposit-income';
import { denyDoubled, mendDoubled, unmendDoubled } from './doubled/mend';
import { moveStatementRule, removeStatementRule, saveStatementRule } from './matching/statement-rules';
import { setDayCut } from './matching/day-cuts';
import { forgetBankName, keepBankName } from './matching/bank-names';
import { forgetLearnt } from './matching/learnt';
import { takeApart } from './matching/take-apart';
import { givePayersBack } from './payers/give-back';
import { setPayer } from './payers/payers';
import { postBack, repostReceipts } from './map/repost';
import { keepReading } from './receipts/readings';
import { giveChangeBack, takeChange } from './receipts/take-change';
import { restoreRates, setRates } from './currencies/rates';
import { settleInvoices, undoSettlement } from './settling/settle';
import { openPage, savePage } from './public/pages';
import { setAttachment } from './billing/attachments';
import { keyAgain, takeKeyedBack } from './by-hand/take-back';
import { setLinesAside, takeLinesBack } from './statements/set-aside';
import { keepAccount, removeAccount } from './setup/accounts';
import { mergeItems, partItems } from './setup/merge-items';
import { keepItem, keepTaxCode, keepTerms, removeFromList, setLetterhead } from './setup/list-commands';
import { setPayerDetails } from './payers/details';
import { setAside, setLanding, takeBackAside } from './receipts/set-aside';
import type { Writing } from './store';

type TakeBack = (tx: Writing, input: unknown, context: CommandContext) => Promise<Outcome<unknown>>;

const by = <I, T>(command: Command<I, T>): [string, TakeBack] => [
  command.name,
  (tx, input, context) => command.run(tx, command.input.parse(input), context),
];

/** Every command that takes another one back, by name. */
const TAKES_BACK: ReadonlyMap<string, TakeBack> = new Map([
  by(undoImport),
  by(closeThrough),
  by(reverse),
  by(postAgain),
  by(takeApart),
  by(confirmAgain),
  by(turnIntoReceipts),
  by(turnBackIntoDeposits),
  by(mendDoubled),
  by(unmendDoubled),
  by(denyDoubled),
  by(saveMapRule),
  by(removeMapRule),
  by(moveMapRule),
  by(setMapDefault),
  by(removeDimension),
  by(setDimensionValue),
  by(requireDimension),
  by(forgetLearnt),
  by(setDayCut),
  by(keepBankName),
  by(forgetBankName),
  by(saveStatementRule),
  by(removeStatementRule),
  by(moveStatementRule),
  by(setLinesAside),
  by(takeLinesBack),
  by(setAside),
  by(takeBackAside),
  by(setLanding),
  by(setPostingMode),
  by(editChannel),
  by(setFeeStep),
  by(disconnect),
  by(setTiming),
  by(setPayer),
  by(givePayersBack),
  by(takeChange),
  by(giveChangeBack),
  by(repostReceipts),
  by(postBack),
  by(keepReading),
  by(setRates),
  by(restoreRates),
  by(saveInvoiceDraft),
  by(dropInvoiceDraft),
  by(correctInvoice),
  by(creditInvoice),
  by(withdrawCreditNote),
  by(savePage),
  by(openPage),
  by(savePlan),
  by(removePlan),
  by(switchPlan),
  by(takeKeyedBack),
  by(keyAgain),
  by(settleInvoices),
  by(undoSettlement),
  by(setAttachment),
  by(keepTerms),
  by(keepItem),
  by(keepAccount),
  by(removeAccount),
  by(mergeItems),
  by(partItems),
  by(keepTaxCode),
  by(removeFromList),
  by(setLetterhead),
  by(setPayerDetails),
]);

/** Takes back a change that was made of many, the last first; one that cannot be taken back refuses all. */
const undoMany: TakeBack = async (tx, input, context) => {
  const undos = z.array(z.object({ command: z.string(), input: z.unknown() })).parse(input);
  const again: Undo[] = [];
  for (const one of undos) {
    const takeBack = TAKES_BACK.get(one.command);
    if (!takeBack) throw new Error(`no command takes back by ${one.command}`);
    const outcome = await takeBack(tx, one.input, context);
    if ('refusal' in outcome) return outcome;
    if (outcome.done.undo) again.unshift(outcome.done.undo);
  }
  const what = plural(undos.length, 'change');
  return done(null, `Took back ${what}`, { command: 'undo-many', input: again, label: `make ${what} again` });
};

/**
 * Takes one change back, as its audit row says how. The undoing is a change with an audit row of its own, so it can be
 * undone too; each change is undone at most once.
 */
export const undoChange: Command<{ audit: number }, { readonly summary: string }> = {
  name: 'undo',
  input: z.object({ audit: z.number().int() }),
  async run(tx, { audit }, context) {
    const row = await tx.db
      .selectFrom('audit')
      .leftJoin('audit as later', 'later.undoes', 'audit.id')
      .select(['audit.undo', 'later.id as undone'])
      .where('audit.id', '=', audit)
      .executeTakeFirst();
    if (!row?.undo || row.undone !== null) return refuse({ code: 'nothing-to-undo' });
    const undo = JSON.parse(row.undo) as Undo;
    const takeBack = undo.command === 'undo-many' ? undoMany : TAKES_BACK.get(undo.command);
    if (!takeBack) throw new Error(`no command takes back by ${undo.command}`);
    const outcome = await takeBack(tx, undo.input, context);
    if ('refusal' in outcome) return outcome;
    return { done: { ...outcome.done, undoes: audit, value: { summary: outcome.done.summary ?? '' } } };
  },
};
