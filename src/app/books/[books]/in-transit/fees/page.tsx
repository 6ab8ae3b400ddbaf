import Link from 'next/link';
import { chargedOtherwise, type ChargedOtherwise } from '@/books/proof/charges';
import { feeChecks, otherwiseInAll, type ChargedSum, type FeeCheck } from '@/books/proof/fee-check';
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
    const of =
      found.find(({ channel }) => channel === asked) ?? found.find((check) => otherwiseInAll(check) > 0) ?? null;
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
            {checks.flatMap((check) =>
              kindsOf(check).map(({ word, of, count, difference, since, before }, index) => (
                <tr key={`${check.channel} ${word}`}>
                  <td>
                    {index > 0 ? null : (
                      <Link href={`/books/${books}/in-transit/fees?channel=${check.channel}`}>{check.name}</Link>
                    )}
                  </td>
                  <td className="text-nowrap">
                    {index > 0 ? null : scheduleWords(check.schedule, check.currency)}
                    {index === 0 && check.agreedSince ? (
                      <div className="sub">from {formatDate(check.agreedSince)}</div>
                    ) : null}
                  </td>
                  <td className="num text-nowrap">{plural(of, word)}</td>
                  <td className="num">{count === 0 ? '' : counted(count)}</td>
                  <td className="num">{formatAmount(difference, check.currency)}</td>
                  <td className="text-nowrap">
                    {since === null ? (
                      <Mark kind="matched">as agreed</Mark>
                    ) : (
                      <>
                        <Mark kind="look">{formatDate(since)}</Mark>
                        {before > 0 ? <div className="sub">and {counted(before)} before</div> : null}
                      </>
                    )}
                  </td>
                  <td className="wide">
                    {index > 0 ? null : learntWords(check)}{' '}
                    {index === 0 && check.learnt ? (
                      <Link href={`/books/${books}/banked/learnt`}>Agree to it</Link>
                    ) : null}
                  </td>
                </tr>
              )),
            )}
          </PlainTable>
        )}
        {open && rows.length === 0 ? <p className="soft mt-3">All that {open.name} charged is as agreed.</p> : null}
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
                Export all {counted(otherwiseInAll(open))} (CSV)
              </a>
            </p>
            {otherwiseInAll(open) > rows.length ? (
              <p className="soft small mt-1">
                The newest {rows.length} of {counted(otherwiseInAll(open))} are listed.
              </p>
            ) : null}
          </>
        ) : null}
      </main>
    </>
  );
}

/** What a channel charged, by what it was charged for; a kind of which there is nothing is left out. */
function kindsOf({ charged, otherwise, difference, since, before, payouts, deposits }: FeeCheck) {
  const receipts: ChargedSum = { of: charged, count: otherwise, difference, since };
  return [
    { word: 'receipt', ...receipts, before },
    { word: 'payout', ...payouts, before: 0 },
    { word: 'deposit', ...deposits, before: 0 },
  ].filter(({ of }) => of > 0);
}
