import axe from 'axe-core';
import type { Page } from '@playwright/test';
import { csv, expect, open, railFigure, test } from './books';

test.use({ booksOf: 'owed' });
test.describe.configure({ mode: 'serial' });

/** What axe finds on a page that payers see, its rules for WCAG 2.2 AA. */
async function faults(page: Page): Promise<string[]> {
  await page.evaluate(axe.source);
  return page.evaluate(async () => {
    const { violations } = await (window as unknown as { axe: typeof axe }).axe.run(document, { runOnly: ['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa'] }); // prettier-ignore
    return violations.map(({ id, nodes }) => `${id}: ${nodes[0]?.html}`);
  });
}

const choosePayer = async (page: Page, text: string, name: string) => {
  // Typed as it is by people: the list is asked for while the name is being written.
  await page.getByRole('combobox', { name: /^(Payer|Donor)/ }).pressSequentially(text, { delay: 30 });
  await page.getByText(name, { exact: true }).last().click();
};
const invoicePanel = (page: Page, number: string) => page.getByRole('article', { name: `Invoice ${number}` });

test('an invoice is written, its entry seen, kept as a draft, issued and sent', async ({ page, server }) => {
  await open(page, server, 'owed');
  await page.getByRole('link', { name: 'New invoice' }).click();
  await choosePayer(page, 'ternp', 'Ternport Sailing School');
  await expect(page.getByText('2 % off until 26 Nov 2026')).toBeVisible();
  await page.getByLabel('Item of line 1').selectOption({ label: 'Sail repair' });
  await page.getByLabel('Quantity of line 1').fill('2.5');
  await page.getByLabel('Net price of line 1').fill('40.00');
  await page.getByLabel('Net price of line 1').press('Enter');
  await expect(page.getByLabel('Item of line 2')).toBeFocused();
  await page.getByLabel('Item of line 2').selectOption({ label: 'Rig check' });
  await page.getByLabel('Net price of line 2').fill('x');
  await page.getByRole('button', { name: /^Issue/ }).click();
  await expect(page.getByText('Write an amount in EUR, like 120.00.')).toBeVisible();
  await page.getByLabel('Net price of line 2').fill('100.00');
  await expect(page.getByText('Net 200.00 · tax 36.50 · total 236.50')).toBeVisible();
  await expect(page.getByRole('complementary', { name: 'Entry it will write' })).toContainText(
    'invoice K2026-0005 is owed',
  );

  await page.getByRole('button', { name: 'Keep as draft' }).click();
  await expect(page).toHaveURL(/owed\/drafts\/\d+$/);
  await open(page, server, 'owed');
  await page.getByRole('link', { name: /Ternport Sailing School, 2 lines, 236.50/ }).click();
  await page.getByRole('button', { name: 'Issue K2026-0005' }).click();
  await expect(invoicePanel(page, 'K2026-0005')).toBeVisible();

  // Going back to the draft and issuing again names the invoice; there is no second one.
  await page.goBack();
  if (await page.getByRole('button', { name: /^Issue/ }).isVisible()) {
    await page.getByRole('button', { name: /^Issue/ }).click();
    await expect(page.getByText('This draft was issued already, as invoice K2026-0005.')).toBeVisible();
  }
  await open(page, server, 'owed?text=K2026-0006');
  await expect(page.getByText('No invoice is like this')).toBeVisible();

  await open(page, server, 'owed?text=K2026-0005');
  await page.getByText('K2026-0005').first().click();
  const panel = invoicePanel(page, 'K2026-0005');
  await panel.getByRole('button', { name: 'Send…' }).click();
  await page.getByRole('dialog').getByLabel('Message').fill('As agreed on the slip.');
  await page.getByRole('button', { name: 'Send', exact: true }).click();
  await expect(panel.getByRole('region', { name: 'Handed out' })).toContainText('mailed to accounts@ternport-sailing.example, version 1'); // prettier-ignore
  const pdf = page.waitForEvent('download');
  await panel.getByRole('link', { name: 'PDF' }).click();
  expect((await pdf).suggestedFilename()).toBe('invoice-K2026-0005.pdf');
});

