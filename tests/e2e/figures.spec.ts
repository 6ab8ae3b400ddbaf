import type { Page } from '@playwright/test';
import { parse } from 'csv-parse/sync';
import { expect, open, test } from './books';
import type { Server } from './server';

test.use({ booksOf: 'figures' });

/** A figure as the pages write it, in cents: 1,234.50, −3.00 or GBP 2.00; null where it is none. */
function cents(text: string): number | null {
  const plain = text
    .trim()
    .replace(/^[A-Z]{3}\s|\s[A-Z]{3}$/, '')
    .replace(/,/g, '')
    .replace('−', '-');
  return /^-?\d+\.\d\d$/.test(plain) ? Math.round(Number(plain) * 100) : null;
}

interface Shown {
  /** What stands in the row of totals, by the head of its column. */
  readonly totals: Readonly<Record<string, string>>;
  readonly rows: readonly Readonly<Record<string, string>>[];
  /** Where the list goes on; null on its last page. */
  readonly next: string | null;
  /** Where it is exported. */
  readonly csv: string | null;
}

/** The list of a page as it stands there: heads, totals and rows. */
function shownOn(page: Page): Promise<Shown> {
  return page.evaluate(() => {
    const table = document.querySelector('table[role="grid"]')!;
    const heads = [...table.querySelectorAll('thead th')].map((cell) => cell.textContent.trim());
    const cellsOf = (row: Element) =>
      Object.fromEntries(
        [...row.querySelectorAll('td')].map((cell, index) => [heads[index] ?? '', cell.innerText.trim()]),
      );
    const link = (text: string) =>
      [...document.querySelectorAll('main a')].find((one) => one.textContent.trim() === text)?.getAttribute('href') ??
      null;
    return {
      totals: cellsOf(table.querySelector('tr.totals')!),
      rows: [...table.querySelectorAll('tbody tr[data-row]')].map(cellsOf),
      next: link('Next page'),
      csv: link('Export what is shown (CSV)'),
    };
  });
}

/** All pages of a list, one after the other. */
async function wholeList(page: Page, server: Server, path: string, books: string): Promise<Shown> {
  await open(page, server, path, books);
  const first = await shownOn(page);
  const rows = [...first.rows];
  for (let { next } = first; next;) {
    await page.goto(`${server.address}${next}`, { waitUntil: 'networkidle' });
    const more = await shownOn(page);
    expect(more.totals, `${path}: totals are of the whole list on every page`).toEqual(first.totals);
    expect(more.rows.length).toBeGreaterThan(0);
    rows.push(...more.rows);
    next = more.next;
  }
  return { ...first, rows };
}

async function exported(page: Page, server: Server, path: string): Promise<Record<string, string>[]> {
  const answer = await page.request.get(`${server.address}${path}`);
  expect(answer.headers()['content-type']).toContain('text/csv');
  return parse(await answer.text(), { columns: true, skip_empty_lines: true });
}

const sumOf = (rows: readonly Readonly<Record<string, string>>[], column: string) =>
  rows.reduce((sum, row) => sum + (cents(row[column]!) ?? 0), 0);

interface List {
  readonly books: string;
  readonly path: string;
  /** Its columns of money: on the page and, where it is named otherwise there, in the export. */
  readonly money: Readonly<Record<string, string>>;
}

const lines = (books: string, path: string): List => ({ books, path, money: { Amount: 'Amount' } });
const invoices = (books: string, path: string): List => ({ books, path, money: { Gross: 'Gross', Open: 'Open' } });
const LISTS: readonly List[] = [
  lines('kittiwake', 'banked?state=all'),
  lines('kittiwake', 'banked'),
  lines('lantern-head', 'banked?state=matched'),
  invoices('kittiwake', 'owed'),
  invoices('kittiwake', 'owed?state=paid'),
  invoices('driftline', 'owed?state=overdue'),
  { books: 'lantern-head', path: 'in-transit', money: { Net: 'Net' } },
  { books: 'kittiwake', path: 'collected?channel=1', money: { Gross: 'Gross', Fee: 'Fee' } },
];

