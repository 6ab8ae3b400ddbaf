import Link from 'next/link';
import { plainDateInput } from '@/books/command/plain-date-input';
import { agedInvoices, ageing } from '@/books/settling/ageing';
import { todayOf } from '@/books/setup/today';
import { formatDate } from '@/core/calendar';
import { formatAmount, type Minor } from '@/core/money';
import { AGEING_SPANS } from '@/core/receivables';
import { plural } from '@/core/words';
import { AgeingChart } from '@/ui/charts/ageing-chart';
import { PageTabs } from '@/ui/frame/rail';
import { Empty } from '@/ui/parts/notice';
import { openBooks } from '../../../../server/books';
import { idParam, single, type SearchParams } from '../../../../server/params';
import { AsOf } from '@/ui/parts/as-of';
import { OWED_PAGES } from '../pages';

interface Props {
  readonly params: Promise<{ books: string }>;
  readonly searchParams: SearchParams;
}

export default async function AgeingPage({ params, searchParams }: Props) {
  const { books: id } = await params;
  const search = await single(searchParams);
  const payer = idParam(search.payer);
  const { currency, aged, invoices } = await openBooks(id).read(async (db) => {
    const row = await db.selectFrom('books').selectAll().executeTakeFirstOrThrow();
    const asked = plainDateInput.safeParse(search.date);
    const asOf = asked.success ? asked.data : todayOf(row, new Date());
    return {
      currency: row.currency,
      aged: await ageing(db, asOf),
      invoices: payer === null ? [] : await agedInvoices(db, payer, asOf),
    };
  });
  const money = (amount: Minor) => (amount === 0 ? '' : formatAmount(amount, currency));
  const { rows, totals, beside, balance, asOf } = aged;
  return (
    <>
      <PageTabs pages={OWED_PAGES} />
      <main>
        <div className="page-head">
          <h1>Who owes how long</h1>
          <span className="soft">at the end of {formatDate(asOf)}</span>
          <div className="acts">
            <AsOf date={asOf} />
          </div>
        </div>
        {rows.length === 0 ? (
          <Empty title="Nobody owed anything">
            <p>Invoices that are posted and open on the day stand here, by how long they have been due.</p>
          </Empty>
        ) : (
          <div className="split wide-left">
            <div className="surface">
              <table className="list" aria-label="Ageing by payer">
                <thead>
                  <tr>
                    <th scope="col">Payer</th>
                    {AGEING_SPANS.map(({ key, label }) => (
                      <th scope="col" key={key} className="num">
                        {label}
                      </th>
                    ))}
                    <th scope="col" className="num">
                      Open
                    </th>
                  </tr>
                  <tr className="totals">
                    <td>{plural(aged.payers, 'payer')}</td>
                    {AGEING_SPANS.map(({ key }) => (
                      <td key={key} className="num">
                        {money(totals[key])}
                      </td>
                    ))}
                    <td className="num">{formatAmount(totals.open, currency)}</td>
                  </tr>
                </thead>
                <tbody>
                  {rows.map((row) => (
                    <tr key={row.payer} aria-current={row.payer === payer ? 'true' : undefined}>
                      <td className="wide">
                        <Link href={`?date=${asOf}&payer=${row.payer}`} scroll={false}>
                          {row.name}
                        </Link>
                      </td>
                      {AGEING_SPANS.map(({ key }) => (
                        <td key={key} className="num">
                          {money(row[key])}
                        </td>
                      ))}
                      <td className="num">{formatAmount(row.open, currency)}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
              <div className="pager">
                <span>
                  {rows.length} of {aged.payers}
                </span>
                <a className="ms-auto" href={`/api/books/${id}/export/ageing?date=${asOf}`} download>
                  Export what is shown (CSV)
                </a>
              </div>
            </div>
            <div className="sticky-panel">
              <section className="box">
                <AgeingChart totals={totals} />
                <dl className="facts">
                  <dt>Open on invoices</dt>
                  <dd className="num">{formatAmount(totals.open, currency)}</dd>
                  {beside !== 0 ? (
                    <>
                      <dt>Beside invoices, from the opening</dt>
                      <dd className="num">{formatAmount(beside, currency)}</dd>
                    </>
                  ) : null}
                  <dt>Receivable account on that day</dt>
                  <dd className="num">{formatAmount(balance, currency)}</dd>
                </dl>
              </section>
              {invoices.length > 0 ? (
                <section className="box" aria-label="Its invoices">
                  <h2>
                    <Link href={`/books/${id}/owed/payers/${payer}`}>
                      {rows.find((row) => row.payer === payer)?.name ?? 'Payer'}
                    </Link>
                  </h2>
                  <table className="list">
                    <tbody>
                      {invoices.map((invoice) => (
                        <tr key={invoice.id}>
                          <td>
                            <Link href={`/books/${id}/owed?invoice=${invoice.id}`}>{invoice.number}</Link>
                          </td>
                          <td className="soft">due {formatDate(invoice.due)}</td>
                          <td className="num">{formatAmount(invoice.open, currency)}</td>
                        </tr>
                      ))}
                    </tbody>
                  </table>
                </section>
              ) : null}
            </div>
          </div>
        )}
      </main>
    </>
  );
}
