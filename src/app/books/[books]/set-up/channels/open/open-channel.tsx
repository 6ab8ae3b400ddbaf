'use client';

import { useRouter } from 'next/navigation';
import { useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Nav from 'react-bootstrap/Nav';
import type { ChannelDraft } from '@/books/channels/channel-settings';
import type { ChannelsPage, DraftRow } from '@/books/channels/list';
import { useBooks } from '@/ui/frame/books-context';
import { useToasts } from '@/ui/frame/toasts';
import { Notice } from '@/ui/parts/notice';
import { openChannelNow, saveDraftNow } from '../../../actions';
import { complete, firstAnswers, missing, STEP_WORDS, STEPS, type Step } from './answers';
import { AccountsStep } from './step-accounts';
import { CutOverStep, LookStep } from './step-begin';
import { KindStep, SitesStep } from './step-kind';
import { PostingStep } from './step-posting';

interface Props {
  readonly page: ChannelsPage;
  readonly draft: DraftRow | null;
}

export interface StepProps {
  readonly page: ChannelsPage;
  readonly answers: ChannelDraft;
  readonly set: (more: ChannelDraft) => void;
}

/** Opens a channel in steps; each step that is left is kept, so that it can be gone on with later. */
export function OpenChannel({ page, draft }: Props) {
  const { id } = useBooks();
  const router = useRouter();
  const toasts = useToasts();
  const [answers, setAnswers] = useState<ChannelDraft>({ ...firstAnswers(page), ...draft?.settings });
  const [kept, setKept] = useState(draft?.id ?? null);
  const [step, setStep] = useState<Step>('kind');
  const [trouble, setTrouble] = useState('');
  const set = (more: ChannelDraft) => setAnswers({ ...answers, ...more });
  const lacks = missing(answers, page.currency);

  /** One save follows another, so that the first has given the draft its id before the next names it. */
  const saving = useRef(Promise.resolve(kept));
  const save = () => {
    saving.current = saving.current.then(async (known) => {
      const answer = await saveDraftNow(id, { id: known, settings: answers });
      const now = answer.ok ? answer.value.draft : known;
      setKept(now);
      return now;
    });
    return saving.current;
  };
  const go = async (to: Step) => {
    setStep(to);
    setTrouble('');
    await save();
  };
  const leave = async () => {
    await save();
    router.push(`/books/${id}/set-up/channels`);
  };
  const open = async () => {
    const answer = await openChannelNow(id, { draft: await saving.current, settings: complete(answers) });
    if (!answer.ok) return setTrouble(`${answer.what} ${answer.next}`);
    if (answer.change) toasts.changed(answer.change);
    router.push(`/books/${id}/set-up/channels`);
  };
  const at = STEPS.indexOf(step);
  const props = { page, answers, set };
  return (
    <main>
      <div className="page-head">
        <h1>Open a channel</h1>
        <span className="soft small">kept as you go: leave it and go on another day</span>
      </div>
      <Nav
        variant="underline"
        className="mb-3"
        activeKey={step}
        onSelect={(key) => void go(key as Step)}
        aria-label="Steps"
      >
        {STEPS.map((one, index) => (
          <Nav.Item key={one}>
            <Nav.Link eventKey={one} aria-current={one === step ? 'step' : undefined}>
              {index + 1}. {STEP_WORDS[one]}
              {lacks.some((lack) => lack.step === one) && one !== step && kept !== null ? ' △' : ''}
            </Nav.Link>
          </Nav.Item>
        ))}
      </Nav>
      <div className="panel wizard">
        {step === 'kind' ? <KindStep {...props} /> : null}
        {step === 'accounts' ? <AccountsStep {...props} /> : null}
        {step === 'sites' ? <SitesStep {...props} /> : null}
        {step === 'posting' ? <PostingStep {...props} /> : null}
        {step === 'cut-over' ? <CutOverStep {...props} /> : null}
        {step === 'look' ? <LookStep {...props} lacks={lacks} onStep={(to) => void go(to)} /> : null}
        {trouble ? (
          <section>
            <Notice kind="refused">{trouble}</Notice>
          </section>
        ) : null}
        <div className="acts">
          {step === 'look' ? (
            <Button variant="primary" disabled={lacks.length > 0} onClick={() => void open()}>
              Open {answers.name}
            </Button>
          ) : (
            <Button variant="primary" onClick={() => void go(STEPS[at + 1]!)}>
              Next
            </Button>
          )}
          {at > 0 ? (
            <Button variant="plain" onClick={() => void go(STEPS[at - 1]!)}>
              Back
            </Button>
          ) : null}
          <Button variant="link" onClick={() => void leave()}>
            Leave it for now
          </Button>
        </div>
      </div>
    </main>
  );
}
