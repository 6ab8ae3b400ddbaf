/** A count as it is read: 1,204. */
export const counted = (n: number): string => (n >= 0 && n < 1_000 ? String(n) : n.toLocaleString('en'));

/** A count with its noun: "1 payout", "1,204 payouts". */
export const plural = (n: number, one: string, many = `${one}s`): string => `${counted(n)} ${n === 1 ? one : many}`;
