import { listRuns } from '@/books/imports/runs';
import { statementGaps } from '@/books/statements/gaps';
import { formatDate } from '@/core/calendar';
import { formatAmount } from '@/core/money';
import { PageTabs } from '@/ui/frame/rail';
import { Notice } from '@/ui/parts/notice';
import { Runs } from '@/ui/parts/runs';
import { openBooks } from '../../../../server/books';
import { takeBackImport } from '../../actions';
import { BANKED_PAGES } from '../pages';
import { BringInStatements } from './bring-in-statements';

export default async function BringInStatementPage({ params }: { params: Promise<{ books: string }> }) {
  const { books } = await params;
  const { runs, gaps, accounts } = await openBooks(books).read(async (db) => ({
    runs: await listRuns(db, 'statement'),
    gaps: await statementGaps(db),
    accounts: await db
      .selectFrom('bank_account')
      .innerJoin('account', 'account.id', 'bank_account.account_id')
      .select(['iban', 'account.code', 'account.name'])
      .orderBy('account.code')
      .execute(),
  }));
  return (
    <>
      <PageTabs pages={BANKED_PAGES} />
      <main>
        <div className="page-head">
          <h1>Bring in a bank statement</h1>
        </div>
        <BringInStatements
          accounts={accounts.map(({ iban, code, name }) => ({ iban, name: `${code} ${name}, ${iban}` }))}
        />
        {gaps.map(({ account, after, before, missing, currency }) => (
          <Notice key={`${account} ${before.day}`} kind="waits">
            {account}: between {formatDate(after.day)} ({after.file}, closing {formatAmount(after.closing, currency)})
            and {formatDate(before.day)} ({before.file}, opening {formatAmount(before.opening, currency)}){' '}
            {formatAmount(missing, currency)} moved that no statement here tells. Bring the days between them in.
          </Notice>
        ))}
        <Runs runs={runs} takeBack={takeBackImport} />
      </main>
    </>
  );
}
