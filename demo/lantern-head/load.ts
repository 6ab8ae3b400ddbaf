import { join } from 'node:path';
import type { ChannelSettings } from '@/books/channels/channel-settings';
import { openChannel } from '@/books/channels/open-channel';
import { addDimension, requireDimension } from '@/books/dimensions/dimensions';
import { closeThrough } from '@/books/ledger/close';
import { saveMapRule } from '@/books/map/rules';
import { confirmMatch } from '@/books/matching/confirm';
import { receiptsFrom } from '@/books/receipts/import';
import { postReceipts } from '@/books/receipts/post';
import { createBooks } from '@/books/setup/create-books';
import { statementImporter } from '@/books/statements/import';
import type { BooksFile } from '@/books/store';
import { plainDate } from '@/core/calendar';
import { minor, type Minor } from '@/core/money';
import { DemoLoader, inFreshBooks } from '../loader';
import { Worlds } from '@/standins/worlds';
import { FUNDS, LANTERN_HEAD } from './books';
import { LANTERN_WORLD, openPublicPages } from './public';

export const LANTERN_FILES = join(__dirname, 'files');
const POSTED_THROUGH = plainDate('2026-11-08');
const CONFIRMED_THROUGH = plainDate('2026-11-03');

interface Channels {
  readonly giving: number;
  readonly till: number;
  readonly post: number;
  readonly tickets: number;
}

async function openChannels(demo: DemoLoader): Promise<Channels> {
  const rows = await demo.books.reader.selectFrom('account').select(['id', 'code']).execute();
  const account = (code: string) => rows.find((row) => row.code === code)!.id;
  const use = (code: string) => ({ use: account(code) });
  const common = {
    currency: 'EUR',
    bank: account('1010'),
    refunds: use('4900'),
    tips: use('2300'),
    discounts: null,
    giftCards: null,
    chargebacks: null,
    fx: null,
    historyFrom: plainDate('2026-09-01'),
    postsItself: false,
    paidWhen: 'debit-day',
    payer: null,
    outstanding: [],
    cutOver: 'wait',
    openingAgainst: null,
  } satisfies Partial<ChannelSettings>;
  const giving = await demo.run(openChannel, {
    draft: null,
    settings: {
      ...common,
      name: 'Giving page',
      kind: 'giving-page',
      clearing: { code: '1200', name: 'Giving page clearing' },
      payoutDays: 3,
      feeRate: 140,
      feeFixed: minor(20),
      fees: use('6100'),
      income: account('4010'),
      taxCode: null,
      sites: [],
      mode: 'each',
    },
  });
  const till = await demo.run(openChannel, {
    draft: null,
    settings: {
      ...common,
      name: 'Tower till',
      kind: 'till',
      clearing: { code: '1210', name: 'Tower till clearing' },
      payoutDays: 1,
      feeRate: 120,
      feeFixed: 0 as Minor,
      fees: { make: { code: '6110', name: 'Till fees' } },
      income: null,
      taxCode: null,
      sites: [
        { code: 'SHOP', name: 'Gift shop', cash: use('1030'), bank: null },
        { code: 'TEA', name: 'Tea hatch', cash: use('1040'), bank: null },
      ],
      mode: 'summary',
    },
  });
  const post = await demo.run(openChannel, {
    draft: null,
    settings: {
      ...common,
      name: 'Cheques and envelopes',
      kind: 'cash-and-cheques',
      clearing: { code: '1220', name: 'Post clearing' },
      payoutDays: 0,
      feeRate: 0,
      feeFixed: minor(0),
      fees: use('6100'),
      income: account('4010'),
      taxCode: null,
      sites: [{ code: 'BOX', name: 'Letter box', cash: use('1060'), bank: null }],
      mode: 'each',
    },
  });
  const tickets = await demo.run(openChannel, {
    draft: null,
    settings: {
      ...common,
      name: 'Open-day tickets',
      kind: 'card-desk',
      clearing: { code: '1230', name: 'Ticket clearing' },
      payoutDays: 2,
      feeRate: 150,
      feeFixed: minor(20),
      fees: use('6120'),
      income: null,
      taxCode: null,
      sites: [],
      mode: 'each',
    },
  });
  return { giving: giving.channel, till: till.channel, post: post.channel, tickets: tickets.channel };
}

