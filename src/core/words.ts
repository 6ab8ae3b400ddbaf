/** A count with its noun: "1 payout", "1,204 payouts". */
export const plural = (n: number, one: string, many = `${one}s`): string =>
  `${n.toLocaleString('en')} ${n === 1 ? one : many}`;
