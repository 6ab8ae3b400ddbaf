'use client';

import type { ReactNode } from 'react';
import type { Sheet } from '@/books/matching/sheet';
import type { SheetPart } from '@/books/matching/parts';
import { formatDay, formatLongDate } from '@/core/calendar';
import { sum, type Minor } from '@/core/money';
import { useMoney } from '@/ui/frame/books-context';
import { TrailAmount } from '@/ui/parts/trail-amount';

/** The line in hand, whole: the bank's text is never cut. */
export function SheetHead({ line }: { line: Sheet['line'] }) {
  const money = useMoney();
  return (
    <header>
      <div>
        <div className="small soft">
          {formatLongDate(line.date)}
          {line.valueDate === line.date ? '' : `, value ${formatDay(line.valueDate)}`} · {line.file}, line{' '}
          {line.fileLine}
        </div>
        <div className="name">{line.text || line.reference || 'No text'}</div>
        <div className="small soft">
          {[line.counterparty, line.reference ? `reference ${line.reference}` : ''].filter(Boolean).join(' · ')}
        </div>
        {line.details.length > 0 ? (
          <ul className="small soft mb-0" aria-label="Payments of this sum">
            {line.details.map((detail, index) => (
              <li key={index}>
                {money(detail.amount)} {[detail.counterparty, detail.text].filter(Boolean).join(': ')}
              </li>
            ))}
          </ul>
        ) : null}
      </div>
      <div className="figure">
        <TrailAmount of={`line:${line.id}`} amount={line.amount} />
      </div>
    </header>
  );
}

/** Where a fee is from, where the channel itself does not say it. */
const FEE_FROM: Readonly<Record<SheetPart['feeFrom'], string | null>> = {
  channel: null,
  schedule: 'by schedule',
  learnt: 'as charged lately',
  none: null,
};

interface PartsProps {
  readonly parts: readonly SheetPart[];
  readonly onTakeOff?: (part: SheetPart) => void;
  /** The remainder and where it goes, as a row of its own. */
  readonly rest?: { readonly amount: Minor; readonly where: ReactNode; readonly note?: string } | null;
  readonly foot?: ReactNode;
}

const noun = (parts: readonly SheetPart[]) => {
  const kinds = new Set(parts.map((part) => part.kind));
  const word = kinds.size === 1 && parts[0]!.kind !== 'account' ? parts[0]!.kind : 'part';
  return `${parts.length} ${word}${parts.length === 1 ? '' : 's'}`;
};

/** An amount of a part, with its trail; what is booked straight to an account has none. */
function PartAmount({ part, amount }: { readonly part: SheetPart; readonly amount: Minor }) {
  const money = useMoney();
  return part.kind === 'account' ? money(amount) : <TrailAmount of={`${part.kind}:${part.id}`} amount={amount} />;
}

/** Parts with dates, gross, fee and net, their sums, and the rest. */
export function PartsTable({ parts, onTakeOff, rest, foot }: PartsProps) {
  const money = useMoney();
  const total = (of: (part: SheetPart) => Minor) => money(sum(parts.map(of)));
  return (
    <table className="list" aria-label="Parts">
      <thead>
        <tr>
          <th scope="col">Part</th>
          <th scope="col" style={{ width: 64 }}>
            Date
          </th>
          <th scope="col" className="num" style={{ width: 92 }}>
            Gross
          </th>
          <th scope="col" className="num" style={{ width: 84 }}>
            Fee
          </th>
          <th scope="col" className="num" style={{ width: 92 }}>
            Net
          </th>
          {onTakeOff ? (
            <th scope="col" style={{ width: 34 }}>
              <span className="visually-hidden">Take off</span>
            </th>
          ) : null}
        </tr>
      </thead>
      <tbody>
        {parts.map((part, index) => (
          <tr key={`${part.kind}/${part.id}/${index}`}>
            <td className="wide">
              {part.title}
              <div className="sub">{part.note}</div>
            </td>
            <td className="text-nowrap">{formatDay(part.date)}</td>
            <td className="num">
              <PartAmount part={part} amount={part.gross} />
            </td>
            <td className="num">
              {part.feeFrom === 'none' ? '' : <PartAmount part={part} amount={part.fee} />}
              {FEE_FROM[part.feeFrom] ? <div className="sub">{FEE_FROM[part.feeFrom]}</div> : null}
            </td>
            <td className="num">
              <PartAmount part={part} amount={part.net} />
            </td>
            {onTakeOff ? (
              <td className="text-end">
                <button
                  type="button"
                  className="btn-quiet soft"
                  onClick={() => onTakeOff(part)}
                  aria-label={`Take ${part.title} off`}
                >
                  ✕
                </button>
              </td>
            ) : null}
          </tr>
        ))}
        {parts.length > 0 ? (
          <tr className="totals">
            <td colSpan={2}>{noun(parts)}</td>
            <td className="num">{total((part) => part.gross)}</td>
            <td className="num">{total((part) => part.fee)}</td>
            <td className="num">{total((part) => part.net)}</td>
            {onTakeOff ? <td /> : null}
          </tr>
        ) : null}
        {rest ? (
          <tr>
            <td colSpan={4} className="wide">
              {rest.where}
              {rest.note ? <span className="sub"> {rest.note}</span> : null}
            </td>
            <td className="num">{money(rest.amount)}</td>
            {onTakeOff ? <td /> : null}
          </tr>
        ) : null}
        {foot}
      </tbody>
    </table>
  );
}
