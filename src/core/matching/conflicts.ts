import { CERTAINTIES, type Proposal } from './proposal';

/** What a proposal lays on its sheet and no other may: payouts, receipts and lines. Invoices may be shared, accounts are no things. */
const takenBy = ({ laid }: Proposal): string[] =>
  (laid?.parts ?? []).flatMap(({ kind, id }) =>
    kind === 'payout' || kind === 'receipt' || kind === 'line' ? [`${kind}/${id}`] : [],
  );

/** Two lines that are laid on each other's sheets are one explanation, and share what else is laid. */
const together = (a: Proposal, b: Proposal) =>
  [a, b].every((one, at, both) => one.laid?.parts.some(({ kind, id }) => kind === 'line' && id === both[1 - at]!.line));

/**
 * Sees to it that nothing is laid on two sheets, whichever stage laid it there: what is surer keeps it, the other is open and says
 * so; where both are as sure, both are open. Each stage settles what competes within it; this is between them.
 */
export function settleConflicts(proposals: readonly Proposal[]): Proposal[] {
  const claims = new Map<string, Proposal[]>();
  for (const proposal of proposals) {
    for (const key of takenBy(proposal)) claims.set(key, [...(claims.get(key) ?? []), proposal]);
  }
  const lost = new Map<Proposal, 'payout' | 'receipt' | 'line'>();
  for (const [key, rivals] of claims) {
    if (rivals.length === 1) continue;
    const surest = Math.min(...rivals.map(({ certainty }) => CERTAINTIES.indexOf(certainty)));
    const best = rivals.filter(({ certainty }) => CERTAINTIES.indexOf(certainty) === surest);
    const keeps = best.every((one) => one === best[0] || together(one, best[0]!)) ? best : [];
    for (const proposal of rivals) {
      if (!keeps.includes(proposal))
        lost.set(proposal, key.slice(0, key.indexOf('/')) as 'payout' | 'receipt' | 'line');
    }
  }
  return proposals.map((proposal) => {
    const what = lost.get(proposal);
    if (what === undefined) return proposal;
    const others = proposal.laid ? [proposal.laid, ...proposal.others] : proposal.others;
    return { ...proposal, certainty: 'open', laid: null, reasons: [{ kind: 'claimed-twice', what }], others };
  });
}
