'use client';

import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { FileLook, SaidOfFile } from '@/books/receipts/sniff-file';
import { findingWords } from '@/formats/finding-words';
import type { ReceiptProfile } from '@/formats/receipts/profile';
import { useImport } from '@/ui/parts/bring-in';
import { FileDrop, useSending, type SentFile } from '@/ui/parts/file-drop';
import { ImportReportView } from '@/ui/parts/import-report';
import { JobProgress } from '@/ui/parts/job';
import { Notice } from '@/ui/parts/notice';
import { ReadingForm } from './reading-form';

interface Props {
  readonly channels: readonly { readonly id: number; readonly name: string; readonly currency: string }[];
}

type Read = Extract<FileLook, { kind: 'read' }>;

/** Brings receipts of any export in: which channel, how the file is read, what it holds, then the change itself. */
export function BringInReceipts({ channels }: Props) {
  const { sending, send } = useSending();
  const { job, report, trouble, setTrouble, clear, look, bringIn, saveRefused } = useImport('receipts');
  const [channel, setChannel] = useState(channels[0]!.id);
  const [file, setFile] = useState<SentFile | null>(null);
  const [seen, setSeen] = useState<Read | null>(null);
  const [profile, setProfile] = useState<ReceiptProfile | null>(null);
  const [reading, setReading] = useState(false);
  /** How often the file was looked at anew, after it was said how it is written. */
  const [looks, setLooks] = useState(0);

  const receipts = (settings: ReceiptProfile | null, of: Read | null) => ({
    receipts: { channel, ...(settings && of && { profile: { fingerprint: of.sniffed.fingerprint, settings } }) },
  });
  const leave = () => {
    clear();
    setFile(null);
    setSeen(null);
    setProfile(null);
  };
  const take = async (chosen: File) => {
    leave();
    const sent = await send(chosen);
    if (!('sha256' in sent)) return setTrouble(sent);
    setFile(sent);
    const answer = await job.run<FileLook>({ kind: 'look-at-file', sha256: sent.sha256, channel });
    if (!answer.ok) return setTrouble(answer);
    const found = answer.value;
    if (found.kind === 'refused') return setTrouble(findingWords(found.finding));
    if (found.kind === 'own') return look(sent, receipts(null, null));
    setSeen(found);
    // A reading that was confirmed before is taken at once; it can still be changed.
    if (found.saved) return readAs(sent, found, found.saved);
    setReading(true);
  };
  const lookAgain = async (sent: SentFile, said: SaidOfFile) => {
    const answer = await job.run<FileLook>({ kind: 'look-at-file', sha256: sent.sha256, channel, said });
    if (!answer.ok) return setTrouble(answer);
    if (answer.value.kind === 'refused') return setTrouble(findingWords(answer.value.finding));
    if (answer.value.kind === 'own') return look(sent, receipts(null, null));
    setTrouble(null);
    setProfile(null);
    setSeen(answer.value);
    setLooks(looks + 1);
  };
  const readAs = async (sent: SentFile, of: Read, settings: ReceiptProfile) => {
    setProfile(settings);
    setReading(false);
    await look(sent, receipts(settings, of));
  };
  const busy = sending || job.running !== null;
  return (
    <>
      {channels.length > 1 ? (
        <Form.Group controlId="bring-in-channel" className="mb-2 d-flex gap-2 align-items-center">
          <Form.Label className="mb-0">Collected through</Form.Label>
          <Form.Select
            style={{ width: 'auto' }}
            value={channel}
            onChange={(event) => {
              setChannel(Number(event.target.value));
              leave();
            }}
          >
            {channels.map((one) => (
              <option key={one.id} value={one.id}>
                {one.name}, {one.currency}
              </option>
            ))}
          </Form.Select>
        </Form.Group>
      ) : null}
      <FileDrop
        takes="Any export with one row per receipt: CSV, TSV, XLSX or JSON. Its columns are guessed and shown first; how a file was read is found again by its header."
        accept=".csv,.tsv,.txt,.json,.xlsx,text/csv,application/json"
        disabled={busy}
        onFile={(chosen) => void take(chosen)}
      />
      {sending ? <Notice kind="info">Sending the file</Notice> : null}
      <JobProgress job={job} />
      {trouble ? (
        <Notice kind="refused">
          {trouble.what} {trouble.next}
        </Notice>
      ) : null}
      {seen && file && reading ? (
        <ReadingForm
          key={`${file.sha256} ${looks}`}
          file={file.name}
          seen={seen.sniffed}
          start={profile ?? seen.saved ?? seen.sniffed.profile}
          confirmed={profile !== null || seen.saved !== null}
          busy={busy}
          onRead={(settings) => void readAs(file, seen, settings)}
          onLookAgain={(said) => void lookAgain(file, said)}
          onLeave={leave}
        />
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
          noun={{ one: 'movement', many: 'movements' }}
          busy={busy}
          onBringIn={() => void bringIn(receipts(profile, seen)).then((done) => done && leave())}
          onRefused={() => void saveRefused(receipts(profile, seen))}
          onLeave={leave}
        />
      ) : null}
    </>
  );
}
