import type { SaleLine } from '@/core/ledger';
import type { Decision } from '@/core/map';
import type { Minor } from '@/core/money';
import type { Refusal } from '../command';
import type { BooksMap } from '../map/load-map';
import { toTotal, type Converted } from './convert';
import type { LoadedReceipt } from './load-receipts';

/** What a receipt was for, as the map decides it or each of its lines; they come to the price. */
export function saleLines(
  map: BooksMap,
  receipt: LoadedReceipt,
  decision: Decision,
  price: Minor,
  toBase: Converted['toBase'],
): { readonly refusal: Refusal } | { readonly sold: readonly SaleLine[] } {
  const { external_id: name } = receipt;
  if (!receipt.lines) {
    const line = map.saleLine(decision, { price, discount: toBase(receipt.discount), tax: null }, name);
    return 'refusal' in line ? line : { sold: [line] };
  }
  const prices = toTotal(
    receipt.lines.map((line) => line.gross),
    price,
    toBase,
  );
  const sold: SaleLine[] = [];
  for (const [index, { item, itemCode, text, discount, tax }] of receipt.lines.entries()) {
    const own = map.decide({ ...receipt, item, text, gross: receipt.lines[index]!.gross });
    const money = { price: prices[index]!, discount: toBase(discount), tax: tax === null ? null : toBase(tax) };
    const line = map.saleLine(own, money, itemCode ? `${name}, ${itemCode}` : name);
    if ('refusal' in line) return line;
    sold.push(line);
  }
  return { sold };
}
