import Link from 'next/link';
import { accountBalances, accountBalancesUnder } from '@/books/ledger/balances';
import { valuesInUse } from '@/books/ledger/register';
import { railOf } from '@/books/today/rail';
import { parsePlainDate, formatDate } from '@/core/calendar';
import { formatAmount, minor, sum, type Minor } from '@/core/money';
import { PageTabs } from '@/ui/frame/rail';
import { UnderChips } from '@/ui/parts/list-frame';
import { Mark } from '@/ui/parts/mark';
import { openBooks } from '../../../../server/books';
import { idParam, single, type SearchParams } from '../../../../server/params';
import { PROVED_PAGES } from '../pages';
import { AsOf } from '@/ui/parts/as-of';
import { TableHeads } from '@/ui/parts/plain-table';

interface Props {
  readonly params: Promise<{ books: string }>;
  readonly searchParams: SearchParams;
}

export default async function TrialBalancePage({ params, searchParams }: Props) {
  const { books: id } = await params;
  const search = await single(searchParams);
  const asked = parsePlainDate(search.date ?? '');
  const { rail, accounts, date, values, value } = await openBooks(id).read(async (db) => {
    const figures = await railOf(db, new Date());
    const asOf = asked ?? figures.today;
    const inUse = await valuesInUse(db);
    const under = inUse.find(({ id: of }) => of === idParam(search.value));
    const balances = under ? await accountBalancesUnder(db, asOf, under.id) : await accountBalances(db, asOf);
    return { rail: figures, accounts: balances, date: asOf, values: inUse, value: under ?? null };
  });
  const money = (amount: Minor) => formatAmount(amount, rail.currency);
  const debits = sum(accounts.filter((a) => a.balance > 0).map((a) => a.balance));
  const credits = minor(-sum(accounts.filter((a) => a.balance < 0).map((a) => a.balance)));
  const under = value === null ? '' : `&value=${value.id}`;
  const register = (account: number) => `/books/${id}/accounts/${account}${value === null ? '' : `?value=${value.id}`}`;
  const moved = accounts.filter((a) => a.debit !== 0 || a.credit !== 0);
  return (
    <>
      <PageTabs pages={PROVED_PAGES} />
      <main>
        <div className="page-head">
          <h1>Trial balance</h1>
          <AsOf date={date} />
          {value === null ? (
            <Mark kind={debits === credits ? 'matched' : 'look'}>
              {debits === credits
                ? `foots at ${money(debits)}`
                : `does not foot: ${money(debits)} and ${money(credits)}`}
            </Mark>
          ) : (
            <span className="soft">only what is booked under {value.name}: the other side of it has no such name</span>
          )}
          <div className="acts">
            <a className="btn btn-plain" href={`/api/books/${id}/export/trial-balance?date=${date}${under}`} download>
              Export (CSV)
            </a>
          </div>
        </div>
        <UnderChips values={values} />
        <div className="surface">
          <table className="list" aria-label={`Trial balance at the end of ${formatDate(date)}`}>
            <TableHeads
              heads={['Code', 'Account', 'Class', { name: 'Debit', num: true }, { name: 'Credit', num: true }]}
            />
            <tbody>
              {moved.map((account) => (
                <tr key={account.id}>
                  <td>{account.code}</td>
                  <td>
                    <Link href={register(account.id)}>{account.name}</Link>
                  </td>
                  <td className="soft">{account.class}</td>
                  <td className="num">
                    {account.balance > 0 ? <Link href={register(account.id)}>{money(account.balance)}</Link> : ''}
                  </td>
                  <td className="num">
                    {account.balance < 0 ? (
                      <Link href={register(account.id)}>{money(minor(-account.balance))}</Link>
                    ) : (
                      ''
                    )}
                  </td>
                </tr>
              ))}
              <tr className="totals">
                <td />
                <td>Total</td>
                <td />
                <td className="num">{money(debits)}</td>
                <td className="num">{money(credits)}</td>
              </tr>
            </tbody>
          </table>
        </div>
        {moved.length < accounts.length ? (
          <p className="soft small mt-2">{accounts.length - moved.length} accounts without movements are left out.</p>
        ) : null}
      </main>
    </>
  );
}
