import Link from 'next/link';
import { accountBalances } from '@/books/ledger/balances';
import { setUpLists } from '@/books/setup/lists';
import { formatAmount } from '@/core/money';
import { PageTabs } from '@/ui/frame/rail';
import { openBooks } from '../../../server/books';
import { SET_UP_PAGES } from './pages';
import { TableHeads } from '@/ui/parts/plain-table';

const percent = (basisPoints: number) => `${basisPoints / 100} %`;

export default async function SetUpPage({ params }: { params: Promise<{ books: string }> }) {
  const { books: id } = await params;
  const { lists, accounts } = await openBooks(id).read(async (db) => ({
    lists: await setUpLists(db),
    accounts: await accountBalances(db),
  }));
  const { books, channels, taxCodes, items, banks } = lists;
  const nameOf = (account: number) => {
    const found = accounts.find((a) => a.id === account)!;
    return `${found.code} ${found.name}`;
  };
  return (
    <>
      <PageTabs pages={SET_UP_PAGES} />
      <main>
        <div className="page-head">
          <h1>{books.name}</h1>
          <span className="soft">
            {books.currency}, days of {books.zone}, bank holidays of {books.country}
          </span>
        </div>
        <div className="two">
          <div className="surface">
            <table className="list" aria-label="Chart of accounts">
              <TableHeads heads={['Code', 'Account', 'Class', 'Used for', { name: 'Balance', num: true }]} />
              <tbody>
                {accounts.map((account) => (
                  <tr key={account.id}>
                    <td>{account.code}</td>
                    <td>
                      <Link href={`/books/${id}/accounts/${account.id}`}>{account.name}</Link>
                    </td>
                    <td className="soft">{account.class}</td>
                    <td className="soft">{account.role?.replace(/_/g, ' ') ?? ''}</td>
                    <td className="num">
                      <Link href={`/books/${id}/accounts/${account.id}`}>
                        {formatAmount(account.balance, books.currency)}
                      </Link>
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
          <div>
            {channels.map((channel) => (
              <section key={channel.id} className="box">
                <h2>{channel.name}</h2>
                <dl className="facts">
                  <dt>Held in</dt>
                  <dd>{nameOf(channel.clearing_account_id)}</dd>
                  <dt>Pays out to</dt>
                  <dd>
                    {nameOf(channel.bank_account_id)}, {channel.payout_days} working days later
                  </dd>
                  <dt>Agreed fee</dt>
                  <dd>
                    {percent(channel.fee_rate)} + {formatAmount(channel.fee_fixed, channel.currency)} a receipt, booked
                    to {nameOf(channel.fee_account_id)}
                  </dd>
                  <dt>Sales without item</dt>
                  <dd>
                    {channel.income_account_id === null ? 'left to these books' : nameOf(channel.income_account_id)},
                    tax code {taxCodes.find((t) => t.id === channel.tax_code_id)?.code ?? 'left to these books'}
                  </dd>
                  <dt>Refunds</dt>
                  <dd>{nameOf(channel.refund_account_id)}</dd>
                  <dt>Tips</dt>
                  <dd>{nameOf(channel.tips_account_id)}</dd>
                </dl>
              </section>
            ))}
            <section className="box">
              <h2>Bank accounts</h2>
              <dl className="facts">
                {banks.map((bank) => (
                  <div key={bank.account_id} style={{ display: 'contents' }}>
                    <dt>{nameOf(bank.account_id)}</dt>
                    <dd>{bank.iban.replace(/(.{4})/g, '$1 ').trim()}</dd>
                  </div>
                ))}
              </dl>
            </section>
            <section className="box">
              <h2>Items and tax codes</h2>
              <table className="list" aria-label="Items">
                <tbody>
                  {items.map((item) => (
                    <tr key={item.id}>
                      <td>{item.code}</td>
                      <td>{nameOf(item.income_account_id)}</td>
                      <td>{taxCodes.find((t) => t.id === item.tax_code_id)?.code}</td>
                    </tr>
                  ))}
                  {taxCodes.map((code) => (
                    <tr key={`tax-${code.id}`}>
                      <td>{code.code}</td>
                      <td>
                        {code.name}, {nameOf(code.account_id)}
                      </td>
                      <td>{percent(code.rate)}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </section>
          </div>
        </div>
      </main>
    </>
  );
}
