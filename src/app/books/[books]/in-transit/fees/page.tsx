import Link from 'next/link';
import { feeChecks, otherwiseCharged } from '@/books/proof/fee-check';
import { formatDate } from '@/core/calendar';
import { scheduleWords } from '@/core/channels';
import { formatAmount, subtract } from '@/core/money';
import { counted, plural } from '@/core/words';
import { PageTabs } from '@/ui/frame/rail';
import { Mark } from '@/ui/parts/mark';
import { Empty } from '@/ui/parts/notice';
import { PlainTable } from '@/ui/parts/plain-table';
import { openBooks } from '../../../../server/books';
import { idParam, single, type SearchParams } from '../../../../server/params';
import { IN_TRANSIT_PAGES } from '../pages';
import { learntWords } from './fee-words';

interface Props {
  readonly params: Promise<{ books: string }>;
  readonly searchParams: SearchParams;
}

/** What channels charged otherwise than their schedules: how much in all, since when, and which receipts. */
export default async function FeesPage({ params, searchParams }: Props) {
  const { books } = await params;
  const asked = idParam((await single(searchParams)).channel);
  const { checks, rows, open } = await openBooks(books).read(async (db) => {
    const found = await feeChecks(db);
    const of = found.find(({ channel }) => channel === asked) ?? found.find(({ otherwise }) => otherwise > 0) ?? null;
    return { checks: found, open: of, rows: of ? await otherwiseCharged(db, of.channel) : [] };
  });
  return (
    <>
      <PageTabs pages={IN_TRANSIT_PAGES} />
      <main>
        <div className="page-head">
          <h1>Fees</h1>
          <span className="soft">what was charged, against each channel’s schedule</span>
        </div>
        {checks.length === 0 ? (
          <Empty title="No fee to check yet">
            <p>Once a channel’s receipts say what it charged, they are compared with its schedule here.</p>
          </Empty>
        ) : (
          <PlainTable
            label="Fees by channel"
            heads={[
              'Channel',
              'Schedule',
              { name: 'Charged', num: true },
              { name: 'Otherwise', num: true },
              { name: 'Too much', num: true },
              'Since',
              'What it fits',
            ]}
          >
            {checks.map((check) => (
              <tr key={check.channel}>
                <td>
                  <Link href={`/books/${books}/in-transit/fees?channel=${check.channel}`}>{check.name}</Link>
                </td>
                <td>
                  {scheduleWords(check.schedule, check.currency)}
                  {check.agreedSince ? <div className="sub">from {formatDate(check.agreedSince)}</div> : null}
                </td>
                <td className="num">{counted(check.charged)}</td>
                <td className="num">{check.otherwise === 0 ? '' : counted(check.otherwise)}</td>
                <td className="num">
                  {formatAmount(check.difference, check.currency)}
                  {check.payouts.count > 0 ? (
                    <div className="sub">
                      {`${plural(check.payouts.count, 'payout')} in total: ${formatAmount(check.payouts.difference, check.currency)}`}
                    </div>
                  ) : null}
                  {check.deposits.count > 0 ? (
                    <div className="sub">
                      {`${plural(check.deposits.count, 'deposit')} besides: ${formatAmount(check.deposits.difference, check.currency)}`}
                    </div>
                  ) : null}
                </td>
                <td className="text-nowrap">
                  {check.since ? (
                    <>
                      <Mark kind="look">{formatDate(check.since)}</Mark>
                      {check.before > 0 ? <div className="sub">and {counted(check.before)} before</div> : null}
                    </>
                  ) : check.payouts.count + check.deposits.count > 0 ? (
                    ''
                  ) : (
                    <Mark kind="matched">as agreed</Mark>
                  )}
                </td>
                <td className="wide">
                  {learntWords(check)}{' '}
                  {check.learnt ? <Link href={`/books/${books}/banked/learnt`}>Agree to it</Link> : null}
                </td>
              </tr>
            ))}
          </PlainTable>
        )}
        {open && rows.length > 0 ? (
          <>
            <h2>Charged otherwise by {open.name}</h2>
            <PlainTable
              label="Receipts charged otherwise"
              heads={[
                'Date',
                'Receipt',
                'Payer',
                { name: 'Gross', num: true },
                { name: 'By schedule', num: true },
                { name: 'Charged', num: true },
                { name: 'Too much', num: true },
              ]}
            >
              {rows.map((row) => (
                <tr key={row.id}>
                  <td className="text-nowrap">{formatDate(row.date)}</td>
                  <td>
                    <Link href={`/books/${books}/collected?receipt=${row.id}`}>{row.name}</Link>
                  </td>
                  <td>{row.payer}</td>
                  <td className="num">{formatAmount(row.gross, open.currency)}</td>
                  <td className="num">{formatAmount(row.bySchedule, open.currency)}</td>
                  <td className="num">{formatAmount(row.fee, open.currency)}</td>
                  <td className="num">{formatAmount(subtract(row.fee, row.bySchedule), open.currency)}</td>
                </tr>
              ))}
            </PlainTable>
            <p className="small mt-1 mb-0">
              <a href={`/api/books/${books}/export/charged-otherwise?channel=${open.channel}`} download>
                Export all {counted(open.otherwise)} (CSV)
              </a>
            </p>
            {open.otherwise > rows.length ? (
              <p className="soft small mt-1">
                The newest {rows.length} of {counted(open.otherwise)} are listed.
              </p>
            ) : null}
          </>
        ) : null}
      </main>
    </>
  );
}
