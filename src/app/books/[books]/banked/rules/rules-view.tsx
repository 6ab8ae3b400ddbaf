'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import type { RuleRow } from '@/books/matching/statement-rules';
import { plural } from '@/core/words';
import { useBooks } from '@/ui/frame/books-context';
import { useToasts } from '@/ui/frame/toasts';
import { Mark } from '@/ui/parts/mark';
import { Empty } from '@/ui/parts/notice';
import { PlainTable } from '@/ui/parts/plain-table';
import type { BookingLists } from '../book-to';
import { confirmByRulesNow, moveStatementRuleNow, removeStatementRuleNow, saveStatementRuleNow } from './actions';
import { RuleForm } from './rule-form';
import { conditionWords } from './rule-words';

interface Props {
  readonly rules: readonly RuleRow[];
  readonly lists: BookingLists;
  readonly banks: readonly { readonly id: number; readonly code: string; readonly name: string }[];
  /** The bank's text of the line that a rule is to be made of; empty where none is. */
  readonly text: string;
}

/** The rules for money that is no channel's, in their order, and what each would book. */
export function StatementRulesView({ rules, lists, banks, text }: Props) {
  const { id, currency } = useBooks();
  const router = useRouter();
  const toasts = useToasts();
  const [open, setOpen] = useState<RuleRow | 'new' | null>(text === '' ? null : 'new');
  const waiting = rules.reduce((sum, rule) => sum + rule.waiting, 0);
  const accountName = (account: number) => {
    const found = lists.accounts.find((one) => one.id === account);
    return found ? `${found.code} ${found.name}` : '';
  };
  const told = (
    answer: Awaited<
      ReturnType<
        | typeof removeStatementRuleNow
        | typeof confirmByRulesNow
        | typeof moveStatementRuleNow
        | typeof saveStatementRuleNow
      >
    >,
  ) => {
    if (!answer.ok) return toasts.refused(answer.what, answer.next);
    if (answer.change) toasts.changed(answer.change);
    setOpen(null);
    router.refresh();
  };
  const bankNames = new Map(banks.map((bank) => [bank.id, `${bank.code} ${bank.name}`]));
  return (
    <>
      <div className="page-head">
        <h1>Statement rules</h1>
        <span className="soft">
          for money that is no channel’s: what payouts, invoices or receipts explain, no rule takes
        </span>
        <div className="acts">
          {waiting > 0 ? (
            <Button variant="primary" onClick={() => void confirmByRulesNow(id).then(told)}>
              Book {plural(waiting, 'line')} by rule
            </Button>
          ) : null}
          <Button variant="plain" onClick={() => setOpen('new')}>
            New rule
          </Button>
        </div>
      </div>
      {open ? (
        <RuleForm
          key={open === 'new' ? 'new' : open.id}
          rule={open === 'new' ? null : open}
          text={text}
          lists={lists}
          banks={banks}
          onKeep={async (input) => {
            const answer = await saveStatementRuleNow(id, input);
            if (answer.ok) told(answer);
            return answer.ok ? null : answer;
          }}
          onLeave={() => setOpen(null)}
        />
      ) : null}
      {rules.length === 0 && !open ? (
        <Empty title="No statement rule yet">
          <p>
            A rule books what comes again and is no channel’s: rent, charges, interest. It is tried on the past first.
          </p>
          <Button variant="plain" onClick={() => setOpen('new')}>
            Make the first
          </Button>
        </Empty>
      ) : null}
      {rules.length > 0 ? (
        <PlainTable
          label="Statement rules"
          heads={[
            { name: '#', width: 40 },
            'Rule',
            'When',
            'Booked to',
            { name: 'Booked', num: true },
            { name: 'Waiting', num: true },
            { acts: true },
          ]}
        >
          {rules.map((rule, index) => (
            <tr key={rule.id}>
              <td>{index + 1}</td>
              <td>
                <Button variant="link" size="sm" className="p-0" onClick={() => setOpen(rule)}>
                  {rule.name}
                </Button>{' '}
                {rule.active ? null : <Mark kind="aside">off</Mark>}
              </td>
              <td className="wide">{conditionWords(rule.conditions, bankNames, currency)}</td>
              <td className="wide">
                {accountName(rule.result.account)}
                {rule.result.byNumber.length > 0 || rule.payer ? (
                  <div className="sub">
                    {[
                      ...rule.result.byNumber.map((one) => `${one.number}: ${accountName(one.account)}`),
                      ...(rule.payer ? [`of ${rule.payer.name}`] : []),
                    ].join('; ')}
                  </div>
                ) : null}
              </td>
              <td className="num">{rule.booked || ''}</td>
              <td className="num">{rule.waiting || ''}</td>
              <td className="text-end text-nowrap">
                <Button
                  variant="link"
                  size="sm"
                  className="p-0 ms-2"
                  disabled={index === 0}
                  aria-label={`Move ${rule.name} up`}
                  onClick={() => void moveStatementRuleNow(id, { id: rule.id, position: index }).then(told)}
                >
                  Up
                </Button>
                <Button
                  variant="link"
                  size="sm"
                  className="p-0 ms-2"
                  aria-label={`Remove ${rule.name}`}
                  onClick={() => void removeStatementRuleNow(id, rule.id).then(told)}
                >
                  Remove
                </Button>
              </td>
            </tr>
          ))}
        </PlainTable>
      ) : null}
    </>
  );
}
