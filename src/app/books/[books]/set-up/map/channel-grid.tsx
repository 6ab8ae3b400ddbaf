'use client';

import Form from 'react-bootstrap/Form';
import type { LayerReport } from '@/books/map/layers';
import { choicesFor } from '@/books/map/account-choices';
import type { ChannelRow, MapPage } from '@/books/map/map-page';
import type { MapLayer } from '@/core/map';
import { add, ZERO, type Minor } from '@/core/money';
import { useMoney } from '@/ui/frame/books-context';
import { valueName } from './map-words';
import { TableHeads } from '@/ui/parts/plain-table';

type Share = MapLayer | 'nothing';

/** The layers as the bar groups them, from what somebody decided on purpose to what only falls through. */
const BANDS: readonly { readonly name: string; readonly layers: readonly Share[]; readonly className: string }[] = [
  { name: 'rule', layers: ['receipt', 'rule'], className: 'band-rule' },
  { name: 'item', layers: ['item'], className: 'band-item' },
  { name: 'payer', layers: ['payer'], className: 'band-payer' },
  { name: 'default', layers: ['channel', 'books', 'nothing'], className: 'band-default' },
];

interface Props {
  readonly map: MapPage;
  readonly report: LayerReport | null;
  readonly onDefault: (layer: 'channel' | 'books', ref: number, field: string, value: number | null) => void;
}

/** Channels by what is decided of them, and how much of the last twelve months' money fell to which layer. */
export function ChannelGrid({ map, report, onDefault }: Props) {
  const name = (account: number) => valueName('income', account, map);
  const incomes = choicesFor('income', map.accounts);
  const choose = (
    label: string,
    value: number | null,
    choices: readonly { id: number; name: string }[],
    set: (value: number | null) => void,
    otherwise: string,
  ) => (
    <Form.Select
      size="sm"
      aria-label={label}
      value={value ?? ''}
      onChange={(event) => set(event.target.value === '' ? null : Number(event.target.value))}
    >
      <option value="">{otherwise}</option>
      {choices.map((choice) => (
        <option key={choice.id} value={choice.id}>
          {choice.name}
        </option>
      ))}
    </Form.Select>
  );
  return (
    <div className="surface">
      <table className="list" aria-label="Channels and what is decided">
        <TableHeads
          heads={[
            'Channel',
            'Deposited in, paid out to',
            'Fees, refunds, tips',
            'Sales when nothing else decides',
            'Tax',
            'Income decided by, last 12 months',
          ]}
        />
        <tbody>
          {map.channels.map((channel) => (
            <tr key={channel.id}>
              <td>
                <b>{channel.name}</b>
                <div className="sub">
                  {channel.currency}, {channel.mode === 'each' ? 'each receipt' : 'one entry a day and site'}
                </div>
              </td>
              <td>
                {name(channel.clearing)}
                <div className="sub">{name(channel.bank)}</div>
              </td>
              <td>
                {name(channel.fees)}
                <div className="sub">
                  {name(channel.refunds)} · {name(channel.tips)}
                </div>
              </td>
              <td>
                {choose(
                  `Sales of ${channel.name} when nothing else decides`,
                  channel.income,
                  incomes,
                  (value) => onDefault('channel', channel.id, 'income', value),
                  'left to these books',
                )}
              </td>
              <td>
                {choose(
                  `Tax of ${channel.name} when nothing else decides`,
                  channel.taxCode,
                  map.taxCodes,
                  (value) => onDefault('channel', channel.id, 'taxCode', value),
                  'left to these books',
                )}
              </td>
              <td>
                <Shares channel={channel} report={report} />
              </td>
            </tr>
          ))}
          <tr>
            <td>
              <b>These books</b>
              <div className="sub">where no channel decides</div>
            </td>
            <td />
            <td />
            <td>
              {choose(
                'Sales when no channel decides',
                map.books.income,
                incomes,
                (value) => onDefault('books', 1, 'income', value),
                'nothing: the receipt waits',
              )}
            </td>
            <td>
              {choose(
                'Tax when no channel decides',
                map.books.taxCode,
                map.taxCodes,
                (value) => onDefault('books', 1, 'taxCode', value),
                'no tax',
              )}
            </td>
            <td />
          </tr>
        </tbody>
      </table>
    </div>
  );
}

function Shares({ channel, report }: { channel: ChannelRow; report: LayerReport | null }) {
  const money = useMoney();
  if (report === null) return <span className="soft small">looking through the receipts</span>;
  const shares = report.shares.filter((share) => share.channel === channel.id && share.field === 'income');
  const total = shares.reduce((sum, share) => add(sum, share.amount), ZERO);
  if (total === 0) return <span className="soft small">no sales without an invoice</span>;
  const bands = BANDS.map((band) => ({
    ...band,
    amount: shares.filter((s) => band.layers.includes(s.layer)).reduce((sum, s) => add(sum, s.amount), ZERO),
  })).filter((band) => band.amount > 0);
  return (
    <>
      <div className="share-bar" aria-hidden="true">
        {bands.map((band) => (
          <i key={band.name} className={band.className} style={{ width: `${(100 * band.amount) / total}%` }} />
        ))}
      </div>
      <div className="sub">
        {bands.map((band) => `${band.name} ${money(band.amount as Minor, channel.currency)}`).join(' · ')}
      </div>
    </>
  );
}
