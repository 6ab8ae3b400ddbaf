import axe from 'axe-core';
import type { Page } from '@playwright/test';
import { expect, FILES, open, railFigure, test } from './books';

test.use({ booksOf: 'keyboard' });

const heading = (page: Page, name: string | RegExp) =>
  expect(page.getByRole('heading', { level: 1, name, exact: true })).toBeVisible();

test('the whole way by keyboard alone', async ({ page, server }) => {
  await open(page, server);
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keys on this page' })).toContainText('undo the last change');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);

  // Bring a file in: the button is reached by Tab, the report's button has the focus.
  await page.keyboard.press('2');
  await heading(page, 'Receipts');
  await page.getByRole('link', { name: 'Bring in', exact: true }).focus();
  await page.keyboard.press('Enter');
  await heading(page, 'Bring in receipts');
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Choose a file…' }).focus();
  await page.keyboard.press('Enter');
  await (await chooser).setFiles(`${FILES}/card-desk-2026-11-b.csv`);
  await expect(page.getByRole('button', { name: /^Bring in \d+ movements/ })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page.getByText(/^Brought in \d+ movements/)).toBeVisible();

  // Post one with p, reverse it with x, undo that with u.
  await page.keyboard.press('2');
  await heading(page, 'Receipts');
  await page.keyboard.press('j');
  const panel = page.getByRole('article', { name: /^Receipt / });
  await expect(panel.getByRole('region', { name: 'Entry it will write' })).toBeVisible();
  await page.keyboard.press('p');
  await expect(panel.getByRole('region', { name: 'Entry it wrote' })).toBeVisible();
  await page.keyboard.press('x');
  await expect(page.getByRole('dialog').getByRole('button', { name: 'Reverse', exact: true })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(panel.getByRole('region', { name: 'Entry it will write' })).toBeVisible();
  await page.keyboard.press('u');
  await expect(panel.getByRole('region', { name: 'Entry it wrote' })).toBeVisible();

  // Rows move, the trail opens and closes.
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('k');
  await expect(panel).toBeVisible();
  await page.keyboard.press('t');
  await expect(
    page.getByRole('dialog', { name: /^Trail of Receipt/ }).getByRole('region', { name: 'Collected' }),
  ).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);

  // The proven line at the top of the sheet: c confirms it, u takes it apart.
  await page.keyboard.press('4');
  await heading(page, /lines to explain/);
  const before = await railFigure(page, 'Banked');
  await expect(page.getByRole('article', { name: 'Working sheet' })).toContainText('Proven');
  await page.keyboard.press('c');
  await expect(page.getByText(/^Confirmed /)).toBeVisible();
  await expect.poll(() => railFigure(page, 'Banked')).not.toBe(before);
  await page.keyboard.press('u');
  await expect.poll(() => railFigure(page, 'Banked')).toBe(before);

  // Parts are found by typing and picked with Space.
  await page.keyboard.press('a');
  await page.getByLabel('Find a part by name, number, note or amount').focus();
  await page.keyboard.type('P-2227');
  await expect(page.getByRole('checkbox')).toHaveCount(1);
  await page.keyboard.press('Tab');
  await page.keyboard.press('Space');
  await expect(page.getByRole('table', { name: 'Parts' })).toContainText('Payout P-2227');

  for (const [key, name] of [
    ['1', 'Invoices'],
    ['3', 'Payouts'],
    ['5', 'Does it prove?'],
    ['0', /things, worst first/],
  ] as const) {
    await page.keyboard.press('Escape');
    await page.locator('body').evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
    await page.keyboard.press(key);
    await heading(page, name);
  }
});

const PAGES = [
  '',
  'owed',
  'owed?invoice=1',
  'owed/bring-in',
  'collected',
  'collected?receipt=1',
  'in-transit',
  'in-transit?payout=2',
  'banked',
  'banked?state=matched&line=2',
  'banked/bring-in',
  'banked/rules?text=rent',
  'banked/learnt',
  'banked/income',
  'in-transit/fees',
  'proved',
  'proved/trial-balance',
  'proved/close',
  'accounts/3',
  'set-up',
  'set-up/channels',
  'set-up/channels/open',
  'set-up/map',
  'set-up/map?rule=new',
  'set-up/dimensions',
  'set-up/rates',
  'set-up/fetching',
  'set-up/fetching?connection=1',
  'set-up/stand-ins',
  'set-up/channels/1',
  'owed/payers',
  'owed/payers/1',
  'owed/new',
  'owed/plans/1',
  'owed/ageing',
  'collected/key',
  'collected/gift-batch',
  'set-up/lists',
  'set-up/documents',
  'collected/day?channel=1',
  'collected/readings',
];

for (const scheme of ['light', 'dark'] as const) {
  test(`every page passes axe-core, ${scheme}, and nothing is cut off at 1024 px`, async ({ page, server }) => {
    test.setTimeout(240_000);
    await page.emulateMedia({ colorScheme: scheme });
    await page.setViewportSize({ width: 1024, height: 768 });
    for (const path of PAGES) {
      await open(page, server, path);
      await page.evaluate(axe.source);
      const { violations } = await page.evaluate(() => (window as unknown as { axe: typeof axe }).axe.run(document));
      expect(
        violations.map((v) => `${path}: ${v.id}, ${v.nodes.map((node) => node.target.join(' ')).join('; ')}`),
      ).toEqual([]);
      expect(
        await page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth),
        path,
      ).toBeLessThanOrEqual(0);
    }
  });
}
