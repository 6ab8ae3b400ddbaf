import type { ChannelKind } from '@/books/store';

/** What each kind of channel is called, and what it stands for. */
export const KIND_WORDS: Readonly<Record<ChannelKind, { readonly name: string; readonly about: string }>> = {
  'card-desk': { name: 'card desk', about: 'cards on pay links or at a terminal, paid out in lumps' },
  'debit-bureau': { name: 'debit bureau', about: 'direct debits under mandates, collected on set days' },
  'giving-page': { name: 'giving page', about: 'gifts and registrations online, often with a total fee only' },
  till: { name: 'till', about: 'a counter with sites, taking cash, cards and gift cards' },
  transfers: { name: 'transfers', about: 'money that payers send to the bank themselves' },
  'cash-and-cheques': { name: 'cash and cheques', about: 'envelopes and boxes, banked by hand' },
  other: { name: 'other', about: 'anything else that holds money before it reaches the bank' },
};
