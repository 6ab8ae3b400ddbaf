'use client';

import { useState, type ReactNode } from 'react';
import Button from 'react-bootstrap/Button';
import type { ImportReport } from '@/books/imports/import-file';
import type { SaidOfFile } from '@/books/receipts/sniff-file';
import type { Finding } from '@/formats/finding';
import { findingWords } from '@/formats/finding-words';
import { useImport } from './bring-in';
import { FileDrop, useSending, type SentFile } from './file-drop';
import { ImportReportView } from './import-report';
import { JobProgress } from './job';
import { Notice } from './notice';

/** What a first look at a file came to: refused, of a form that needs no reading, or a table and how it seems to be read. */
export type Looked<S, P> =
  | { readonly kind: 'refused'; readonly finding: Finding }
  | { readonly kind: 'own' }
  | { readonly kind: 'read'; readonly sniffed: S; readonly saved: P | null };

export interface ReadingFormProps<S, P> {
  readonly file: string;
  readonly seen: S;
  readonly start: P;
  /** Somebody has said yes to this reading before, so nothing is left to be asked. */
  readonly confirmed: boolean;
  readonly busy: boolean;
  readonly onRead: (profile: P) => void;
  /** The file is written otherwise than it was guessed: it is looked through once more. */
  readonly onLookAgain: (said: SaidOfFile) => void;
  readonly onLeave: () => void;
}

interface Props<S, P> {
  readonly what: ImportReport['kind'];
  readonly noun: { readonly one: string; readonly many: string };
  readonly takes: string;
  readonly accept: string;
  /** The job that looks at a file, but for its hash and what was said of it. */
  readonly look: { readonly kind: 'look-at-file' | 'look-at-statement' } & Readonly<Record<string, unknown>>;
  /** What the import has to be told: how the file is read, null where it needs no reading. */
  readonly task: (reading: { readonly fingerprint: string; readonly settings: P } | null) => object;
  readonly form: (props: ReadingFormProps<S, P>) => ReactNode;
}

/** Brings a file in that may have to be read first: how it is read, what it holds, then the change itself. */
export function BringInRead<S extends { readonly fingerprint: string; readonly profile: P }, P>({
  what,
  noun,
  takes,
  accept,
  look: lookJob,
  task,
  form,
}: Props<S, P>) {
  const { sending, send } = useSending();
  const { job, report, trouble, setTrouble, clear, look, bringIn, saveRefused } = useImport(what);
  const [file, setFile] = useState<SentFile | null>(null);
  const [seen, setSeen] = useState<Extract<Looked<S, P>, { kind: 'read' }> | null>(null);
  const [profile, setProfile] = useState<P | null>(null);
  const [reading, setReading] = useState(false);
  /** How often the file was looked at anew, after it was said how it is written. */
  const [looks, setLooks] = useState(0);

  const more = (settings: P | null, of: typeof seen) =>
    task(settings && of && { fingerprint: of.sniffed.fingerprint, settings });
  const leave = () => {
    clear();
    setFile(null);
    setSeen(null);
    setProfile(null);
  };
  const readAs = async (sent: SentFile, of: NonNullable<typeof seen>, settings: P) => {
    setProfile(settings);
    setReading(false);
    await look(sent, more(settings, of));
  };
  /** Looks at the file; gives how it is to be read where it is a table. */
  const lookAt = async (sent: SentFile, said: SaidOfFile) => {
    const answer = await job.run<Looked<S, P>>({ ...lookJob, sha256: sent.sha256, said });
    if (!answer.ok) setTrouble(answer);
    else if (answer.value.kind === 'refused') setTrouble(findingWords(answer.value.finding));
    else if (answer.value.kind === 'own') await look(sent, more(null, null));
    else return answer.value;
    return null;
  };
  const take = async (chosen: File) => {
    leave();
    const sent = await send(chosen);
    if (!('sha256' in sent)) return setTrouble(sent);
    setFile(sent);
    const found = await lookAt(sent, {});
    if (!found) return;
    setSeen(found);
    // A reading that was confirmed before is taken at once; it can still be changed.
    if (found.saved) return readAs(sent, found, found.saved);
    setReading(true);
  };
  const lookAgain = async (sent: SentFile, said: SaidOfFile) => {
    const found = await lookAt(sent, said);
    if (!found) return;
    setTrouble(null);
    setProfile(null);
    setSeen(found);
    setLooks(looks + 1);
  };
  const busy = sending || job.running !== null;
  return (
    <>
      <FileDrop takes={takes} accept={accept} disabled={busy} onFile={(chosen) => void take(chosen)} />
      {sending ? <Notice kind="info">Sending the file</Notice> : null}
      <JobProgress job={job} />
      {trouble ? (
        <Notice kind="refused">
          {trouble.what} {trouble.next}
        </Notice>
      ) : null}
      {seen && file && reading ? (
        <div key={`${file.sha256} ${looks}`}>
          {form({
            file: file.name,
            seen: seen.sniffed,
            start: profile ?? seen.saved ?? seen.sniffed.profile,
            confirmed: profile !== null || seen.saved !== null,
            busy,
            onRead: (settings) => void readAs(file, seen, settings),
            onLookAgain: (said) => void lookAgain(file, said),
            onLeave: leave,
          })}
        </div>
      ) : null}
      {report && profile && !reading ? (
        <p className="small">
          {seen?.saved ? 'Read as files with this header were read before.' : 'Read as you said.'}{' '}
          <Button variant="link" size="sm" className="p-0" onClick={() => setReading(true)}>
            Change how it is read
          </Button>
        </p>
      ) : null}
      {report && !reading ? (
        <ImportReportView
          report={report}
          noun={noun}
          busy={busy}
          onBringIn={() => void bringIn(more(profile, seen)).then((done) => done && leave())}
          onRefused={() => void saveRefused(more(profile, seen))}
          onLeave={leave}
        />
      ) : null}
    </>
  );
}
