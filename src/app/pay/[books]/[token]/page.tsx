import type { Metadata } from 'next';
import QRCode from 'qrcode';
import { cameOf, noteSeen, payPage } from '@/books/paying/pay-page';
import { formatDate } from '@/core/calendar';
import { formatAmount, formatPercent, formatUnits, subtract, type Minor } from '@/core/money';
import { BeginButton } from '@/ui/public/begin-button';
import { PublicFrame, PublicWord } from '@/ui/public/public-frame';
import { WaitFor } from '@/ui/public/wait-for';
import { openBooks } from '../../../server/books';
import { single, type SearchParams } from '../../../server/params';
import { NoPublicPage } from '../../../server/no-public-page';
import { tooOften } from '../../../server/rate-limit';
import { payNow } from './actions';

export const metadata: Metadata = { title: 'Invoice', robots: { index: false, follow: false } };

interface Props {
  readonly params: Promise<{ books: string; token: string }>;
  readonly searchParams: SearchParams;
}

/** The public page of one invoice: what it says, what is to pay today, and how. */
export default async function PayLinkPage({ params, searchParams }: Props) {
  const { books: id, token } = await params;
  const { back } = await single(searchParams);
  const books = openBooks(id);
  if (await tooOften('look', token)) {
    return (
      <PublicWord name="" title="This page was asked for too often">
        <p>Wait a minute and load it again.</p>
      </PublicWord>
    );
  }
  const page = await books.read((db) => payPage(db, token, new Date()));
  if (!page) {
    return (
      <NoPublicPage
        title="There is no invoice at this address"
        look="Look whether the link is whole, or ask who sent it to you."
      />
    );
  }
  const { document, asked, discount, state, receipts } = page;
  const { from, to } = document;
  await noteSeen(books, page.invoice, document.version, new Date());
  const money = (amount: Minor) => `${formatAmount(amount, from.currency)} ${from.currency}`;
  const code = page.transferCode
    ? await QRCode.toString(page.transferCode, { type: 'svg', errorCorrectionLevel: 'M', margin: 1 })
    : null;
  const pay = async () => {
    'use server';
    return payNow(id, token);
  };
  const waits = back === '1' && page.underWay;
  const settled = subtract(subtract(document.gross, document.paid), asked);
  return (
    <PublicFrame name={from.name} about={[from.address.replace(/\n/g, ', '), from.email].filter(Boolean).join(' · ')}>
      <h1>Invoice {document.number}</h1>
      <p className="soft">
        For <bdi>{to.name}</bdi>, issued {formatDate(document.issued)}, to be paid by {formatDate(document.due)}
        {document.reference ? (
          <>
            , your reference <bdi>{document.reference}</bdi>
          </>
        ) : null}
      </p>
      {page.changedSince ? (
        <p className="notice waits" role="status">
          This invoice was changed since it was sent to you: it said {money(page.changedSince.gross)} then.
        </p>
      ) : null}
      {waits ? <WaitFor>Your payment is being confirmed.</WaitFor> : null}
      <section className="ask" aria-label="To pay">
        {state === 'void' ? (
          <>
            <div className="figure">Void</div>
            <p>This invoice was taken back: nothing is to be paid.</p>
          </>
        ) : state === 'paid' ? (
          <>
            <div className="figure">Paid</div>
            <p>Nothing is left to pay. Thank you.</p>
          </>
        ) : (
          <>
            <div className="soft">To pay today</div>
            <div className="figure">{money(asked)}</div>
            {discount > 0 && document.early ? (
              <p>
                {money(discount)} is taken off because you pay by {formatDate(document.early.until)}; afterwards it is{' '}
                {money((asked + discount) as Minor)}.
              </p>
            ) : null}
            {page.takesCards && !waits ? <BeginButton begin={pay}>Pay by card</BeginButton> : null}
          </>
        )}
      </section>
      {receipts.length > 0 ? (
        <section aria-label="What came">
          <h2>What came, {money(cameOf(page))}</h2>
          {receipts.map((receipt) => (
            <div key={receipt.receipt} className="d-flex gap-3">
              <span>{formatDate(receipt.date)}</span>
              <span className="num">{money(receipt.amount)}</span>
              <a href={`/pay/${id}/${token}/receipt/${receipt.receipt}`}>Receipt {receipt.name} (PDF)</a>
            </div>
          ))}
        </section>
      ) : null}
      {state === 'open' && from.bank ? (
        <section className="transfer" aria-label="By bank transfer">
          <div>
            <h2>Or by bank transfer</h2>
            <dl className="facts">
              <dt>To</dt>
              <dd>{from.name}</dd>
              <dt>IBAN</dt>
              <dd>{from.bank.iban.replace(/(.{4})/g, '$1 ').trim()}</dd>
              {from.bank.bic ? (
                <>
                  <dt>BIC</dt>
                  <dd>{from.bank.bic}</dd>
                </>
              ) : null}
              <dt>Amount</dt>
              <dd>{money(asked)}</dd>
              <dt>Reference</dt>
              <dd>{document.number}</dd>
            </dl>
          </div>
          {code ? (
            <figure>
              {/* eslint-disable-next-line @next/next/no-img-element */}
              <img
                alt="Code that fills the transfer in, for your bank’s app"
                src={`data:image/svg+xml;base64,${Buffer.from(code).toString('base64')}`}
                width={132}
                height={132}
              />
              <figcaption className="small soft">for your bank’s app</figcaption>
            </figure>
          ) : null}
        </section>
      ) : null}
      <section aria-label="What it is for">
        <h2>What it is for</h2>
        <table className="list">
          <tbody>
            {document.lines.map((line, index) => (
              <tr key={index}>
                <td>
                  <bdi>{line.description || line.itemName}</bdi>
                  <div className="sub">
                    {formatUnits(line.quantity)} × {formatAmount(line.price, from.currency)}
                    {line.discount > 0 ? `, ${formatPercent(line.discount)} off` : ''}, tax {formatPercent(line.rate)}
                  </div>
                </td>
                <td className="num">{money(line.net)}</td>
              </tr>
            ))}
          </tbody>
          <tfoot>
            {document.taxes.map((tax) => (
              <tr key={`${tax.category} ${tax.rate}`}>
                <td>
                  Tax {formatPercent(tax.rate)} on {money(tax.net)}
                </td>
                <td className="num">{money(tax.tax)}</td>
              </tr>
            ))}
            <tr className="totals">
              <td>Total</td>
              <td className="num">{money(document.gross)}</td>
            </tr>
            {settled > discount || document.paid > 0 ? (
              <tr>
                <td>Settled so far</td>
                <td className="num">{money((document.gross - asked - discount) as Minor)}</td>
              </tr>
            ) : null}
          </tfoot>
        </table>
        {document.note ? (
          <p className="pre-line">
            <bdi>{document.note}</bdi>
          </p>
        ) : null}
        <a href={`/pay/${id}/${token}/pdf`}>The invoice as PDF</a>
      </section>
    </PublicFrame>
  );
}
