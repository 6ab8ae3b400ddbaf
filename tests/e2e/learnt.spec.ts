import { expect, open, test } from './books';

test.use({ booksOf: 'learnt' });
test.describe.configure({ mode: 'serial' });

const LINES = { name: 'Statement lines' };
const SHEET = { name: 'Working sheet' };

test('both ends of a transfer between own accounts are one sheet: each account right on its day', async ({
  page,
  server,
}) => {
  await open(page, server, 'banked?text=IE48SKER', 'lantern-head');
  const sheet = page.getByRole('article', SHEET);
  await expect(sheet).toContainText('TRANSFER TO IE48SKER93115290001002');
  await expect(sheet).toContainText('Line of 10 Nov · 1020 Reserve account');
  await expect(sheet).toContainText('left 1010 Current account and came to 1020 Reserve account, 1 day later');
  await expect(sheet.getByLabel('Left to explain', { exact: true })).toHaveText('0.00');
  await sheet.getByRole('button', { name: /^Entry/ }).click();
  await expect(sheet.getByRole('region', { name: 'Entry it will write' })).toContainText('2,500.00');
  await sheet.getByRole('button', { name: /^Confirm/ }).click();
  await expect(page.getByText('Confirmed −2,500.00 of 9 Nov').first()).toBeVisible();
  // The other end went with it: nothing of the transfer waits any more.
  await open(page, server, 'banked?text=transfer', 'lantern-head');
  await expect(page.getByRole('grid', LINES)).toHaveCount(0);
  await open(page, server, 'banked?state=matched&text=TRANSFER FROM', 'lantern-head');
  const confirmed = page.getByRole('article', { name: 'Confirmed sheet' });
  await expect(confirmed).toContainText('Line of 9 Nov · 1010 Current account');
  await expect(confirmed.getByRole('region', { name: 'Entry it wrote' })).toContainText('1020');
  // Seen from its second line, it is taken apart whole.
  await confirmed.getByRole('button', { name: /^Take apart/ }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Take apart' }).click();
  await expect(page.getByText(/^Took apart/).first()).toBeVisible();
  await open(page, server, 'banked?text=transfer', 'lantern-head');
  await expect(page.getByRole('grid', LINES)).toContainText('TRANSFER FROM LANTERN HEAD TRUST');
  await expect(page.getByRole('grid', LINES)).toContainText('TRANSFER TO IE48');
});

test('all proven at once takes both lines of a pair, says so of each, and gives all back', async ({ page, server }) => {
  await open(page, server, 'banked', 'lantern-head');
  await expect(page.getByRole('heading', { name: '8 lines to explain' })).toBeVisible();
  await page.getByRole('button', { name: 'Confirm 8 proven' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Confirm 8' }).click();
  await expect(page.getByText('Confirmed 8 proven lines, 1,803.75').first()).toBeVisible();
  await expect(page.getByRole('heading', { name: '8 lines to explain' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await expect(page.getByRole('heading', { name: '8 lines to explain' })).toBeVisible();
});

test('what a channel charges since a day is agreed to with one key, and the fee check goes by it', async ({
  page,
  server,
}) => {
  await open(page, server, 'banked/learnt', 'driftline');
  const charges = page.getByRole('table', { name: 'What channels charge' });
  await expect(charges).toContainText('1,193 of 1,193 receipts fit it to the cent; 0.20 was agreed');
  await charges.getByRole('button', { name: 'Agree to it: what Debit bureau takes from 5 Oct 2026' }).click();
  await expect(page.getByText('Debit bureau takes 0.25 from 5 Oct 2026').first()).toBeVisible();
  await expect(
    charges.getByRole('button', { name: 'Take it back: what Debit bureau takes from 5 Oct 2026' }),
  ).toBeVisible();
  await open(page, server, 'in-transit/fees', 'driftline');
  const fees = page.getByRole('table').first();
  await expect(fees.getByRole('row').filter({ hasText: 'Debit bureau' })).toContainText('as agreed');
  await expect(fees).toContainText('from 5 Oct 2026');
  await open(page, server, 'set-up/channels', 'driftline');
  await expect(page.getByText('from 5 Oct 2026 0.25')).toBeVisible();
  await open(page, server, 'banked/learnt', 'driftline');
  await charges.getByRole('button', { name: 'Take it back: what Debit bureau takes from 5 Oct 2026' }).click();
  await expect(page.getByText('Debit bureau takes what it did before from 5 Oct 2026').first()).toBeVisible();
  await expect(charges).toContainText('0.20 was agreed');
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await expect(
    charges.getByRole('button', { name: 'Take it back: what Debit bureau takes from 5 Oct 2026' }),
  ).toBeVisible();
});

test('what was learnt of a channel is forgotten up to today and remembered again', async ({ page, server }) => {
  await open(page, server, 'banked/learnt', 'driftline');
  const lags = page.getByRole('table', { name: 'How long channels take' });
  await expect(lags.getByRole('row').filter({ hasText: 'Card wallet' })).toContainText('2 working days 2 times');
  await lags.getByRole('button', { name: 'Forget: what Card wallet taught' }).click();
  await expect(page.getByText('What Card wallet taught up to 16 Nov 2026 is forgotten.')).toBeVisible();
  await expect(lags.getByRole('row').filter({ hasText: 'Card wallet' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Remember it: what Card wallet taught' }).click();
  await expect(lags.getByRole('row').filter({ hasText: 'Card wallet' })).toContainText('2 working days 2 times');
});

test('the fee check lists the receipts that were charged otherwise, and each leads to itself', async ({
  page,
  server,
}) => {
  await open(page, server, 'in-transit/fees', 'driftline');
  await page.getByRole('link', { name: 'Fall-back cards' }).click();
  await expect(page).toHaveURL(/channel=\d+/);
  await open(page, server, 'banked/learnt', 'driftline');
  await page.getByRole('button', { name: 'Take it back: what Debit bureau takes from 5 Oct 2026' }).click();
  await expect(page.getByRole('table', { name: 'What channels charge' })).toContainText('0.20 was agreed');
  await page.getByRole('link', { name: 'See which' }).click();
  const receipts = page.getByRole('table', { name: 'Charged otherwise' });
  await expect(receipts).toContainText('D-21790');
  await receipts.getByRole('link', { name: 'D-21790' }).click();
  await expect(page).toHaveURL(/collected/);
  await expect(page.getByText('D-21790').first()).toBeVisible();
});

test('how the bank calls a payer is kept, corrected and forgotten, each with what it rests on', async ({
  page,
  server,
}) => {
  await open(page, server, 'banked/learnt', 'kittiwake');
  const names = page.getByRole('table', { name: 'Names at the bank' });
  const row = names.getByRole('row').filter({ hasText: 'CB Marine Holdings' });
  await expect(row).toHaveText(/Cormorant Boatyard.*not yet.*1.*21 Sep 2026/);
  await row.getByRole('button', { name: 'Keep as their name: CB Marine Holdings for Cormorant Boatyard' }).click();
  await expect(page.getByText('Cormorant Boatyard appears at the bank as CB Marine Holdings').first()).toBeVisible();
  await expect(row).toContainText('go by it');
  await row.getByRole('button', { name: 'Correct: who is CB Marine Holdings' }).click();
  const dialog = page.getByRole('dialog', { name: 'Who is CB Marine Holdings' });
  await expect(dialog.getByRole('button', { name: 'Keep as their name' })).toBeDisabled();
  await dialog.getByLabel('Payer').fill('Skarra');
  await page.getByRole('option', { name: 'Skarra Yacht Club' }).click();
  await dialog.getByRole('button', { name: 'Keep as their name' }).click();
  await expect(row.filter({ hasText: 'Skarra Yacht Club' })).toContainText('go by it');
  await row.getByRole('button', { name: 'Forget: that Skarra Yacht Club is CB Marine Holdings' }).click();
  await expect(row).toHaveCount(1);
  await expect(row).toContainText('not yet');
  await row.getByRole('button', { name: 'Forget: that Cormorant Boatyard is CB Marine Holdings' }).click();
  await expect(row).toHaveCount(0);
  await page.getByRole('button', { name: 'Remember it: that Cormorant Boatyard is CB Marine Holdings' }).click();
  await expect(row).toContainText('not yet');
});

test('when a channel’s day ends is corrected by its hour and forgotten', async ({ page, server }) => {
  await open(page, server, 'banked/learnt', 'kittiwake');
  const cuts = page.getByRole('table', { name: 'When channels cut their day' });
  await expect(cuts).toContainText('midnight fits 44 of 44');
  await cuts.getByRole('button', { name: 'Correct: when the day of Card desk ends' }).click();
  const dialog = page.getByRole('dialog', { name: 'When the day of Card desk ends' });
  await dialog.getByLabel('Its day ends at').fill('12:00');
  await dialog.getByRole('button', { name: 'Cut it then' }).click();
  await expect(page.getByText('The day of Card desk is cut at 12:00').first()).toBeVisible();
  // Its payouts do not end at noon, which is said beside what they fit.
  await expect(cuts).toContainText(/ fits 44 of 44, 12:00 fits \d+/);
  await cuts.getByRole('button', { name: 'Forget: what Card desk taught' }).click();
  await expect(cuts).toContainText('nothing tells it');
  await page.getByRole('button', { name: 'Remember it: what Card desk taught' }).click();
  await cuts.getByRole('button', { name: /^Cut it there: the day of Card desk/ }).click();
  await expect(cuts.getByRole('button', { name: /^Cut it there: the day of Card desk/ })).toHaveCount(0);
  await expect(cuts).toContainText('fits 44 of 44');
});

test('what a channel takes is corrected to another schedule, and what cannot be read is not sent', async ({
  page,
  server,
}) => {
  await open(page, server, 'banked/learnt', 'driftline');
  const charges = page.getByRole('table', { name: 'What channels charge' });
  await charges.getByRole('button', { name: 'Correct: what Debit bureau takes from 5 Oct 2026' }).click();
  const dialog = page.getByRole('dialog', { name: 'What Debit bureau takes from 5 Oct 2026' });
  const fixed = dialog.getByLabel('and a receipt');
  await fixed.fill('a quarter');
  await dialog.getByRole('button', { name: 'Agree to it' }).click();
  await expect(dialog.getByText('Write it like 0.25.').filter({ visible: true })).toHaveCount(1);
  await fixed.fill('0.26');
  await dialog.getByRole('button', { name: 'Agree to it' }).click();
  await expect(page.getByText('Debit bureau takes 0.26 from 5 Oct 2026').first()).toBeVisible();
  await expect(charges.getByRole('row').filter({ hasText: '0.26' })).toContainText('agreed');
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await expect(charges.getByRole('row').filter({ hasText: '0.26' })).toHaveCount(0);
  // What receipts tell themselves is forgotten too; the fee check lists them all the same.
  await charges.getByRole('button', { name: 'Forget: what Debit bureau taught' }).click();
  await expect(charges).toHaveCount(0);
  await page.getByRole('button', { name: 'Remember it: what Debit bureau taught' }).click();
  await expect(charges).toContainText('1,193 of 1,193 receipts fit it to the cent');
});
