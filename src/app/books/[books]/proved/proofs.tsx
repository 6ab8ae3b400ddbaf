'use client';

import { plural } from '@/core/words';
import Link from 'next/link';
import type { ReactNode } from 'react';
import type { BankProof, ClearingProof, DayBalance } from '@/books/proof/clearing';
import type { HeldAsRead } from '@/books/proof/held-as-read';
import { formatDate } from '@/core/calendar';
import { add, negate, subtract, type Currency, type Minor } from '@/core/money';
import { useBooks, useMoney } from '@/ui/frame/books-context';
import { BalanceChart } from '@/ui/charts/balance-chart';
import { Mark } from '@/ui/parts/mark';
import { TableHeads } from '@/ui/parts/plain-table';

interface RowProps {
  readonly label: ReactNode;
  readonly amount: Minor;
  readonly href?: string;
  readonly strong?: boolean;
  /** Where it is not the books' own. */
  readonly currency?: Currency;
}

function Row({ label, amount: minor, href, strong, currency }: RowProps) {
  const money = useMoney();
  const amount = money(minor, currency);
  return (
    <tr className={strong ? 'totals' : ''}>
      <td>{label}</td>
      <td className="num">{href ? <Link href={href}>{amount}</Link> : amount}</td>
    </tr>
  );
}

interface ProofTableProps {
  readonly of: string;
  /** Each reason for a balance, adding up to it. */
  readonly children: ReactNode;
  /** Whether it proves. */
  readonly says: ReactNode;
}

function ProofTable({ of, children, says }: ProofTableProps) {
  return (
    <div className="surface">
      <table className="list">
        <TableHeads heads={[of, { name: 'Amount', num: true }]} />
        <tbody>{children}</tbody>
      </table>
      <div className="p-2">{says}</div>
    </div>
  );
}

/** What the channel says it holds, against the receipts it has not paid out. */
function AsRead({ read, proof }: { read: HeldAsRead; proof: ClearingProof }) {
  const { id } = useBooks();
  const inBooks = useMoney();
  const money = (amount: Minor) => inBooks(amount, proof.currency);
  const said = `${proof.channel} said on ${formatDate(read.day)} that it held ${money(read.said)}`;
  return (
    <div className="mt-2">
      {read.said === read.ours ? (
        <Mark kind="matched">{`${said}: so do these books`}</Mark>
      ) : (
        <Mark kind="look">{`${said}; by the receipts here it is ${money(read.ours)}, ${money(subtract(read.said, read.ours))} away`}</Mark>
      )}
      {read.said !== read.ours && read.changedSince > 0 ? (
        <Link className="small d-block" href={`/books/${id}/collected?state=changed`}>
          {plural(read.changedSince, 'receipt has', 'receipts have')} changed there since
        </Link>
      ) : null}
    </div>
  );
}

/** A clearing account against what is in transit: each reason for its balance, adding up to it. */
export function ClearingProofView({ proof, days }: { proof: ClearingProof; days: readonly DayBalance[] }) {
  const { id } = useBooks();
  const inBooks = useMoney();
  const money = (amount: Minor) => inBooks(amount, proof.currency);
  const base = `/books/${id}`;
  const inTransit = add(proof.payouts.amount, proof.waiting.amount);
  const off = subtract(proof.balance, inTransit);
  return (
    <section className="two mb-4" aria-label={`${proof.channel}, clearing proof`}>
      <ProofTable
        of={`${proof.channel}, account ${proof.code}`}
        says={
          <>
            {proof.proves ? (
              <Mark kind="matched">
                {proof.balance === 0 ? 'Proves: clearing is at zero' : 'Proves: clearing is exactly what is in transit'}
              </Mark>
            ) : (
              <Mark kind="look">{`Does not prove yet: ${money(off)} away, for the reasons above`}</Mark>
            )}
            {proof.read ? <AsRead read={proof.read} proof={proof} /> : null}
          </>
        }
      >
        <Row
          currency={proof.currency}
          label={`${plural(proof.payouts.count, 'payout has', 'payouts have')} left and not been confirmed at the bank`}
          amount={proof.payouts.amount}
          href={`${base}/in-transit?state=in-transit`}
        />
        <Row
          currency={proof.currency}
          label={`${plural(proof.waiting.count, 'posted receipt waits', 'posted receipts wait')} for a payout, fees taken off`}
          amount={proof.waiting.amount}
          href={`${base}/collected?state=in-transit`}
        />
        <Row currency={proof.currency} label="In transit, by the documents" amount={inTransit} strong />
        {proof.notPosted.count > 0 ? (
          <Row
            currency={proof.currency}
            label={`less ${plural(proof.notPosted.count, 'receipt', 'receipts')} in a payout and not posted`}
            amount={negate(proof.notPosted.amount)}
            href={`${base}/collected?state=not-posted`}
          />
        ) : null}
        {proof.differs.count > 0 ? (
          <Row
            currency={proof.currency}
            label={`less ${plural(proof.differs.count, 'payout', 'payouts')} larger or smaller than the receipts in it`}
            amount={negate(proof.differs.amount)}
            href={`${base}/in-transit?state=differs`}
          />
        ) : null}
        {proof.other !== 0 ? (
          <Row
            currency={proof.currency}
            label="booked to clearing past the documents"
            amount={proof.other}
            href={`${base}/accounts/${proof.account}`}
          />
        ) : null}
        <Row
          currency={proof.currency}
          label="Clearing, as the ledger says"
          amount={proof.balance}
          href={`${base}/accounts/${proof.account}`}
          strong
        />
      </ProofTable>
      <div className="box">
        <h2>{proof.channel}, held day by day</h2>
        <BalanceChart days={days} label={proof.channel} />
        <Link className="small" href={`${base}/accounts/${proof.account}`}>
          The register behind it
        </Link>
      </div>
    </section>
  );
}

/** A bank account in the ledger against the bank's own last word. */
export function BankProofView({ proof }: { proof: BankProof }) {
  const { id } = useBooks();
  const money = useMoney();
  const base = `/books/${id}`;
  if (proof.statement === null) {
    return (
      <section className="surface p-2" aria-label={`${proof.name}, bank proof`}>
        {proof.code} {proof.name}: no statement is here yet. <Link href={`${base}/banked/bring-in`}>Bring one in</Link>
      </section>
    );
  }
  return (
    <section className="two" aria-label={`${proof.name}, bank proof`}>
      <ProofTable
        of={`${proof.name}, account ${proof.code}`}
        says={
          <>
            {proof.difference === 0 ? (
              <Mark kind="matched">Proves: the ledger is the bank less what is to explain</Mark>
            ) : (
              <Mark kind="look">{`Does not prove yet: ${money(proof.difference)} away`}</Mark>
            )}
          </>
        }
      >
        <Row
          label={`Closing balance of the bank${proof.statement.day ? `, ${formatDate(proof.statement.day)}` : ''}, ${proof.statement.file}`}
          amount={proof.statement.closing}
        />
        <Row
          label={`less ${plural(proof.toExplain.count, 'line', 'lines')} to explain`}
          amount={negate(proof.toExplain.amount)}
          href={`${base}/banked`}
        />
        {proof.aside === 0 ? null : (
          <Row label="less what is set aside" amount={negate(proof.aside)} href={`${base}/banked?state=aside`} />
        )}
        <Row
          label="Bank, as the ledger should say"
          amount={subtract(subtract(proof.statement.closing, proof.toExplain.amount), proof.aside)}
          strong
        />
        <Row label="Bank, as the ledger says" amount={proof.ledger} href={`${base}/accounts/${proof.account}`} strong />
      </ProofTable>
    </section>
  );
}
