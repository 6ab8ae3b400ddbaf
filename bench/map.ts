import { NO_PROGRESS } from '@/books/command';
import { BooksMap } from '@/books/map/load-map';
import { pastFrom, pastReceipts } from '@/books/map/past';
import type { LoadedReceipt } from '@/books/receipts/load-receipts';
import type { BooksFile } from '@/books/store';
import type { PlainDate } from '@/core/calendar';
import type { AccountId } from '@/core/ledger';
import type { MapRule } from '@/core/map';
import type { Minor } from '@/core/money';
import { timed, TRIES, type Row } from './rows';

/** Rules as a well-kept map has them: by text, site, item and amount, few of which fit any one receipt. */
function manyRules(count: number): MapRule[] {
  return Array.from({ length: count }, (_, n) => ({
    id: n + 1,
    name: `rule ${n + 1}`,
    conditions:
      n % 4 === 0
        ? { text: `boat ${n}` }
        : n % 4 === 1
          ? { items: [1 + (n % 4)], amountFrom: (n * 1_000) as Minor, amountTo: (n * 1_000 + 900) as Minor }
          : n % 4 === 2
            ? { channels: [1], payers: [n * 7] }
            : { methods: ['cash'], countries: ['IE'] },
    landing: { income: 9 as AccountId },
  }));
}

/** Deciding for every receipt of the last twelve months, with reading them for a floor. */
export async function mapAgainstReading(books: BooksFile, today: PlainDate, tries = TRIES): Promise<Row> {
  const look = (decide: ((receipt: LoadedReceipt) => unknown) | null) =>
    books.read(async (db) => {
      let n = 0;
      for await (const batch of pastReceipts(db, pastFrom(today), NO_PROGRESS)) {
        n += batch.length;
        if (decide) for (const receipt of batch) decide(receipt);
      }
      return n;
    });
  const map = await BooksMap.load(books.reader, manyRules(200));
  let [took, floor, n] = [Infinity, Infinity, 0];
  for (let left = tries; left > 0; left--) {
    const read = await timed(() => look(null));
    floor = Math.min(floor, read.took);
    n = read.value;
    took = Math.min(took, (await timed(() => look((receipt) => map.decide(receipt)))).took);
  }
  return { what: `map of 200 rules for ${n} receipts`, took, floor, aim: '≤ 1.5×' };
}
