import { sql } from 'kysely';
import { daysBetween, formatDay, type PlainDate } from '@/core/calendar';
import { scheduleWords } from '@/core/channels';
import type { Certainty } from '@/core/matching';
import type { Minor } from '@/core/money';
import { plural } from '@/core/words';
import { feeStepsOf, listFeeSteps } from '../channels/fee-steps';
import { doubledLines } from '../doubled/list';
import { statementGaps } from '../statements/gaps';
import { certaintyGroups } from '../statements/list';
import type { Reading } from '../store';
import type { WorkItem } from './worklist';

const LISTED = 4;

/** Days of a bank account that no statement tells: what moved in them is in no proof. */
export async function statementsMissing(db: Reading, today: PlainDate): Promise<WorkItem[]> {
  return (await statementGaps(db)).slice(0, LISTED).map(({ account, after, before, missing, currency }) => ({
    risk: 'trouble',
    title: `No statement of ${account} from ${formatDay(after.day)} to ${formatDay(before.day)}`,
    detail: `${after.file} closes and ${before.file} opens with another balance`,
    amount: missing,
    currency,
    age: daysBetween(before.day, today),
    action: 'Bring it in',
    href: 'banked/bring-in',
  }));
}

/** Deposits that are booked to income though something in transit or owed explains them. */
export async function countedTwice(db: Reading, today: PlainDate): Promise<WorkItem[]> {
  return (await doubledLines(db, LISTED)).map(({ line, date, amount, first, parts }) => ({
    risk: 'trouble',
    title: `A deposit of ${formatDay(date)} may count as income twice`,
    detail: `${first}${parts > 1 ? ` and ${parts - 1} more` : ''} would explain it, and it is booked to income by itself`,
    amount,
    age: daysBetween(date, today),
    action: 'Look at it',
    href: `banked?state=doubled&line=${line}`,
  }));
}

/** Channels that charge otherwise than was agreed, as several payouts or deposits came to: to be agreed to, or asked about. */
export async function feesLearnt(db: Reading, today: PlainDate): Promise<WorkItem[]> {
  const agreed = await feeStepsOf(db, 'agreed');
  const learnt = (await listFeeSteps(db)).filter((step) => step.learnt).slice(0, LISTED);
  return learnt.map(({ channel, name, currency, since, schedule, fit, of }) => ({
    risk: 'waiting',
    title: `${name} takes ${scheduleWords(schedule, currency)} since ${formatDay(since)}`,
    detail: `${scheduleWords(agreed.get(channel)!.on(since), currency)} was agreed; ${fit} of ${of} payouts and deposits fit it to the cent`,
    amount: null,
    age: daysBetween(since, today),
    action: 'Agree or forget',
    href: 'banked/learnt',
  }));
}

/** Lines to explain, the proven ones for one key and the others for a decision. */
export async function deposits(db: Reading, today: PlainDate): Promise<WorkItem[]> {
  const groups = await certaintyGroups(db);
  // The oldest of each group is the first of its range in the index.
  const { rows } = await sql<{ certainty: Certainty; first: PlainDate | null }>`
    SELECT value AS certainty, (SELECT min(book_date) FROM proposal WHERE certainty = value) AS first
    FROM json_each('["proven", "probable", "open", "none", "not-ours"]')
  `.execute(db);
  const age = (...of: Certainty[]) => {
    const days = rows.flatMap((row) => (of.includes(row.certainty) && row.first ? [row.first] : [])).sort();
    return days[0] ? daysBetween(days[0], today) : null;
  };
  const { proven, probable, open, none, 'not-ours': notOurs } = groups;
  const undecided = probable.count + open.count + none.count;
  return [
    ...(proven.count === 0
      ? []
      : [
          {
            risk: 'waiting',
            title: `${plural(proven.count, 'deposit is', 'deposits are')} proven and ${proven.count === 1 ? 'waits' : 'wait'} for you`,
            detail: 'equal to the cent, and only one explanation',
            amount: proven.amount,
            age: age('proven'),
            action: `Confirm ${proven.count}…`,
            href: 'banked',
          } as const,
        ]),
    ...(undecided === 0
      ? []
      : [
          {
            risk: 'waiting',
            title: `${plural(undecided, 'statement line needs', 'statement lines need')} a decision`,
            detail: [
              probable.count > 0 ? `${probable.count} probable` : '',
              open.count > 0 ? `${open.count} open` : '',
              none.count > 0 ? `${none.count} with nothing that fits` : '',
            ]
              .filter(Boolean)
              .join(', '),
            amount: (probable.amount + open.amount + none.amount) as Minor,
            age: age('probable', 'open', 'none'),
            action: 'Decide',
            href: 'banked',
          } as const,
        ]),
    ...(notOurs.count === 0
      ? []
      : [
          {
            risk: 'waiting',
            title: `${plural(notOurs.count, 'statement line')} by your rules ${notOurs.count === 1 ? 'waits' : 'wait'} to be booked`,
            detail: 'no receivables: rent, wages, charges and the like',
            amount: notOurs.amount,
            age: age('not-ours'),
            action: `See ${notOurs.count}`,
            href: 'banked',
          } as const,
        ]),
  ];
}