test('corrected it says what changed since; an attachment must be what it is called', async ({ page, server }) => {
  await open(page, server, 'owed?text=K2026-0005');
  await page.getByText('K2026-0005').first().click();
  const panel = invoicePanel(page, 'K2026-0005');
  const input = panel.getByLabel('File to attach');
  await input.setInputFiles({ name: 'slip.pdf', mimeType: 'application/pdf', buffer: Buffer.from('no pdf') });
  await expect(page.getByText('slip.pdf is not what its ending says: it holds plain text.')).toBeVisible();
  await input.setInputFiles({ name: 'slip.txt', mimeType: 'text/plain', buffer: Buffer.from('two panels') });
  await expect(panel.getByRole('link', { name: 'slip.txt' })).toBeVisible();

  await panel.getByRole('button', { name: 'Change' }).click();
  await page.getByText('Correct it…').click();
  await page.getByLabel('Quantity of line 1').fill('2');
  await expect(page.getByRole('complementary', { name: 'Difference it will write' })).toContainText('−24.60');
  await page.getByLabel('Why').fill('Half an hour less');
  await page.getByRole('button', { name: 'Make it version 2' }).click();
  await expect(panel.getByText('changed since, it said 236.50').first()).toBeVisible();
  await expect(panel.getByRole('region', { name: 'Versions' })).toContainText('Half an hour less');
});

test('pay link to bank: asked with its discount, paid by card, posted, paid out and matched', async ({
  page,
  server,
}) => {
  await open(page, server, 'owed?text=K2026-0005');
  await page.getByText('K2026-0005').first().click();
  const address = (await page.getByRole('link', { name: 'Its pay page' }).getAttribute('href'))!;
  await page.goto(server.address + address);
  // 2 % of 211.90 is 4.24: 207.66 today.
  await expect(page.getByRole('region', { name: 'To pay' })).toContainText('207.66 EUR');
  await expect(page.getByText('it said 236.50 EUR then')).toBeVisible();
  await expect(page.getByRole('img', { name: /^Code that fills the transfer in/ })).toBeVisible();
  expect(await faults(page)).toEqual([]);
  await page.getByRole('button', { name: 'Pay by card' }).click();
  await expect(page.getByText('From Ternport Sailing School')).toBeVisible();
  expect(await faults(page)).toEqual([]);
  // Leaving it and beginning again is the same payment.
  const order = page.url();
  await page.goto(server.address + address);
  await page.getByRole('button', { name: 'Pay by card' }).click();
  await page.waitForURL(/checkout/);
  expect(page.url()).toBe(order);
  await page.getByRole('button', { name: 'Pay', exact: true }).click();
  await expect(page.getByRole('region', { name: 'To pay' })).toContainText('Paid', { timeout: 20_000 });
  await expect(page.getByRole('link', { name: 'Receipt CD-W1 (PDF)' })).toBeVisible();
  // The order's page again, and its button by hand: it is paid, and once.
  await page.goto(order);
  await expect(page.getByText('This is paid.')).toBeVisible();

  await open(page, server, 'collected?text=CD-W1');
  await page.getByText('CD-W1').first().click();
  const receipt = page.getByRole('article', { name: 'Receipt CD-W1' });
  await expect(receipt.getByRole('region', { name: 'Entry it will write' })).toContainText('discount for paying early');
  await receipt.getByRole('button', { name: /^Post/ }).click();
  await expect(receipt.getByRole('region', { name: 'Entry it wrote' })).toBeVisible();
  await open(page, server, 'owed?text=K2026-0005&state=paid');
  await expect(page.getByText('K2026-0005').first()).toBeVisible();

  await open(page, server, 'set-up/stand-ins');
  for (const day of ['17', '18', '19', '20']) {
    await page.getByRole('button', { name: `Next working day: ${day} Nov 2026` }).click();
    await expect(page.getByRole('heading', { name: `It is ${day} Nov 2026 out there` })).toBeVisible();
  }
  await open(page, server, 'set-up/fetching');
  for (const name of ['Card desk', 'Current account']) {
    await page.getByRole('button', { name: `Fetch now: ${name}` }).click();
    await expect(page.getByText(new RegExp(`${name}: (\\d+ new|Nothing new)`))).toBeVisible();
  }
  await open(page, server, 'collected');
  await page.getByRole('button', { name: 'Post all shown…' }).click();
  await page.getByRole('button', { name: /^Post \d+/ }).click();
  await expect(page.getByText(/^Posted \d+ receipts/)).toBeVisible();
  await open(page, server, 'collected?text=CD-W1');
  const payout = (
    await page
      .getByText(/^P-\d+$/)
      .first()
      .innerText()
  ).trim();
  await open(page, server, `in-transit?text=${payout}`);
  await expect(page.getByText(payout).first()).toBeVisible();
  // Its deposit is laid ready: whether it is proven or to be chosen, the payout is named with its reason.
  await open(page, server, 'banked');
  const before = await railFigure(page, 'In transit');
  await page
    .getByRole('button', { name: /^Confirm all \d+ proven|^Confirm \d+ proven/ })
    .first()
    .click();
  await page
    .getByRole('dialog')
    .getByRole('button', { name: /^Confirm/ })
    .click();
  await expect(page.getByText(/^Confirmed \d+ proven deposits?/)).toBeVisible();
  expect(await railFigure(page, 'In transit')).not.toBe(before);
});

