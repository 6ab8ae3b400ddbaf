'use client';

import { useRouter } from 'next/navigation';
import Link from 'next/link';
import { useEffect, useRef, useState } from 'react';
import type { FallenThrough, LayerReport } from '@/books/map/layers';
import type { MapPage } from '@/books/map/map-page';
import type { Trial as TrialReport } from '@/books/map/try-rule';
import { useBooks, useMoney } from '@/ui/frame/books-context';
import { useToasts } from '@/ui/frame/toasts';
import { JobProgress, useJob } from '@/ui/parts/job';
import { moveRuleNow, setDefaultNow } from '../../actions';
import type { ActionAnswer } from '@/ui/parts/action-answer';
import { ChannelGrid } from './channel-grid';
import { PostAgain } from './post-again';
import { RuleForm } from './rule-form';
import { RuleList } from './rule-list';
import { Trial } from './trial';

interface Props {
  readonly map: MapPage;
  /** The rule that is open beside the list. */
  readonly rule: number | 'new' | null;
}

/** The account map: channels and what is decided of them, the rules, and what falls through. */
export function MapView({ map, rule }: Props) {
  const { id } = useBooks();
  const router = useRouter();
  const toasts = useToasts();
  const job = useJob();
  const [report, setReport] = useState<LayerReport | null>(null);
  const [seed, setSeed] = useState<FallenThrough | null>(null);
  const [trial, setTrial] = useState<{ readonly of: Props['rule']; readonly report: TrialReport } | null>(null);
  // The map is looked through again whenever it has changed.
  const shown = JSON.stringify([map.rules, map.channels, map.books]);
  const looked = useRef('');
  const { run } = job;
  useEffect(() => {
    if (looked.current === shown) return;
    looked.current = shown;
    void run<LayerReport>({ kind: 'map-layers' }).then((answer) => {
      if (answer.ok) setReport(answer.value);
    });
  }, [run, shown]);

  const told = <T,>(answer: ActionAnswer<T>) => {
    if (!answer.ok) return toasts.refused(answer.what, answer.next);
    if (answer.change) toasts.changed(answer.change);
    router.refresh();
  };
  const opened = rule === 'new' ? null : (map.rules.find((row) => row.id === rule) ?? null);
  return (
    <main>
      <div className="page-head">
        <h1>Where money lands</h1>
        <span className="soft small">what you set on a receipt, then rules, item, payer, channel, these books</span>
        <div className="acts">
          <PostAgain map={map} />
          <Link className="btn btn-plain" href={`/books/${id}/set-up/map?rule=new`} onClick={() => setSeed(null)}>
            New rule
          </Link>
        </div>
      </div>
      <JobProgress job={job} />
      <ChannelGrid
        map={map}
        report={report}
        onDefault={(layer, ref, field, value) => void setDefaultNow(id, { layer, ref, field, value }).then(told)}
      />
      <div className="split mt-3">
        <div>
          {trial && trial.of === rule ? <Trial trial={trial.report} map={map} /> : null}
          <h2>Rules: the first that fits decides</h2>
          <RuleList
            map={map}
            report={report}
            open={opened?.id ?? null}
            onMove={(row, position) => void moveRuleNow(id, { id: row.id, position }).then(told)}
          />
        </div>
        <div>
          {rule === 'new' || opened ? (
            <RuleForm
              key={opened ? `${opened.id}` : `new ${seed?.text ?? ''}`}
              map={map}
              rule={opened}
              seed={seed}
              onTried={(tried) => setTrial(tried && { of: rule, report: tried })}
              onDone={(answer) => {
                told(answer);
                if (answer.ok) router.replace(`/books/${id}/set-up/map`);
              }}
            />
          ) : (
            <Fallen map={map} report={report} onRule={setSeed} />
          )}
        </div>
      </div>
    </main>
  );
}

/** What only a default decides, largest first, each with the way to give it a rule. */
function Fallen({
  map,
  report,
  onRule,
}: {
  map: MapPage;
  report: LayerReport | null;
  onRule: (of: FallenThrough) => void;
}) {
  const { id } = useBooks();
  const money = useMoney();
  return (
    <section className="box" aria-label="What falls through">
      <h2>What only a default decides</h2>
      {report === null ? <p className="soft mb-0">Looking through the receipts of the last 12 months.</p> : null}
      {report?.fallen.length === 0 ? (
        <p className="soft mb-0">Nothing: rules, items and payers decide all income.</p>
      ) : null}
      {report && report.fallen.length > 0 ? (
        <table className="list">
          <tbody>
            {report.fallen.map((row) => (
              <tr key={`${row.channel} ${row.text}`}>
                <td className="wide">
                  {row.text || 'no text'}
                  <div className="sub">{map.channels.find((channel) => channel.id === row.channel)?.name}</div>
                </td>
                <td className="num">
                  {row.count} · {money(row.amount)}
                </td>
                <td>
                  <Link href={`/books/${id}/set-up/map?rule=new`} onClick={() => onRule(row)}>
                    Make a rule
                  </Link>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      ) : null}
    </section>
  );
}
