'use client';

import Link from 'next/link';
import Button from 'react-bootstrap/Button';
import type { LayerReport } from '@/books/map/layers';
import type { MapPage, RuleRow } from '@/books/map/map-page';
import { useBooks, useMoney } from '@/ui/frame/books-context';
import { Empty } from '@/ui/parts/notice';
import { conditionWords, landingWords, troubleWords } from './map-words';
import { TableHeads } from '@/ui/parts/plain-table';

interface Props {
  readonly map: MapPage;
  readonly report: LayerReport | null;
  readonly open: number | null;
  readonly onMove: (rule: RuleRow, position: number) => void;
}

/** The rules in their order: the first that fits decides. */
export function RuleList({ map, report, open, onMove }: Props) {
  const { id } = useBooks();
  const money = useMoney();
  if (map.rules.length === 0) {
    return (
      <Empty title="No rules yet">
        <p>
          Items, payers and the defaults above decide everything. A rule decides before them where a text, a site, an
          amount or a country says so.
        </p>
        <Link className="btn btn-plain" href={`/books/${id}/set-up/map?rule=new`}>
          Make a rule
        </Link>
      </Empty>
    );
  }
  return (
    <div className="surface">
      <table className="list" aria-label="Map rules">
        <TableHeads heads={['Place', 'Rule', 'When', 'Then', { name: 'Last 12 months', num: true }]} />
        <tbody>
          {map.rules.map((rule) => {
            const share = report?.rules.find((row) => row.rule === rule.id);
            const trouble = map.troubles.find((row) => row.rule === rule.id);
            return (
              <tr key={rule.id} aria-selected={rule.id === open}>
                <td className="text-nowrap">
                  {rule.position}{' '}
                  <Button
                    variant="link"
                    size="sm"
                    className="p-0 px-1"
                    disabled={rule.position === 1}
                    aria-label={`Move ${rule.name} up`}
                    onClick={() => onMove(rule, rule.position - 1)}
                  >
                    ↑
                  </Button>
                  <Button
                    variant="link"
                    size="sm"
                    className="p-0 px-1"
                    disabled={rule.position === map.rules.length}
                    aria-label={`Move ${rule.name} down`}
                    onClick={() => onMove(rule, rule.position + 1)}
                  >
                    ↓
                  </Button>
                </td>
                <td>
                  <Link href={`/books/${id}/set-up/map?rule=${rule.id}`}>{rule.name}</Link>
                  {rule.active ? null : <div className="sub">switched off</div>}
                </td>
                <td className="wide">
                  {conditionWords(rule.conditions, map, money).join(' · ')}
                  {trouble ? <div className="waits small">△ {troubleWords(trouble, map)}</div> : null}
                </td>
                <td className="wide">{landingWords(rule.landing, map).join(' · ')}</td>
                <td className="num">
                  {report === null ? '' : share ? `${share.count} · ${money(share.amount)}` : rule.active ? 'none' : ''}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}
