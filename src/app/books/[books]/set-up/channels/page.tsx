import Link from 'next/link';
import { listFeeSteps } from '@/books/channels/fee-steps';
import { channelsPage } from '@/books/channels/list';
import { formatDate } from '@/core/calendar';
import { scheduleWords } from '@/core/channels';
import { PageTabs } from '@/ui/frame/rail';
import { Empty } from '@/ui/parts/notice';
import { openBooks } from '../../../../server/books';
import { SET_UP_PAGES } from '../pages';
import { DraftList } from './draft-list';
import { KIND_WORDS } from './kind-words';
import { ModeSwitch } from './mode-switch';

export default async function ChannelsPage({ params }: { params: Promise<{ books: string }> }) {
  const { books: id } = await params;
  const { page, feeSteps } = await openBooks(id).read(async (db) => ({
    page: await channelsPage(db),
    feeSteps: await listFeeSteps(db),
  }));
  const { channels, sites, postings, accounts, taxCodes, drafts } = page;
  const name = (account: number | null) => (account === null ? 'none' : accounts.find((a) => a.id === account)!.name);
  return (
    <>
      <PageTabs pages={SET_UP_PAGES} />
      <main>
        <div className="page-head">
          <h1>Channels</h1>
          <span className="soft small">the ways money comes in, each with a clearing account of its own</span>
          <div className="acts">
            <Link className="btn btn-primary" href={`/books/${id}/set-up/channels/open`}>
              Open a channel
            </Link>
          </div>
        </div>
        <DraftList drafts={drafts} />
        {channels.length === 0 ? (
          <Empty title="No channels yet">
            <p>Open the first: it says where its money is held, where it pays out to, and where its fees go.</p>
          </Empty>
        ) : null}
        <div className="boxes">
          {channels.map((channel) => {
            const own = sites.filter((site) => site.channel_id === channel.id);
            const steps = postings.filter((row) => row.channel === channel.id);
            return (
              <section key={channel.id} className="box" aria-label={channel.name}>
                <h2>
                  {channel.name}{' '}
                  <span className="small soft fw-normal">
                    {KIND_WORDS[channel.kind].name}, {channel.currency}
                  </span>
                  <Link className="small fw-normal ms-2" href={`/books/${id}/set-up/channels/${channel.id}`}>
                    Change
                  </Link>
                </h2>
                <dl className="facts">
                  <dt>Held in</dt>
                  <dd>
                    <Link href={`/books/${id}/accounts/${channel.clearing_account_id}`}>
                      {name(channel.clearing_account_id)}
                    </Link>
                  </dd>
                  <dt>Pays out to</dt>
                  <dd>
                    {name(channel.bank_account_id)}, {channel.payout_days} working days later
                  </dd>
                  <dt>Agreed fee</dt>
                  <dd>
                    {scheduleWords({ rate: channel.fee_rate, fixed: channel.fee_fixed }, channel.currency)} a receipt,
                    to {name(channel.fee_account_id)}
                    {feeSteps
                      .filter((step) => step.channel === channel.id && !step.learnt)
                      .map(({ since, schedule }) => (
                        <div key={since} className="sub">
                          from {formatDate(since)} {scheduleWords(schedule, channel.currency)}
                        </div>
                      ))}
                  </dd>
                  <dt>Refunds, tips</dt>
                  <dd>
                    {name(channel.refund_account_id)} · {name(channel.tips_account_id)}
                  </dd>
                  {channel.discount_account_id ||
                  channel.gift_card_account_id ||
                  channel.chargeback_account_id ||
                  channel.fx_account_id ? (
                    <>
                      <dt>Also</dt>
                      <dd>
                        {[
                          channel.discount_account_id,
                          channel.gift_card_account_id,
                          channel.chargeback_account_id,
                          channel.fx_account_id,
                        ]
                          .filter((account) => account !== null)
                          .map(name)
                          .join(' · ')}
                      </dd>
                    </>
                  ) : null}
                  <dt>Otherwise earns</dt>
                  <dd>
                    {channel.income_account_id === null ? 'as these books decide' : name(channel.income_account_id)}
                    {channel.tax_code_id === null
                      ? ''
                      : `, tax ${taxCodes.find((tax) => tax.id === channel.tax_code_id)?.name}`}
                  </dd>
                  {own.length > 0 ? (
                    <>
                      <dt>Sites</dt>
                      <dd>
                        {own.map((site) => (
                          <div key={site.id}>
                            {site.name}{' '}
                            <span className="soft">
                              {[
                                site.cash_account_id === null ? '' : `cash in ${name(site.cash_account_id)}`,
                                site.bank_account_id === null ? '' : `banks to ${name(site.bank_account_id)}`,
                              ]
                                .filter(Boolean)
                                .join(', ')}
                            </span>
                          </div>
                        ))}
                      </dd>
                    </>
                  ) : null}
                  {channel.history_from ? (
                    <>
                      <dt>History</dt>
                      <dd>from {formatDate(channel.history_from)}</dd>
                    </>
                  ) : null}
                  {channel.payer_id === null ? null : (
                    <>
                      <dt>Payer</dt>
                      <dd>
                        {page.genericPayers.find((payer) => payer.id === channel.payer_id)?.name} for all not named
                      </dd>
                    </>
                  )}
                  {channel.kind === 'debit-bureau' ? (
                    <>
                      <dt>Debits</dt>
                      <dd>count as paid {channel.paid_when === 'debit-day' ? 'on their day' : 'when collected'}</dd>
                    </>
                  ) : null}
                  <dt>Posts</dt>
                  <dd>
                    <ModeSwitch channel={channel.id} name={channel.name} steps={steps} />
                  </dd>
                </dl>
              </section>
            );
          })}
        </div>
      </main>
    </>
  );
}
