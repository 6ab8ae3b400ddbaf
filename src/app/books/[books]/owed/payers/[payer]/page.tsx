import Link from 'next/link';
import { notFound } from 'next/navigation';
import { attachmentsOf } from '@/books/billing/attachments';
import { takingPlaces } from '@/books/by-hand/places';
import { plainDateInput } from '@/books/command/plain-date-input';
import { statementOfAccount } from '@/books/payers/account';
import { payerDetails } from '@/books/payers/details';
import { creditsOf, openInvoicesOf } from '@/books/settling/open';
import { todayOf } from '@/books/setup/today';
import { addDays, formatDate } from '@/core/calendar';
import { formatAmount, sum } from '@/core/money';
import { PageTabs } from '@/ui/frame/rail';
import { Attachments } from '@/ui/parts/attachments';
import { Empty } from '@/ui/parts/notice';
import { openBooks } from '../../../../../server/books';
import { idParam, single, type SearchParams } from '../../../../../server/params';
import { setAttachmentNow } from '../../actions';
import { OWED_PAGES } from '../../pages';
import { EditPayer } from './edit-payer';
import { PayBack } from './pay-back';
import { TableHeads } from '@/ui/parts/plain-table';

interface Props {
  readonly params: Promise<{ books: string; payer: string }>;
  readonly searchParams: SearchParams;
}

const SPAN = 90;

export default async function PayerPage({ params, searchParams }: Props) {
  const { books, payer } = await params;
  const id = idParam(payer) ?? notFound();
  const search = await single(searchParams);
  const { currency, details, account, credits, open, terms, channels, files, places } = await openBooks(books).read(
    async (db) => {
      const row = await db.selectFrom('books').selectAll().executeTakeFirstOrThrow();
      const today = todayOf(row, new Date());
      const day = (text: string | undefined, otherwise: typeof today) => {
        const read = plainDateInput.safeParse(text);
        return read.success ? read.data : otherwise;
      };
      const [from, to] = [day(search.from, addDays(today, -SPAN)), day(search.to, today)];
      return {
        currency: row.currency,
        details: (await payerDetails(db, id)) ?? notFound(),
        account: await statementOfAccount(db, id, from, to),
        credits: await creditsOf(db, id),
        open: await openInvoicesOf(db, id, today),
        terms: await db.selectFrom('terms').select(['id', 'name']).where('archived', '=', 0).orderBy('name').execute(),
        channels: await db.selectFrom('channel').select(['id', 'name']).orderBy('name').execute(),
        places: await takingPlaces(db),
        files: await attachmentsOf(db, 'payer', id),
      };
    },
  );
  const money = (amount: Parameters<typeof formatAmount>[0]) => formatAmount(amount, currency);
  const kept = sum(credits.map(({ left }) => left));
  return (
    <>
      <PageTabs pages={OWED_PAGES} />
      <main>
        <div className="page-head">
          <h1>{details.name}</h1>
          {details.archived ? <span className="soft">archived</span> : null}
          <div className="acts">
            {kept > 0 && open.length > 0 ? (
              <Link className="btn btn-plain" href={`/books/${books}/owed/payers/${id}/settle`}>
                Settle invoices…
              </Link>
            ) : null}
            <a
              className="btn btn-plain"
              href={`/api/books/${books}/payers/${id}/account?from=${account.from}&to=${account.to}`}
              download
            >
              Statement of account (PDF)
            </a>
            <EditPayer payer={id} details={details} terms={terms} channels={channels} />
            <Link className="btn btn-primary" href={`/books/${books}/owed/new?payer=${id}`}>
              New invoice
            </Link>
          </div>
        </div>
        <div className="split">
          <div>
            <form className="chips" method="get">
              <label>
                From{' '}
                <input
                  type="date"
                  name="from"
                  defaultValue={account.from}
                  className="form-control form-control-sm d-inline-block w-auto"
                />
              </label>
              <label>
                to{' '}
                <input
                  type="date"
                  name="to"
                  defaultValue={account.to}
                  className="form-control form-control-sm d-inline-block w-auto"
                />
              </label>
              <button className="btn btn-plain btn-sm">Show</button>
            </form>
            <div className="surface">
              <table className="list" aria-label="Account">
                <TableHeads
                  heads={['Date', 'What', 'Document', { name: 'Amount', num: true }, { name: 'Owed', num: true }]}
                />
                <tbody>
                  <tr className="group">
                    <td colSpan={4}>Before {formatDate(account.from)}</td>
                    <td className="num">{money(account.opening)}</td>
                  </tr>
                  {account.lines.map((line, index) => (
                    <tr key={index}>
                      <td className="text-nowrap">{formatDate(line.date)}</td>
                      <td>{line.what}</td>
                      <td>{line.document}</td>
                      <td className="num">{money(line.amount)}</td>
                      <td className="num">{money(line.balance)}</td>
                    </tr>
                  ))}
                  <tr className="totals">
                    <td colSpan={4}>On {formatDate(account.to)}</td>
                    <td className="num">{money(account.closing)}</td>
                  </tr>
                </tbody>
              </table>
            </div>
          </div>
          <div className="sticky-panel">
            <section className="box">
              <dl className="facts">
                <dt>Email</dt>
                <dd>{[details.email, ...details.emails].filter(Boolean).join(', ') || 'none'}</dd>
                <dt>Address</dt>
                <dd className="pre-line">{[details.address, details.country].filter(Boolean).join('\n') || 'none'}</dd>
                <dt>Tax number</dt>
                <dd>{details.taxNumber || 'none'}</dd>
                <dt>Terms</dt>
                <dd>{terms.find((one) => one.id === details.terms)?.name ?? 'at once'}</dd>
                {details.note ? (
                  <>
                    <dt>Note</dt>
                    <dd className="pre-line">{details.note}</dd>
                  </>
                ) : null}
              </dl>
            </section>
            {credits.length > 0 ? (
              <section className="box" aria-label="Kept for them">
                <h2>Kept for them, {money(kept)}</h2>
                {credits.map((credit) => (
                  <div key={credit.name} className="d-flex gap-2 small">
                    <span>{credit.name}</span>
                    <span className="soft">{formatDate(credit.date)}</span>
                    {credit.came ? (
                      <PayBack
                        payer={id}
                        reference={credit.came.reference}
                        left={credit.left}
                        places={places.filter(({ channel }) => channel === credit.came!.channel)}
                      />
                    ) : null}
                    <span className="num ms-auto">{money(credit.left)}</span>
                  </div>
                ))}
              </section>
            ) : null}
            {open.length > 0 ? (
              <section className="box" aria-label="Open">
                <h2>Open, {money(sum(open.map((one) => one.open)))}</h2>
                {open.map((invoice) => (
                  <div key={invoice.id} className="d-flex gap-2 small">
                    <Link href={`/books/${books}/owed?invoice=${invoice.id}`}>{invoice.number}</Link>
                    <span className="soft">due {formatDate(invoice.due)}</span>
                    <span className="num ms-auto">{money(invoice.open)}</span>
                  </div>
                ))}
              </section>
            ) : (
              <Empty title="Nothing is open">
                <p>Invoices that are posted and not settled stand here.</p>
              </Empty>
            )}
            <div className="box">
              <Attachments subject="payer" id={id} list={files} takeOff={setAttachmentNow} />
            </div>
          </div>
        </div>
      </main>
    </>
  );
}
