import { workingDaysBetween, type PlainDate, type WorkingCalendar } from '../calendar';
import { groupBy } from '../group-by';
import type { Minor } from '../money';
import type { NameFinder } from './names';
import { nearOne } from './near';
import type { LineWithText } from './lines-together';
import type { Explanation, Proposal, Reason } from './proposal';

/** A receipt that reached the bank by itself, nothing taken of it. */
export interface DirectReceipt {
  readonly id: number;
  readonly account: number;
  readonly day: PlainDate;
  readonly amount: Minor;
  readonly name: string;
  /** What may stand in the bank's text of it, as compared: its own reference, and the document it names. */
  readonly keys: readonly string[];
  readonly payer: number | null;
}

/** Working days from a receipt to its line, and the other way where the bank was first. */
const LATEST = 10;
const EARLIEST = -2;

interface Fit {
  readonly line: LineWithText;
  readonly receipt: DirectReceipt;
  readonly named: string | null;
  readonly near: string | null;
  readonly payer: string | null;
  readonly lag: number;
}

function wayOf({ receipt, named, near, payer, lag }: Fit): Explanation {
  const reasons: Reason[] = [
    ...(named === null ? [] : [{ kind: 'receipt-in-text', reference: receipt.name } as const]),
    ...(near === null ? [] : [{ kind: 'nearly-in-text', said: near, reference: receipt.name } as const]),
    ...(payer === null ? [] : [{ kind: 'name-in-text', name: payer } as const]),
    { kind: 'equal-to-the-cent' },
    { kind: 'days-after', lag },
  ];
  return { parts: [{ kind: 'receipt', id: receipt.id }], reasons };
}

/**
 * Deposits that are one receipt each (stage 2 and direct transfers): proven where its reference or document stands in the bank's
 * text and the amount is equal; probable by payer and amount, or by a reference with one letter wrong and the payer. Whoever
 * shares a receipt or a line on the same ground is open. An amount alone says nothing here.
 */
export function proposeDirect(
  lines: readonly LineWithText[],
  receipts: readonly DirectReceipt[],
  names: NameFinder,
  calendar: WorkingCalendar,
): Map<number, Proposal> {
  const byAmount = groupBy(
    [...receipts].sort((a, b) => a.id - b.id),
    ({ amount }) => amount as number,
  );
  const fits = [...lines]
    .sort((a, b) => a.id - b.id)
    .flatMap((line) => {
      const equal = byAmount.get(line.amount);
      if (!equal) return [];
      const said = new Map(names.find(line.text).map(({ payer, name }) => [payer, name]));
      return equal.flatMap((receipt): Fit[] => {
        if (receipt.account !== line.account) return [];
        const lag = workingDaysBetween(receipt.day, line.date, calendar);
        const named = receipt.keys.find((key) => line.keys.has(key)) ?? null;
        const payer = (receipt.payer !== null && said.get(receipt.payer)) || null;
        if (named === null && (lag > LATEST || lag < EARLIEST)) return [];
        const near =
          named === null && payer !== null
            ? (receipt.keys.map((key) => nearOne(line.keys, key)).find(Boolean) ?? null)
            : null;
        return named === null && payer === null ? [] : [{ line, receipt, named, near, payer, lag }];
      });
    });
  const ground = (fit: Fit) => (fit.named !== null ? 2 : fit.near !== null ? 1 : 0);
  const [ofLine, ofReceipt] = [groupBy(fits, ({ line }) => line.id), groupBy(fits, ({ receipt }) => receipt.id)];
  const best = (list: readonly Fit[]) => {
    const most = Math.max(...list.map(ground));
    return list.filter((fit) => ground(fit) === most);
  };
  return new Map(
    [...ofLine].map(([id, own]): [number, Proposal] => {
      const [one, ...rivals] = best(own);
      const alone =
        rivals.length === 0 &&
        best(ofReceipt.get(one!.receipt.id)!).length === 1 &&
        best(ofReceipt.get(one!.receipt.id)!)[0] === one;
      const others = own.filter((fit) => !alone || fit !== one).map(wayOf);
      if (alone)
        return [
          id,
          { line: id, certainty: one!.named !== null ? 'proven' : 'probable', laid: wayOf(one!), reasons: [], others },
        ];
      return [
        id,
        {
          line: id,
          certainty: 'open',
          laid: null,
          reasons: [{ kind: 'several-fit', count: own.length, searched: own.length }],
          others,
        },
      ];
    }),
  );
}
