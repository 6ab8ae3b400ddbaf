'use client';

import { useRouter } from 'next/navigation';
import { useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import type { ImportReport } from '@/books/imports/import-file';
import { formatDate } from '@/core/calendar';
import { LIMITS } from '@/formats/finding';
import { findingWords } from '@/formats/finding-words';
import { useBooks, useMoney } from '../frame/books-context';
import { useToasts } from '../frame/toasts';
import { JobProgress, useJob } from './job';
import { Notice } from './notice';

const LIMIT_MB = LIMITS.fileBytes / 1024 / 1024;

interface Trouble {
  readonly what: string;
  readonly next: string;
}

interface Props {
  readonly what: ImportReport['kind'];
  /** Which files are taken, in words. */
  readonly takes: string;
  readonly accept: string;
  readonly noun: { readonly one: string; readonly many: string };
}

/** Brings a file in: upload, dry run with its report, then the change itself. */
export function BringIn({ what, takes, accept, noun }: Props) {
  const { id } = useBooks();
  const router = useRouter();
  const toasts = useToasts();
  const job = useJob();
  const field = useRef<HTMLInputElement>(null);
  const [over, setOver] = useState(false);
  const [sending, setSending] = useState(false);
  const [report, setReport] = useState<ImportReport | null>(null);
  const [trouble, setTrouble] = useState<Trouble | null>(null);

  const look = async (file: File) => {
    setReport(null);
    setTrouble(null);
    if (file.size > LIMITS.fileBytes) {
      setTrouble({
        what: `${file.name} is larger than ${LIMIT_MB} MB.`,
        next: 'Export it in shorter periods and bring them in one after the other. Nothing was sent.',
      });
      return;
    }
    setSending(true);
    try {
      const sent = await fetch(`/api/books/${id}/files`, { method: 'POST', body: file });
      const body = (await sent.json()) as { sha256?: string } & Trouble;
      if (!body.sha256) return setTrouble(body);
      setSending(false);
      const answer = await job.run<ImportReport>({
        kind: 'import',
        what,
        name: file.name,
        sha256: body.sha256,
        dryRun: true,
      });
      if (answer.ok) setReport(answer.value);
      else setTrouble(answer);
    } catch {
      setTrouble({
        what: 'The file could not be sent.',
        next: 'Check that the server is running, then choose it again.',
      });
    } finally {
      setSending(false);
    }
  };

  const bringIn = async () => {
    if (!report) return;
    const { fileName: name, sha256 } = report;
    const answer = await job.run<ImportReport>({ kind: 'import', what, name, sha256, dryRun: false });
    if (!answer.ok) return setTrouble(answer);
    setReport(answer.value.run === null ? answer.value : null);
    if (answer.change) toasts.changed(answer.change);
    router.refresh();
  };

  return (
    <>
      <div
        className={`file-drop mb-3${over ? ' over' : ''}`}
        onDragOver={(event) => {
          event.preventDefault();
          setOver(true);
        }}
        onDragLeave={() => setOver(false)}
        onDrop={(event) => {
          event.preventDefault();
          setOver(false);
          const file = event.dataTransfer.files[0];
          if (file) void look(file);
        }}
      >
        <p className="mb-2">{takes}</p>
        <input
          ref={field}
          type="file"
          className="visually-hidden"
          accept={accept}
          aria-label="File to bring in"
          tabIndex={-1}
          onChange={(event) => {
            const file = event.target.files?.[0];
            event.target.value = '';
            if (file) void look(file);
          }}
        />
        <Button variant="primary" onClick={() => field.current?.click()} disabled={sending || job.running !== null}>
          Choose a file…
        </Button>
        <span className="soft small ms-3">or drop it here; up to {LIMIT_MB} MB. You see what it holds first.</span>
      </div>
      {sending ? <Notice kind="info">Sending the file</Notice> : null}
      <JobProgress job={job} />
      {trouble ? (
        <Notice kind="refused">
          {trouble.what} {trouble.next}
        </Notice>
      ) : null}
      {report ? (
        <Report
          report={report}
          noun={noun}
          busy={job.running !== null}
          onBringIn={() => void bringIn()}
          onLeave={() => setReport(null)}
        />
      ) : null}
    </>
  );
}

interface ReportProps {
  readonly report: ImportReport;
  readonly noun: Props['noun'];
  readonly busy: boolean;
  readonly onBringIn: () => void;
  readonly onLeave: () => void;
}

/** The dry run's report: what is new, what is here, what is refused and why. */
function Report({ report, noun, busy, onBringIn, onLeave }: ReportProps) {
  const money = useMoney();
  if (report.fileFinding) {
    const { what, next } = findingWords(report.fileFinding);
    return (
      <Notice kind="refused">
        <p className="fw-semibold">{report.fileName} is refused as a whole.</p>
        <p>
          {what} {next} The books are as they were.
        </p>
      </Notice>
    );
  }
  const { added, updated, changed, known, refused } = report;
  const counted = (n: number) => `${n} ${n === 1 ? noun.one : noun.many}`;
  return (
    <section className="panel mb-3" aria-label="Report on the file">
      <header>
        <div>
          <div className="small soft">Dry run, nothing is written yet</div>
          <div className="name">{report.fileName}</div>
        </div>
        <div className="figure">{added} new</div>
      </header>
      <section>
        <dl className="facts">
          <dt>New</dt>
          <dd>
            {added === 0
              ? 'nothing'
              : report.groups.map((group) => `${group.added} ${group.label}, ${money(group.amount)}`).join(' · ')}
          </dd>
          {report.from ? (
            <>
              <dt>Dated</dt>
              <dd>
                {formatDate(report.from)} to {formatDate(report.to!)}
              </dd>
            </>
          ) : null}
          {changed > 0 ? (
            <>
              <dt>Changed since</dt>
              <dd>
                {counted(changed)}, here with other figures: both stay side by side until you take the new ones over
              </dd>
            </>
          ) : null}
          {updated > 0 ? (
            <>
              <dt>Now in a payout</dt>
              <dd>{counted(updated)}, already here</dd>
            </>
          ) : null}
          <dt>Already here</dt>
          <dd>{known === 0 ? 'none' : `${counted(known)}, left as they are`}</dd>
          <dt>Refused</dt>
          <dd className={refused > 0 ? 'trouble' : ''}>
            {refused === 0 ? 'none' : `${refused}, listed below; the others can come in`}
          </dd>
        </dl>
      </section>
      {refused > 0 ? (
        <section>
          <h2>Refused</h2>
          <ul className="mb-0 ps-3">
            {report.findings.map((finding, index) => {
              const { what, next } = findingWords(finding);
              return (
                <li key={index}>
                  {what} <span className="soft">{next}</span>
                </li>
              );
            })}
          </ul>
          {refused > report.findings.length ? (
            <p className="soft mb-0">and {refused - report.findings.length} more</p>
          ) : null}
        </section>
      ) : null}
      <div className="acts">
        {added + updated + changed > 0 ? (
          <Button variant="primary" onClick={onBringIn} disabled={busy} autoFocus>
            Bring in {added > 0 ? counted(added) : updated > 0 ? `${updated} payout links` : `${changed} changes`}
          </Button>
        ) : (
          <span className="fw-semibold">
            Nothing new in this file:{' '}
            {known === 0 ? 'it can bring nothing in' : `all ${counted(known)} are here already`}.
          </span>
        )}
        <Button variant="plain" onClick={onLeave} disabled={busy}>
          {added + updated + changed > 0 ? 'Leave it' : 'Close'}
        </Button>
      </div>
    </section>
  );
}
