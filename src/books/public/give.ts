import { z } from 'zod';
import { coveringFee } from '@/core/channels';
import type { Minor } from '@/core/money';
import { amountInput, textInput } from '../billing/bill-input';
import { feeStepsOf } from '../channels/fee-steps';
import { done, refuse, type Command } from '../command';
import type { PaymentWanted } from '../paying/begin';
import { todayOf } from '../setup/today';
import type { Reading } from '../store';
import { pageOfToken } from './pages';

export interface GiveInput {
  token: string;
  /** Of the form that is sent off: the same is the same gift. */
  request: string;
  fund: string;
  amount: Minor;
  every: 'once' | 'month';
  coversFee: boolean;
  /** Nothing of who gives is passed on. */
  anonymous: boolean;
  name: string;
  email: string;
}

export const requestInput = z.string().regex(/^[0-9a-f-]{36}$/, 'a form that was loaded here');

export const giveInput = z
  .object({
    token: z.string().max(80),
    request: requestInput,
    fund: textInput(80),
    amount: amountInput.refine((amount) => amount >= 100, 'at least 1.00'),
    every: z.enum(['once', 'month']),
    coversFee: z.boolean(),
    anonymous: z.boolean(),
    name: textInput(120),
    email: z.union([z.literal(''), z.email('an email address').max(200)]),
  })
  .refine(({ anonymous, name, email }) => anonymous || (name !== '' && email !== ''), {
    path: ['name'],
    message: 'your name and email, or leave both out by giving without a name',
  });

/** What a donor pays for a gift whose fee they cover, by the schedule that the page's channel has today. */
export async function coveredAmount(db: Reading, channel: number, gift: Minor): Promise<Minor> {
  const books = await db.selectFrom('books').selectAll().executeTakeFirstOrThrow();
  const agreed = (await feeStepsOf(db, 'agreed')).get(channel)!;
  return coveringFee(gift, agreed.on(todayOf(books, new Date())));
}

/** Takes down what somebody wishes to give; the payment is begun after it. Sent off twice, it is one gift. */
export const pledgeGift: Command<GiveInput, PaymentWanted> = {
  name: 'pledge-gift',
  input: giveInput,
  async run({ db }, input, { now }) {
    const page = await pageOfToken(db, input.token);
    if (!page || page.offer.kind !== 'giving') return refuse({ code: 'not-found', what: 'giving page', id: '' });
    if (!page.open) return refuse({ code: 'page-closed', title: page.title });
    const { offer } = page;
    if (!offer.funds.includes(input.fund))
      return refuse({ code: 'invalid-input', field: 'fund', expected: 'one of the funds of the page' });
    if (input.every === 'month' && !offer.monthly)
      return refuse({ code: 'invalid-input', field: 'every', expected: 'a gift once' });
    const amount = input.coversFee ? await coveredAmount(db, page.channel, input.amount) : input.amount;
    const { request } = input;
    const there = await db
      .selectFrom('pledge')
      .select(['id', 'content'])
      .where('request', '=', request)
      .executeTakeFirst();
    const { token: _token, request: _request, ...said } = input;
    const kept = input.anonymous ? { ...said, name: '', email: '' } : said;
    if (there && there.content !== JSON.stringify({ ...kept, gross: amount })) {
      return refuse({ code: 'invalid-input', field: 'request', expected: 'a form that was not sent off yet' });
    }
    const pledge =
      there?.id ??
      (
        await db
          .insertInto('pledge')
          .values({
            page_id: page.id,
            payer_id: null,
            content: JSON.stringify({ ...kept, gross: amount }),
            request,
            made_at: now.toISOString(),
          })
          .returning('id')
          .executeTakeFirstOrThrow()
      ).id;
    const wanted: PaymentWanted = {
      purpose: 'gift',
      id: pledge,
      amount,
      reference: `gift/${pledge}`,
      channel: page.channel,
      checkout: {
        title: `${page.title}: ${input.fund}`,
        document: '',
        item: '',
        note: input.coversFee ? 'fee covered by the donor' : '',
        fund: input.fund,
        payer: { name: kept.name, email: kept.email },
        every: input.every,
      },
    };
    return done(wanted, there ? null : `Gift begun on ${page.title}`);
  },
};
