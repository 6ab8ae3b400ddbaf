import { expect, open, railFigure, test } from './books';

test.use({ booksOf: 'fetching' });

test.describe.configure({ mode: 'serial' });

test('the next working day comes: the desk is fetched as scheduled, and its log is mailed', async ({
  page,
  server,
}) => {
  await open(page, server, 'set-up/stand-ins');
  await expect(page.getByRole('heading', { name: 'It is 16 Nov 2026 out there' })).toBeVisible();
  await page.getByRole('button', { name: 'Next working day: 17 Nov 2026' }).click();
  await expect(page.getByText(/It is 17 Nov 2026 in these books: .*receipts.*1 scheduled run/)).toBeVisible();
  await expect(page.getByRole('heading', { name: 'It is 17 Nov 2026 out there' })).toBeVisible();
  await expect(page.getByRole('table', { name: 'Days gone through' }).getByRole('row')).toHaveCount(2);
  const outbox = page.getByRole('table', { name: 'Outbox' });
  await outbox.getByRole('button', { name: /^Card desk, 17 Nov 2026: \d+ new/ }).click();
  await expect(outbox).toContainText('Kittiwake Sails & Rigging: Card desk was fetched on 17 Nov 2026, as scheduled.');
  await expect(page.getByRole('definition').filter({ hasText: '0 movements' })).toBeVisible();
});

test('what came stands in the log, and what the desk says it holds is what the books know', async ({
  page,
  server,
}) => {
  await open(page, server, 'set-up/fetching');
  const log = page.getByRole('table', { name: 'Run log' });
  await expect(log.getByRole('row', { name: /Card desk as scheduled .* \d+ new/ })).toContainText(
    'mailed to office@kittiwake.example',
  );
  await open(page, server, 'proved');
  await expect(page.getByText(/Card desk said on 17 Nov 2026 that it held [\d,.]+: so do these books/)).toBeVisible();
});

test('fetched by hand: nothing new at the desk, statements at the bank', async ({ page, server }) => {
  await open(page, server, 'set-up/fetching');
  await page.getByRole('button', { name: 'Fetch now: Card desk' }).click();
  await expect(page.getByText('Card desk: Nothing new')).toBeVisible();
  await page.getByRole('button', { name: 'Fetch now: Current account' }).click();
  await expect(page.getByText(/Current account: \d+ new/)).toBeVisible();
  await expect(page.getByRole('table', { name: 'Run log' }).getByRole('row')).toHaveCount(4);
  await open(page, server, 'banked?state=all');
  await expect(page.getByText(/CD SETTLEMENT .*11/).first()).toBeVisible();
});

test('when it is fetched is set, shown and undone', async ({ page, server }) => {
  await open(page, server, 'set-up/fetching');
  await page.getByRole('link', { name: 'Current account' }).click();
  const timing = page.getByRole('region', { name: 'When Current account is fetched' });
  await timing.getByLabel('Fetched').selectOption('each week');
  await timing.getByLabel('On', { exact: true }).selectOption('Friday');
  await timing.getByLabel('At', { exact: true }).fill('07:15');
  await timing.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('each Friday at 07:15')).toBeVisible();
  await expect(page.getByText('20 Nov 2026, 07:15')).toBeVisible();
  await page.getByRole('button', { name: /Undo/ }).click();
  await expect(page.getByText('each Friday at 07:15')).toHaveCount(0);
});

test('a signed event has the desk fetched; forged, replayed or without sense it has not', async ({ page, server }) => {
  const address = `${server.address}/api/books/kittiwake/channels/1/events`;
  const body = JSON.stringify({ id: 'E-77', at: '2026-11-17T10:00:00Z', about: 'CD-1' });
  const forged = { 'x-signed-at': new Date().toISOString(), 'x-signature': 'f'.repeat(64) };
  const answers = [
    await fetch(address, { method: 'POST', body, headers: { 'content-type': 'application/json', ...forged } }),
    await fetch(address, { method: 'POST', body, headers: { 'content-type': 'application/json' } }),
    await fetch(address.replace('/1/', '/99/'), {
      method: 'POST',
      body,
      headers: { 'content-type': 'application/json', ...forged },
    }),
  ];
  expect(answers.map(({ status }) => status >= 400 && status < 500)).toEqual([true, true, true]);
  await open(page, server, 'set-up/fetching');
  await expect(page.getByRole('table', { name: 'Run log' }).getByRole('row')).toHaveCount(4);
});

test('days go on: refunds, payouts and statements come, and the way of the money stays proved', async ({
  page,
  server,
}) => {
  await open(page, server, 'set-up/stand-ins');
  const before = await railFigure(page, 'Collected');
  for (const day of ['18', '19', '20']) {
    await page.getByRole('button', { name: `Next working day: ${day} Nov 2026` }).click();
    await expect(page.getByRole('heading', { name: `It is ${day} Nov 2026 out there` })).toBeVisible();
  }
  expect(await railFigure(page, 'Collected')).not.toBe(before);
  await open(page, server, 'proved');
  await expect(page.getByText(/that it held [\d,.]+: so do these books/)).toBeVisible();
});
