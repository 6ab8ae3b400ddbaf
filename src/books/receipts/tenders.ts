import type { Tender } from '@/core/ledger';
import { sum, ZERO, type Minor } from '@/core/money';
import type { BooksMap } from '../map/load-map';
import type { ChannelParts } from './channel-parts';
import { toTotal, type Converted } from './convert';
import type { LoadedReceipt } from './load-receipts';

/** Where each tender of a receipt that was paid in several ways is, in the books’ own currency: the map is asked as for a receipt that was paid so. They come to gross. */
export function tendersOf(
  map: BooksMap,
  receipt: LoadedReceipt,
  { money, foreign, toBase }: Converted,
  channel: ChannelParts,
): Tender[] {
  const amounts = toTotal(
    receipt.tenders!.map(({ amount }) => amount),
    money.gross,
    toBase,
  );
  return receipt.tenders!.map(({ tender, amount }, index) => {
    const paid = { ...receipt, method: tender };
    const { account, because } = map.deposit(paid, map.decide(paid));
    const held = account === channel.clearing;
    return {
      account,
      amount: amounts[index]!,
      because: held ? { why: 'taken-in', tender, site: map.placeOf(receipt) } : because,
      ...(held && foreign && { foreign: { currency: foreign.currency, amount } }),
    };
  });
}

/** What of its gross the channel never holds, in the channel’s currency; `held` and `gross` are in the books’ own. */
export function notHeldOf(
  receipt: LoadedReceipt,
  held: Minor,
  gross: Minor,
  tenders: readonly Tender[] | undefined,
  channel: ChannelParts,
): Minor {
  if (held === gross) return ZERO;
  if (!tenders) return receipt.gross;
  return sum(receipt.tenders!.flatMap(({ amount }, i) => (tenders[i]!.account === channel.clearing ? [] : [amount])));
}
