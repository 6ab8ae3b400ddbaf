import { CHANNEL_ACCOUNTS, type ChannelDraft, type ChannelSettings } from '@/books/channels/channel-settings';
import type { ChannelsPage } from '@/books/channels/list';
import type { AccountId } from '@/core/ledger';
import type { Currency, Minor } from '@/core/money';

/** The steps of opening a channel, in their order. */
export const STEPS = ['kind', 'accounts', 'sites', 'posting', 'cut-over', 'look'] as const;
export type Step = (typeof STEPS)[number];

export const STEP_WORDS: Readonly<Record<Step, string>> = {
  kind: 'Kind and bank',
  accounts: 'Accounts',
  sites: 'Sites',
  posting: 'How it posts',
  'cut-over': 'Where it begins',
  look: 'Look it over',
};

/** The next free code after those of a class that are like this one. */
export function freeCode(page: ChannelsPage, begin: number): string {
  const codes = new Set(page.accounts.map((account) => account.code));
  for (let code = begin; ; code += 10) if (!codes.has(String(code))) return String(code);
}

/** Bank accounts that payouts can land in. */
export function banksOf(page: ChannelsPage) {
  return page.accounts.filter((account) => page.banks.some((bank) => bank.account_id === account.id));
}

const BEGIN = { asset: 1200, liability: 2300, income: 4900, expense: 6100, equity: 3000 } as const;

/** What is offered before anything is answered: accounts that are there where there is one, else one to be made. */
export function firstAnswers(page: ChannelsPage): ChannelDraft {
  const answers: Record<string, unknown> = {};
  for (const { field, role, class: of, words, required } of CHANNEL_ACCOUNTS) {
    const there = page.accounts.find((account) => account.role === role);
    answers[field] = there
      ? { use: there.id }
      : required
        ? { make: { code: freeCode(page, BEGIN[of]), name: words } }
        : null;
  }
  return {
    ...(answers as ChannelDraft),
    name: '',
    kind: 'card-desk',
    currency: page.currency,
    ...(page.banks[0] && { bank: page.banks[0].account_id }),
    clearing: { code: freeCode(page, BEGIN.asset), name: '' },
    payoutDays: 2,
    feeRate: 0,
    feeFixed: 0 as Minor,
    income: null,
    taxCode: null,
    sites: [],
    mode: 'each',
    historyFrom: null,
    postsItself: false,
    paidWhen: 'debit-day',
    payer: null,
    outstanding: [],
    cutOver: 'wait',
    openingAgainst: (page.accounts.find((account) => account.class === 'equity')?.id ?? null) as AccountId | null,
  };
}

/** What is still to be answered, by step, in a sentence each. */
export function missing(
  answers: ChannelDraft,
  currency: Currency,
): readonly { readonly step: Step; readonly what: string }[] {
  const list: { step: Step; what: string }[] = [];
  if (!answers.name?.trim()) list.push({ step: 'kind', what: 'The channel has no name.' });
  if (!/^[A-Z]{3}$/.test(answers.currency ?? ''))
    list.push({ step: 'kind', what: 'Its currency is no code of three letters.' });
  if (answers.bank === undefined) list.push({ step: 'kind', what: 'No bank account is chosen for its payouts.' });
  if (!answers.clearing?.name.trim()) list.push({ step: 'accounts', what: 'Its clearing account has no name.' });
  if (answers.currency !== currency && !answers.fx) {
    list.push({
      step: 'accounts',
      what: `It needs an account for the currency difference, since it pays out ${currency}.`,
    });
  }
  if (answers.kind === 'till' && answers.sites?.length === 0)
    list.push({ step: 'sites', what: 'A till has one site at least.' });
  if (answers.sites?.some((site) => !site.code.trim() || !site.name.trim())) {
    list.push({ step: 'sites', what: 'A site has no code or no name.' });
  }
  if (answers.outstanding?.some((payout) => !payout.id.trim() || payout.net <= 0 || !payout.date)) {
    list.push({ step: 'cut-over', what: 'A payout on its way has no id, day or amount.' });
  }
  return list;
}

/** The answers as they are sent: complete once {@link missing} is empty. */
export const complete = (answers: ChannelDraft) => answers as ChannelSettings;
