import { join } from 'node:path';
import { COMMANDS } from '@/egg/commands';
import { commandLine } from './egg-told';
import { DESK_HEAD, FIGURE_A, INVOICE_HEAD, statement } from './books/world';

const { put, told, folder } = commandLine();

async function json(...words: string[]) {
  const { code, said, wrong } = await told(...words, '--json');
  expect(wrong).toBe('');
  return { code, ...(JSON.parse(said) as Record<string, unknown>) };
}

describe('what is said wrongly is told, and nothing is done', () => {
  test.each<[string, string[], string]>([
    [
      'a limit that is no number',
      ['register', '--account', '1010', '--limit', 'many'],
      '--limit is a whole number above nothing.',
    ],
    ['a limit of nothing', ['changes', '--limit', '0'], '--limit is a whole number above nothing.'],
    ['a limit with a point', ['match', 'list', '--limit', '1.5'], '--limit is a whole number above nothing.'],
    ['an account that is not there', ['register', '--account', '9999'], 'There is no account 9999.'],
    ['a day that is none', ['clearing', '--as-of', '2026-02-30'], '--as-of is a day like 2026-11-16, not 2026-02-30.'],
    ['books whose id is none', ['books-of', '--books', '../etc'], 'There is no command books-of.'],
    [
      'an id of books that is none',
      ['trial-balance', '--books', '../etc'],
      '../etc is no id of books: small letters, digits and dashes.',
    ],
    ['books without a file', ['make', '--books', 'new'], 'Say which file with --file.'],
    ['books without an id', ['make', '--file', 'x.json'], 'Say what the books are to be called with --books.'],
    ['a file that is not there', ['statements', '--file', '/nowhere.xml'], 'There is no file /nowhere.xml.'],
    ['a list that is not there', ['payers', '--file', '/nowhere.csv'], 'The file /nowhere.csv cannot be read.'],
    [
      'a channel that is not there',
      ['receipts', '--channel', 'None', '--file', '/nowhere.csv'],
      'Say which channel with --channel: Card desk.',
    ],
    ['something else to be posted', ['post', 'gifts'], 'Post invoices, receipts, or both.'],
  ])('%s', async (_what, words, usage) => {
    const before = await json('changes', '--limit', '500');
    const answer = await told(...words);
    expect(answer).toMatchObject({ code: 2, said: '' });
    expect(answer.wrong.split('\n')[0]).toBe(usage);
    expect(await json(...words)).toEqual({ code: 2, ok: false, usage });
    expect(await json('changes', '--limit', '500')).toEqual(before);
  });

  test('a file that is no JSON, and a profile that is none', async () => {
    const bad = put('bad.json', '{');
    expect((await told('make', '--books', 'new', '--file', bad)).wrong).toContain(`${bad} is no JSON.`);
    const gifts = put('gifts.csv', 'Gift no;Given on;Amount\n1;13/11/2026;12,50\n');
    const profile = put('profile.json', '{"columns":7}');
    expect(await told('receipts', '--file', gifts, '--profile', profile)).toMatchObject({
      code: 2,
      wrong: expect.stringContaining('is no profile.'),
    });
    expect(await told('statements', '--file', gifts, '--profile', profile)).toMatchObject({
      code: 2,
      wrong: expect.stringContaining('is no profile.'),
    });
  });
});

test('every command says what it takes and does, and help has all of them', async () => {
  const { said } = await told('--help');
  for (const [name, { does }] of Object.entries(COMMANDS)) {
    expect(said).toContain(name);
    expect(does).not.toBe('');
  }
});

