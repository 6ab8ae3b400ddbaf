import { closeSync, ftruncateSync, openSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { chooseFile, csv, expect, FILES, open, railFigure, report, test } from './books';
import type { Server } from './server';

test.use({ booksOf: 'refusals' });

const HEAD = 'Id,Type,Time,Currency,Gross,Fee,Net,Payer,Document,Payout\n';
const XML = readFileSync(join(FILES, 'statement-2026-11-a.xml'), 'utf8');
const xml = (text: string) => ({ name: 'statement.xml', mimeType: 'text/xml', buffer: Buffer.from(text) });

/** All figures of the rail: what must not change when something is refused. */
async function figures(page: Page): Promise<string[]> {
  return Promise.all(
    ['Owed', 'Collected', 'In transit', 'Banked', 'Proved'].map((station) => railFigure(page, station)),
  );
}

async function expectUnchanged(page: Page, server: Server, before: string[]): Promise<void> {
  await open(page, server, 'collected/bring-in');
  expect(await figures(page)).toEqual(before);
}

test.describe('receipts', () => {
  test('a missing column refuses the file, and says which', async ({ page, server }) => {
    await open(page, server, 'collected/bring-in');
    const before = await figures(page);
    await page
      .getByLabel('File to bring in')
      .setInputFiles(csv('no-amount.csv', 'Id,Type,Time,Currency,Payer\nA,receipt,2026-11-12T10:00:00Z,EUR,P\n'));
    await expect(page.getByText('Say which column has the amount.')).toBeVisible();
    await expect(page.getByRole('button', { name: 'See what it holds' })).toBeDisabled();
    await expectUnchanged(page, server, before);
  });

  test('wrong amounts, bad dates, repeated ids and another currency are refused row by row', async ({
    page,
    server,
  }) => {
    await open(page, server, 'collected/bring-in');
    await chooseFile(
      page,
      csv(
        'mixed.csv',
        `${HEAD}B1,receipt,2026-11-12T10:00:00Z,EUR,12x,,,,,\n` +
          'B2,receipt,12/11/2026,EUR,5.00,,,,,\n' +
          'B3,receipt,2026-11-12T10:00:00Z,GBP,5.00,,,,,\n' +
          'B4,receipt,2026-11-12T10:00:00Z,EUR,5.00,,,,,\n' +
          'B4,receipt,2026-11-12T10:00:00Z,EUR,6.00,,,,,\n' +
          'CD-842,receipt,2026-11-10T10:00:00Z,EUR,1.00,,,,,\n',
      ),
    );
    const list = report(page);
    await expect(list).toContainText('Line 2, B1: Column Gross is no amount: “12x”.');
    await expect(list).toContainText('Line 3, B2: Column Time is no UTC time: “12/11/2026”.');
    await expect(list).toContainText('Line 4, B3: The currency is GBP; here it is EUR.');
    await expect(list).toContainText('Line 6, B4: The id stands in this file twice with other figures');
    await expect(list).toContainText(/Changed since\s*1 movement, here with other figures/);
    await list.getByRole('button', { name: 'Bring in 1 movement' }).click();
    await expect(page.getByText('Brought in 1 movement, 1 changed since from mixed.csv')).toBeVisible();

    const waiting = page.waitForEvent('download');
    await page
      .getByRole('row', { name: /mixed.csv/ })
      .getByRole('link', { name: '4' })
      .click();
    const refused = Buffer.concat(await (await (await waiting).createReadStream()).toArray()).toString();
    expect(refused.trim().split('\r\n')).toHaveLength(5);

    await page.getByRole('button', { name: 'Take back mixed.csv' }).click();
    await expect(page.getByText('Took back mixed.csv')).toBeVisible();
    await expect(page.getByRole('row', { name: /mixed.csv/ })).toContainText('taken back');
  });

  test('a file of 300 MB is refused before it is sent, and by the server if it is sent all the same', async ({
    page,
    server,
  }) => {
    const path = join(tmpdir(), `nest-egg-${process.pid}-300mb.csv`);
    const file = openSync(path, 'w');
    ftruncateSync(file, 300 * 1024 * 1024);
    closeSync(file);
    try {
      await open(page, server, 'collected/bring-in');
      const before = await figures(page);
      await page.getByLabel('File to bring in').setInputFiles(path);
      await expect(page.getByRole('alert').first()).toContainText(
        'is larger than 200 MB. Export it in shorter periods',
      );
      await expectUnchanged(page, server, before);
    } finally {
      rmSync(path);
    }
    // Past the page: a body without a length, cut off once it is over the limit.
    const megabyte = new Uint8Array(1024 * 1024);
    let sent = 0;
    const body = new ReadableStream<Uint8Array>({
      pull(controller) {
        if (sent++ < 300) controller.enqueue(megabyte);
        else controller.close();
      },
    });
    const answer = await fetch(`${server.address}/api/books/kittiwake/files`, {
      method: 'POST',
      body,
      duplex: 'half',
    } as RequestInit);
    expect(answer.status).toBe(413);
    expect(await answer.json()).toMatchObject({ what: 'The file is larger than 200 MB.' });
  });
});

test.describe('statements', () => {
  const cases: [string, string, string][] = [
    ['truncated', XML.slice(0, XML.length - 80), 'The file ends in the middle'],
    ['with a DOCTYPE', XML.replace('<Document', '<!DOCTYPE a [<!ENTITY b "c">]><Document'), 'The file has a DOCTYPE'],
    [
      'that does not foot',
      XML.replace('<Amt Ccy="EUR">592.52</Amt>', '<Amt Ccy="EUR">592.53</Amt>'),
      'but the closing balance says',
    ],
    [
      'of another account',
      XML.replaceAll('IE29SKER93115212345678', 'IE88OTHR00000000000001'),
      'The statement is of account IE88OTHR00000000000001; these books have IE29SKER93115212345678',
    ],
  ];
  for (const [what, text, sentence] of cases) {
    test(`a camt.053 ${what} is refused whole`, async ({ page, server }) => {
      await open(page, server, 'banked/bring-in');
      const before = await figures(page);
      await chooseFile(page, xml(text));
      const alert = page.getByRole('alert').first();
      await expect(alert).toContainText('statement.xml is refused as a whole.');
      await expect(alert).toContainText(sentence);
      await expect(alert).toContainText('The books are as they were.');
      await expectUnchanged(page, server, before);
    });
  }
});

test('posting into a closed period names the day and where to change it', async ({ page, server }) => {
  await open(page, server, 'proved/close');
  await page.getByLabel('Close through').fill('2026-11-15');
  await page.getByRole('button', { name: 'Close', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Closed through 15 Nov 2026' })).toBeVisible();
  await open(page, server, 'collected?state=not-posted');
  await page.getByRole('grid', { name: 'Receipts' }).getByRole('button', { name: 'CD-', exact: false }).first().click();
  await expect(page.getByRole('article').getByRole('alert')).toContainText(
    'is closed: these books are closed through 15 Nov 2026. Set the closing date back under Proved, Close',
  );
  await open(page, server, 'proved/close');
  await page.getByLabel('Close through').fill('2026-09-30');
  await page.getByRole('button', { name: 'Close', exact: true }).click();
  await expect(page.getByText('30 Sep 2026 is not after 15 Nov 2026')).toBeVisible();
  await page.getByRole('button', { name: 'Set the closing date back' }).click();
  await expect(page.getByRole('heading', { name: 'Closed through 30 Sep 2026' })).toBeVisible();
});

test('confirming works only at zero, whatever the key', async ({ page, server }) => {
  await open(page, server, 'banked');
  const before = await figures(page);
  await page.getByRole('grid', { name: 'Statement lines' }).getByText('HOLLOW T', { exact: true }).click();
  const sheet = page.getByRole('article', { name: 'Working sheet' });
  await expect(sheet.getByText('HOLLOW T', { exact: true })).toBeVisible();
  await expect(sheet.getByRole('button', { name: /^Confirm/ })).toBeDisabled();
  await page.keyboard.press('c');
  await expect(sheet.getByRole('alert')).toContainText('Nothing is laid on the sheet.');
  await sheet.getByRole('button', { name: /^Add parts/ }).click();
  await sheet.getByLabel('Find a part by name, number, note or amount').fill('P-2232');
  await sheet.getByRole('checkbox', { name: /^Payout P-2232/ }).check();
  await sheet.getByRole('button', { name: /^Trail/ }).focus();
  await page.keyboard.press('c');
  await expect(sheet.getByRole('alert')).toContainText('is left to explain.');
  expect(await figures(page)).toEqual(before);
});

test('two tabs confirming the same line: the second is told', async ({ page, server, context }) => {
  const other = await context.newPage();
  for (const tab of [page, other]) {
    await open(tab, server, 'banked');
    await tab.getByRole('grid', { name: 'Statement lines' }).getByRole('button', { name: 'Payout P-2228' }).click();
    await expect(tab.getByRole('article', { name: 'Working sheet' })).toContainText('payout id P-2228');
  }
  await page.getByRole('button', { name: /^Confirmc?$/ }).click();
  await expect(page.getByText(/^Confirmed [\d.,]+ of 5 Nov/)).toBeVisible();
  await other.getByRole('button', { name: /^Confirmc?$/ }).click();
  await expect(other.getByRole('article', { name: 'Working sheet' }).getByRole('alert')).toContainText(
    'was confirmed by M. Dunne meanwhile.',
  );
});

test('a page of another origin changes nothing, and another host is not served', async ({ request, server }) => {
  const foreign = await request.post(`${server.address}/api/books/kittiwake/jobs`, {
    headers: { origin: 'http://elsewhere.example' },
    data: '{}',
  });
  expect(foreign.status()).toBe(403);
  const host = await request.get(`${server.address}/books/kittiwake`, { headers: { host: 'elsewhere.example' } });
  expect(host.status()).toBe(421);
});
