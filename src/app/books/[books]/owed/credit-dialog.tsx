'use client';

import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import type { CreditedInvoice } from '@/books/billing/credit';
import type { InvoiceDetail } from '@/books/invoices/detail';
import { parseAmount, type Minor } from '@/core/money';
import { useBooks, useMoney } from '@/ui/frame/books-context';
import { useToasts } from '@/ui/frame/toasts';
import { EntryPreview } from '@/ui/parts/entry';
import { Notice } from '@/ui/parts/notice';
import type { ActionAnswer } from '@/ui/parts/action-answer';
import { creditNow, previewCredit } from './actions';

/** Takes an invoice back, whole or by line, with the entry shown first. */
export function CreditDialog({ invoice, onDone }: { invoice: InvoiceDetail; onDone: () => void }) {
  const { id, currency } = useBooks();
  const money = useMoney();
  const router = useRouter();
  const toasts = useToasts();
  const [whole, setWhole] = useState(true);
  const [nets, setNets] = useState<readonly string[]>(invoice.lines.map(() => ''));
  const [why, setWhy] = useState('');
  const [shown, setShown] = useState<ActionAnswer<CreditedInvoice> | null>(null);
  const read = nets.map((text) => (text.trim() === '' ? null : parseAmount(text.trim(), currency)));
  const bad = read.findIndex((amount) => amount !== null && !amount.ok);
  const lines = whole
    ? null
    : read.flatMap((amount, index) => (amount?.ok ? [{ line: index + 1, net: amount.minor as Minor }] : []));
  const input = { invoice: invoice.id, lines, why, issued: null };
  const ready = whole || (bad < 0 && lines!.length > 0);
  const key = ready ? JSON.stringify([invoice.id, lines]) : '';
  useEffect(() => {
    let wanted = true;
    if (key === '') return;
    const [of, some] = JSON.parse(key) as [number, typeof lines];
    void previewCredit(id, { invoice: of, lines: some, why: '', issued: null }).then((got) => wanted && setShown(got));
    return () => {
      wanted = false;
    };
  }, [id, key]);
  const credit = async () => {
    const answer = await creditNow(id, input);
    if (!answer.ok) return toasts.refused(answer.what, answer.next);
    if (answer.change) toasts.changed(answer.change);
    onDone();
    router.refresh();
  };
  return (
    <Modal show onHide={onDone} size="lg" aria-labelledby="credit-title">
      <Form
        onSubmit={(event) => {
          event.preventDefault();
          if (ready) void credit();
        }}
      >
        <Modal.Header closeButton>
          <Modal.Title as="h2" id="credit-title">
            Take invoice {invoice.number} back
          </Modal.Title>
        </Modal.Header>
        <Modal.Body>
          <Form.Check
            type="radio"
            id="credit-whole"
            name="credit"
            label="All that is left of it, which voids it"
            checked={whole}
            onChange={() => setWhole(true)}
          />
          <Form.Check
            type="radio"
            id="credit-some"
            name="credit"
            label="Some of its lines"
            checked={!whole}
            onChange={() => setWhole(false)}
          />
          {whole ? null : (
            <table className="entry my-2">
              <tbody>
                {invoice.lines.map((line, index) => (
                  <tr key={index}>
                    <td>{line.description || line.itemCode}</td>
                    <td className="num">{money(line.net)}</td>
                    <td style={{ width: 130 }}>
                      <Form.Control
                        size="sm"
                        className="num"
                        aria-label={`Net to take back of line ${index + 1}`}
                        placeholder="net"
                        isInvalid={bad === index}
                        value={nets[index]}
                        onChange={(event) => setNets(nets.map((one, at) => (at === index ? event.target.value : one)))}
                      />
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
          <Form.Group controlId="credit-why" className="my-2">
            <Form.Label>Why</Form.Label>
            <Form.Control size="sm" maxLength={200} value={why} onChange={(event) => setWhy(event.target.value)} />
          </Form.Group>
          {!ready || shown === null ? null : shown.ok ? (
            <EntryPreview
              entry={shown.value.entry}
              title={`Credit note ${shown.value.number}, ${money(shown.value.gross)}`}
              of={null}
            />
          ) : (
            <Notice kind="refused">{`${shown.what} ${shown.next}`}</Notice>
          )}
        </Modal.Body>
        <Modal.Footer>
          <Button variant="plain" onClick={onDone}>
            Leave it
          </Button>
          <Button type="submit" variant="primary" disabled={!ready || !shown?.ok}>
            Issue the credit note
          </Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}
