'use client';

import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { CreditView, OpenInvoiceView } from '@/books/settling/open';
import type { SettledView, SettleInput } from '@/books/settling/settle';
import { formatDate } from '@/core/calendar';
import { parseAmount, subtract, sum, writeAmount, ZERO, type Minor } from '@/core/money';
import { byNumber, oldest, type Share } from '@/core/receivables';
import { useBooks, useMoney } from '@/ui/frame/books-context';
import { useToasts } from '@/ui/frame/toasts';
import { EntryPreview } from '@/ui/parts/entry';
import { Notice } from '@/ui/parts/notice';
import type { ActionAnswer } from '@/ui/parts/action-answer';
import { previewSettle, settleNow } from '../../../actions';
import { TableHeads } from '@/ui/parts/plain-table';

interface Props {
  readonly credits: readonly CreditView[];
  readonly invoices: readonly OpenInvoiceView[];
  readonly limit: Minor;
  readonly payer: number;
}

interface Put {
  readonly amount: string;
  readonly discount: boolean;
  readonly writeOff: boolean;
}

const NOTHING: Put = { amount: '', discount: false, writeOff: false };

/** Money that is kept for a payer beside the invoices that are open: what goes where, and what is left of each. */
export function SettleSheet({ credits, invoices, limit, payer }: Props) {
  const { id, currency } = useBooks();
  const money = useMoney();
  const router = useRouter();
  const toasts = useToasts();
  const [used, setUsed] = useState<ReadonlySet<string>>(new Set(credits.map(({ name }) => name)));
  const [puts, setPuts] = useState<Readonly<Record<number, Put>>>({});
  const [shown, setShown] = useState<ActionAnswer<SettledView> | null>(null);
  const from = credits.filter(({ name }) => used.has(name));
  const has = sum(from.map(({ left }) => left));
  const amountOf = (invoice: number): Minor | null => {
    const text = puts[invoice]?.amount.trim() ?? '';
    const read = text === '' ? null : parseAmount(text, currency);
    return read === null ? ZERO : read.ok ? read.minor : null;
  };
  const rows = invoices.map((invoice) => {
    const put = puts[invoice.id] ?? NOTHING;
    const amount = amountOf(invoice.id);
    const discount = put.discount ? invoice.discount : ZERO;
    const rest = subtract(subtract(invoice.open, amount ?? ZERO), discount);
    return { invoice, put, amount, writeOff: put.writeOff && rest > 0 && rest <= limit ? rest : ZERO, rest };
  });
  const left = subtract(has, sum(rows.map(({ amount }) => amount ?? ZERO)));
  const to: SettleInput['to'] = rows.flatMap(({ invoice, put, amount, writeOff }) =>
    (amount ?? ZERO) + writeOff === 0
      ? []
      : [{ invoice: invoice.id, amount: amount!, discount: put.discount, writeOff }],
  );
  const readable = rows.every(({ amount }) => amount !== null);
  const input: SettleInput = { from: from.map(({ source }) => source), to, date: null };
  const key = readable && to.length > 0 && from.length > 0 ? JSON.stringify(input) : '';
  useEffect(() => {
    let wanted = true;
    if (key !== '') void previewSettle(id, JSON.parse(key) as SettleInput).then((got) => wanted && setShown(got));
    return () => {
      wanted = false;
    };
  }, [id, key]);
  const lay = (shares: readonly Share[]) =>
    setPuts(
      Object.fromEntries(
        shares.map(({ invoice, amount }) => [invoice, { ...NOTHING, amount: writeAmount(amount, currency) }]),
      ),
    );
  const set = (invoice: number, change: Partial<Put>) =>
    setPuts({ ...puts, [invoice]: { ...NOTHING, ...puts[invoice], ...change } });
  const settle = async () => {
    const answer = await settleNow(id, input);
    if (!answer.ok) return toasts.refused(answer.what, answer.next);
    if (answer.change) toasts.changed(answer.change);
    router.push(`/books/${id}/owed/payers/${payer}`);
  };
  const named = byNumber(has, invoices, from.map(({ note }) => note).join(' '));
  return (
    <Form
      className="split"
      onSubmit={(event) => {
        event.preventDefault();
        if (key !== '' && shown?.ok) void settle();
      }}
    >
      <div>
        <div className="chips">
          <Button size="sm" variant="plain" onClick={() => lay(oldest(has, invoices).shares)}>
            Oldest first
          </Button>
          <Button size="sm" variant="plain" disabled={named.shares.length === 0} onClick={() => lay(named.shares)}>
            By the numbers they name
          </Button>
          <Button size="sm" variant="plain" onClick={() => setPuts({})}>
            Clear
          </Button>
        </div>
        <div className="surface">
          <table className="list" aria-label="Open invoices">
            <TableHeads
              heads={[
                'Invoice',
                'Due',
                { name: 'Open', num: true },
                { name: 'Put to it', num: true },
                'Besides',
                { name: 'Then open', num: true },
              ]}
            />
            <tbody>
              {rows.map(({ invoice, put, amount, writeOff, rest }) => (
                <tr key={invoice.id}>
                  <td>{invoice.number}</td>
                  <td className="text-nowrap">{formatDate(invoice.due)}</td>
                  <td className="num">{money(invoice.open)}</td>
                  <td style={{ width: 110 }}>
                    <Form.Control
                      size="sm"
                      className="num"
                      inputMode="decimal"
                      aria-label={`Put to ${invoice.number}`}
                      isInvalid={amount === null}
                      value={put.amount}
                      onChange={(event) => set(invoice.id, { amount: event.target.value })}
                    />
                  </td>
                  <td className="small">
                    {invoice.discount > 0 ? (
                      <Form.Check
                        id={`early-${invoice.id}`}
                        label={`${money(invoice.discount)} off, it came in time`}
                        checked={put.discount}
                        onChange={(event) =>
                          set(invoice.id, {
                            discount: event.target.checked,
                            ...(event.target.checked && {
                              amount: writeAmount(subtract(invoice.open, invoice.discount), currency),
                            }),
                          })
                        }
                      />
                    ) : null}
                    {(amount ?? 0) > 0 && rest > 0 && rest <= limit ? (
                      <Form.Check
                        id={`off-${invoice.id}`}
                        label={`write ${money(rest)} off`}
                        checked={put.writeOff}
                        onChange={(event) => set(invoice.id, { writeOff: event.target.checked })}
                      />
                    ) : null}
                  </td>
                  <td className="num">{money(subtract(rest, writeOff))}</td>
                </tr>
              ))}
            </tbody>
          </table>
          {invoices.length === 0 ? <p className="soft p-2 mb-0">No invoice of theirs is open.</p> : null}
        </div>
      </div>
      <div className="sticky-panel panel" aria-label="Money">
        <section>
          <h2>Kept for them</h2>
          {credits.map((credit) => (
            <Form.Check
              key={credit.name}
              id={`from ${credit.name}`}
              className="small"
              label={`${credit.name}, ${formatDate(credit.date)}, ${money(credit.left)}${credit.note ? `: ${credit.note}` : ''}`}
              checked={used.has(credit.name)}
              onChange={(event) => {
                const next = new Set(used);
                if (event.target.checked) next.add(credit.name);
                else next.delete(credit.name);
                setUsed(next);
              }}
            />
          ))}
        </section>
        <section className="d-flex">
          <span>Stays with them</span>
          <strong className="num ms-auto" aria-label="Stays with them">
            {money(left)}
          </strong>
        </section>
        {key === '' || shown === null ? null : shown.ok ? (
          <EntryPreview entry={shown.value.entry} title="Entry it will write" of={null} />
        ) : (
          <section>
            <Notice kind="refused">{`${shown.what} ${shown.next}`}</Notice>
          </section>
        )}
        <div className="acts">
          <Button type="submit" variant="primary" disabled={key === '' || !shown?.ok}>
            Settle
          </Button>
        </div>
      </div>
    </Form>
  );
}
