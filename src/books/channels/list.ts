import type { AccountChoice } from '../map/account-choices';
import type { PostingMode, Reading } from '../store';
import { channelDraft, type ChannelDraft } from './channel-settings';

export interface DraftRow {
  readonly id: number;
  readonly settings: ChannelDraft;
  readonly changedAt: string;
  readonly actor: string;
}

/** Everything the channel pages show and offer. */
export async function channelsPage(db: Reading) {
  const books = await db.selectFrom('books').selectAll().executeTakeFirstOrThrow();
  const accounts = await db.selectFrom('account').selectAll().orderBy('code').execute();
  const postings = await db.selectFrom('channel_posting').selectAll().orderBy('from_day', 'desc').execute();
  const drafts = await db.selectFrom('channel_draft').selectAll().orderBy('changed_at', 'desc').execute();
  return {
    currency: books.currency,
    channels: await db.selectFrom('channel').selectAll().orderBy('id').execute(),
    sites: await db.selectFrom('site').selectAll().orderBy('name').execute(),
    postings: postings.map((row) => ({ channel: row.channel_id, from: row.from_day, mode: row.mode as PostingMode })),
    genericPayers: await db
      .selectFrom('payer')
      .select(['id', 'name'])
      .where('id', 'in', db.selectFrom('channel').select('payer_id').where('payer_id', 'is not', null) as never)
      .execute(),
    banks: await db.selectFrom('bank_account').selectAll().execute(),
    taxCodes: await db.selectFrom('tax_code').select(['id', 'code as name']).orderBy('code').execute(),
    accounts: accounts.map((a): AccountChoice & { code: string } => ({
      id: a.id,
      code: a.code,
      name: `${a.code} ${a.name}`,
      class: a.class,
      role: a.role,
    })),
    drafts: drafts.flatMap((row): DraftRow[] => {
      const settings = channelDraft.safeParse(JSON.parse(row.settings));
      return settings.success
        ? [{ id: row.id, settings: settings.data, changedAt: row.changed_at, actor: row.actor }]
        : [];
    }),
  };
}
export type ChannelsPage = Awaited<ReturnType<typeof channelsPage>>;
