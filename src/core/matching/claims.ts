import { groupBy } from '../group-by';
import type { Explanation, Proposal, Reason } from './proposal';

/** One way to explain a line that does not come to it by itself, or that nothing but circumstance speaks for. */
export interface Claim {
  readonly line: number;
  readonly way: Explanation;
  /** Something beside the amount speaks for it. */
  readonly sure: boolean;
  /** What it takes for itself: two lines that claim one thing surely are sure of neither. */
  readonly takes: readonly string[];
}

const MOST_SHOWN = 4;

/** What claims come to for each line: probable where one alone is sure and nobody else is sure of the same, else open. */
export function weighClaims(claims: readonly Claim[]): Map<number, Proposal> {
  const sureOf = new Map<string, number>();
  for (const key of claims.filter(({ sure }) => sure).flatMap(({ takes }) => takes)) {
    sureOf.set(key, (sureOf.get(key) ?? 0) + 1);
  }
  const ofLine = groupBy(claims, ({ line }) => line);
  return new Map(
    [...ofLine].map(([line, own]): [number, Proposal] => {
      const sure = own.filter((claim) => claim.sure);
      const [one] = sure;
      const alone = sure.length === 1 && one!.takes.every((key) => sureOf.get(key) === 1);
      const others = own.filter((claim) => !alone || claim !== one).map(({ way }) => way);
      if (alone)
        return [
          line,
          { line, certainty: 'probable', laid: one!.way, reasons: [], others: others.slice(0, MOST_SHOWN) },
        ];
      const reasons: Reason[] = [{ kind: 'near', count: own.length }];
      return [line, { line, certainty: 'open', laid: null, reasons, others: others.slice(0, MOST_SHOWN) }];
    }),
  );
}
