'use client';

import Link from 'next/link';
import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import type { BankName } from '@/books/matching/bank-names';
import type { Named } from '@/books/map/map-page';
import { formatDate } from '@/core/calendar';
import { useBooks } from '@/ui/frame/books-context';
import { PlainTable } from '@/ui/parts/plain-table';
import { PayerSelect } from '../../owed/payers/payer-select';
import { Act } from './act';
import { CorrectDialog } from './correct-dialog';

interface Props {
  readonly names: readonly BankName[];
  readonly onKeep: (input: { payer: number; name: string; keep: boolean }) => void;
  readonly onForget: (input: { payer: number; name: string; forget: boolean }) => void;
}

/** How payers appear at the bank: what is kept, and what deposits told that nobody has kept yet. */
export function LearntNames({ names, onKeep, onForget }: Props) {
  const { id } = useBooks();
  const [open, setOpen] = useState<BankName | null>(null);
  const [payer, setPayer] = useState<Named | null>(null);
  const shown = names.filter(({ state }) => state !== 'forgotten');
  return (
    <>
      {shown.length > 0 ? (
        <>
          <h2>How payers appear at the bank</h2>
          <PlainTable
            label="Names at the bank"
            heads={['The bank says', 'Payer', 'Proposals', { name: 'Deposits', num: true }, 'Last', { acts: true }]}
          >
            {shown.map((one) => (
              <tr key={`${one.payer} ${one.said}`}>
                <td className="wide">{one.said}</td>
                <td>
                  <Link href={`/books/${id}/owed/payers/${one.payer}`}>{one.name}</Link>
                </td>
                <td className="text-nowrap">{one.state === 'kept' ? 'go by it' : 'not yet'}</td>
                <td className="num">{one.count}</td>
                <td className="text-nowrap">{one.last === null ? '' : formatDate(one.last)}</td>
                <td className="text-end text-nowrap">
                  {one.state === 'told' ? (
                    <Act
                      of={`${one.said} for ${one.name}`}
                      says="Keep as their name"
                      onClick={() => onKeep({ payer: one.payer, name: one.said, keep: true })}
                    />
                  ) : null}
                  <Act
                    of={`who is ${one.said}`}
                    says="Correct"
                    onClick={() => {
                      setPayer({ id: one.payer, name: one.name });
                      setOpen(one);
                    }}
                  />
                  <Act
                    of={`that ${one.name} is ${one.said}`}
                    says="Forget"
                    onClick={() =>
                      one.state === 'kept'
                        ? onKeep({ payer: one.payer, name: one.said, keep: false })
                        : onForget({ payer: one.payer, name: one.said, forget: true })
                    }
                  />
                </td>
              </tr>
            ))}
          </PlainTable>
        </>
      ) : null}
      {names.flatMap((one) =>
        one.state === 'forgotten' ? (
          <p key={`${one.payer} ${one.said}`} className="soft small mb-1">
            That the bank says {one.said} for {one.name} is forgotten.
            <Act
              of={`that ${one.name} is ${one.said}`}
              says="Remember it"
              onClick={() => onForget({ payer: one.payer, name: one.said, forget: false })}
            />
          </p>
        ) : (
          []
        ),
      )}
      {open === null ? null : (
        <CorrectDialog
          id="name-title"
          title={`Who is ${open.said}`}
          says={`${open.state === 'kept' ? 'Kept as' : 'Deposits told that it is'} ${open.name}. What is confirmed stays; what waits goes by whom you choose.`}
          ready={payer !== null && !(open.state === 'kept' && payer.id === open.payer)}
          act="Keep as their name"
          onLeave={() => setOpen(null)}
          onSave={() => {
            onKeep({ payer: payer!.id, name: open.said, keep: true });
            setOpen(null);
          }}
        >
          <Form.Group>
            <Form.Label htmlFor="name-payer">Payer</Form.Label>
            <PayerSelect id="name-payer" autoFocus value={payer} onChange={setPayer} />
          </Form.Group>
        </CorrectDialog>
      )}
    </>
  );
}
