import type { PageInput, PublicPage } from '@/books/public/pages';
import { parsePlainDate, type PlainDate } from '@/core/calendar';
import { parseAmount, writeAmount, type Currency } from '@/core/money';

/** A public page as it is typed. */
export interface PageFields {
  kind: 'giving' | 'registration';
  title: string;
  channel: string;
  about: string;
  /** One a line. */
  funds: string;
  amounts: string;
  monthly: boolean;
  day: string;
  places: string;
  tickets: { name: string; item: string; taxCode: string; price: string }[];
}

export const newPage = (
  kind: PageFields['kind'],
  channel: number,
  funds: readonly string[],
  today: PlainDate,
): PageFields => ({
  kind,
  title: '',
  channel: String(channel),
  about: '',
  funds: funds.join('\n'),
  amounts: '10.00, 25.00, 50.00',
  monthly: true,
  day: today,
  places: '50',
  tickets: [{ name: '', item: '', taxCode: '', price: '' }],
});

export function pageFieldsOf(page: PublicPage, currency: Currency): PageFields {
  const blank = newPage(page.offer.kind, page.channel, [], '' as PlainDate);
  const { offer } = page;
  const common = { ...blank, title: page.title, about: offer.about };
  return offer.kind === 'giving'
    ? {
        ...common,
        funds: offer.funds.join('\n'),
        amounts: offer.amounts.map((one) => writeAmount(one, currency)).join(', '),
        monthly: offer.monthly,
      }
    : {
        ...common,
        day: offer.day,
        places: String(offer.places),
        tickets: offer.tickets.map((ticket) => ({
          name: ticket.name,
          item: String(ticket.item),
          taxCode: String(ticket.taxCode),
          price: writeAmount(ticket.price, currency),
        })),
      };
}

/** The page as it is kept, or what of it cannot be read. */
export function readPage(
  page: number | null,
  fields: PageFields,
  currency: Currency,
): { page: PageInput } | { fault: string } {
  const common = { page, title: fields.title, channel: Number(fields.channel) };
  if (fields.title.trim() === '') return { fault: 'Give the page a title.' };
  if (fields.kind === 'giving') {
    const funds = fields.funds
      .split('\n')
      .map((fund) => fund.trim())
      .filter(Boolean);
    if (funds.length === 0) return { fault: 'Name at least one fund.' };
    const amounts = fields.amounts
      .split(/[,;\s]+/)
      .filter(Boolean)
      .map((text) => parseAmount(text, currency));
    if (amounts.some((amount) => !amount.ok)) return { fault: 'Write amounts to choose from like 10.00, 25.00.' };
    return {
      page: {
        ...common,
        kind: 'giving',
        content: {
          about: fields.about,
          funds,
          amounts: amounts.flatMap((one) => (one.ok ? [one.minor] : [])),
          monthly: fields.monthly,
        },
      },
    };
  }
  const day = parsePlainDate(fields.day);
  if (day === null || !/^\d{1,6}$/.test(fields.places))
    return { fault: 'Write the day of the event and how many places it has.' };
  const tickets = [];
  for (const ticket of fields.tickets) {
    const price = parseAmount(ticket.price.trim() || '0', currency);
    if (ticket.name.trim() === '' || ticket.item === '' || ticket.taxCode === '' || !price.ok) {
      return { fault: 'A ticket needs a name, an item, a tax code and a net price.' };
    }
    tickets.push({ name: ticket.name, item: Number(ticket.item), taxCode: Number(ticket.taxCode), price: price.minor });
  }
  return {
    page: {
      ...common,
      kind: 'registration',
      content: { about: fields.about, day, places: Number(fields.places), tickets },
    },
  };
}
