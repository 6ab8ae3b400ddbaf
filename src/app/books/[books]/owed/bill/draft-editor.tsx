'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { BillLists } from '@/books/billing/bill-lists';
import { useBooks } from '@/ui/frame/books-context';
import { useToasts } from '@/ui/frame/toasts';
import { EntryPreview } from '@/ui/parts/entry';
import { Notice } from '@/ui/parts/notice';
import { dropBillNow, issueNow, previewBillNow, saveBillNow } from '../actions';
import { BillForm } from './bill-form';
import { readBill, type BillFields } from './bill-fields';
import { usePreview } from './use-preview';

interface Props {
  readonly draft: number | null;
  readonly fields: BillFields;
  readonly lists: BillLists;
}

/** An invoice being written: kept as a draft, or issued with the next number; beside it the entry it will write. */
export function DraftEditor({ draft: first, fields, lists }: Props) {
  const { id } = useBooks();
  const router = useRouter();
  const toasts = useToasts();
  const form = useForm<BillFields>({ defaultValues: fields });
  const [draft, setDraft] = useState(first);
  const [sent, setSent] = useState(false);
  const [busy, setBusy] = useState(false);
  const { bill, faults } = readBill(form.watch(), lists);
  const whole = Object.keys(faults).length === 0;
  const preview = usePreview(bill, whole, (one) => previewBillNow(id, { bill: one }));
  const keep = async (): Promise<number | null> => {
    const answer = await saveBillNow(id, { draft, bill });
    if (!answer.ok) {
      toasts.refused(answer.what, answer.next);
      return null;
    }
    setDraft(answer.value.draft);
    return answer.value.draft;
  };
  const run = async (act: () => Promise<void>) => {
    if (busy) return;
    setBusy(true);
    await act().finally(() => setBusy(false));
  };
  const save = () =>
    run(async () => {
      const kept = await keep();
      if (kept === null) return;
      toasts.told('The draft is kept.');
      if (draft === null) router.replace(`/books/${id}/owed/drafts/${kept}`);
    });
  const issue = () =>
    run(async () => {
      setSent(true);
      if (!whole) return;
      const kept = await keep();
      if (kept === null) return;
      const answer = await issueNow(id, { draft: kept, bill });
      if (!answer.ok) return toasts.refused(answer.what, answer.next);
      if (answer.change) toasts.changed(answer.change);
      router.push(`/books/${id}/owed?invoice=${answer.value.invoice}`);
    });
  const drop = () =>
    run(async () => {
      if (draft !== null) {
        const answer = await dropBillNow(id, { draft });
        if (!answer.ok) return toasts.refused(answer.what, answer.next);
        if (answer.change) toasts.changed(answer.change);
      }
      router.push(`/books/${id}/owed`);
    });
  return (
    <Form
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        void issue();
      }}
      onKeyDown={(event) => {
        if (!(event.ctrlKey || event.metaKey)) return;
        if (event.key === 'Enter') void issue();
        else if (event.key === 's') void save();
        else return;
        event.preventDefault();
      }}
    >
      <BillForm form={form} lists={lists} faults={sent ? faults : {}} />
      <div className="split mt-3">
        <div>
          {sent && !whole ? <Notice kind="refused">{Object.values(faults)[0]}</Notice> : null}
          <div className="d-flex gap-2 align-items-center">
            <Button type="submit" variant="primary" disabled={busy}>
              Issue{preview?.ok ? ` ${preview.value.number}` : ''}
            </Button>
            <Button variant="plain" disabled={busy} onClick={() => void save()}>
              Keep as draft
            </Button>
            <Button variant="plain" disabled={busy} onClick={() => void drop()}>
              {draft === null ? 'Leave it' : 'Drop the draft'}
            </Button>
            <span className="soft small">Ctrl Enter issues, Ctrl S keeps.</span>
          </div>
        </div>
        <aside className="panel" aria-label="Entry it will write">
          {preview === null ? (
            <section className="soft">
              Once payer and lines are written, the number it will get and the entry it will write stand here.
            </section>
          ) : preview.ok && preview.value.posting.entry ? (
            <EntryPreview entry={preview.value.posting.entry} title="Entry it will write" of={null} />
          ) : (
            <section>
              {!preview.ok ? <Notice kind="refused">{`${preview.what} ${preview.next}`}</Notice> : null}
            </section>
          )}
        </aside>
      </div>
    </Form>
  );
}
