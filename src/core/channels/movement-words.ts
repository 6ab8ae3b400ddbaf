/** What a movement is called: a debit bureau collects debits, and has them returned. */
export function movementWord(kind: 'receipt' | 'refund' | 'chargeback', byDebit: boolean): string {
  if (byDebit && kind !== 'refund') return kind === 'receipt' ? 'Debit' : 'Returned debit';
  return { receipt: 'Receipt', refund: 'Refund', chargeback: 'Chargeback' }[kind];
}
