import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { egg } from '@/egg/egg';
import { loadDriftline } from '../../demo/driftline/load';
import { loadLanternHead } from '../../demo/lantern-head/load';
import { loadKittiwake } from '../../demo/load';

const BOOKS = ['kittiwake', 'driftline', 'lantern-head'] as const;
let data: string;

beforeAll(async () => {
  data = mkdtempSync(join(tmpdir(), 'nest-egg-'));
  const quiet = () => undefined;
  await loadKittiwake(data, quiet);
  await loadDriftline(data, quiet);
  await loadLanternHead(data, quiet);
}, 180_000);
afterAll(() => rmSync(data, { recursive: true }));

interface Told {
  readonly code: number;
  readonly ok: boolean;
  readonly value: never;
}

/** What a command line says of the demo's books, as data. */
async function json(books: string, ...words: string[]): Promise<Told> {
  let said = '';
  const out = {
    say: (text: string) => void (said += `${text}\n`),
    wrong: (text: string) => void (said += `${text}\n`),
  };
  const code = await egg([...words, '--books', books, '--data', data, '--actor', 'A. Tester', '--json'], out);
  return { code, ...(JSON.parse(said) as Omit<Told, 'code'>) };
}

async function text(books: string, ...words: string[]): Promise<string> {
  let said = '';
  const out = {
    say: (line: string) => void (said += `${line}\n`),
    wrong: (line: string) => void (said += `${line}\n`),
  };
  await egg([...words, '--books', books, '--data', data], out);
  return said;
}

interface Groups {
  readonly groups: Readonly<Record<string, { readonly count: number; readonly amount: number }>>;
  readonly lines: readonly {
    readonly certainty: string;
    readonly amount: number;
    readonly because: readonly string[];
  }[];
}
const listed = async (books: string) => (await json(books, 'match', 'list')).value as Groups;

test.each(BOOKS)('%s: lines to explain are listed by group, and the groups are their sums', async (books) => {
  const { groups, lines } = await listed(books);
  expect(Object.keys(groups)).toEqual(['proven', 'probable', 'open', 'none', 'not-due', 'not-ours']);
  for (const [certainty, group] of Object.entries(groups)) {
    const own = lines.filter((line) => line.certainty === certainty);
    expect([certainty, own.length, own.reduce((sum, { amount }) => sum + amount, 0)]).toEqual([
      certainty,
      group.count,
      group.amount,
    ]);
  }
  // What is laid says why.
  for (const line of lines.filter(({ certainty }) => certainty !== 'none'))
    expect(line.because.length).toBeGreaterThan(0);
});

test.each(BOOKS)('%s: the trial balance foots, and clearing is what its register ends at', async (books) => {
  const { debits, credits, accounts } = (await json(books, 'trial-balance')).value as {
    debits: number;
    credits: number;
    accounts: { code: string; name: string; balance: number }[];
  };
  expect(debits).toBe(credits);
  expect(accounts.reduce((sum, { balance }) => sum + balance, 0)).toBe(0);
  for (const { code } of accounts.filter(({ name }) => name.endsWith('clearing'))) {
    const { lines } = (await json(books, 'register', '--account', code)).value as { lines: { running: number }[] };
    expect([code, lines.at(-1)?.running ?? 0]).toEqual([code, accounts.find((one) => one.code === code)!.balance]);
  }
});

test('what may count twice is listed; nothing of it in books that book no deposit to income', async () => {
  const { value } = await json('lantern-head', 'match', 'doubled');
  expect(value).toEqual([
    { line: expect.any(Number) as number, date: '2026-11-04', amount: 137_540, first: 'payout LH-44', parts: 1 },
  ]);
  expect(await text('lantern-head', 'match', 'doubled')).toBe(
    'day              EUR  explained by\n2026-11-04  1,375.40  payout LH-44\n',
  );
  expect(await json('kittiwake', 'match', 'doubled')).toMatchObject({ code: 0, value: [] });
  expect(await text('driftline', 'match', 'doubled', '--limit', '5')).toBe(
    'Nothing that is booked to income counts twice.\n',
  );
});

test('what rules book is tried, booked and taken back; where no line waits it says so', async () => {
  const before = await listed('kittiwake');
  expect(before.groups['not-ours']).toEqual({ count: 1, amount: -9_600 });
  expect(await json('kittiwake', 'match', 'by-rule', '--dry-run')).toMatchObject({
    code: 0,
    value: { confirmed: 1, amount: -9_600 },
  });
  expect(await listed('kittiwake')).toEqual(before);
  expect(await json('kittiwake', 'match', 'by-rule')).toMatchObject({ code: 0, value: { confirmed: 1 } });
  expect((await listed('kittiwake')).groups['not-ours']).toEqual({ count: 0, amount: 0 });
  expect(await json('kittiwake', 'match', 'by-rule')).toMatchObject({ code: 0, value: { confirmed: 0 } });
  expect(await text('kittiwake', 'match', 'by-rule')).toBe('No line waits that a rule books.\n');
  expect(await json('kittiwake', 'undo')).toMatchObject({ code: 0 });
  expect(await listed('kittiwake')).toEqual(before);
});

test('all proven is confirmed by one command in each, and clearing gives up just that', async () => {
  for (const books of BOOKS) {
    const { groups } = await listed(books);
    const clearing = async () =>
      ((await json(books, 'trial-balance')).value as { accounts: { name: string; balance: number }[] }).accounts
        .filter(({ name }) => name === 'Current account' || name === 'Reserve account')
        .reduce((sum, { balance }) => sum + balance, 0);
    const before = await clearing();
    expect(await json(books, 'match', 'confirm-proven')).toMatchObject({
      code: 0,
      value: { confirmed: groups.proven!.count, amount: groups.proven!.amount },
    });
    expect((await clearing()) - before).toBe(groups.proven!.amount);
    expect((await listed(books)).groups.proven!.count).toBe(0);
  }
});
