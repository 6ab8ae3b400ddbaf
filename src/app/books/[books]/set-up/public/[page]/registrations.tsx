'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import Button from 'react-bootstrap/Button';
import type { RegistrationRow } from '@/books/public/register';
import { useBooks, useMoney } from '@/ui/frame/books-context';
import { useToasts } from '@/ui/frame/toasts';
import { Mark } from '@/ui/parts/mark';
import { giveUpNow } from '../actions';

/** Who registered, and whether they paid. */
export function Registrations({ rows }: { rows: readonly RegistrationRow[] }) {
  const { id } = useBooks();
  const money = useMoney();
  const router = useRouter();
  const toasts = useToasts();
  const giveUp = async (registration: number) => {
    const answer = await giveUpNow(id, registration);
    if (!answer.ok) return toasts.refused(answer.what, answer.next);
    if (answer.change) toasts.changed(answer.change);
    router.refresh();
  };
  return (
    <section className="mt-3">
      <h2>Registered</h2>
      <div className="surface">
        <table className="list" aria-label="Registered">
          <tbody>
            {rows.map((row) => (
              <tr key={row.id}>
                <td>{row.name}</td>
                <td>{row.email}</td>
                <td className="num">{row.places}</td>
                <td>
                  {row.invoice ? (
                    <Link href={`/books/${id}/owed?invoice=${row.invoice.id}`}>{row.invoice.number}</Link>
                  ) : (
                    'free'
                  )}
                </td>
                <td>
                  {row.givenUp ? (
                    <Mark kind="aside">given up</Mark>
                  ) : !row.invoice || row.invoice.open <= 0 ? (
                    <Mark kind="matched">paid</Mark>
                  ) : (
                    <Mark kind="new">{`${money(row.invoice.open)} open`}</Mark>
                  )}
                </td>
                <td className="text-end">
                  {row.givenUp ? null : (
                    <Button
                      variant="link"
                      size="sm"
                      className="p-0"
                      aria-label={`Give up the registration of ${row.name}`}
                      onClick={() => void giveUp(row.id)}
                    >
                      Give up
                    </Button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}
