import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { commandLine } from './egg-told';

const FILES = join(process.cwd(), 'demo/kittiwake/files');
const { put, told, folder } = commandLine();

async function json<T = unknown>(...words: string[]): Promise<{ code: number; value: T }> {
  const { code, said } = await told(...words, '--json');
  return { code, ...(JSON.parse(said) as { value: T }) };
}

test('what there is is listed; what is wrongly said is told, as text and as data', async () => {
  expect(await told('--help')).toMatchObject({ code: 0, said: expect.stringContaining('match confirm-proven') });
  expect((await told()).code).toBe(2);
  expect(await told('dance')).toMatchObject({ code: 2, wrong: expect.stringContaining('There is no command dance.') });
  expect(await json('register')).toMatchObject({ code: 2, ok: false, usage: 'Say which account with --account.' });
  expect((await told('books', '--colour')).code).toBe(2);
  expect((await told('trial-balance', '--books', 'none')).wrong).toContain('There are no books none');
  expect((await told('trial-balance', '--as-of', 'yesterday')).code).toBe(2);
  expect((await told('invoices', '--file', '/nowhere.csv')).wrong).toContain('There is no file');
});

test('books are listed, made once, and refused the second time with a code', async () => {
  expect(await json('books')).toMatchObject({ value: [{ id: 'kw', currency: 'EUR' }] });
  const again = await json('make', '--books', 'kw', '--file', join(folder(), 'books.json'));
  expect(again).toMatchObject({ code: 1, ok: false, refusal: { code: 'books-exist' } });
  expect(await json('make', '--books', 'other', '--file', put('half.json', '{"name":"x"}'))).toMatchObject({
    code: 1,
    refusal: { code: 'invalid-input' },
  });
});

test('a chart comes in: new, renamed, refused by line; undone as one', async () => {
  const chart = put(
    'chart.csv',
    'Code,Name,Class,Role\n6500,Postage,expense,\n4010,All repairs,income,\n9,Bad,thing,\n1010,Till,expense,\n2101,Tax,liability,sales tax\n',
  );
  const came = await json('chart', '--file', chart);
  expect(came).toMatchObject({
    code: 3,
    value: { added: 1, changed: 1, refused: [{ line: 4 }, { line: 5 }, { line: 6 }] },
  });
  expect((await told('undo')).code).toBe(0);
  expect(await json('chart', '--file', chart, '--dry-run')).toMatchObject({
    value: { added: 1, changed: 1 },
    change: null,
  });
  const lists = await json<unknown[]>('changes', '--limit', '1');
  expect(lists.value[0]).toMatchObject({ summary: expect.stringContaining('Took back') });
});

test('from files to a bank that is confirmed, as the pages do it', async () => {
  await told('invoices', '--file', join(FILES, 'invoices-2026-09-to-10.csv'));
  const receipts = await json(
    'receipts',
    '--channel',
    'Card desk',
    '--file',
    join(FILES, 'card-desk-2026-09-to-10.csv'),
  );
  expect(receipts).toMatchObject({ code: 0, value: { added: 163 } });
  expect(await json('look', 'statements', '--file', join(FILES, 'statement-2026-09.xml'))).toMatchObject({
    value: { format: 'camt' },
  });
  expect(await json('statements', '--dry-run', '--file', join(FILES, 'statement-2026-09.xml'))).toMatchObject({
    value: { added: 22, run: null },
  });
  for (const name of ['statement-2026-09.xml', 'statement-2026-10.xml'])
    await told('statements', '--file', join(FILES, name));
  expect(await json('post')).toMatchObject({ value: { invoices: 44, notPosted: 0 } });
  const groups = await json<{ proven: { count: number } }>('match', 'propose');
  const proven = groups.value.proven.count;
  expect(proven).toBeGreaterThan(30);
  expect((await told('match', 'list', '--limit', '1')).said).toContain('proven');
  expect(await json('match', 'confirm-proven')).toMatchObject({ value: { confirmed: proven } });
  expect(await json('match', 'confirm-proven')).toMatchObject({ code: 0, value: { confirmed: 0 } });

  const { debits, credits, accounts } = (await json('trial-balance')).value as {
    debits: number;
    credits: number;
    accounts: { code: string; balance: number }[];
  };
  expect(debits).toBe(credits);
  const clearing = accounts.find(({ code }) => code === '1200')!.balance;
  expect(await json('clearing')).toMatchObject({ value: { channels: [{ channel: 'Card desk', balance: clearing }] } });
  const { lines } = (await json('register', '--account', '1200')).value as {
    lines: { amount: number; running: number }[];
  };
  expect(lines.at(-1)!.running).toBe(clearing);
  expect(lines.reduce((total, line) => total + line.amount, 0)).toBe(clearing);
  expect((await json('register', '--account', '1200', '--limit', '2')).value).toMatchObject({ lines: lines.slice(-2) });
  expect(await json('clearing', '--as-of', '2026-08-31')).toMatchObject({ value: { channels: [{ balance: 0 }] } });

  expect((await told('undo')).said).toContain('Took apart');
  expect(await json('match', 'propose')).toMatchObject({ value: { proven: { count: proven } } });
});

test('an export of any kind needs a profile, which looking at it gives', async () => {
  const file = put(
    'gifts.csv',
    'Gift no;Given on;Amount;From\n1;13/11/2026;12,50;A. Tern\n2;14/11/2026;5,00;B. Wrack\n',
  );
  expect(await told('receipts', '--channel', 'Card desk', '--file', file)).toMatchObject({
    code: 2,
    wrong: expect.stringContaining('--profile'),
  });
  const look = await json('look', 'receipts', '--channel', 'Card desk', '--file', file);
  const profile = put('profile.json', JSON.stringify((look.value as { profile: unknown }).profile));
  expect(await json('receipts', '--channel', 'Card desk', '--file', file, '--profile', profile)).toMatchObject({
    value: { added: 2 },
  });
  // Kept for the next file with this header.
  const next = put('gifts-2.csv', 'Gift no;Given on;Amount;From\n3;15/11/2026;7,50;C. Gull\n');
  expect(await json('receipts', '--channel', 'Card desk', '--file', next)).toMatchObject({
    code: 0,
    value: { added: 1 },
  });
  const empty = put('empty.csv', '');
  expect(await json('statements', '--file', empty)).toMatchObject({ code: 1, ok: false });
});

test('as a program of its own it answers on standard output and ends with its code', () => {
  const run = (...words: string[]) =>
    spawnSync(process.execPath, ['node_modules/tsx/dist/cli.mjs', 'src/egg/main.ts', ...words], { encoding: 'utf8' });
  expect(JSON.parse(run('books', '--data', folder(), '--json').stdout)).toMatchObject({ ok: true });
  expect(run('undo', '--change', '99999', '--data', folder())).toMatchObject({
    status: 1,
    stdout: '',
    stderr: expect.stringContaining('no change'),
  });
});