test('void it is by a credit note; its page then asks for nothing', async ({ page, server }) => {
  await open(page, server, 'owed?text=K2026-0002');
  await page.getByText('K2026-0002').first().click();
  const panel = invoicePanel(page, 'K2026-0002');
  const address = (await page.getByRole('link', { name: 'Its pay page' }).getAttribute('href'))!;
  await panel.getByRole('button', { name: 'Change' }).click();
  await page.getByText('Take back by credit note…').click();
  await expect(page.getByRole('dialog')).toContainText('Credit note KC2026-0002');
  await page.getByRole('button', { name: 'Issue the credit note' }).click();
  await expect(panel.getByText('void')).toBeVisible();
  await page.goto(server.address + address);
  await expect(page.getByRole('region', { name: 'To pay' })).toContainText('Void');
  await page.goto(`${server.address}/pay/kittiwake/${'a'.repeat(43)}`);
  await expect(page.getByRole('heading', { name: 'There is no invoice at this address' })).toBeVisible();
  // The undo of it issues nothing new: the note is withdrawn.
  await open(page, server, 'owed?text=K2026-0002');
  await page.getByText('K2026-0002').first().click();
  await panel.getByRole('button', { name: 'Withdraw KC2026-0002' }).click();
  await expect(panel.getByText('withdrawn')).toBeVisible();
});

test('who owed how long, on a past day, is the account’s balance; drilled into by payer', async ({ page, server }) => {
  await open(page, server, 'owed/ageing?date=2026-10-15');
  const table = page.getByRole('table', { name: 'Ageing by payer' });
  const total = await table.getByRole('row').nth(1).getByRole('cell').last().innerText();
  await expect(page.getByText('Receivable account on that day')).toBeVisible();
  await expect(page.getByRole('definition').last()).toHaveText(total);
  await table.getByRole('link').first().click();
  await expect(page.getByRole('region', { name: 'Its invoices' }).getByRole('link').first()).toBeVisible();
});

