'use client';

import Form from 'react-bootstrap/Form';
import { plural } from '@/core/words';
import type { ReceiptProfile } from '@/formats/receipts/profile';
import type { SaidOfFile } from '@/books/receipts/sniff-file';
import type { Sniffed } from '@/formats/receipts/sniff';
import { CurrencyOfAll, WrittenChoices } from '@/ui/parts/reading-frame';
import { Choice } from '@/ui/parts/reading-parts';
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
        <WrittenChoices {...{ profile, orderSaid, onOrder, onLookAgain }} onChange={set} />
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
          <CurrencyOfAll of="rows" value={profile.currency} onChange={(currency) => set({ currency })} />
        ) : null}
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
