import type { Page } from '@playwright/test';
import { csv, expect, open, railFigure, test } from './books';
import { choosePayer, faults } from './forms';

test.use({ booksOf: 'owed' });
test.describe.configure({ mode: 'serial' });

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
  await expect(panel.getByRole('region', { name: 'Handed out' })).toContainText(
    'mailed to accounts@ternport-sailing.example, version 1',
  );
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
  await expect(page.getByText(/^Confirmed \d+ proven lines?/)).toBeVisible();
  await expect.poll(() => railFigure(page, 'In transit')).not.toBe(before);
  await open(page, server, 'collected?text=CD-W1&state=banked');
  await expect(page.getByText('CD-W1').first()).toBeVisible();
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
  await page
    .getByLabel('File to bring in')
    .setInputFiles(
      csv(
        'over.csv',
        `${head}CD-OVER,receipt,2026-11-13T10:00:00Z,EUR,500.00,9.75,490.25,Ternport Sailing School,accounts@ternport-sailing.example,K2026-0001,,,,\n`,
      ),
    );
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
  const kept = page.getByRole('region', { name: 'Kept for them' });
  await expect(kept).toContainText('131.00');
  await kept.getByRole('button', { name: 'Pay back of CD-OVER' }).click();
  await page.getByRole('dialog').getByLabel('Amount').fill('31.00');
  await page.getByRole('button', { name: 'Pay back', exact: true }).click();
  await expect(kept).toContainText('100.00');
});
