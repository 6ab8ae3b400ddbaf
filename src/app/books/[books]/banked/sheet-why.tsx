'use client';

import type { Sheet, SheetWay } from '@/books/matching/sheet';
import { formatDay } from '@/core/calendar';
import { sum } from '@/core/money';
import { useMoney } from '@/ui/frame/books-context';
import { Mark } from '@/ui/parts/mark';
import { CERTAINTY_MARKS } from './certainty';

interface Props {
  readonly sheet: Sheet;
  readonly onLay: (way: SheetWay) => void;
}

/** How sure a proposal is and why, and beside it the other ways, each of which can be laid. */
export function SheetWhy({ sheet, onLay }: Props) {
  const money = useMoney();
  if (sheet.because.length === 0 && sheet.others.length === 0) return null;
  const mark = CERTAINTY_MARKS[sheet.certainty ?? 'none'];
  return (
    <section className="why">
      <div>
        <h2>
          <Mark kind={mark.kind}>{mark.word}</Mark>, because
        </h2>
        <ul>
          {sheet.because.map((reason) => (
            <li key={reason}>{reason}</li>
          ))}
        </ul>
      </div>
      {sheet.others.length > 0 ? (
        <div>
          <h2>Possible</h2>
          <ul>
            {sheet.others.map((way, index) => (
              <li key={index}>
                <button type="button" className="btn btn-link btn-sm p-0 text-start" onClick={() => onLay(way)}>
                  Lay {way.parts[0]!.title}
                  {way.parts.length > 1 ? ` and ${way.parts.length - 1} more` : ''}, of {formatDay(way.parts[0]!.date)},{' '}
                  {money(sum(way.parts.map(({ net }) => net)))}
                </button>
                <div className="soft small">{way.because.join('; ')}</div>
              </li>
            ))}
          </ul>
        </div>
      ) : null}
    </section>
  );
}
