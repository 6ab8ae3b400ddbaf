import { openChannel } from '@/books/channels/open-channel';
import { plainDate } from '@/core/calendar';
import { minor } from '@/core/money';
import type { DemoLoader } from '../loader';

/** Opens the workshop's till: one counter, cash only, an entry a day. Gives its channel. */
export async function openWorkshopTill(demo: DemoLoader): Promise<number> {
  const use = async (code: string) => ({ use: await demo.accountOf(code) });
  const { channel } = await demo.run(openChannel, {
    draft: null,
    settings: {
      name: 'Workshop till',
      kind: 'till',
      currency: 'EUR',
      bank: await demo.accountOf('1010'),
      clearing: { code: '1290', name: 'Workshop till clearing' },
      payoutDays: 1,
      feeRate: 0,
      feeFixed: minor(0),
      fees: await use('6100'),
      refunds: await use('4900'),
      tips: await use('2300'),
      discounts: { make: { code: '4960', name: 'Discounts at the counter' } },
      giftCards: null,
      chargebacks: null,
      fx: null,
      income: null,
      taxCode: null,
      sites: [
        { code: 'WS', name: 'Workshop', cash: { make: { code: '1090', name: 'Workshop cash box' } }, bank: null },
      ],
      mode: 'summary',
      historyFrom: plainDate('2026-09-01'),
      postsItself: false,
      paidWhen: 'debit-day',
      payer: null,
      outstanding: [],
      cutOver: 'wait',
      openingAgainst: null,
    },
  });
  return channel;
}
