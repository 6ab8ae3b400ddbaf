import { listPayers } from '@/books/payers/list';
import { samePayerQuestions } from '@/books/payers/same';
import { plural } from '@/core/words';
import { PageTabs } from '@/ui/frame/rail';
import { FilterText, ListFoot } from '@/ui/parts/list-frame';
import { Empty } from '@/ui/parts/notice';
import { openBooks } from '../../../../server/books';
import { single, type SearchParams } from '../../../../server/params';
import { OWED_PAGES } from '../pages';
import { ImportList } from '../../lists/import-list';
import { EditPayer } from './[payer]/edit-payer';
import { NEW_PAYER } from './new-payer';
import { PayerList } from './payer-list';
import { SameQuestions } from './same-questions';

interface Props {
  readonly params: Promise<{ books: string }>;
  readonly searchParams: SearchParams;
}

/** The last row of the page before, as the address has it: id and name. */
function afterOf(text: string | undefined) {
  const parts = /^(\d{1,15}) (.*)$/.exec(text ?? '');
  return parts ? { id: Number(parts[1]), name: parts[2]! } : null;
}

export default async function PayersPage({ params, searchParams }: Props) {
  const { books } = await params;
  const { text = '', after } = await single(searchParams);
  const { list, questions, terms, channels } = await openBooks(books).read(async (db) => ({
    list: await listPayers(db, text.trim(), afterOf(after)),
    questions: await samePayerQuestions(db),
    terms: await db.selectFrom('terms').select(['id', 'name']).where('archived', '=', 0).orderBy('name').execute(),
    channels: await db.selectFrom('channel').select(['id', 'name']).orderBy('name').execute(),
  }));
  const last = list.rows.at(-1);
  return (
    <>
      <PageTabs pages={OWED_PAGES} />
      <main>
        <div className="page-head">
          <h1>Payers</h1>
          <span className="soft">{plural(list.count, 'payer')}</span>
          <div className="acts">
            <FilterText label="Name or email" />
            <ImportList list="payers" />
            <EditPayer payer={null} details={NEW_PAYER} terms={terms} channels={channels} />
          </div>
        </div>
        <SameQuestions questions={questions} />
        {list.rows.length === 0 ? (
          <Empty title={text === '' ? 'No payers yet' : 'No payer is like this'}>
            <p>Payers come with invoices and receipts: by the channel’s own id, by email, then by name.</p>
          </Empty>
        ) : (
          <PayerList rows={list.rows} />
        )}
        <ListFoot
          shown={list.rows.length}
          total={list.count}
          next={list.more && last ? `${last.id} ${last.name}` : null}
          list="payers"
        />
      </main>
    </>
  );
}
