import type { Tried } from '@/books/matching/statement-rules';
import { formatDay } from '@/core/calendar';
import { plural } from '@/core/words';
import { useMoney } from '@/ui/frame/books-context';
import { Mark } from '@/ui/parts/mark';

/** What a rule would take of the past, the newest first: what it collides with, what is booked already. */
export function TriedView({ tried }: { readonly tried: Tried }) {
  const money = useMoney();
  const { count, amount, collisions, explained, lines } = tried;
  if (count === 0) return <section className="soft">Nothing that ever came in is like this.</section>;
  return (
    <section className="flush" aria-label="Tried on the past">
      <p className="p-2 mb-0">
        It is so of {plural(count, 'line')}, {money(amount)}
        {explained > 0
          ? `; ${explained} of them are explained by payouts, invoices or receipts, which no rule takes`
          : ''}
        {collisions > 0 ? `; ${collisions} would be booked otherwise by another rule` : ''}.
      </p>
      <div style={{ maxHeight: '14rem', overflowY: 'auto' }}>
        <table className="list" aria-label="Lines of the past">
          <tbody>
            {lines.map((line) => (
              <tr key={line.id}>
                <td className="text-nowrap">{formatDay(line.date)}</td>
                <td className="wide">{line.text}</td>
                <td>
                  {line.explained ? (
                    <Mark kind="matched">explained</Mark>
                  ) : line.matched ? (
                    <Mark kind="posted">{line.matched}</Mark>
                  ) : line.collides.length > 0 ? (
                    <Mark kind="look">{line.collides.join(', ')}</Mark>
                  ) : (
                    <Mark kind="new">to explain</Mark>
                  )}
                </td>
                <td className="num">{money(line.amount)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {count > lines.length ? <p className="soft small p-2 mb-0">The newest {lines.length} are listed.</p> : null}
    </section>
  );
}
