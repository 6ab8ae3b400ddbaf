'use client';

import Link from 'next/link';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Modal from 'react-bootstrap/Modal';
import type { PayerRow } from '@/books/payers/list';
import type { Named } from '@/books/map/map-page';
import { plural } from '@/core/words';
import { useBooks, useMoney } from '@/ui/frame/books-context';
import { useToasts } from '@/ui/frame/toasts';
import { mergePayersNow } from '../../actions';
import { PayerSelect } from './payer-select';
import { TableHeads } from '@/ui/parts/plain-table';

/** Payers with what is in the books of them; one can be merged into another. */
export function PayerList({ rows }: { rows: readonly PayerRow[] }) {
  const { id } = useBooks();
  const money = useMoney();
  const [merging, setMerging] = useState<PayerRow | null>(null);
  return (
    <>
      <div className="surface">
        <table className="list" aria-label="Payers">
          <TableHeads
            heads={[
              'Name',
              'Email',
              { name: 'Invoices', num: true },
              { name: 'Open', num: true },
              { name: 'Receipts', num: true },
              { name: 'Acts', hidden: true },
            ]}
          />
          <tbody>
            {rows.map((row) => (
              <tr key={row.id}>
                <td className="wide">
                  <Link href={`/books/${id}/owed/payers/${row.id}`}>{row.name}</Link>
                  {row.alsoKnownAs ? <span className="soft">, also {row.alsoKnownAs}</span> : null}
                </td>
                <td>{row.email || <span className="soft">none</span>}</td>
                <td className="num">
                  {row.invoices === 0 ? (
                    ''
                  ) : (
                    <Link href={`/books/${id}/owed?text=${encodeURIComponent(row.name)}`}>{row.invoices}</Link>
                  )}
                </td>
                <td className="num">{row.open === 0 ? '' : money(row.open)}</td>
                <td className="num">
                  {row.receipts === 0 ? (
                    ''
                  ) : (
                    <Link href={`/books/${id}/collected?text=${encodeURIComponent(row.name)}`}>{row.receipts}</Link>
                  )}
                </td>
                <td className="text-end">
                  <Button
                    size="sm"
                    variant="link"
                    className="p-0"
                    onClick={() => setMerging(row)}
                    aria-label={`Merge ${row.name}`}
                  >
                    Merge
                  </Button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {merging ? <Merge payer={merging} onDone={() => setMerging(null)} /> : null}
    </>
  );
}

/** Asks into whom a payer is merged, and says what goes along. */
function Merge({ payer, onDone }: { payer: PayerRow; onDone: () => void }) {
  const { id } = useBooks();
  const toasts = useToasts();
  const [into, setInto] = useState<Named | null>(null);
  const merge = async () => {
    const answer = await mergePayersNow(id, { from: payer.id, into: into!.id });
    if (!answer.ok) return toasts.refused(answer.what, answer.next);
    if (answer.change) toasts.changed(answer.change);
    onDone();
  };
  return (
    <Modal show onHide={onDone} aria-labelledby="merge-title">
      <Modal.Header closeButton>
        <Modal.Title as="h2" id="merge-title">
          Merge {payer.name}
        </Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <label htmlFor="merge-into">Into</label>
        <PayerSelect id="merge-into" autoFocus value={into} onChange={setInto} without={payer.id} />
        <p className="mt-3 mb-0">
          {plural(payer.invoices, 'invoice')} and {plural(payer.receipts, 'receipt')} of {payer.name} go to{' '}
          {into?.name ?? 'that payer'}, and whatever comes under this name or email later. No entry in the ledger is
          changed, and it can be undone.
        </p>
      </Modal.Body>
      <Modal.Footer>
        <Button variant="primary" disabled={into === null} onClick={() => void merge()}>
          Merge
        </Button>
        <Button variant="plain" onClick={onDone}>
          Leave it
        </Button>
      </Modal.Footer>
    </Modal>
  );
}