describe('files as they come in', () => {
  test('what is tried only is told, and nothing stays of it', async () => {
    const file = put('desk.csv', FIGURE_A.desk);
    expect(await json('receipts', '--file', file, '--dry-run')).toMatchObject({
      code: 0,
      value: { added: 2, run: null },
    });
    expect(await json('receipts', '--file', file)).toMatchObject({ code: 0, value: { added: 2 } });
    expect(await json('receipts', '--file', file)).toMatchObject({ code: 0, value: { added: 0, known: 2 } });
  });

  test('some rows refused end with a code of their own, the rest is in', async () => {
    const file = put('invoices.csv', `${FIGURE_A.invoice}KS-9,Nobody,,2026-10-01,2026-11-01,EUR,repair,a lot,S23,\n`);
    const came = await json('invoices', '--file', file);
    expect(came).toMatchObject({ code: 3, value: { added: 1, refused: 1 } });
    expect((await told('invoices', '--file', file)).said).toContain('a lot');
  });

  test('a file that is refused whole is a refusal with its reason', async () => {
    const broken = put('broken.xml', '<Document><BkToCstmrStmt>');
    const answer = await json('statements', '--file', broken);
    expect(answer).toMatchObject({ code: 1, ok: false, refusal: { code: 'invalid-input', field: 'broken.xml' } });
    expect((await told('statements', '--file', broken)).wrong).not.toBe('');
  });

  test('receipts in columns of our own need no profile, and say so', async () => {
    const own = put('own.csv', `${DESK_HEAD}R-77,receipt,2026-11-11T10:00:00Z,EUR,5.00,0.10,4.90,,,,,,,\n`);
    expect(await json('look', 'receipts', '--file', own)).toMatchObject({ code: 0, value: { own: true } });
  });

  test('a table of a bank: looked at, corrected, brought in by what was said', async () => {
    const text = 'When;What;Came;Went\n12.11.2026;CD SETTLEMENT;144,55;\n13.11.2026;RENT;;20,00\n';
    const file = put('bank.csv', text);
    const look = (await json('look', 'statements', '--file', file)) as unknown as {
      value: { format: string; profile: { columns: object } };
    };
    expect(look.value.format).toBe('table');
    const columns = { booked: 'When', paidIn: 'Came', paidOut: 'Went' };
    const profile = put(
      'bank.json',
      JSON.stringify({ ...look.value.profile, columns, texts: ['What'], account: 'IE29SKER93115212345678' }),
    );
    expect(await json('statements', '--file', file, '--profile', profile)).toMatchObject({
      code: 0,
      value: { added: 2 },
    });
    expect(
      await told(
        'statements',
        '--file',
        put('camt.txt', ':20:X\n:25:IE29SKER93115212345678\n:60F:C261114EUR0,\n:62F:C261114EUR0,\n-\n'),
        '--profile',
        profile,
      ),
    ).toMatchObject({ code: 2, wrong: expect.stringContaining('needs no profile') });
  });

  test('more lines than a page of them are listed, as many as are wanted', async () => {
    const rows = Array.from(
      { length: 70 },
      (_, n) => [`2026-11-${String(1 + (n % 14)).padStart(2, '0')}`, 900_000 + n, `FILLER ${n}`] as const,
    );
    expect(await json('statements', '--file', put('fill.csv', statement(12_455, ...rows)))).toMatchObject({
      value: { added: 70 },
    });
    const all = (await json('match', 'list')) as unknown as {
      value: { lines: unknown[]; groups: Record<string, { count: number }> };
    };
    expect(all.value.lines.length).toBeGreaterThan(70);
    expect(all.value.lines).toHaveLength(Object.values(all.value.groups).reduce((sum, { count }) => sum + count, 0));
    const few = (await json('match', 'list', '--limit', '3')) as unknown as { value: { lines: unknown[] } };
    expect(few.value.lines).toEqual(all.value.lines.slice(0, 3));
  });
});

test('posting tells what is not posted, and trying it writes nothing', async () => {
  put('more.csv', `${INVOICE_HEAD}KS-50,A. Tern,,2026-10-01,2026-11-01,EUR,repair,10.00,S23,\n`);
  expect((await told('invoices', '--file', join(folder(), 'more.csv'))).code).toBe(0);
  const tried = await json('post', 'invoices', '--dry-run');
  expect(tried).toMatchObject({ code: 0, value: { invoices: 2, notPosted: 0 } });
  expect(await json('post')).toMatchObject({ value: { invoices: 2 } });
  expect(await json('post')).toMatchObject({ code: 0, value: { invoices: 0, receipts: 0 } });
});
