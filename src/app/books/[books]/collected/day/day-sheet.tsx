'use client';

import type { DayAtSite, DayItem } from '@/books/receipts/day-document';
import { formatUnits, type Currency, type Minor } from '@/core/money';
import { plural } from '@/core/words';
import { useMoney } from '@/ui/frame/books-context';
import { Mark } from '@/ui/parts/mark';
import { TableHeads } from '@/ui/parts/plain-table';

/** One site's day, as its till prints it: what was sold, how it was paid, and whether the two are the same. */
export function DaySheet({ site, currency }: { site: DayAtSite; currency: Currency }) {
  const inBooks = useMoney();
  const money = (amount: Minor) => inBooks(amount, currency);
  const beside = [
    { name: 'Tips', amount: site.tips },
    { name: 'Paid on invoices', amount: site.invoices },
    { name: 'Given back or taken back', amount: site.back },
  ].filter(({ amount }) => amount !== 0);
  const row = (item: DayItem) => (
    <>
      <td>{item.name}</td>
      <td className="num">{formatUnits(item.units)}</td>
      <td className="num">{money(item.gross)}</td>
      <td className="num">{item.discount === 0 ? '' : money(item.discount)}</td>
      <td className="num">{item.tax === null ? <span className="soft">not decided</span> : money(item.tax)}</td>
      <td className="num">{money(item.paid)}</td>
    </>
  );
  return (
    <section className="two mb-3 day" aria-label={`${site.site}, the day`}>
      <div className="surface">
        <table className="list" aria-label={`${site.site}, what was sold`}>
          <TableHeads
            heads={[
              site.site,
              { name: 'Units', num: true },
              { name: 'Gross', num: true },
              { name: 'Discounts', num: true },
              { name: 'Tax in it', num: true },
              { name: 'Paid', num: true },
            ]}
          />
          <tbody>
            {site.items.map((item) => (
              <tr key={item.name}>{row(item)}</tr>
            ))}
            <tr className="totals">{row(site.total)}</tr>
            {beside.map(({ name, amount }) => (
              <tr key={name}>
                <td colSpan={5}>{name}</td>
                <td className="num">{money(amount)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <div className="surface">
        <table className="list" aria-label={`${site.site}, how it was paid`}>
          <TableHeads heads={['Paid by', { name: 'Amount', num: true }]} />
          <tbody>
            {site.tenders.map(({ name, amount }) => (
              <tr key={name}>
                <td>{name}</td>
                <td className="num">{money(amount)}</td>
              </tr>
            ))}
            <tr className="totals">
              <td>All tenders</td>
              <td className="num">{money(site.tendered)}</td>
            </tr>
          </tbody>
        </table>
        <div className="p-2">
          {site.differs === 0 ? (
            <Mark kind="matched">Tenders are what was sold and the rest beside it</Mark>
          ) : (
            <Mark kind="look">{`Tenders are ${money(site.differs)} away from what was sold`}</Mark>
          )}
          <div className="small soft">
            {plural(site.receipts, 'receipt')}
            {site.notPosted > 0 ? `, ${site.notPosted} of them not posted` : ', all posted'}
          </div>
        </div>
      </div>
    </section>
  );
}
