import { csv, expect, open, test } from './books';
import { choosePayer, faults } from './forms';

test.use({ booksOf: 'given' });
test.describe.configure({ mode: 'serial' });

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

test('a gift each month without a name is taken up once, and no payer is made of it', async ({ page, server }) => {
  await open(page, server, 'set-up/public', 'lantern-head');
  const address = (await page.locator('a[href^="/give/"]').getAttribute('href'))!;
  await page.goto(server.address + address);
  await page.getByLabel('Amount in EUR').fill('15.00');
  await page.getByLabel('Each month').check();
  await page.getByLabel('Without my name').check();
  await expect(page.getByLabel('Name', { exact: true })).toHaveCount(0);
  await page.getByRole('button', { name: 'Give 15.00 EUR each month' }).click();
  await page.getByRole('button', { name: 'Pay', exact: true }).click();
  await expect(page.getByRole('region', { name: 'Thank you' })).toContainText('15.00 EUR came', { timeout: 20_000 });
  await page.reload();
  await open(page, server, 'collected/gifts', 'lantern-head');
  const rows = page.getByRole('table', { name: 'Gifts' }).getByRole('row', { name: /no name.*15\.00/ });
  await expect(rows).toHaveCount(1);
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

  const statement =
    'Account,Booked,Amount,Currency,Text,Reference,Balance\nIE64SKER93115287654321,2026-11-12,681.90,EUR,WEEKLY GIVING 0811,,1000.00\n';
  await open(page, server, 'banked/bring-in', 'lantern-head');
  await page.getByLabel('File to bring in').setInputFiles(csv('giving.csv', statement));
  await page.getByRole('button', { name: /^Bring in 1 / }).click();
  await expect(page.getByText(/^Brought in 1 /)).toBeVisible();
  await open(page, server, 'banked', 'lantern-head');
  await page.getByRole('grid', { name: 'Statement lines' }).getByText('WEEKLY GIVING 0811').click();
  const sheet = page.getByRole('article', { name: 'Working sheet' });
  await sheet.getByLabel('Find a part by name, number, note or amount').fill('2026-11-08/');
  const receipts = sheet.getByRole('group', { name: 'Receipts that no payout carries' });
  await expect(receipts.getByRole('checkbox')).toHaveCount(2);
  for (const box of await receipts.getByRole('checkbox').all()) await box.check();
  await sheet.getByLabel('Book the rest as').selectOption({ label: '6100 Giving page fees' });
  await expect(sheet.getByLabel('Left to explain', { exact: true })).toHaveText('0.00');
  await sheet.getByRole('button', { name: /^Entry/ }).click();
  // Worked figure G: 18.10 shared over the funds by gross.
  await expect(sheet.getByRole('region', { name: 'Entry it will write' })).toContainText('12.41');
  await expect(sheet.getByRole('region', { name: 'Entry it will write' })).toContainText('5.69');
  await sheet.getByRole('button', { name: /^Confirm/ }).click();
  await expect(page.getByText('Confirmed 681.90 of 12 Nov')).toBeVisible();
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
  await expect(page.getByRole('table', { name: 'Plans' }).getByRole('row', { name: /Berth in winter/ })).toContainText(
    '31 Jan 2027',
  );
});

test('lists are added to and looked through, a file of them is shown before it is taken', async ({ page, server }) => {
  await open(page, server, 'set-up/lists?list=terms');
  await page.getByRole('button', { name: 'New terms' }).click();
  await page.getByLabel('Name').fill('Sixty days');
  await page.getByLabel('Days until it is due').fill('60');
  await page.getByRole('button', { name: 'Keep' }).click();
  await expect(page.getByRole('button', { name: 'Sixty days', exact: true })).toBeVisible();
  await open(page, server, 'set-up/lists');
  await page
    .getByLabel('CSV to bring in')
    .setInputFiles(
      csv(
        'items.csv',
        'Code,Name,Income account,Tax code,Net price\nsplice,Splicing,4010,S23,15.00\nbad,Bad,9999,S23,\n',
      ),
    );
  await expect(page.getByRole('dialog')).toContainText('1 new row, 0 changed, 0 here already, 1 refused.');
  await expect(page.getByRole('dialog')).toContainText('Line 3: There is no account 9999.');
  await page.getByRole('button', { name: 'Bring them in' }).click();
  await expect(page.getByRole('table', { name: 'List of items' })).toContainText('Splicing');
  await page.getByLabel('Look through the list').fill('spl');
  await expect(page.getByRole('table', { name: 'List of items' }).getByRole('row')).toHaveCount(2);
  await page.getByRole('button', { name: 'Merge splice' }).click();
  await page.getByLabel('Use in its place from now on').selectOption({ label: 'repair Sail repair' });
  await page.getByRole('dialog').getByRole('button', { name: 'Merge', exact: true }).click();
  await expect(page.getByText('Merged item splice into repair')).toBeVisible();
  await page.getByLabel('archived too').check();
  await expect(page.getByRole('row', { name: /merged into repair/ })).toHaveCount(1);
  await page.getByRole('button', { name: 'Part splice' }).click();
  await expect(page.getByText('Parted item splice from repair')).toBeVisible();
});
