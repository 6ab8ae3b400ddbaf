import { readFileSync } from 'node:fs';
import { chooseFile, csv, expect, open, report, test } from './books';

test.use({ booksOf: 'channels' });

test.describe.configure({ mode: 'serial' });

/** A till's days as items and tenders; the second day does not foot. */
const DAYS = csv(
  'hatch-days.csv',
  [
    'Day,Kind,What,Amount,Units,Site',
    '2026-11-14,sale,tea,90.00,31,TEA',
    '2026-11-14,sale,shop,30.00,2,SHOP',
    '2026-11-14,payment,cash,50.00,,TEA',
    '2026-11-14,payment,card,40.00,,TEA',
    '2026-11-14,payment,card,30.00,,SHOP',
    '2026-11-15,sale,tea,70.00,25,TEA',
    '2026-11-15,payment,cash,60.00,,TEA',
    '',
  ].join('\n'),
);

test('a till’s days come in as items and tenders; one that does not foot is handed back', async ({ page, server }) => {
  await open(page, server, 'collected/bring-in', 'lantern-head');
  await page.getByLabel('Collected through').selectOption({ label: 'Tower till, EUR' });
  await page.getByLabel('File to bring in').setInputFiles(DAYS);
  const reading = page.getByRole('region', { name: 'How the file is read' });
  await expect(reading.getByLabel('Each row')).toHaveValue('till-days');
  await expect(reading.getByLabel('“payment”, 4 rows')).toHaveValue('tender');
  await reading.getByRole('button', { name: 'See what it holds' }).click();
  await expect(report(page)).toContainText('2 receipts, 120.00');
  await expect(report(page)).toContainText('70.00');
  const saving = page.waitForEvent('download');
  await report(page).getByRole('button', { name: 'Save the refused rows' }).click();
  const saved = await saving;
  expect(saved.suggestedFilename()).toBe('hatch-days-refused.csv');
  const rows = readFileSync(await saved.path(), 'utf8')
    .trim()
    .split('\r\n');
  expect(rows.map((row) => row.split(',').slice(0, 4).join(','))).toEqual([
    'Day,Kind,What,Amount',
    '2026-11-15,sale,tea,70.00',
    '2026-11-15,payment,cash,60.00',
  ]);
  await report(page).getByRole('button', { name: 'Bring in 2 movements' }).click();
  await expect(page.getByText('Brought in 2 movements')).toBeVisible();

  // Corrected, it comes in by the reading that is kept, with nothing asked.
  const corrected = rows.join('\r\n').replace('cash,60.00', 'cash,70.00');
  await chooseFile(page, csv('hatch-days-refused.csv', corrected));
  await expect(report(page)).toContainText('1 receipt, 70.00');
  await report(page).getByRole('button', { name: 'Bring in 1 movement' }).click();
  await expect(page.getByText('Brought in 1 movement from')).toBeVisible();
});

test('the day stands as its till would print it, and steps to the days beside it', async ({ page, server }) => {
  await open(page, server, 'collected/day?channel=2&date=2026-11-15', 'lantern-head');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Tower till, Sun 15 Nov 2026');
  const sold = page.getByRole('table', { name: 'Tea hatch, what was sold' });
  await expect(sold.getByRole('row', { name: /^Tea and cake/ })).toContainText('140.50');
  await expect(page.getByRole('table', { name: 'Tea hatch, how it was paid' })).toContainText('cash');
  await expect(page.getByText('Tenders are what was sold').first()).toBeVisible();
  await page.keyboard.press('[');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Tower till, Sat 14 Nov 2026');
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Save as CSV' }).click(),
  ]);
  expect(readFileSync(await download.path(), 'utf8')).toContain('Tea hatch,All tenders');
});

test('a reading is forgotten, and undo keeps it again', async ({ page, server }) => {
  await open(page, server, 'collected/readings', 'lantern-head');
  const readings = page.getByRole('table', { name: 'Readings' });
  await expect(readings.getByRole('row')).toHaveCount(5);
  await readings.getByRole('button', { name: /^Forget the reading of Kind, Day|^Forget .*Units/ }).click();
  await expect(readings.getByRole('row')).toHaveCount(4);
  await page.getByRole('button', { name: /Undo/ }).click();
  await expect(readings.getByRole('row')).toHaveCount(5);
});

test('a trial balance shows one fund alone', async ({ page, server }) => {
  await open(page, server, 'proved/trial-balance', 'lantern-head');
  const balance = page.getByRole('table', { name: /^Trial balance/ });
  await expect(balance).toContainText('Current account');
  await page.getByRole('link', { name: 'Fund Lens restoration' }).click();
  await expect(page.getByText('only what is booked under Fund Lens restoration')).toBeVisible();
  await expect(balance).not.toContainText('Current account');
  await expect(balance.getByRole('row', { name: /Gifts/ })).toBeVisible();
});

