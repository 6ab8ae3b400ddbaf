'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { BillLists } from '@/books/billing/bill-lists';
import { useBooks, useMoney } from '@/ui/frame/books-context';
import { useToasts } from '@/ui/frame/toasts';
import { EntryPreview } from '@/ui/parts/entry';
import { Notice } from '@/ui/parts/notice';
import { correctNow, previewCorrect } from '../../actions';
import { BillForm } from '../../bill/bill-form';
import { readBill, type BillFields } from '../../bill/bill-fields';
import { usePreview } from '../../bill/use-preview';

interface Props {
  readonly invoice: number;
  readonly version: number;
  readonly fields: BillFields;
  readonly lists: BillLists;
}

/** An issued invoice being corrected, with the difference it will write beside it. */
export function CorrectEditor({ invoice, version, fields, lists }: Props) {
  const { id } = useBooks();
  const money = useMoney();
  const router = useRouter();
  const toasts = useToasts();
  const form = useForm<BillFields>({ defaultValues: fields });
  const [why, setWhy] = useState('');
  const [sent, setSent] = useState(false);
  const { bill, faults } = readBill(form.watch(), lists);
  const whole = Object.keys(faults).length === 0;
  const preview = usePreview(bill, whole, (one) => previewCorrect(id, { invoice, version, bill: one, why }));
  const back = `/books/${id}/owed?invoice=${invoice}`;
  const correct = async () => {
    setSent(true);
    if (!whole) return;
    const answer = await correctNow(id, { invoice, version, bill, why });
    if (!answer.ok) return toasts.refused(answer.what, answer.next);
    if (answer.change) toasts.changed(answer.change);
    else toasts.told('Nothing was changed.');
    router.push(back);
  };
  return (
    <Form
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        void correct();
      }}
    >
      <BillForm form={form} lists={lists} faults={sent ? faults : {}} fixed />
      <div className="split mt-3">
        <div>
          <Form.Group controlId="correct-why" className="mb-2">
            <Form.Label>Why</Form.Label>
            <Form.Control size="sm" maxLength={200} value={why} onChange={(event) => setWhy(event.target.value)} />
          </Form.Group>
          <div className="d-flex gap-2">
            <Button type="submit" variant="primary">
              Make it version {version + 1}
            </Button>
            <Button variant="plain" onClick={() => router.push(back)}>
              Leave it
            </Button>
          </div>
        </div>
        <aside className="panel" aria-label="Difference it will write">
          {preview === null ? (
            <section className="soft">Its lines cannot be read yet.</section>
          ) : !preview.ok ? (
            <section>
              <Notice kind="refused">{`${preview.what} ${preview.next}`}</Notice>
            </section>
          ) : preview.value.entry ? (
            <EntryPreview
              entry={preview.value.entry}
              title={`Difference it will write, ${money(preview.value.difference)}`}
              of={null}
            />
          ) : (
            <section className="soft">The ledger stays as it is.</section>
          )}
        </aside>
      </div>
    </Form>
  );
}
