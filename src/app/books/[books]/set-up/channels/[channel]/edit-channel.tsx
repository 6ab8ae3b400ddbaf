'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import type { ChannelDraft } from '@/books/channels/channel-settings';
import type { ChannelsPage } from '@/books/channels/list';
import { useBooks } from '@/ui/frame/books-context';
import { useToasts } from '@/ui/frame/toasts';
import { Notice } from '@/ui/parts/notice';
import { editChannelNow } from '../../../actions';
import { BookedFields } from '../open/step-accounts';
import { BankFields, SitesStep } from '../open/step-kind';
import { HistoryFields, PaidFields } from '../open/step-posting';
import { KIND_WORDS } from '../kind-words';

interface Props {
  readonly channel: number;
  readonly page: ChannelsPage;
  readonly start: ChannelDraft;
}

/** Changes an open channel: all but its kind, its currency and the account that is its own. */
export function EditChannel({ channel, page, start }: Props) {
  const { id } = useBooks();
  const router = useRouter();
  const toasts = useToasts();
  const [answers, setAnswers] = useState(start);
  const [trouble, setTrouble] = useState('');
  const props = { page, answers, set: (more: ChannelDraft) => setAnswers({ ...answers, ...more }) };
  const save = async () => {
    const { kind: _kind, currency: _currency, ...settings } = answers;
    const answer = await editChannelNow(id, { channel, settings });
    if (!answer.ok) return setTrouble(`${answer.what} ${answer.next}`);
    if (answer.change) toasts.changed(answer.change);
    router.push(`/books/${id}/set-up/channels`);
  };
  return (
    <main>
      <div className="page-head">
        <h1>{start.name}</h1>
        <span className="soft small">
          {KIND_WORDS[start.kind!].name}, {start.currency}; what is posted stays as it was posted
        </span>
      </div>
      <div className="panel wizard">
        <BankFields {...props} />
        <BookedFields {...props} />
        <SitesStep {...props} />
        <PaidFields {...props} />
        <HistoryFields {...props} />
        {trouble ? (
          <section>
            <Notice kind="refused">{trouble}</Notice>
          </section>
        ) : null}
        <div className="acts">
          <Button variant="primary" disabled={!answers.name?.trim()} onClick={() => void save()}>
            Save the changes
          </Button>
          <Link className="btn btn-plain" href={`/books/${id}/set-up/channels`}>
            Leave it
          </Link>
        </div>
      </div>
    </main>
  );
}
