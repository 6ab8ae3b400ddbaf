import { plural } from '@/core/words';
import Link from 'next/link';
import { countDoubled } from '@/books/doubled/list';
import { bookingLists } from '@/books/matching/booking-lists';
import { workingSheet } from '@/books/matching/sheet';
import {
  certaintyGroups,
  countAside,
  countMatched,
  lineFilter,
  listLines,
  parseLineCursor,
  provenLines,
} from '@/books/statements/list';
import { PageTabs } from '@/ui/frame/rail';
import { FilterChips, FilterText, ListFoot } from '@/ui/parts/list-frame';
import { Empty } from '@/ui/parts/notice';
import { openBooks } from '../../../server/books';
import { idParam, readFilter, single, type SearchParams } from '../../../server/params';
import { AsideSheet } from './aside-sheet';
import { ConfirmLookedAt } from './confirm-looked-at';
import { ConfirmProven } from './confirm-proven';
import { ConfirmedSheetView } from './confirmed-sheet';
import { LineList } from './line-list';
import { BANKED_PAGES } from './pages';
import { WorkingSheet } from './working-sheet';

interface Props {
  readonly params: Promise<{ books: string }>;
  readonly searchParams: SearchParams;
}

export default async function StatementLinesPage({ params, searchParams }: Props) {
  const { books: id } = await params;
  const search = await single(searchParams);
  const filter = readFilter(lineFilter, search, { state: 'to-explain' as const });
  const { list, groups, shown, matched, aside, doubled, proven, sheet, lists } = await openBooks(id).read(
    async (db) => {
      const lines = await listLines(db, filter, parseLineCursor(search.after));
      const selected = idParam(search.line) ?? lines.rows[0]?.id ?? null;
      return {
        list: lines,
        groups: await certaintyGroups(db),
        shown: filter.text ? await certaintyGroups(db, filter.text) : null,
        matched: await countMatched(db),
        aside: await countAside(db),
        doubled: await countDoubled(db),
        proven: await provenLines(db),
        sheet: selected === null ? null : await workingSheet(db, selected),
        lists: await bookingLists(db),
      };
    },
  );
  const toExplain = Object.values(groups).reduce((sum, { count }) => sum + count, 0);
  const empty = matched + toExplain + aside === 0;
  return (
    <>
      <PageTabs pages={BANKED_PAGES} />
      <main>
        {empty ? (
          <Empty title="No statement yet">
            <p>Bring in the bank’s statement; each line then stands here with what it is made of.</p>
            <Link className="btn btn-plain" href={`/books/${id}/banked/bring-in`}>
              Bring in a statement
            </Link>
          </Empty>
        ) : (
          <div className="split working">
            <div>
              <div className="page-head">
                <h1>{toExplain === 0 ? 'All explained' : `${plural(toExplain, 'line')} to explain`}</h1>
                <div className="acts">
                  <ConfirmProven lines={proven} />
                  <ConfirmLookedAt kind="probable" count={groups.probable.count} />
                  <ConfirmLookedAt kind="not-ours" count={groups['not-ours'].count} />
                </div>
              </div>
              <FilterChips
                param="state"
                choices={[
                  { value: '', label: `To explain ${toExplain}` },
                  { value: 'matched', label: `Matched ${matched}` },
                  ...(doubled > 0 || filter.state === 'doubled'
                    ? [{ value: 'doubled', label: `May count twice ${doubled}` }]
                    : []),
                  ...(aside > 0 || filter.state === 'aside' ? [{ value: 'aside', label: `Set aside ${aside}` }] : []),
                  { value: 'all', label: 'All' },
                ]}
              >
                <FilterText label="Any of the bank’s text, or an amount" />
              </FilterChips>
              {list.totals.count === 0 ? (
                <Empty title={search.text ? 'No line says this' : 'Nothing left to explain'}>
                  <p>
                    {search.text
                      ? 'Look for another part of the bank’s text.'
                      : 'Every statement line here is matched.'}
                  </p>
                  <Link className="btn btn-plain" href={search.text ? `/books/${id}/banked` : `/books/${id}/proved`}>
                    {search.text ? 'Show all' : 'See the proof'}
                  </Link>
                </Empty>
              ) : (
                <div className="surface">
                  <LineList
                    rows={list.rows}
                    totals={list.totals}
                    groups={shown ?? groups}
                    grouped={filter.state === 'to-explain'}
                    opened={sheet?.line.id ?? null}
                  />
                  <ListFoot shown={list.rows.length} total={list.totals.count} next={list.next} list="lines" />
                </div>
              )}
            </div>
            <div className="sticky-panel">
              {sheet?.confirmed ? (
                <ConfirmedSheetView key={sheet.line.id} sheet={sheet} confirmed={sheet.confirmed} />
              ) : null}
              {sheet && sheet.line.aside !== null ? <AsideSheet key={sheet.line.id} line={sheet.line} /> : null}
              {sheet && !sheet.confirmed && sheet.line.aside === null ? (
                <WorkingSheet key={sheet.line.id} sheet={sheet} lists={lists} />
              ) : null}
            </div>
          </div>
        )}
      </main>
    </>
  );
}
