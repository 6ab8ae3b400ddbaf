import { chooseFile, expect, FILES, open, railFigure, report, test } from './books';

test.use({ booksOf: 'walk' });

test.describe.configure({ mode: 'serial' });

test('owed: invoices come in, stand with what is open, and are posted', async ({ page, server }) => {
  await open(page, server, 'owed/bring-in');
  await chooseFile(page, `${FILES}/invoices-2026-11-b.csv`);
  await expect(report(page)).toContainText('nothing is written yet');
  await report(page)
    .getByRole('button', { name: /^Bring in \d+ invoice/ })
    .click();
  await expect(page.getByText(/^Brought in \d+ invoices? from invoices-2026-11-b.csv/)).toBeVisible();

  await page.getByRole('link', { name: 'Invoices', exact: true }).click();
  await page.getByRole('navigation', { name: 'What is shown' }).getByRole('link', { name: 'Not posted' }).click();
  await expect(page).toHaveURL(/state=not-posted/);
  await page.getByRole('button', { name: 'Post all shown…' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByRole('table', { name: 'Balances before and after' })).toContainText(
    '1100 Accounts receivable',
  );
  await dialog.getByRole('button', { name: /^Post \d+ invoice/ }).click();
  await expect(page.getByText(/^Posted \d+ invoices?, /)).toBeVisible();
  await expect(page.getByRole('heading', { name: 'No invoice is like this' })).toBeVisible();
});

test('collected: the card desk’s export, dry run first, and the same file again adds nothing', async ({
  page,
  server,
}) => {
  await open(page, server, 'collected/bring-in');
  await chooseFile(page, `${FILES}/card-desk-2026-11-b.csv`);
  await expect(report(page)).toContainText('Already here');
  await report(page)
    .getByRole('button', { name: /^Bring in \d+ movements/ })
    .click();
  await expect(
    page.getByText(/^Brought in \d+ movements, \d+ now known to be paid out from card-desk-2026-11-b.csv/),
  ).toBeVisible();

  await chooseFile(page, `${FILES}/card-desk-2026-11-b.csv`);
  await expect(report(page)).toContainText('Nothing new in this file');
  await expect(report(page).getByRole('button', { name: /^Bring in/ })).toHaveCount(0);
});

test('collected: the entry stands beside the receipt; posted, reversed and posted again', async ({ page, server }) => {
  await open(page, server, 'collected?state=not-posted');
  const before = await railFigure(page, 'Collected');
  await page.getByRole('grid', { name: 'Receipts' }).getByRole('button', { name: 'CD-', exact: false }).first().click();
  const panel = page.getByRole('article', { name: /^(Receipt|Refund) / });
  const name = (await panel.getAttribute('aria-label'))!.split(' ')[1]!;
  await expect(panel.getByRole('region', { name: 'Entry it will write' })).toContainText(
    'Card desk holds it until it pays out',
  );
  await expect(panel.getByRole('table', { name: 'Balances before and after' })).toContainText('→');
  await panel.getByRole('button', { name: /^Post/ }).click();
  await expect(page.getByText(/^Posted 1 receipt, /)).toBeVisible();
  await expect(panel.getByRole('region', { name: 'Entry it wrote' })).toBeVisible();
  expect(await railFigure(page, 'Collected')).not.toBe(before);

  await panel.getByRole('button', { name: /^Reverse…/ }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('The opposite entry is written');
  await dialog.getByRole('button', { name: 'Reverse', exact: true }).click();
  await expect(page.getByText(new RegExp(`^Reversed Receipt ${name}`))).toBeVisible();
  await expect(panel.getByRole('region', { name: 'Entry it will write' })).toBeVisible();
  expect(await railFigure(page, 'Collected')).toBe(before);

  await page.getByRole('button', { name: 'Post all shown…' }).click();
  await page
    .getByRole('dialog')
    .getByRole('button', { name: /^Post \d+ receipts/ })
    .click();
  await expect(page.getByText(/^Posted \d+ receipts, /)).toBeVisible();
  await expect.poll(() => railFigure(page, 'Collected')).toBe('0.00');
});

test('in transit: each payout with its receipts, fees and expected day; the clearing balance opens as a register', async ({
  page,
  server,
}) => {
  await open(page, server, 'in-transit?state=late');
  await page.getByRole('button', { name: 'P-2233' }).click();
  const panel = page.getByRole('article', { name: 'Payout P-2233' });
  await expect(panel).toContainText('Expected at the bank on Thu 12 Nov 2026.');
  await expect(panel.getByRole('region', { name: 'Entry at the bank' })).toContainText(
    'payout P-2233 left the channel',
  );
  const held = await railFigure(page, 'In transit');
  // Two channels hold money: the figure leads to the station, each clearing account stands with its proof.
  await page.getByRole('link', { name: /^In transit: / }).click();
  await expect(page).toHaveURL(/\/in-transit$/);
  await open(page, server, 'proved');
  await page
    .getByRole('region', { name: 'Card desk, clearing proof' })
    .getByRole('row', { name: /^Clearing, as the ledger says/ })
    .getByRole('link')
    .click();
  const register = page.getByRole('table', { name: 'Register of 1200 Card desk clearing' });
  await expect(register.getByRole('row').nth(1)).toContainText(held);
});

test('banked: an overlapping CSV of the same account adds only what is new', async ({ page, server }) => {
  await open(page, server, 'banked/bring-in');
  await chooseFile(page, `${FILES}/statement-2026-11-b.csv`);
  await expect(report(page)).toContainText(/Already here\s*[1-9]\d* statement lines, left as they are/);
  await report(page)
    .getByRole('button', { name: /^Bring in \d+ statement lines/ })
    .click();
  await expect(page.getByText(/^Brought in \d+ statement lines? from statement-2026-11-b.csv/)).toBeVisible();
});

test('banked: a proven line is laid ready-made and confirmed with one key, then taken apart with its consequence', async ({
  page,
  server,
}) => {
  await open(page, server, 'banked');
  const lines = page.getByRole('grid', { name: 'Statement lines' });
  await lines.getByRole('button', { name: 'Payout P-2232' }).click();
  const sheet = page.getByRole('article', { name: 'Working sheet' });
  await expect(sheet).toContainText('payout id P-2232 stands in the bank’s text');
  await expect(sheet.getByLabel('Left to explain', { exact: true })).toHaveText('0.00');
  await page.keyboard.press('c');
  await expect(page.getByText(/^Confirmed [\d.,]+ of 11 Nov/)).toBeVisible();
  await expect(lines.getByRole('button', { name: 'Payout P-2232' })).toHaveCount(0);

  await page
    .getByRole('navigation', { name: 'What is shown' })
    .getByRole('link', { name: /^Matched/ })
    .click();
  await lines.getByRole('button', { name: 'Payout P-2232' }).click();
  await page.getByRole('button', { name: /^Take apart…/ }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('is to be explained again. Free again: 1 payout.');
  await expect(dialog.getByRole('table', { name: 'Balances before and after' })).toContainText(
    '1200 Card desk clearing',
  );
  await dialog.getByRole('button', { name: 'Take apart' }).click();
  await expect(page.getByText(/^Took apart [\d.,]+ of 11 Nov/)).toBeVisible();
  await expect(lines.getByRole('button', { name: 'Payout P-2232' })).toBeVisible();
});

test('banked: two equal deposits are open, and both explanations are named', async ({ page, server }) => {
  await open(page, server, 'banked');
  await page.getByRole('grid', { name: 'Statement lines' }).getByText('CD SETTLEMENT KITTIWAKE SAILS').first().click();
  const sheet = page.getByRole('article', { name: 'Working sheet' });
  await expect(sheet).toContainText('2 payouts of this amount fit');
  await expect(sheet.getByRole('button', { name: /^Lay Payout P-2230/ })).toBeVisible();
  await expect(sheet.getByRole('button', { name: /^Lay Payout P-2231/ })).toBeVisible();
  await expect(sheet.getByRole('button', { name: /^Confirm/ })).toBeDisabled();
});

test('banked: a deposit without a payout report is explained from receipts, the rest booked as a fee', async ({
  page,
  server,
}) => {
  await open(page, server, 'banked');
  await page
    .getByRole('grid', { name: 'Statement lines' })
    .getByText('CD SETTLEMENT 1011 KITTIWAKE SAILS 4471')
    .click();
  const sheet = page.getByRole('article', { name: 'Working sheet' });
  const left = sheet.getByLabel('Left to explain', { exact: true });
  await expect(left).toHaveText('592.52');
  for (const name of ['Brandon Quay', 'P. Strand', 'A. Tern', 'winch']) {
    await sheet.getByLabel('Find a part by name, number, note or amount').fill(name);
    const receipts = sheet.getByRole('group', { name: 'Receipts that no payout carries' });
    await receipts.getByRole('checkbox', { name: new RegExp(name) }).check();
  }
  await expect(sheet.getByRole('table', { name: 'Parts' })).toContainText('605.00');
  await expect(left).toHaveText('0.02');
  await expect(sheet.getByRole('button', { name: /^Confirm/ })).toBeDisabled();
  await sheet.getByLabel('Book the rest as').selectOption({ label: '6100 Card fees' });
  await expect(left).toHaveText('0.00');
  await expect(sheet).toContainText('0.02 less than the schedule says');
  await sheet.getByRole('button', { name: /^Entry/ }).click();
  await expect(sheet.getByRole('region', { name: 'Entry it will write' })).toContainText('12.48');
  await sheet.getByRole('button', { name: /^Confirm/ }).click();
  await expect(page.getByText('Confirmed 592.52 of 12 Nov')).toBeVisible();
});

test('banked: all proven lines after one summary, and undo with one key', async ({ page, server }) => {
  await open(page, server, 'banked');
  const before = await railFigure(page, 'In transit');
  await page.getByRole('button', { name: /^Confirm \d+ proven…/ }).click();
  await page
    .getByRole('dialog')
    .getByRole('button', { name: /^Confirm \d+$/ })
    .click();
  await expect(page.getByText(/^Confirmed \d+ proven lines, /)).toBeVisible();
  await expect.poll(() => railFigure(page, 'In transit')).not.toBe(before);
  await page.keyboard.press('u');
  await expect(page.getByText(/^Took apart \d+ matches, /)).toBeVisible();
  await expect.poll(() => railFigure(page, 'In transit')).toBe(before);
  await page.keyboard.press('u');
  await expect(page.getByText(/^Confirmed \d+ matches again/)).toBeVisible();
});

test('banked: a transfer settles the invoices it pays, and money that left is booked to an account', async ({
  page,
  server,
}) => {
  await open(page, server, 'banked');
  const lines = page.getByRole('grid', { name: 'Statement lines' });
  await lines.getByText('SKARRA YC').click();
  const sheet = page.getByRole('article', { name: 'Working sheet' });
  const left = sheet.getByLabel('Left to explain', { exact: true });
  await expect(sheet).toContainText('the bank’s text names KS-2034, KS-2036');
  await expect(sheet).toContainText('2083 stands in the bank’s text, one letter off KS-2038');
  await expect(left).toHaveText('0.00');
  // What is laid is taken off and put on again.
  await sheet.getByRole('button', { name: /^Take Invoice KS-2038/ }).click();
  await expect(left).toHaveText('196.80');
  await sheet.getByRole('button', { name: /^Add parts/ }).click();
  await sheet.getByLabel('Find a part by name, number, note or amount').fill('Skarra');
  const invoices = sheet.getByRole('group', { name: 'Open invoices' });
  await expect(invoices.getByRole('checkbox')).toHaveCount(3);
  await invoices.getByRole('checkbox', { name: /KS-2038/ }).check();
  await expect(left).toHaveText('0.00');
  await page
    .getByRole('button', { name: /^Confirm/, exact: false })
    .last()
    .click();
  await expect(page.getByText('Confirmed 590.40 of 11 Nov')).toBeVisible();

  await lines.getByText('CANVAS AND THREAD 89377').click();
  // Its rule has laid where it goes; taken off, it can be booked by hand.
  await sheet.getByRole('button', { name: 'Take Booked to 6020 Materials off' }).click();
  await sheet.getByLabel('Book all of it as').selectOption({ label: '6020 Materials' });
  await page.keyboard.press('Escape');
  await sheet.getByRole('button', { name: /^Confirm/ }).click();
  await expect(page.getByText('Confirmed −96.00 of 12 Nov')).toBeVisible();
});

test('proved: clearing is exactly what is in transit, the trial balance foots, and both ends of a trail lead to the other', async ({
  page,
  server,
}) => {
  await open(page, server, 'proved');
  await expect(page.getByRole('region', { name: 'Card desk, clearing proof' })).toContainText(
    'Proves: clearing is exactly what is in transit',
  );
  await expect(page.getByRole('region', { name: 'Current account, bank proof' })).toContainText(
    'Proves: the ledger is the bank less what is to explain',
  );
  await page.getByRole('link', { name: 'Trial balance' }).click();
  await expect(page.getByText(/^\W*foots at [\d.,]+/)).toBeVisible();
  await page.getByRole('link', { name: 'Card fees' }).click();
  await expect(page.getByRole('heading', { name: '6100 Card fees' })).toBeVisible();

  await open(page, server, 'owed?text=KS-');
  await page.getByRole('navigation', { name: 'What is shown' }).getByRole('link', { name: 'Paid' }).click();
  await expect(page).toHaveURL(/state=paid/);
  await page.getByRole('grid', { name: 'Invoices' }).getByText(/paid$/).first().waitFor();
  await page.getByRole('grid', { name: 'Invoices' }).getByRole('button', { name: /^KS-/ }).nth(2).click();
  await expect(page.getByRole('article', { name: /^Invoice KS-/ })).toBeVisible();
  await page.keyboard.press('t');
  const trail = page.getByRole('dialog', { name: /^Trail of Invoice KS-/ });
  for (const station of ['Owed', 'Collected', 'Banked'])
    await expect(trail.getByRole('region', { name: station })).toBeVisible();
  await trail.getByRole('region', { name: 'Banked' }).getByRole('button', { name: 'Statement line' }).first().click();
  await expect(
    page.getByRole('dialog', { name: /^Trail of (CD|INV|O|SKARRA)/ }).getByRole('region', { name: 'Owed' }),
  ).toContainText('Invoice KS-');
});

test('what is shown can be taken out as a file', async ({ page, server }) => {
  await open(page, server, 'collected?state=banked&text=Skarra');
  await open(page, server, 'in-transit?state=banked');
  const waiting = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Export what is shown (CSV)' }).click();
  const file = await waiting;
  expect(file.suggestedFilename()).toBe('kittiwake-payouts.csv');
  const text = await (await file.createReadStream()).toArray();
  const rows = Buffer.concat(text).toString().trim().split('\r\n');
  const shown = await page
    .getByRole('grid', { name: 'Payouts' })
    .getByText(/^\d+ in all$/)
    .innerText();
  expect(rows).toHaveLength(Number(shown.split(' ')[0]) + 1);
});
