import Link from 'next/link';
import type { ReactNode } from 'react';
import { PageTabs } from '../frame/rail';
import { FilterChips, FilterText, ListFoot, type ChipChoice } from './list-frame';
import { Empty } from './notice';
import { PicksProvider } from './picks';
import { PostAll } from './post-all';

interface Props {
  /** Address of the books and of the station: /books/kittiwake, owed. */
  readonly base: string;
  readonly station: string;
  readonly pages: readonly { readonly path: string; readonly label: string }[];
  readonly title: string;
  readonly what: 'receipts' | 'invoices';
  readonly noun: { readonly one: string; readonly many: string };
  readonly filter: object;
  readonly states: readonly ChipChoice[];
  /** Channels to choose among, where there are several. */
  readonly channels?: readonly { readonly id: number; readonly name: string }[];
  readonly searchFor: string;
  /** What a file brought in would give, in a sentence, for books that have none yet. */
  readonly bringIn: string;
  readonly page: { readonly shown: number; readonly total: number; readonly next: string | null };
  /** What else can be done with all that is shown, beside posting it. */
  readonly acts?: ReactNode;
  /** What stands above the list and is not of it. */
  readonly above?: ReactNode;
  readonly list: ReactNode;
  /** The document that is open beside the list; null where none is. */
  readonly panel: ReactNode | null;
}

/** Documents that are brought in and posted: the list with its filters, and beside it the one that is open. */
export function DocumentsPage(props: Props) {
  const { base, station, noun, what, filter, page } = props;
  const filtered = Object.keys(filter).length > 0;
  const nothing = (
    <Empty title={filtered ? `No ${noun.one} is like this` : `No ${noun.many} yet`}>
      <p>{filtered ? 'Choose another filter above.' : props.bringIn}</p>
      <Link className="btn btn-plain" href={`${base}/${station}${filtered ? '' : '/bring-in'}`}>
        {filtered ? 'Show all' : `Bring in ${noun.many}`}
      </Link>
    </Empty>
  );
  return (
    <PicksProvider>
      <PageTabs pages={props.pages} />
      <main>
        <div className="page-head">
          <h1>{props.title}</h1>
          <div className="acts">
            <PostAll act="post" what={what} noun={noun} filter={filter} />
            {props.acts}
            <Link className="btn btn-plain" href={`${base}/${station}/bring-in`}>
              Bring in…
            </Link>
          </div>
        </div>
        <FilterChips param="state" choices={[{ value: '', label: 'All' }, ...props.states]}>
          <FilterText label={props.searchFor} />
        </FilterChips>
        {props.channels && props.channels.length > 1 ? (
          <FilterChips
            param="channel"
            label="Channel"
            choices={[
              { value: '', label: 'All channels' },
              ...props.channels.map(({ id, name }) => ({ value: String(id), label: name })),
            ]}
          />
        ) : null}
        {props.above}
        {page.total === 0 && props.panel === null ? (
          nothing
        ) : (
          <div className="split">
            {page.total === 0 ? (
              nothing
            ) : (
              <div className="surface">
                {props.list}
                <ListFoot shown={page.shown} total={page.total} next={page.next} list={what} />
              </div>
            )}
            <div className="sticky-panel">
              {props.panel ?? (
                <Empty title={`No ${noun.one} is open here`}>
                  <p>Click one, or press j, to see the entry it writes or wrote, and the balances it moves.</p>
                </Empty>
              )}
            </div>
          </div>
        )}
      </main>
    </PicksProvider>
  );
}
