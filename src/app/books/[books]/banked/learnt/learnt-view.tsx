'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import type { ShownStep } from '@/books/channels/fee-steps';
import type { LearntDayCut } from '@/books/matching/day-cuts';
import type { BankName } from '@/books/matching/bank-names';
import type { LearntLag } from '@/books/matching/learnt';
import type { FeeCheck } from '@/books/proof/fee-check';
import { formatDate, type PlainDate } from '@/core/calendar';
import { useBooks } from '@/ui/frame/books-context';
import { useToasts } from '@/ui/frame/toasts';
import { Empty } from '@/ui/parts/notice';
import { PlainTable } from '@/ui/parts/plain-table';
import { Act } from './act';
import {
  forgetBankNameNow,
  forgetLearntNow,
  keepBankNameNow,
  setDayCutNow,
  setFeeStepNow,
  takeLagNow,
} from './actions';
import { LearntCuts } from './learnt-cuts';
import { LearntFees } from './learnt-fees';
import { LearntNames } from './learnt-names';

interface Props {
  readonly lags: readonly LearntLag[];
  readonly names: readonly BankName[];
  readonly today: PlainDate;
  readonly cuts: readonly LearntDayCut[];
  /** Days from which channels take something else than before: learnt, or agreed. */
  readonly steps: readonly ShownStep[];
  /** Channels whose charges fit another schedule than is agreed. */
  readonly fees: readonly FeeCheck[];
  readonly forgotten: readonly { readonly id: number; readonly name: string; readonly upTo: PlainDate | null }[];
}

const days = (count: number) => `${count} working ${count === 1 ? 'day' : 'days'}`;

/** What confirmed matches taught: each fact with what it rests on, to be taken over, corrected or forgotten. */
export function LearntView({ lags, names, cuts, fees, steps, today, forgotten }: Props) {
  const { id } = useBooks();
  const router = useRouter();
  const toasts = useToasts();
  const told = (answer: Awaited<ReturnType<typeof takeLagNow>>) => {
    if (!answer.ok) return toasts.refused(answer.what, answer.next);
    if (answer.change) toasts.changed(answer.change);
    router.refresh();
  };
  const forget = (channel: number) => void forgetLearntNow(id, { channel, upTo: today }).then(told);
  return (
    <>
      <div className="page-head">
        <h1>Learnt</h1>
        <span className="soft">from confirmed matches and channels’ own payouts; each fact with what it rests on</span>
      </div>
      {lags.length + names.length + cuts.length + fees.length + steps.length + forgotten.length === 0 ? (
        <Empty title="Nothing learnt yet">
          <p>Once deposits are confirmed, how long each channel takes and how payers appear at the bank stands here.</p>
          <Link className="btn btn-plain" href={`/books/${id}/banked`}>
            To the statement lines
          </Link>
        </Empty>
      ) : null}
      {lags.length > 0 ? (
        <>
          <h2>From a channel to the bank</h2>
          <PlainTable
            label="How long channels take"
            heads={['Channel', 'Set as usual', 'It was', { name: 'Payouts', num: true }, { acts: true }]}
          >
            {lags.map((lag) => (
              <tr key={lag.channel}>
                <td>{lag.name}</td>
                <td>{days(lag.set)}</td>
                <td className="wide">
                  {lag.lags
                    .slice(0, 5)
                    .map(({ days: n, count }) => `${days(n)} ${count} times`)
                    .join(', ')}
                </td>
                <td className="num">{lag.of}</td>
                <td className="text-end text-nowrap">
                  {lag.better === null ? null : (
                    <Act
                      of={lag.name}
                      says={`Take ${days(lag.better)} as usual`}
                      onClick={() => void takeLagNow(id, { channel: lag.channel, days: lag.better }).then(told)}
                    />
                  )}
                  <Link
                    className="btn btn-link btn-sm p-0 ms-2"
                    aria-label={`Correct: how long ${lag.name} takes`}
                    href={`/books/${id}/set-up/channels/${lag.channel}`}
                  >
                    Correct
                  </Link>
                  <Act of={`what ${lag.name} taught`} says="Forget" onClick={() => forget(lag.channel)} />
                </td>
              </tr>
            ))}
          </PlainTable>
        </>
      ) : null}
      <LearntCuts cuts={cuts} onCut={(input) => void setDayCutNow(id, input).then(told)} onForget={forget} />
      <LearntFees
        fees={fees}
        steps={steps}
        onStep={(input) => void setFeeStepNow(id, input).then(told)}
        onForget={forget}
      />
      <LearntNames
        names={names}
        onKeep={(input) => void keepBankNameNow(id, input).then(told)}
        onForget={(input) => void forgetBankNameNow(id, input).then(told)}
      />
      {forgotten.map((channel) => (
        <p key={channel.id} className="soft small mb-1">
          What {channel.name} taught up to {formatDate(channel.upTo!)} is forgotten.
          <Act
            of={`what ${channel.name} taught`}
            says="Remember it"
            onClick={() => void forgetLearntNow(id, { channel: channel.id, upTo: null }).then(told)}
          />
        </p>
      ))}
    </>
  );
}
