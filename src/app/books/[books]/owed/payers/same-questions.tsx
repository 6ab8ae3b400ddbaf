'use client';

import Button from 'react-bootstrap/Button';
import type { SamePayerQuestion } from '@/books/payers/same';
import { formatDay } from '@/core/calendar';
import { plural } from '@/core/words';
import { useBooks, useMoney } from '@/ui/frame/books-context';
import { useToasts } from '@/ui/frame/toasts';
import { saidIsNow } from '../../actions';

/** Names that came with an email that another payer has: whether they are one is asked, never guessed. */
export function SameQuestions({ questions }: { questions: readonly SamePayerQuestion[] }) {
  const { id } = useBooks();
  const money = useMoney();
  const toasts = useToasts();
  if (questions.length === 0) return null;
  const answer = async ({ said, payer }: SamePayerQuestion, is: number | null) => {
    const told = await saidIsNow(id, { said, payer: payer?.id ?? null, is });
    if (!told.ok) return toasts.refused(told.what, told.next);
    if (told.change) toasts.changed(told.change);
  };
  return (
    <section className="mb-3" aria-label="One payer or two">
      <h2>One payer or two?</h2>
      <div className="surface">
        <table className="list">
          <tbody>
            {questions.map((question) => {
              const { said, payer, others, receipts, gross, last } = question;
              const choices = [...(payer ? [payer] : []), ...others];
              return (
                <tr key={`${said} ${payer?.id ?? 0}`}>
                  <td className="wide">
                    {said}
                    <div className="small soft">
                      {plural(receipts, 'receipt')}, {money(gross)}, last on {formatDay(last)};{' '}
                      {payer ? `put under ${payer.name}, who has this email` : 'several payers have this email'}
                    </div>
                  </td>
                  <td className="text-end text-nowrap">
                    {choices.map((one) => (
                      <Button
                        key={one.id}
                        size="sm"
                        variant="plain"
                        className="ms-2"
                        onClick={() => void answer(question, one.id)}
                      >
                        It is {one.name}
                      </Button>
                    ))}
                    <Button size="sm" variant="plain" className="ms-2" onClick={() => void answer(question, null)}>
                      A payer of their own
                    </Button>
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
    </section>
  );
}