test('money kept for a payer is put to invoices oldest first, and taken off again', async ({ page, server }) => {
  await open(page, server, 'collected/key');
  await choosePayer(page, 'ternp', 'Ternport Sailing School');
  await page.getByLabel('Amount of line 1').fill('10.00');
  await page.getByLabel('Reference').fill('SLIP-1');
  await expect(page.getByRole('complementary', { name: 'Entry it will write' })).toContainText('10.00');
  await page.getByRole('button', { name: 'Key the sale' }).click();
  await expect(page.getByText('Keyed SLIP-1; the next one can be typed.')).toBeVisible();
  // A transfer of more than its invoice: what is over is kept, and put to the next.
  await open(page, server, 'collected/bring-in');
  const head = 'Id,Type,Time,Currency,Gross,Fee,Net,Payer,Email,Document,Item,Note,Payout,Refund of\n';
  await page.getByLabel('File to bring in').setInputFiles(csv('over.csv', `${head}CD-OVER,receipt,2026-11-13T10:00:00Z,EUR,500.00,9.75,490.25,Ternport Sailing School,accounts@ternport-sailing.example,K2026-0001,,,,\n`)); // prettier-ignore
  await page.getByRole('button', { name: /^Bring in 1 movement/ }).click();
  await expect(page.getByText(/^Brought in 1 movement/)).toBeVisible();
  await open(page, server, 'collected?text=CD-OVER');
  await page.getByText('CD-OVER').first().click();
  await page.getByRole('article').getByRole('button', { name: /^Post/ }).click();
  await open(page, server, 'owed/payers?text=Ternport');
  await page.getByRole('link', { name: 'Ternport Sailing School' }).click();
  await page.getByRole('link', { name: 'Settle invoices…' }).click();
  await page.getByRole('button', { name: 'Oldest first' }).click();
  await expect(page.getByRole('button', { name: 'Settle' })).toBeEnabled();
  await page.getByRole('button', { name: 'Settle' }).click();
  await expect(page.getByText(/^Put 131.00 to invoice K2026-0004/)).toBeVisible();
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(page.getByRole('region', { name: 'Kept for them' })).toContainText('131.00');
});

