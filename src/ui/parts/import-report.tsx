'use client';

import { plural } from '@/core/words';
import Button from 'react-bootstrap/Button';
import type { ImportReport } from '@/books/imports/import-file';
import { formatDate } from '@/core/calendar';
import { findingWords } from '@/formats/finding-words';
import { useMoney } from '../frame/books-context';
import { Notice } from './notice';

interface ReportProps {
  readonly report: ImportReport;
  readonly noun: { readonly one: string; readonly many: string };
  readonly busy: boolean;
  readonly onBringIn: () => void;
  readonly onRefused: () => void;
  readonly onLeave: () => void;
}

/** The dry run's report: what is new, what is here, what is refused and why. */
export function ImportReportView({ report, noun, busy, onBringIn, onRefused, onLeave }: ReportProps) {
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
  const counted = (n: number) => plural(n, noun.one, noun.many);
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
          <p className="mt-2 mb-0">
            <Button size="sm" variant="plain" onClick={onRefused} disabled={busy}>
              Save the refused rows
            </Button>{' '}
            <span className="soft small">
              a CSV of just these, each with its reason; correct it and bring it in again
            </span>
          </p>
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
