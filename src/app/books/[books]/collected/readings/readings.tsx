'use client';

import Button from 'react-bootstrap/Button';
import type { KeptReading } from '@/books/receipts/readings';
import { formatDate, plainDate } from '@/core/calendar';
import { RECEIPT_FIELDS } from '@/formats/receipts/profile';
import { useBooks } from '@/ui/frame/books-context';
import { useToasts } from '@/ui/frame/toasts';
import { forgetReadingNow } from '../../actions';
import { DELIMITER_WORDS, ENCODING_WORDS, ORDERS } from '@/ui/parts/reading-parts';
import { FEE_SIGNS, FIELD_WORDS, SHAPES } from '../bring-in/reading-words';

/** How values are written, in a line. */
function written({ settings }: KeptReading): string {
  const { shape, delimiter, decimal, dateOrder, zone, feeSign, encoding } = settings;
  return [
    `each row ${SHAPES[shape]}`,
    `parted by ${DELIMITER_WORDS[delimiter]}`,
    `decimal ${decimal === '.' ? 'point' : 'comma'}`,
    `dates ${ORDERS[dateOrder]}, of ${zone}`,
    ...(settings.columns.fee === undefined ? [] : [`fees ${FEE_SIGNS[feeSign]}`]),
    ...(encoding === 'auto' ? [] : [ENCODING_WORDS[encoding]]),
  ].join('; ');
}

/** Every reading that is kept: its columns, how values are written, and a way to forget it. */
export function Readings({ readings }: { readings: readonly KeptReading[] }) {
  const { id } = useBooks();
  const toasts = useToasts();
  const forget = async (fingerprint: string) => {
    const answer = await forgetReadingNow(id, fingerprint);
    if (!answer.ok) return toasts.refused(answer.what, answer.next);
    if (answer.change) toasts.changed(answer.change);
  };
  return (
    <div className="surface">
      <table className="list" aria-label="Readings">
        <thead>
          <tr>
            <th scope="col" className="w-100">
              Columns, and what each is read as
            </th>
            <th scope="col">Last used</th>
            <th scope="col">
              <span className="visually-hidden">Acts</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {readings.map((reading) => (
            <tr key={reading.fingerprint}>
              <td className="wide">
                {RECEIPT_FIELDS.flatMap((field) => {
                  const column = reading.settings.columns[field];
                  return column === undefined ? [] : [`${column} → ${FIELD_WORDS[field]}`];
                }).join(' · ')}
                <div className="small soft">{written(reading)}</div>
              </td>
              <td className="text-nowrap">{formatDate(plainDate(reading.usedAt.slice(0, 10)))}</td>
              <td className="text-end">
                <Button
                  size="sm"
                  variant="plain"
                  aria-label={`Forget the reading of ${Object.values(reading.settings.columns).join(', ')}`}
                  onClick={() => void forget(reading.fingerprint)}
                >
                  Forget
                </Button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