test('one email, two names: one payer or two is said, undone, and said again', async ({ page, server }) => {
  await open(page, server, 'owed/payers', 'driftline');
  const asked = page.getByRole('region', { name: 'One payer or two' });
  await expect(asked).toContainText('Cormac ');
  await asked.getByRole('button', { name: 'A payer of their own' }).click();
  await expect(asked).toHaveCount(0);
  await page.getByRole('button', { name: /Undo/ }).click();
  await expect(asked).toContainText('Cormac ');
  await asked.getByRole('button', { name: /^It is / }).click();
  await expect(asked).toHaveCount(0);
  await page.getByRole('searchbox').fill('cormac');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('table', { name: 'Payers' }).getByRole('row')).toHaveCount(2);
});

test('a payer is merged into another, and parted again', async ({ page, server }) => {
  await open(page, server, 'owed/payers?text=aoibh', 'driftline');
  const payers = page.getByRole('table', { name: 'Payers' });
  const count = await payers.getByRole('row').count();
  await payers.getByRole('button', { name: 'Merge Aoibh Ardle' }).click();
  const dialog = page.getByRole('dialog', { name: 'Merge Aoibh Ardle' });
  await dialog.getByLabel('Into').fill('brennock');
  await page.getByRole('option', { name: 'Aoibh Brennock', exact: true }).click();
  await expect(dialog).toContainText('3 invoices and 3 receipts of Aoibh Ardle go to Aoibh Brennock');
  await dialog.getByRole('button', { name: 'Merge', exact: true }).click();
  await expect(payers.getByRole('row')).toHaveCount(count - 1);
  await expect(payers).toContainText('Aoibh Brennock, also Aoibh Ardle');
  await page.getByRole('button', { name: /Undo/ }).click();
  await expect(payers.getByRole('row')).toHaveCount(count);
});

test('a channel in pounds: its receipts, its sums and its proof are in pounds, its entries in both', async ({
  page,
  server,
}) => {
  await open(page, server, 'collected?channel=3', 'driftline');
  await page.getByRole('button', { name: 'W-82' }).click();
  const receipt = page.getByRole('article', { name: 'Receipt W-82' });
  await expect(receipt).toContainText('24.00 GBP');
  await expect(receipt.getByRole('region', { name: 'Entry it will write' })).toContainText(
    'holds it until it pays out, 24.00 GBP',
  );
  await open(page, server, 'proved', 'driftline');
  await expect(page.getByRole('region', { name: 'Card wallet, clearing proof' })).toContainText('165.13 GBP');
  await open(page, server, 'set-up/rates', 'driftline');
  await expect(page.getByRole('table').getByRole('row').nth(1)).toContainText('GBP');
});

test('a channel is changed after it was opened, and the change undone', async ({ page, server }) => {
  await open(page, server, 'set-up/channels', 'driftline');
  await page
    .getByRole('region', { name: 'Debit bureau' })
    .getByRole('link', { name: /Change/ })
    .first()
    .click();
  await page.getByLabel('Working days to the bank').fill('4');
  await page.getByRole('button', { name: 'Save the changes' }).click();
  await expect(page.getByText(/Changed .*Debit bureau/)).toBeVisible();
  await page.getByRole('button', { name: /Undo/ }).click();
  await page
    .getByRole('region', { name: 'Debit bureau' })
    .getByRole('link', { name: /Change/ })
    .first()
    .click();
  await expect(page.getByLabel('Working days to the bank')).toHaveValue('2');
});

test('a selection is posted, reversed and set aside, each in one go', async ({ page, server }) => {
  await open(page, server, 'collected?state=not-posted&channel=3', 'driftline');
  await page.getByRole('button', { name: 'Post all shown…' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('button', { name: /^Post \d+ receipts/ }).click();
  await expect(page.getByText(/^Posted \d+ receipts/)).toBeVisible();
  await open(page, server, 'collected?state=in-transit&channel=3', 'driftline');
  await page.getByRole('button', { name: 'Reverse all shown…' }).click();
  await dialog.getByRole('button', { name: /^Reverse \d+ entries/ }).click();
  await expect(page.getByText(/^Reversed \d+ entries/)).toBeVisible();
  await open(page, server, 'collected?state=not-posted&channel=3', 'driftline');
  await page.getByRole('button', { name: 'Set all shown aside…' }).click();
  await dialog.getByLabel('Why it is not wanted in the books').fill('kept by the wallet for now');
  await dialog.getByRole('button', { name: 'Set aside' }).click();
  await expect(page.getByText(/^Set \d+ receipts aside/)).toBeVisible();
  await page.getByRole('button', { name: /Undo/ }).click();
  await expect(page.getByRole('grid', { name: 'Receipts' }).getByRole('row').nth(3)).toBeVisible();
});
