'use client';

import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import type { ReceiptProfile } from '@/formats/receipts/profile';
import type { Sniffed } from '@/formats/receipts/sniff';
import { BringInRead } from '@/ui/parts/bring-in-read';
import { ReadingForm } from './reading-form';

interface Props {
  readonly channels: readonly { readonly id: number; readonly name: string; readonly currency: string }[];
}

/** Brings receipts of any export in: which channel, how the file is read, what it holds, then the change itself. */
export function BringInReceipts({ channels }: Props) {
  const [channel, setChannel] = useState(channels[0]!.id);
  return (
    <>
      {channels.length > 1 ? (
        <Form.Group controlId="bring-in-channel" className="mb-2 d-flex gap-2 align-items-center">
          <Form.Label className="mb-0">Collected through</Form.Label>
          <Form.Select
            style={{ width: 'auto' }}
            value={channel}
            onChange={(event) => setChannel(Number(event.target.value))}
          >
            {channels.map((one) => (
              <option key={one.id} value={one.id}>
                {one.name}, {one.currency}
              </option>
            ))}
          </Form.Select>
        </Form.Group>
      ) : null}
      <BringInRead<Sniffed, ReceiptProfile>
        key={channel}
        what="receipts"
        noun={{ one: 'movement', many: 'movements' }}
        takes="Any export with one row per receipt: CSV, TSV, XLSX or JSON. Its columns are guessed and shown first; how a file was read is found again by its header."
        accept=".csv,.tsv,.txt,.json,.xlsx,text/csv,application/json"
        look={{ kind: 'look-at-file', channel }}
        task={(profile) => ({ receipts: { channel, ...(profile && { profile }) } })}
        form={(props) => <ReadingForm {...props} />}
      />
    </>
  );
}
