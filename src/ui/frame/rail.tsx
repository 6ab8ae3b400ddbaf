'use client';

import Link from 'next/link';
import { usePathname, useRouter } from 'next/navigation';
import type { Rail as RailFigures } from '@/books/today/rail';
import { plural } from '@/core/words';
import { formatDate, formatDay, formatLongDate, formatWeekday } from '@/core/calendar';
import { useKey, useKeys } from '../keys/keys';
import { useBooks, useMoney } from './books-context';

interface Stop {
  readonly name: string;
  readonly path: string;
  readonly figure: string;
  /** Where the figure leads: the register or list behind it. */
  readonly behind: string;
  readonly note: string;
  readonly waits: boolean;
}

function stopsOf(rail: RailFigures, base: string, money: ReturnType<typeof useMoney>): Stop[] {
  const { owed, collected, inTransit, banked, closedThrough } = rail;
  const register = (account: number | null, otherwise: string) =>
    account === null ? `${base}/${otherwise}` : `${base}/accounts/${account}`;
  return [
    {
      name: 'Owed',
      path: 'owed',
      figure: money(owed.amount),
      behind: register(owed.account, 'owed'),
      note:
        owed.notPosted > 0
          ? `${owed.notPosted} not posted`
          : owed.overdue > 0
            ? `${owed.overdue} overdue`
            : 'nothing overdue',
      waits: owed.notPosted + owed.overdue > 0,
    },
    {
      name: 'Collected',
      path: 'collected',
      figure: money(collected.amount),
      behind: `${base}/collected?state=not-posted`,
      note: collected.notPosted > 0 ? `${collected.notPosted} not posted` : 'all posted',
      waits: collected.notPosted > 0,
    },
    {
      name: 'In transit',
      path: 'in-transit',
      figure: money(inTransit.amount),
      behind: register(inTransit.account, 'in-transit'),
      note:
        inTransit.late > 0
          ? `${plural(inTransit.late, 'payout')} late`
          : inTransit.next
            ? `next: ${formatWeekday(inTransit.next)}`
            : 'nothing on its way',
      waits: inTransit.late > 0,
    },
    {
      name: 'Banked',
      path: 'banked',
      figure: money(banked.amount),
      behind: register(banked.account, 'banked'),
      note: banked.toExplain > 0 ? `${banked.toExplain} to explain` : 'all explained',
      waits: banked.toExplain > 0,
    },
    {
      name: 'Proved',
      path: 'proved',
      figure: closedThrough ? formatDay(closedThrough) : 'open',
      behind: `${base}/proved/close`,
      note: closedThrough ? `closed through ${formatDate(closedThrough)}` : 'nothing closed yet',
      waits: false,
    },
  ];
}

/** The rail: five stations in the order in which money passes them, Today at one end, Set-up at the other. */
export function Rail({ rail, things }: { rail: RailFigures; things: number }) {
  const { id } = useBooks();
  const money = useMoney();
  const router = useRouter();
  const base = `/books/${id}`;
  const at =
    usePathname()
      .slice(base.length + 1)
      .split('/')[0] ?? '';
  const stops = stopsOf(rail, base, money);
  const go = (path: string) => router.push(`${base}/${path}`);
  useKey('0', 'Today', () => go(''));
  useKey('1', 'Owed', () => go('owed'));
  useKey('2', 'Collected', () => go('collected'));
  useKey('3', 'In transit', () => go('in-transit'));
  useKey('4', 'Banked', () => go('banked'));
  useKey('5', 'Proved', () => go('proved'));
  return (
    <nav className="rail" aria-label="The money’s way">
      <Link
        href={base}
        className={`rail-side${at === '' ? ' here' : ''}`}
        aria-current={at === '' ? 'page' : undefined}
      >
        Today
        <span className={`small ${things > 0 ? 'due' : 'soft'}`}>
          {things === 0 ? 'nothing waits' : plural(things, 'thing')}
        </span>
      </Link>
      {stops.map((stop, index) => {
        const here = at === stop.path;
        const ends = index === 0 ? ' first' : index === stops.length - 1 ? ' last' : '';
        return (
          <div key={stop.path} className={`stop${here ? ' here' : ''}${stop.waits ? ' waits' : ''}${ends}`}>
            <Link className="station" href={`${base}/${stop.path}`} aria-current={here ? 'page' : undefined}>
              {stop.name}
            </Link>
            <Link
              className="amount"
              href={stop.behind}
              aria-label={`${stop.name}: ${stop.figure}, see what is behind it`}
            >
              {stop.figure}
            </Link>
            <span className={`note${stop.waits ? ' due' : ''}`}>{stop.note}</span>
          </div>
        );
      })}
      <Link
        href={`${base}/set-up`}
        className={`rail-side${at === 'set-up' ? ' here' : ''}`}
        aria-current={at === 'set-up' ? 'page' : undefined}
      >
        Set-up
      </Link>
    </nav>
  );
}

/** Name, books, the books' day and the keys. */
export function TopBar({ name, others }: { name: string; others: boolean }) {
  const { id, today } = useBooks();
  const { showHelp } = useKeys();
  return (
    <header className="top">
      <Link className="mark-name" href={`/books/${id}`}>
        <svg width="20" height="22" viewBox="0 0 20 22" aria-hidden="true">
          <ellipse cx="10" cy="9" rx="6" ry="8" fill="#f6e3b4" />
          <path d="M1 13c3 5 15 5 18 0M2 16c4 4 12 4 16 0" fill="none" stroke="#d9a54a" strokeWidth="2" />
        </svg>
        Nest Egg
      </Link>
      <div className="books-name">{others ? <Link href="/?choose=1">{name}</Link> : name}</div>
      <div className="end">
        <span className="today">{formatLongDate(today)}</span>
        <button type="button" className="btn-quiet" onClick={showHelp}>
          Keys<span className="key">?</span>
        </button>
      </div>
    </header>
  );
}

/** The quiet row: the pages of the open station. */
export function PageTabs({ pages, aside }: { pages: readonly { path: string; label: string }[]; aside?: string }) {
  const { id } = useBooks();
  const pathname = usePathname();
  // A page below one of these, such as one channel's, belongs to the one with the longest address above it.
  const current = pages
    .map(({ path }) => `/books/${id}/${path}`)
    .filter((href) => pathname === href || pathname.startsWith(`${href}/`))
    .sort((a, b) => b.length - a.length)[0];
  return (
    <nav className="pages" aria-label="Pages of this station">
      {pages.map(({ path, label }) => {
        const href = `/books/${id}/${path}`;
        return (
          <Link key={path} href={href} aria-current={href === current ? 'page' : undefined}>
            {label}
          </Link>
        );
      })}
      {aside ? <span className="aside">{aside}</span> : null}
    </nav>
  );
}