for (const { books, path, money } of LISTS) {
  test(`${books}, ${path}: the totals are its rows, page by page, and so is the export`, async ({ page, server }) => {
    const list = await wholeList(page, server, path, books);
    expect(Object.values(list.totals)).toContain(`${list.rows.length} in all`);
    for (const column of Object.keys(money)) expect(cents(list.totals[column]!), column).toBe(sumOf(list.rows, column));
    if (list.csv === null) return expect(list.rows).toEqual([]);
    const rows = await exported(page, server, list.csv);
    expect(rows).toHaveLength(list.rows.length);
    for (const [column, name] of Object.entries(money)) {
      const onPage = list.rows.map((row) => cents(row[column]!));
      expect(rows.map((row) => cents(row[name]!))).toEqual(onPage);
    }
  });
}

test('the rail is the ledger: what is owed, in transit and at the bank are the balances of their accounts', async ({
  page,
  server,
}) => {
  for (const books of ['kittiwake', 'driftline', 'lantern-head']) {
    await open(page, server, 'proved/trial-balance', books);
    const rows = await page.evaluate(() =>
      [...document.querySelectorAll('main table tbody tr')].map((row) =>
        [...row.querySelectorAll('td')].map((cell) => cell.innerText.trim()),
      ),
    );
    const balance = (is: (name: string) => boolean) =>
      rows
        .filter(([, name]) => name !== undefined && is(name))
        .reduce((sum, row) => sum + (cents(row.at(-2)!) ?? 0) - (cents(row.at(-1)!) ?? 0), 0);
    const figure = async (station: string) => {
      const text = await page.getByRole('link', { name: new RegExp(`^${station}: `) }).innerText();
      return cents(text.split('\n').find((line) => cents(line) !== null)!);
    };
    expect(await figure('Owed'), books).toBe(balance((name) => /receivable/i.test(name)));
    expect(await figure('In transit'), books).toBe(balance((name) => /clearing$/.test(name)));
    expect(await figure('Banked'), books).toBe(balance((name) => /^(Current|Reserve) account$/.test(name)));
  }
});

test('every register ends at the balance that the trial balance has of it', async ({ page, server }) => {
  await open(page, server, 'proved/trial-balance', 'kittiwake');
  const accounts = await page.evaluate(() =>
    [...document.querySelectorAll('main table tbody tr')].flatMap((row) => {
      const link = row.querySelector('a[href*="/accounts/"]')?.getAttribute('href');
      const [debit, credit] = [...row.querySelectorAll('td')].slice(-2).map((cell) => cell.innerText.trim());
      return link ? [{ link: link.split('?')[0]!, balance: debit || `−${credit}` }] : [];
    }),
  );
  expect(accounts.length).toBeGreaterThan(15);
  for (const { link, balance } of accounts) {
    await page.goto(`${server.address}${link}`, { waitUntil: 'networkidle' });
    await expect(page.locator('.page-head')).toContainText(`balance ${balance},`);
    const running = await page.evaluate(() => {
      const cells = document.querySelector('main table tbody tr:not(.totals)')?.querySelectorAll('td');
      return cells ? [...cells].at(-1)!.innerText.trim() : null;
    });
    if (running !== null && cents(running) !== null) expect(running, link).toBe(balance);
  }
});

test('clearing proofs add up line by line to what they end with', async ({ page, server }) => {
  for (const books of ['kittiwake', 'driftline', 'lantern-head']) {
    await open(page, server, 'proved', books);
    const proofs = await page.evaluate(() =>
      [...document.querySelectorAll('section[aria-label$="clearing proof"]')].map((proof) => ({
        name: proof.getAttribute('aria-label')!,
        rows: [...proof.querySelectorAll('tbody tr')].map((row) => ({
          strong: row.classList.contains('totals'),
          amount: row.querySelector('td.num')!.textContent.trim(),
        })),
      })),
    );
    expect(proofs.length, books).toBeGreaterThan(0);
    for (const { name, rows } of proofs) {
      const [first, last] = [rows.findIndex(({ strong }) => strong), rows.length - 1];
      const sum = (from: number, to: number) =>
        rows.slice(from, to).reduce((all, { amount }) => all + cents(amount)!, 0);
      expect(cents(rows[first]!.amount), `${books}: ${name}, in transit`).toBe(sum(0, first));
      expect(cents(rows[last]!.amount), `${books}: ${name}, as the ledger says`).toBe(sum(first, last));
    }
  }
});
