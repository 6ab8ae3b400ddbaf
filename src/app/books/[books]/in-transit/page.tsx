import Link from 'next/link';
import { cursorParam } from '@/books/lists/page';
import { payoutEntry } from '@/books/payouts/entry';
import { expectedArrivals, listPayouts, payoutDetail, payoutFilter } from '@/books/payouts/list';
import { railOf } from '@/books/today/rail';
import { formatAmount } from '@/core/money';
import { PageTabs } from '@/ui/frame/rail';
import { ExpectedChart } from '@/ui/charts/expected-chart';
import { FilterChips, ListFoot } from '@/ui/parts/list-frame';
import { Empty } from '@/ui/parts/notice';
import { openBooks } from '../../../server/books';
import { idParam, readFilter, single, type SearchParams } from '../../../server/params';
import { IN_TRANSIT_PAGES } from './pages';
import { PayoutList } from './payout-list';
import { PayoutPanel } from './payout-panel';

interface Props {
  readonly params: Promise<{ books: string }>;
  readonly searchParams: SearchParams;
}

export default async function PayoutsPage({ params, searchParams }: Props) {
  const { books: id } = await params;
  const search = await single(searchParams);
  const filter = readFilter(payoutFilter, search, {});
  const selected = idParam(search.payout);
  const { rail, list, expected, detail, entry } = await openBooks(id).read(async (db) => {
    const figures = await railOf(db, new Date());
    const open = selected === null ? null : await payoutDetail(db, selected);
    return {
      rail: figures,
      list: await listPayouts(db, filter, figures.today, cursorParam.parse(search.after)),
      expected: await expectedArrivals(db),
      detail: open,
      entry: open === null ? [] : await payoutEntry(db, open.id),
    };
  });
  const { inTransit, currency, today } = rail;
  return (
    <>
      <PageTabs pages={IN_TRANSIT_PAGES} />
      <main>
        <div className="page-head">
          <h1>Payouts</h1>
          <span className="soft">
            Held by channels:{' '}
            {inTransit.account === null ? (
              formatAmount(inTransit.amount, currency)
            ) : (
              <Link href={`/books/${id}/accounts/${inTransit.account}`}>
                {formatAmount(inTransit.amount, currency)}
              </Link>
            )}
            , as the ledger says
          </span>
        </div>
        <FilterChips
          param="state"
          choices={[
            { value: '', label: 'All' },
            { value: 'in-transit', label: 'Not banked' },
            { value: 'late', label: 'Late' },
            { value: 'seen', label: 'To confirm' },
            { value: 'banked', label: 'Banked' },
            { value: 'differs', label: 'Not adding up' },
          ]}
        />
        <div className="split">
          {list.totals.count === 0 ? (
            <Empty title={filter.state ? 'No payout is like this' : 'No payouts yet'}>
              <p>{filter.state ? 'Choose another filter above.' : 'They come in with a channel’s export.'}</p>
              <Link
                className="btn btn-plain"
                href={filter.state ? `/books/${id}/in-transit` : `/books/${id}/collected/bring-in`}
              >
                {filter.state ? 'Show all' : 'Bring in receipts'}
              </Link>
            </Empty>
          ) : (
            <div className="surface">
              <PayoutList rows={list.rows} totals={list.totals} today={today} />
              <ListFoot shown={list.rows.length} total={list.totals.count} next={list.next} list="payouts" />
            </div>
          )}
          <div className="sticky-panel">
            {detail ? (
              <PayoutPanel payout={detail} today={today} entry={entry} />
            ) : (
              <div className="box">
                <h2>Expected at the bank</h2>
                <ExpectedChart days={expected} />
              </div>
            )}
          </div>
        </div>
      </main>
    </>
  );
}
