import { listRates } from '@/books/currencies/rates';
import { formatDate } from '@/core/calendar';
import { formatRate } from '@/core/money';
import { PageTabs } from '@/ui/frame/rail';
import { Empty } from '@/ui/parts/notice';
import { openBooks } from '../../../../server/books';
import { SET_UP_PAGES } from '../pages';
import { RatesForm } from './rates-form';

export default async function RatesPage({ params }: { params: Promise<{ books: string }> }) {
  const { books } = await params;
  const { base, rates, wanted } = await openBooks(books).read(async (db) => {
    const { currency } = await db.selectFrom('books').select('currency').executeTakeFirstOrThrow();
    const channels = await db
      .selectFrom('channel')
      .select(['name', 'currency'])
      .where('currency', '<>', currency)
      .execute();
    return { base: currency, rates: await listRates(db), wanted: channels };
  });
  return (
    <>
      <PageTabs pages={SET_UP_PAGES} />
      <main>
        <div className="page-head">
          <h1>Rates</h1>
          <span className="soft small">what other currencies were worth in {base}, by the day</span>
        </div>
        <div className="split">
          {rates.length === 0 ? (
            <Empty title="No rates yet">
              <p>
                {wanted.length === 0
                  ? `Every channel of these books is in ${base}, so none is needed.`
                  : `${wanted.map(({ name, currency }) => `${name} is in ${currency}`).join(', ')}: its receipts are posted at the rate of their day. Enter the first beside this.`}
              </p>
            </Empty>
          ) : (
            <div className="surface">
              <table className="list" aria-label="Rates">
                <thead>
                  <tr>
                    <th scope="col">From the day</th>
                    <th scope="col">One</th>
                    <th scope="col" className="num">
                      is {base}
                    </th>
                  </tr>
                </thead>
                <tbody>
                  {rates.map(({ day, currency, rate }) => (
                    <tr key={`${day} ${currency}`}>
                      <td>{formatDate(day)}</td>
                      <td>{currency}</td>
                      <td className="num">{formatRate(rate)}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
          )}
          <div className="sticky-panel">
            <RatesForm base={base} />
          </div>
        </div>
      </main>
    </>
  );
}