/** Funds and restrictions as dimensions, asked for on gifts, and a rule for each fund. */
async function mapGifts(demo: DemoLoader, channels: number[]): Promise<Readonly<Record<number, number>>> {
  const fund = await demo.run(addDimension, { name: 'Fund', values: FUNDS.map(({ name }) => name) });
  const restriction = await demo.run(addDimension, { name: 'Restriction', values: ['Restricted', 'Unrestricted'] });
  const values = await demo.books.reader.selectFrom('dimension_value').selectAll().execute();
  const value = (name: string) => values.find((row) => row.name === name)!.id;
  const { id } = await demo.books.reader
    .selectFrom('account')
    .select('id')
    .where('code', '=', '4010')
    .executeTakeFirstOrThrow();
  await demo.run(requireDimension, { dimension: fund.dimension, account: id, required: true });
  for (const { name, restricted } of FUNDS) {
    await demo.run(saveMapRule, {
      id: null,
      name: `Gifts to ${name}`,
      active: true,
      conditions: { channels, funds: [name] },
      landing: {
        dimensions: {
          [fund.dimension]: value(name),
          [restriction.dimension]: value(restricted ? 'Restricted' : 'Unrestricted'),
        },
      },
    });
  }
  return { [fund.dimension]: value('General'), [restriction.dimension]: value('Unrestricted') };
}

/** A helper's rule took a batch of gifts from the bank, though the page's own export has them: it counts twice. */
async function bookBatchTwice(demo: DemoLoader, dimensions: Readonly<Record<number, number>>): Promise<void> {
  const name = 'Gifts at the bank';
  const ruleId = await demo.statementRule(name, 'giving batch', '4010', dimensions);
  const { id, amount } = await demo.books.reader
    .selectFrom('statement_line')
    .select(['id', 'amount'])
    .where('text', '=', 'GIVING BATCH LH-44 LANTERN HEAD')
    .executeTakeFirstOrThrow();
  const account = await demo.accountOf('4010');
  const gifts = {
    kind: 'account' as const,
    id: account,
    amount,
    dimensions,
    taxCode: null,
    rule: name,
    ruleId,
    payer: null,
  };
  await demo.run(confirmMatch, { line: id, parts: [gifts], restTo: null });
}

/** Makes Lantern Head's books anew and works them to the middle of November. */
export async function loadLanternHead(data: string, say: (doing: string) => void): Promise<void> {
  const loader = (books: BooksFile, blobs: string) => new DemoLoader(books, blobs, LANTERN_FILES);
  await inFreshBooks(data, 'lantern-head', loader, async (demo) => {
    say('chart, channels, funds and rules');
    await demo.run(createBooks, LANTERN_HEAD);
    const { giving, till, post, tickets } = await openChannels(demo);
    const general = await mapGifts(demo, [giving, post]);
    say('gifts, till sales and tickets');
    for (const cut of ['2026-09-to-10', '2026-11']) {
      await demo.bringInExport(giving, `giving-${cut}.csv`);
      await demo.bringInExport(till, `till-${cut}.json`);
      await demo.bringInExport(post, `post-${cut}.csv`);
    }
    await demo.bringIn(receiptsFrom({ channel: tickets }), 'tickets-2026-09-to-10.csv');
    await demo.run(postReceipts, { filter: { to: POSTED_THROUGH } });
    say('bank statements and matches');
    for (const cut of ['2026-09-to-10', '2026-11']) await demo.bringIn(statementImporter, `statement-${cut}.xml`);
    await demo.bringIn(statementImporter, 'reserve-2026-11.csv');
    await demo.confirmProven(CONFIRMED_THROUGH);
    await demo.confirmSpent(CONFIRMED_THROUGH, '6010');
    await bookBatchTwice(demo, general);
    say('public pages and a gift batch');
    await openPublicPages(demo, tickets, giving);
    Worlds.found(join(data, 'standins'), LANTERN_WORLD);
    await demo.run(closeThrough, { date: plainDate('2026-09-30'), reopen: false });
  });
}
