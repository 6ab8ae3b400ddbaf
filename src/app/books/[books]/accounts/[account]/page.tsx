import { notFound } from 'next/navigation';
import { accountRegister, parseRegisterCursor, registerValues } from '@/books/ledger/register';
import type { AccountId } from '@/core/ledger';
import { formatAmount } from '@/core/money';
import { PageTabs } from '@/ui/frame/rail';
import { UnderChips } from '@/ui/parts/list-frame';
import { openBooks } from '../../../../server/books';
import { idParam, single, type SearchParams } from '../../../../server/params';
import { RegisterTable } from './register-table';

interface Props {
  readonly params: Promise<{ books: string; account: string }>;
  readonly searchParams: SearchParams;
}

export default async function RegisterPage({ params, searchParams }: Props) {
  const { books: id, account } = await params;
  const search = await single(searchParams);
  const books = openBooks(id);
  const accountId = idParam(account);
  if (accountId === null) notFound();
  const { currency } = await books.reader.selectFrom('books').select('currency').executeTakeFirstOrThrow();
  const value = idParam(search.value);
  const { register, values } = await books.read(async (db) => ({
    register: await accountRegister(db, accountId as AccountId, parseRegisterCursor(search.after), value),
    values: await registerValues(db, accountId as AccountId),
  }));
  if (register === null) notFound();
  const { code, name, balance, debit, credit } = register.account;
  return (
    <>
      <PageTabs
        pages={[
          { path: `accounts/${accountId}`, label: `Register ${code}` },
          { path: 'proved/trial-balance', label: 'Trial balance' },
          { path: 'set-up', label: 'Chart of accounts' },
        ]}
      />
      <main>
        <div className="page-head">
          <h1>
            {code} {name}
          </h1>
          <span className="soft">
            balance {formatAmount(balance, currency)}, debits {formatAmount(debit, currency)}, credits{' '}
            {formatAmount(credit, currency)}
          </span>
        </div>
        <UnderChips values={values} />
        <RegisterTable register={register} />
      </main>
    </>
  );
}
