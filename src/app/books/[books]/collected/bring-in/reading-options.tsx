'use client';

import Form from 'react-bootstrap/Form';
import { plural } from '@/core/words';
import type { ReceiptProfile } from '@/formats/receipts/profile';
import type { SaidOfFile } from '@/books/receipts/sniff-file';
import type { Sniffed } from '@/formats/receipts/sniff';
import { Choice, DECIMALS, DELIMITER_WORDS, ENCODING_WORDS, ORDERS } from '@/ui/parts/reading-parts';
import { FEE_SIGNS, ROW_KINDS, SHAPES, TAXES, rowKind, withRowKind, type RowKind } from './reading-words';

interface Props {
  readonly profile: ReceiptProfile;
  readonly kinds: Sniffed['kinds'];
  /** Somebody has said in which order dates are written, or the file leaves no doubt. */
  readonly orderSaid: boolean;
  readonly onOrder: () => void;
  readonly onChange: (profile: ReceiptProfile) => void;
  readonly onLookAgain: (said: SaidOfFile) => void;
}

/** How values of the file are written, and what its kinds of rows are. */
export function ReadingOptions({ profile, kinds, orderSaid, onOrder, onChange, onLookAgain }: Props) {
  const { columns } = profile;
  const set = (more: Partial<ReceiptProfile>) => onChange({ ...profile, ...more });
  return (
    <>
      <section className="d-flex gap-3 flex-wrap align-items-end">
        <Choice
          id="reading-shape"
          label="Each row"
          value={profile.shape}
          choices={SHAPES}
          onChoice={(shape) => set({ shape })}
        />
        <Choice
          id="reading-delimiter"
          label="Columns are parted by"
          value={profile.delimiter}
          choices={DELIMITER_WORDS}
          onChoice={(delimiter) => onLookAgain({ delimiter, encoding: profile.encoding })}
        />
        <Choice
          id="reading-decimal"
          label="Decimal mark"
          value={profile.decimal}
          choices={DECIMALS}
          onChoice={(decimal) => set({ decimal })}
        />
        <Choice
          id="reading-order"
          label="Dates are written"
          value={orderSaid ? profile.dateOrder : ''}
          choices={ORDERS}
          onChoice={(dateOrder) => {
            onOrder();
            set({ dateOrder });
          }}
        />
        <Form.Group controlId="reading-zone">
          <Form.Label className="small soft mb-1">Times are of</Form.Label>
          <Form.Control
            size="sm"
            list="reading-zones"
            value={profile.zone}
            onChange={(event) => set({ zone: event.target.value })}
          />
          <datalist id="reading-zones">
            {Intl.supportedValuesOf('timeZone').map((zone) => (
              <option key={zone} value={zone} />
            ))}
            <option value="UTC" />
          </datalist>
        </Form.Group>
        {profile.shape === 'receipts' ? (
          <Choice
            id="reading-fee"
            label="Fees are written"
            value={profile.feeSign}
            choices={FEE_SIGNS}
            onChoice={(feeSign) => set({ feeSign })}
          />
        ) : null}
        {columns.tax !== undefined && profile.shape === 'till-days' ? (
          <Choice
            id="reading-tax"
            label="Tax"
            value={profile.taxIn}
            choices={TAXES}
            onChoice={(taxIn) => set({ taxIn })}
          />
        ) : null}
        {columns.currency === undefined ? (
          <Form.Group controlId="reading-currency">
            <Form.Label className="small soft mb-1">Currency of all rows</Form.Label>
            <Form.Control
              size="sm"
              style={{ width: '5rem' }}
              maxLength={3}
              value={profile.currency}
              onChange={(event) => set({ currency: event.target.value.toUpperCase() })}
            />
          </Form.Group>
        ) : null}
        <Choice
          id="reading-encoding"
          label="Letters are coded"
          value={profile.encoding}
          choices={ENCODING_WORDS}
          onChoice={(encoding) => onLookAgain({ encoding, delimiter: profile.delimiter })}
        />
      </section>
      {columns.kind !== undefined && kinds.length > 0 ? (
        <section className="d-flex gap-3 flex-wrap">
          {kinds.map(({ value, count }) => (
            <Choice<RowKind>
              key={value}
              id={`kind-${value}`}
              label={`“${value}”, ${plural(count, 'row')}`}
              value={rowKind(profile, value)}
              choices={ROW_KINDS[profile.shape]}
              onChoice={(kind) => onChange(withRowKind(profile, value, kind))}
            />
          ))}
        </section>
      ) : null}
    </>
  );
}
