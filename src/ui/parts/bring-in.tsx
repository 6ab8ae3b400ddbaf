'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { ImportReport } from '@/books/imports/import-file';
import { useBooks } from '../frame/books-context';
import { useToasts } from '../frame/toasts';
import { FileDrop, useSending, type SentFile, type Trouble } from './file-drop';
import { ImportReportView } from './import-report';
import { JobProgress, useJob } from './job';
import { Notice } from './notice';

interface Props {
  readonly what: ImportReport['kind'];
  /** Which files are taken, in words. */
  readonly takes: string;
  readonly accept: string;
  readonly noun: { readonly one: string; readonly many: string };
}

/** The dry run of a file and the change itself; what else the import has to be told comes with each. */
export function useImport(what: ImportReport['kind']) {
  const { id } = useBooks();
  const router = useRouter();
  const toasts = useToasts();
  const job = useJob();
  const [report, setReport] = useState<ImportReport | null>(null);
  const [trouble, setTrouble] = useState<Trouble | null>(null);
  const clear = () => {
    setReport(null);
    setTrouble(null);
  };
  const look = async ({ name, sha256 }: SentFile, more: object = {}) => {
    clear();
    const answer = await job.run<ImportReport>({ kind: 'import', what, name, sha256, dryRun: true, ...more });
    if (answer.ok) setReport(answer.value);
    else setTrouble(answer);
  };
  const bringIn = async (more: object = {}) => {
    if (!report) return false;
    const { fileName: name, sha256 } = report;
    const answer = await job.run<ImportReport>({ kind: 'import', what, name, sha256, dryRun: false, ...more });
    if (!answer.ok) {
      setTrouble(answer);
      return false;
    }
    setReport(answer.value.run === null ? answer.value : null);
    if (answer.change) toasts.changed(answer.change);
    router.refresh();
    return answer.value.run !== null;
  };
  /** Hands the refused rows back as a file: their own cells, and why behind them. */
  const saveRefused = async (more: object = {}) => {
    if (!report) return;
    const { fileName: name, sha256 } = report;
    const answer = await job.run<{ sha256: string }>({ kind: 'refused-rows', what, name, sha256, ...more });
    if (!answer.ok) return setTrouble(answer);
    const saved = `${name.replace(/\.[^.]*$/, '')}-refused.csv`;
    window.location.assign(`/api/books/${id}/files/${answer.value.sha256}?name=${encodeURIComponent(saved)}`);
  };
  return { job, report, trouble, setTrouble, clear, look, bringIn, saveRefused };
}

/** Brings a file in: upload, dry run with its report, then the change itself. */
export function BringIn({ what, takes, accept, noun }: Props) {
  const { sending, send } = useSending();
  const { job, report, trouble, setTrouble, clear, look, bringIn, saveRefused } = useImport(what);
  const take = async (file: File) => {
    clear();
    const sent = await send(file);
    if ('sha256' in sent) await look(sent);
    else setTrouble(sent);
  };
  const busy = sending || job.running !== null;
  return (
    <>
      <FileDrop takes={takes} accept={accept} disabled={busy} onFile={(file) => void take(file)} />
      {sending ? <Notice kind="info">Sending the file</Notice> : null}
      <JobProgress job={job} />
      {trouble ? (
        <Notice kind="refused">
          {trouble.what} {trouble.next}
        </Notice>
      ) : null}
      {report ? (
        <ImportReportView
          report={report}
          noun={noun}
          busy={busy}
          onBringIn={() => void bringIn()}
          onRefused={() => void saveRefused()}
          onLeave={clear}
        />
      ) : null}
    </>
  );
}
