import Link from 'next/link';
import { chargedOtherwise, type ChargedOtherwise } from '@/books/proof/charges';
import { feeChecks, type ChargedSum, type FeeCheck } from '@/books/proof/fee-check';
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

/** As many are listed on the page; all are in the export. */
const LISTED = 100;

const inAll = (check: FeeCheck) => check.otherwise + check.payouts.count + check.deposits.count;

/** Where each kind of charge is looked at. */
const WHERE: Readonly<Record<ChargedOtherwise['kind'], { readonly word: string; readonly at: string }>> = {
  receipt: { word: 'Receipt', at: 'collected?receipt=' },
  payout: { word: 'Payout', at: 'in-transit?payout=' },
  deposit: { word: 'Deposit', at: 'banked?state=matched&line=' },
};

/** What channels charged otherwise than their schedules: how much in all, since when, and where. */
export default async function FeesPage({ params, searchParams }: Props) {
  const { books } = await params;
  const asked = idParam((await single(searchParams)).channel);
  const { checks, rows, open } = await openBooks(books).read(async (db) => {
    const found = await feeChecks(db);
    const of = found.find(({ channel }) => channel === asked) ?? found.find((check) => inAll(check) > 0) ?? null;
    return { checks: found, open: of, rows: of ? await chargedOtherwise(db, of.channel, LISTED) : [] };
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
                  {besides(check, 'payout', check.payouts)}
                  {besides(check, 'deposit', check.deposits)}
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
              label="Charged otherwise"
              heads={[
                'Date',
                'What',
                'Payer',
                { name: 'Gross', num: true },
                { name: 'By schedule', num: true },
                { name: 'Charged', num: true },
                { name: 'Too much', num: true },
              ]}
            >
              {rows.map((row) => (
                <tr key={`${row.kind} ${row.id}`}>
                  <td className="text-nowrap">{formatDate(row.date)}</td>
                  <td className="wide">
                    {WHERE[row.kind].word}{' '}
                    <Link href={`/books/${books}/${WHERE[row.kind].at}${row.id}`}>{row.name}</Link>
                  </td>
                  <td>{row.payer}</td>
                  <td className="num">{formatAmount(row.gross, open.currency)}</td>
                  <td className="num">{formatAmount(row.bySchedule, open.currency)}</td>
                  <td className="num">{formatAmount(row.charged, open.currency)}</td>
                  <td className="num">{formatAmount(subtract(row.charged, row.bySchedule), open.currency)}</td>
                </tr>
              ))}
            </PlainTable>
            <p className="small mt-1 mb-0">
              <a href={`/api/books/${books}/export/charged-otherwise?channel=${open.channel}`} download>
                Export all {counted(inAll(open))} (CSV)
              </a>
            </p>
            {inAll(open) > rows.length ? (
              <p className="soft small mt-1">
                The newest {rows.length} of {counted(inAll(open))} are listed.
              </p>
            ) : null}
          </>
        ) : null}
      </main>
    </>
  );
}

/** What payouts or deposits came to beside the receipts, and since when. */
function besides(check: FeeCheck, one: string, { count, difference, since }: ChargedSum) {
  return count === 0 ? null : (
    <div className="sub">
      {plural(count, one)} since {formatDate(since!)}: {formatAmount(difference, check.currency)}
    </div>
  );
}