test('a registration makes payer and invoice, is paid, and is one however often it is sent', async ({
  page,
  server,
}) => {
  await open(page, server, 'set-up/public', 'lantern-head');
  const address = (await page.locator('a[href^="/register/"]').getAttribute('href'))!;
  await page.goto(server.address + address);
  await expect(page.getByText('40 places left')).toBeVisible();
  expect(await faults(page)).toEqual([]);
  await page.getByLabel(/^Grown-up, 12.00 EUR/).fill('2');
  await page.getByLabel(/^Child/).fill('1');
  await page.getByLabel('Name').fill('Rosa Fulmar');
  await page.getByLabel('Email').fill('rosa@fulmar.example');
  await page.getByRole('button', { name: 'Register, 29.00 EUR' }).click();
  await page.waitForURL(/\/pay\/lantern-head\//);
  await expect(page.getByRole('region', { name: 'To pay' })).toContainText('29.00 EUR');
  await page.getByRole('button', { name: 'Pay by card' }).click();
  await page.getByRole('button', { name: 'Pay', exact: true }).click();
  await expect(page.getByRole('region', { name: 'To pay' })).toContainText('Paid', { timeout: 20_000 });
  await open(page, server, 'owed', 'lantern-head');
  await expect(page.getByText('LH2026-0001').first()).toBeVisible();
  await open(page, server, 'owed/payers?text=Rosa', 'lantern-head');
  await expect(page.getByRole('table', { name: 'Payers' }).getByRole('row')).toHaveCount(2);
  await open(page, server, 'set-up/public', 'lantern-head');
  await page.getByRole('link', { name: 'Christmas tea in the tower' }).click();
  await expect(page.getByRole('table', { name: 'Registered' })).toContainText('rosa@fulmar.example');
});

test('a gift with its fee covered comes back with its fund, and its donor is thanked', async ({ page, server }) => {
  await open(page, server, 'set-up/public', 'lantern-head');
  const address = (await page.locator('a[href^="/give/"]').getAttribute('href'))!;
  await page.goto(server.address + address);
  expect(await faults(page)).toEqual([]);
  await page.getByLabel('For', { exact: true }).selectOption('Foghorn');
  await page.getByLabel('Amount in EUR').fill('50.00');
  await expect(page.getByText('so that all of 50.00 EUR arrives')).toBeVisible();
  await page.getByLabel(/^Pay the fee as well/).check();
  await page.getByLabel('Name', { exact: true }).fill('Ivo Petrel');
  await page.getByLabel('Email, for your receipt').fill('ivo@petrel.example');
  await page.getByRole('button', { name: 'Give 50.96 EUR' }).click();
  await page.getByRole('button', { name: 'Pay', exact: true }).click();
  await expect(page.getByRole('region', { name: 'Thank you' })).toContainText('50.96 EUR came', { timeout: 20_000 });
  await open(page, server, 'collected/gifts?show=waiting', 'lantern-head');
  const row = page.getByRole('row', { name: /Ivo Petrel/ });
  await expect(row).toContainText('Foghorn');
  await page.getByRole('button', { name: /^Thank for \d+ gifts? by mail/ }).click();
  await expect(page.getByText(/^Thanked for 10 gifts/).first()).toBeVisible({ timeout: 20_000 });
  await page.getByRole('button', { name: 'Stop' }).click();
});

test('a week’s batch is keyed gross, and its bank line tells the fee', async ({ page, server }) => {
  await open(page, server, 'collected/gift-batch', 'lantern-head');
  await page.getByLabel('Paid out by').selectOption({ label: 'Giving page' });
  await page.getByLabel('First day').fill('2026-11-02');
  await page.getByLabel('Last day').fill('2026-11-08');
  await page.getByLabel('Fund of row 1').fill('General');
  await page.getByLabel('Gross of row 1').fill('480.00');
  await page.getByRole('button', { name: 'Another row' }).click();
  await page.getByLabel('Fund of row 2').fill('Lens restoration');
  await page.getByLabel('Gross of row 2').fill('220.00');
  await expect(page.getByText('gross 700.00')).toBeVisible();
  await page.getByRole('button', { name: 'See what it writes' }).click();
  await page.getByRole('button', { name: 'Key the batch' }).click();
  await expect(page.getByText(/^Keyed gift batch 2026-11-08: 2 rows, 700.00/)).toBeVisible();
  await expect(page.getByRole('table', { name: 'Gift batches' })).toContainText('2026-11-08');
});

test('a plan shows its coming runs before it is switched on', async ({ page, server }) => {
  await open(page, server, 'owed/plans/new');
  await page.getByLabel('Name', { exact: true }).fill('Berth in winter');
  await choosePayer(page, 'islands', 'Islands Ferry Co-operative');
  await page.getByLabel('First period begins').fill('2027-01-31');
  await page.getByLabel('on the last day of the month').check();
  await page.getByLabel('Item of line 1').selectOption({ label: 'Parts' });
  await page.getByLabel('Net price of line 1').fill('100.00');
  const runs = page.getByRole('complementary', { name: 'Coming runs' });
  await expect(runs.getByRole('row')).toHaveCount(12);
  await expect(runs.getByRole('row').nth(1)).toContainText('28 Feb 2027');
  await expect(runs.getByRole('row').nth(2)).toContainText('31 Mar 2027');
  await page.getByRole('button', { name: 'Switch on' }).click();
  await expect(page.getByRole('table', { name: 'Plans' }).getByRole('row', { name: /Berth in winter/ })).toContainText('31 Jan 2027'); // prettier-ignore
});

test('lists are added to and looked through, a file of them is shown before it is taken', async ({ page, server }) => {
  await open(page, server, 'set-up/lists?list=terms');
  await page.getByRole('button', { name: 'New terms' }).click();
  await page.getByLabel('Name').fill('Sixty days');
  await page.getByLabel('Days until it is due').fill('60');
  await page.getByRole('button', { name: 'Keep' }).click();
  await expect(page.getByRole('button', { name: 'Sixty days', exact: true })).toBeVisible();
  await open(page, server, 'set-up/lists');
  await page.getByLabel('CSV to bring in').setInputFiles(csv('items.csv', 'Code,Name,Income account,Tax code,Net price\nsplice,Splicing,4010,S23,15.00\nbad,Bad,9999,S23,\n')); // prettier-ignore
  await expect(page.getByRole('dialog')).toContainText('1 new row, 0 changed, 0 here already, 1 refused.');
  await expect(page.getByRole('dialog')).toContainText('Line 3: There is no account 9999.');
  await page.getByRole('button', { name: 'Bring them in' }).click();
  await expect(page.getByRole('table', { name: 'List of items' })).toContainText('Splicing');
  await page.getByLabel('Look through the list').fill('spl');
  await expect(page.getByRole('table', { name: 'List of items' }).getByRole('row')).toHaveCount(2);
});
