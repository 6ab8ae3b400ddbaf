import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { ChannelSettings } from '@/books/channels/channel-settings';
import { openChannel } from '@/books/channels/open-channel';
import { readRateLines } from '@/books/currencies/rate-lines';
import { setRates } from '@/books/currencies/rates';
import { invoicesImporter } from '@/books/invoices/import';
import { postInvoices } from '@/books/invoices/post';
import { closeThrough } from '@/books/ledger/close';
import { confirmMatch } from '@/books/matching/confirm';
import { receiptsFrom } from '@/books/receipts/import';
import { postReceipts } from '@/books/receipts/post';
import { createBooks } from '@/books/setup/create-books';
import { statementImporter } from '@/books/statements/import';
import type { BooksFile } from '@/books/store';
import { plainDate } from '@/core/calendar';
import { minor } from '@/core/money';
import { DemoLoader, inFreshBooks } from '../loader';
import { DRIFTLINE } from './books';
import { CUTS } from '../lib/cuts';

export const DRIFTLINE_FILES = join(__dirname, 'files');
const POSTED_THROUGH = plainDate('2026-11-08');
const CONFIRMED_THROUGH = plainDate('2026-11-03');

export interface DriftlineChannels {
  readonly debit: number;
  readonly card: number;
  readonly wallet: number;
}

async function openChannels(demo: DemoLoader): Promise<DriftlineChannels> {
  const use = async (code: string) => ({ use: await demo.accountOf(code) });
  const taxCode = await demo.books.reader.selectFrom('tax_code').select('id').executeTakeFirstOrThrow();
  const common = {
    currency: 'EUR',
    bank: await demo.accountOf('1010'),
    refunds: await use('4900'),
    tips: await use('2300'),
    discounts: null,
    giftCards: null,
    chargebacks: await use('6800'),
    fx: null,
    fees: await use('6110'),
    income: await demo.accountOf('4030'),
    taxCode: taxCode.id,
    sites: [],
    mode: 'each',
    historyFrom: plainDate('2026-09-01'),
    postsItself: false,
    paidWhen: 'debit-day',
    payer: null,
    outstanding: [],
    cutOver: 'wait',
    openingAgainst: null,
  } satisfies Partial<ChannelSettings>;
  const open = async (settings: ChannelSettings) => (await demo.run(openChannel, { draft: null, settings })).channel;
  return {
    debit: await open({
      ...common,
      name: 'Debit bureau',
      kind: 'debit-bureau',
      clearing: { code: '1200', name: 'Debit bureau clearing' },
      payoutDays: 2,
      feeRate: 0,
      feeFixed: minor(20),
      fees: await use('6100'),
      income: null,
      taxCode: null,
    }),
    card: await open({
      ...common,
      name: 'Fall-back cards',
      kind: 'card-desk',
      clearing: { code: '1210', name: 'Fall-back cards clearing' },
      payoutDays: 2,
      feeRate: 175,
      feeFixed: minor(20),
    }),
    wallet: await open({
      ...common,
      name: 'Card wallet',
      kind: 'card-desk',
      currency: 'GBP',
      clearing: { code: '1220', name: 'Card wallet clearing' },
      payoutDays: 2,
      feeRate: 170,
      feeFixed: minor(0),
      fx: await use('6950'),
    }),
  };
}

/** Brings in one period: what was owed, then what each channel says of it. */
async function bringInPeriod(demo: DemoLoader, { debit, card, wallet }: DriftlineChannels, cut: string): Promise<void> {
  await demo.bringIn(invoicesImporter, `invoices-${cut}.csv`);
  // What comes back of a run are debits returned, not money given back: said once, and kept with the reading.
  await demo.bringInExport(debit, `debits-${cut}.tsv`, { chargebacks: ['return'], refunds: [] });
  await demo.bringIn(receiptsFrom({ channel: card }), `cards-${cut}.csv`);
  await demo.bringInExport(wallet, `wallet-${cut}.csv`);
}

/** Confirms the wallet's payouts that have landed: converted at its own rate, the rest is a currency difference. */
async function confirmConverted(demo: DemoLoader): Promise<void> {
  const lines = await demo.books.reader
    .selectFrom('statement_line')
    .select(['id', 'text'])
    .where('text', 'like', 'WALLET %')
    .where('match_id', 'is', null)
    .where('book_date', '<=', CONFIRMED_THROUGH)
    .execute();
  for (const { id: line, text } of lines) {
    const { id } = await demo.books.reader
      .selectFrom('payout')
      .select('id')
      .where('external_id', '=', text.split(' ')[1]!)
      .executeTakeFirstOrThrow();
    await demo.run(confirmMatch, { line, parts: [{ kind: 'payout', id }], restTo: await demo.accountOf('6950') });
  }
}

/** Makes Driftline's books anew and works them to the middle of November. */
export async function loadDriftline(data: string, say: (doing: string) => void): Promise<void> {
  const loader = (books: BooksFile, blobs: string) => new DemoLoader(books, blobs, DRIFTLINE_FILES);
  await inFreshBooks(data, 'driftline', loader, async (demo) => {
    say('chart, channels, rates');
    await demo.run(createBooks, DRIFTLINE);
    const channels = await openChannels(demo);
    const rates = readRateLines(readFileSync(join(DRIFTLINE_FILES, 'rates.txt'), 'utf8'));
    if ('unread' in rates) throw new Error(rates.unread);
    await demo.run(setRates, rates);
    say('invoices, debits, cards and wallet');
    for (const cut of CUTS) await bringInPeriod(demo, channels, cut.name);
    await demo.run(postInvoices, { filter: { to: POSTED_THROUGH } });
    await demo.run(postReceipts, { filter: { to: POSTED_THROUGH } });
    say('bank statements and matches');
    for (const cut of CUTS) await demo.bringIn(statementImporter, `statement-${cut.name}.xml`);
    await demo.confirmProven(CONFIRMED_THROUGH);
    await confirmConverted(demo);
    await demo.confirmSpent(CONFIRMED_THROUGH, '6010');
    await demo.statementRule('Packing', 'parcels and padding', '6010');
    await demo.run(closeThrough, { date: plainDate('2026-09-30'), reopen: false });
  });
}
