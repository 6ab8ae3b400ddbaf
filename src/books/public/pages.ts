import { randomBytes } from 'node:crypto';
import { z } from 'zod';
import type { PlainDate } from '@/core/calendar';
import type { Minor } from '@/core/money';
import { amountInput, textInput } from '../billing/bill-input';
import { done, refuse, type Command } from '../command';
import { plainDateInput } from '../command/plain-date-input';
import type { Reading } from '../store';

/** What a giving page offers. */
export interface GivingContent {
  about: string;
  funds: string[];
  /** Amounts to choose from, minor units. */
  amounts: Minor[];
  monthly: boolean;
}

/** What a registration page offers. Prices are net; what is shown has its tax. */
export interface RegistrationContent {
  about: string;
  day: PlainDate;
  places: number;
  tickets: { name: string; item: number; taxCode: number; price: Minor }[];
}

export type PageInput = {
  page: number | null;
  title: string;
  channel: number;
} & ({ kind: 'giving'; content: GivingContent } | { kind: 'registration'; content: RegistrationContent });

const id = z.number().int().positive();
const common = { page: id.nullable(), title: textInput(120).pipe(z.string().min(1, 'a title')), channel: id };
const amount = amountInput.refine((value) => value >= 0, 'nothing below zero');

export const pageInput = z.discriminatedUnion('kind', [
  z.object({
    ...common,
    kind: z.literal('giving'),
    content: z.object({
      about: textInput(2_000),
      funds: z
        .array(textInput(80).pipe(z.string().min(1)))
        .min(1, 'at least one fund')
        .max(30),
      amounts: z.array(amount).max(8),
      monthly: z.boolean(),
    }),
  }),
  z.object({
    ...common,
    kind: z.literal('registration'),
    content: z.object({
      about: textInput(2_000),
      day: plainDateInput,
      places: z.number().int().min(1).max(100_000),
      tickets: z
        .array(z.object({ name: textInput(80).pipe(z.string().min(1)), item: id, taxCode: id, price: amount }))
        .min(1, 'at least one ticket')
        .max(20),
    }),
  }),
]);

export interface PublicPage {
  readonly id: number;
  readonly token: string;
  readonly title: string;
  readonly channel: number;
  readonly open: boolean;
  readonly offer:
    ({ readonly kind: 'giving' } & GivingContent) | ({ readonly kind: 'registration' } & RegistrationContent);
}

type Row = {
  id: number;
  token: string;
  kind: 'giving' | 'registration';
  title: string;
  channel_id: number;
  content: string;
  open: 0 | 1;
};

const pageOf = (row: Row): PublicPage => ({
  id: row.id,
  token: row.token,
  title: row.title,
  channel: row.channel_id,
  open: row.open === 1,
  offer: { kind: row.kind, ...(JSON.parse(row.content) as object) } as PublicPage['offer'],
});

const TOKEN = /^[A-Za-z0-9_-]{22}$/;

/** The page of a token; null where there is none. */
export async function pageOfToken(db: Reading, token: string): Promise<PublicPage | null> {
  if (!TOKEN.test(token)) return null;
  const row = await db.selectFrom('public_page').selectAll().where('token', '=', token).executeTakeFirst();
  return row ? pageOf(row) : null;
}

export interface PageRow extends PublicPage {
  readonly channelName: string;
  /** Places taken, or gifts begun. */
  readonly taken: number;
}

export async function listPages(db: Reading): Promise<PageRow[]> {
  const rows = await db
    .selectFrom('public_page')
    .innerJoin('channel', 'channel.id', 'public_page.channel_id')
    .selectAll('public_page')
    .select('channel.name as channelName')
    .orderBy('public_page.id', 'desc')
    .execute();
  const list: PageRow[] = [];
  for (const row of rows) {
    const taken = row.kind === 'registration' ? await placesTaken(db, row.id) : await pledged(db, row.id);
    list.push({ ...pageOf(row), channelName: row.channelName, taken });
  }
  return list;
}

async function pledged(db: Reading, page: number): Promise<number> {
  const { n } = await db
    .selectFrom('pledge')
    .select((e) => e.fn.countAll<number>().as('n'))
    .where('page_id', '=', page)
    .executeTakeFirstOrThrow();
  return Number(n);
}

/** Places of a page that are taken: registrations that were not given up. */
export async function placesTaken(db: Reading, page: number): Promise<number> {
  const { n } = await db
    .selectFrom('registration')
    .select((e) => e.fn.coalesce(e.fn.sum<number>('places'), e.lit(0)).as('n'))
    .where('page_id', '=', page)
    .where('given_up_at', 'is', null)
    .executeTakeFirstOrThrow();
  return Number(n);
}

/** Makes a public page or changes what it offers; its address stays. */
export const savePage: Command<PageInput, { page: number; token: string }> = {
  name: 'save-page',
  input: pageInput as unknown as z.ZodType<PageInput>,
  async run({ db }, { page, kind, title, channel, content }, { now, actor }) {
    const there = await db.selectFrom('channel').select('id').where('id', '=', channel).executeTakeFirst();
    if (!there) return refuse({ code: 'not-found', what: 'channel', id: String(channel) });
    const row = {
      kind,
      title,
      channel_id: channel,
      content: JSON.stringify(content),
      changed_at: now.toISOString(),
      actor: actor.name,
    };
    if (page === null) {
      const token = randomBytes(16).toString('base64url');
      const made = await db
        .insertInto('public_page')
        .values({ ...row, token, open: 1 })
        .returning('id')
        .executeTakeFirstOrThrow();
      const undo = { command: 'open-page', input: { page: made.id, open: false }, label: `close ${title}` };
      return done({ page: made.id, token }, `Opened the page ${title}`, undo);
    }
    const before = await db.selectFrom('public_page').selectAll().where('id', '=', page).executeTakeFirst();
    if (!before) return refuse({ code: 'not-found', what: 'page', id: String(page) });
    await db.updateTable('public_page').set(row).where('id', '=', page).execute();
    return done({ page, token: before.token }, `Changed the page ${title}`, {
      command: 'save-page',
      input: {
        page,
        kind: before.kind,
        title: before.title,
        channel: before.channel_id,
        content: JSON.parse(before.content) as unknown,
      },
      label: `set ${before.title} back`,
    });
  },
};

/** Opens a page, or closes it: a closed page says so and takes nothing. */
export const openPage: Command<{ page: number; open: boolean }, null> = {
  name: 'open-page',
  input: z.object({ page: id, open: z.boolean() }),
  async run({ db }, { page, open }) {
    const row = await db.selectFrom('public_page').selectAll().where('id', '=', page).executeTakeFirst();
    if (!row) return refuse({ code: 'not-found', what: 'page', id: String(page) });
    if ((row.open === 1) === open) return done(null, null);
    await db
      .updateTable('public_page')
      .set({ open: open ? 1 : 0 })
      .where('id', '=', page)
      .execute();
    const words = open ? 'Opened' : 'Closed';
    return done(null, `${words} the page ${row.title}`, {
      command: 'open-page',
      input: { page, open: !open },
      label: `${open ? 'close' : 'open'} ${row.title}`,
    });
  },
};
