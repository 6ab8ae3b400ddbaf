'use client';

import { useRouter } from 'next/navigation';
import { useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Modal from 'react-bootstrap/Modal';
import type { ImportedList, ListReport } from '@/books/setup/import-list';
import { plural } from '@/core/words';
import { useBooks } from '@/ui/frame/books-context';
import { useToasts } from '@/ui/frame/toasts';
import { Notice } from '@/ui/parts/notice';
import type { ActionAnswer } from '@/ui/parts/action-answer';
import { importListNow, previewImportList } from '../set-up/lists/actions';

interface Chosen {
  readonly name: string;
  readonly text: string;
  readonly report: ActionAnswer<ListReport>;
}

/** Takes a list from a CSV, after showing what it would add, change and refuse. */
export function ImportList({ list }: { list: ImportedList }) {
  const { id } = useBooks();
  const router = useRouter();
  const toasts = useToasts();
  const input = useRef<HTMLInputElement>(null);
  const [chosen, setChosen] = useState<Chosen | null>(null);
  const look = async (file: File) => {
    const text = await file.text();
    if (input.current) input.current.value = '';
    setChosen({ name: file.name, text, report: await previewImportList(id, { list, text, name: file.name }) });
  };
  const take = async () => {
    const answer = await importListNow(id, { list, text: chosen!.text, name: chosen!.name });
    setChosen(null);
    if (!answer.ok) return toasts.refused(answer.what, answer.next);
    if (answer.change) toasts.changed(answer.change);
    router.refresh();
  };
  const report = chosen?.report.ok ? chosen.report.value : null;
  return (
    <>
      <Button size="sm" variant="plain" onClick={() => input.current?.click()}>
        Bring in a CSV…
      </Button>
      <input
        ref={input}
        type="file"
        accept=".csv,text/csv"
        className="visually-hidden"
        tabIndex={-1}
        aria-label="CSV to bring in"
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) void look(file);
        }}
      />
      <Modal show={chosen !== null} onHide={() => setChosen(null)} aria-labelledby="list-file">
        <Modal.Header closeButton>
          <Modal.Title as="h2" id="list-file">
            {chosen?.name}
          </Modal.Title>
        </Modal.Header>
        <Modal.Body>
          {chosen && !chosen.report.ok ? (
            <Notice kind="refused">{`${chosen.report.what} ${chosen.report.next}`}</Notice>
          ) : null}
          {report ? (
            <>
              <p>
                {plural(report.added, 'new row')}, {report.changed} changed, {report.known} here already,{' '}
                {report.refused.length} refused.
              </p>
              {report.refused.slice(0, 20).map(({ line, why }) => (
                <div key={`${line} ${why}`} className="small">
                  Line {line}: {why}
                </div>
              ))}
            </>
          ) : null}
        </Modal.Body>
        <Modal.Footer>
          <Button variant="plain" onClick={() => setChosen(null)}>
            Leave it
          </Button>
          {report && report.added + report.changed > 0 ? (
            <Button variant="primary" autoFocus onClick={() => void take()}>
              Bring them in
            </Button>
          ) : null}
        </Modal.Footer>
      </Modal>
    </>
  );
}
