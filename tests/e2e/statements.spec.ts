import { chooseFile, csv, expect, open, report, test } from './books';

test.use({ booksOf: 'statements' });
test.describe.configure({ mode: 'serial' });

const IBAN = 'IE29SKER93115212345678';
const file = (name: string, text: string) => ({
  name,
  mimeType: 'application/octet-stream',
  buffer: Buffer.from(text),
});

/** The days after the last statement of the demo, as three banks’ programs would write them. */
const MT940 = `:20:W47\n:25:SKERIE2D/${IBAN}\n:28C:47/1\n:60F:C261112EUR41135,09\n:61:2611161116C332,54NTRFNONREF//BK-71\n:86:CD SETTLEMENT REF P-2233 KITTIWAKE\n:61:2611161116C140,NTRFNONREF//BK-72\n:86:CASH LODGED PORTMARA BRANCH\n:62F:C261116EUR41607,63\n-\n`;
const OFX = `OFXHEADER:100\nDATA:OFXSGML\n\n<OFX><BANKMSGSRSV1><STMTTRNRS><STMTRS><CURDEF>EUR<BANKACCTFROM><ACCTID>93115212345678</BANKACCTFROM><BANKTRANLIST><STMTTRN><TRNTYPE>CREDIT<DTPOSTED>20261116<TRNAMT>332.54<FITID>77<NAME>CARD DESK<MEMO>SETTLEMENT P-2233</STMTTRN><STMTTRN><TRNTYPE>DEBIT<DTPOSTED>20261116<TRNAMT>-4.00<FITID>78<MEMO>CARD TERMINAL RENTAL 0042</STMTTRN></BANKTRANLIST><LEDGERBAL><BALAMT>41603.63<DTASOF>20261116</LEDGERBAL></STMTRS></STMTTRNRS></BANKMSGSRSV1></OFX>\n`;
const TABLE =
  'When;What it says;Came;Went\n16.11.2026;CASH LODGED PORTMARA;140,00;\n16.11.2026;STREET PARKING SPECIMEN;;2,50\n';

test('three formats: told by content, what overlaps comes in once, a table is read as it is said', async ({
  page,
  server,
}) => {
  await open(page, server, 'banked/bring-in');
  await chooseFile(page, file('week-47.txt', MT940));
  await report(page).getByRole('button', { name: 'Bring in 2 statement lines' }).click();
  await expect(page.getByText('Brought in 2 statement lines from week-47.txt').first()).toBeVisible();
  await chooseFile(page, file('week-47.dat', OFX));
  await report(page).getByRole('button', { name: 'Bring in 1 statement line' }).click();
  await expect(page.getByText('Brought in 1 statement line from week-47.dat').first()).toBeVisible();
  await page.getByLabel('File to bring in').setInputFiles(csv('week-47.csv', TABLE));
  const reading = page.getByRole('region', { name: 'How the file is read' });
  await expect(reading.getByLabel('Dates are written')).toHaveValue('DMY');
  await reading.getByLabel('Column Came is read as').selectOption({ label: 'money in' });
  await reading.getByLabel('Column Went is read as').selectOption({ label: 'money out' });
  await expect(reading).toContainText('2,50 → 2.50');
  await reading.getByRole('button', { name: 'See what it holds' }).click();
  await report(page).getByRole('button', { name: 'Bring in 1 statement line' }).click();
  await expect(page.getByText('Brought in 1 statement line from week-47.csv').first()).toBeVisible();
});

test('days that no statement tells are shown, and gone once the statement is taken back', async ({ page, server }) => {
  await open(page, server, 'banked/bring-in');
  await chooseFile(
    page,
    file('later.txt', `:20:L\n:25:${IBAN}\n:60F:C261120EUR50000,\n:61:261120C1,NTRFX\n:62F:C261120EUR50001,\n-\n`),
  );
  await report(page).getByRole('button', { name: 'Bring in 1 statement line' }).click();
  await expect(
    page.getByText(/between 16 Nov 2026 .* and 20 Nov 2026 .* moved that no statement here tells/),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await expect(page.getByText('moved that no statement here tells')).toHaveCount(0);
});

test('all proven after one summary; an open pair is decided by its date', async ({ page, server }) => {
  await open(page, server, 'banked');
  await page.getByRole('button', { name: /^Confirm \d+ proven/ }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('6');
  await dialog.getByRole('button', { name: /^Confirm/ }).click();
  await expect(page.getByText(/^Confirmed 6 proven lines/).first()).toBeVisible();
  await page.getByRole('grid', { name: 'Statement lines' }).getByText('T HOLLOW RIG CHECK').click();
  const sheet = page.getByRole('article', { name: 'Working sheet' });
  await expect(sheet).toContainText('2 ways come to this amount');
  await expect(sheet.getByRole('button', { name: /^Confirm/ })).toBeDisabled();
  const ways = sheet.getByRole('button', { name: /^Lay Invoice KS-20\d\d · T. Hollow, of \d+ \w+, 85.60/ });
  await expect(ways).toHaveCount(2);
  await ways.first().click();
  // What is laid has an equal, and what tells the two apart stands there before it is confirmed.
  const equal = sheet.getByRole('region', { name: 'Fits equally' });
  await expect(equal).toContainText(/Invoice KS-2035 · T. Hollow, of 22 Oct, 11 working days before, is laid/);
  await equal.getByRole('button', { name: 'Lay Invoice KS-2044 · T. Hollow instead' }).click();
  await expect(equal).toContainText(/Invoice KS-2044 · T. Hollow, of 30 Oct, 6 working days before, is laid/);
  await equal.getByRole('button', { name: 'Lay Invoice KS-2035 · T. Hollow instead' }).click();
  await sheet.getByRole('button', { name: /^Confirm/ }).click();
  await expect(page.getByText('Confirmed 85.60 of 9 Nov').first()).toBeVisible();
  // The other deposit of the pair has but one invoice left, and says so.
  await page.getByRole('grid', { name: 'Statement lines' }).getByText('HOLLOW T', { exact: true }).click();
  await expect(sheet).toContainText('Probable, because');
});

test('cash that is short is laid with its gap named; split, seen and taken apart', async ({ page, server }) => {
  await open(page, server, 'banked?text=140,00');
  const sheet = page.getByRole('article', { name: 'Working sheet' });
  await expect(sheet).toContainText('CASH LODGED');
  await expect(sheet).toContainText('Probable, because');
  await expect(sheet).toContainText('144.00 came into Workshop cash box on 11 Nov');
  await expect(sheet).toContainText('4.00 of it is missing');
  await expect(sheet.getByLabel('Book the rest as')).toHaveValue(/\d+/);
  await sheet.getByRole('button', { name: /^Entry/ }).click();
  await expect(sheet).toContainText('6105 Cash differences');
  // Taken off and laid by hand it comes to the same.
  await sheet.getByRole('button', { name: 'Take Booked to 1090 Workshop cash box off' }).click();
  await sheet.getByLabel(/^Book (the rest|all of it) as/).selectOption({ label: 'not yet' });
  await sheet.getByRole('button', { name: /^Book to/ }).click();
  await sheet.getByLabel('Account', { exact: true }).selectOption({ label: '1090 Workshop cash box' });
  await sheet.getByLabel('Amount', { exact: true }).fill('144.00');
  await sheet.getByRole('button', { name: 'Put on the sheet' }).click();
  await expect(sheet.getByLabel('Left to explain')).toHaveText('−4.00');
  await sheet.getByLabel('Book the rest as').selectOption({ label: '6105 Cash differences' });
  await sheet.getByRole('button', { name: /^Confirm/ }).click();
  await expect(page.getByText('Confirmed 140.00 of 16 Nov').first()).toBeVisible();
  await open(page, server, 'banked?state=matched&text=140.00');
  await page.getByRole('button', { name: /^Take apart/ }).click();
  await page.getByRole('dialog').getByRole('button', { name: /^Take/ }).click();
  await expect(page.getByText('Took apart 140.00 of 16 Nov').first()).toBeVisible();
});

test('probable lines are looked at together; what is not ticked stays', async ({ page, server }) => {
  await open(page, server, 'banked');
  await page.getByRole('button', { name: /^See \d+ probable/ }).click();
  const lines = page.getByRole('table', { name: 'Probable lines' });
  await expect(lines).toContainText('CASH LODGED PORTMARA');
  await expect(lines).toContainText('4.00 of it is missing');
  const ticked = lines.getByRole('checkbox');
  const all = await ticked.count();
  for (let n = 0; n < all; n++) {
    const name = await ticked.nth(n).getAttribute('aria-label');
    if (!name!.includes('Workshop cash box')) await ticked.nth(n).uncheck();
  }
  await expect(lines).toContainText('1 line ticked');
  await page.getByRole('dialog').getByRole('button', { name: 'Confirm 1' }).click();
  await expect(page.getByText('Confirmed 1 probable line, 140.00').first()).toBeVisible();
});

test('what the rules book that is no receivable stands apart, and is booked after a look', async ({ page, server }) => {
  await open(page, server, 'banked?text=canvas');
  const list = page.getByRole('grid', { name: 'Statement lines' });
  await expect(list).toContainText('Not ours · 1 · −96.00');
  await expect(page.getByRole('article', { name: 'Working sheet' })).toContainText(
    'statement rule “Canvas and thread”',
  );
  await page.getByRole('button', { name: 'See 1 not ours…' }).click();
  const lines = page.getByRole('table', { name: 'Lines not ours' });
  await expect(lines).toContainText('Booked to Materials');
  await lines.getByRole('checkbox').uncheck();
  await expect(page.getByRole('dialog').getByRole('button', { name: 'Confirm 0' })).toBeDisabled();
  await lines.getByRole('checkbox').check();
  await page.getByRole('dialog').getByRole('button', { name: 'Confirm 1' }).click();
  await expect(page.getByText('Confirmed 1 line not ours, −96.00').first()).toBeVisible();
  await expect(page.getByText('No line says this')).toBeVisible();
  await expect(page.getByRole('button', { name: /not ours…/ })).toHaveCount(0);
});

test('a batch that was booked as income though the page’s export has it is counted once, in one step', async ({
  page,
  server,
}) => {
  // Its payout is not late: it is at the bank, and says where.
  await open(page, server, 'in-transit?state=seen', 'lantern-head');
  await page.getByRole('button', { name: 'LH-44' }).click();
  await expect(page.getByRole('article', { name: 'Payout LH-44' })).toContainText('it may count twice');
  await open(page, server, '', 'lantern-head');
  const item = page.getByText('A deposit of 4 Nov may count as income twice');
  await expect(item).toBeVisible();
  await page.getByRole('link', { name: 'Look at it' }).first().click();
  const guard = page.getByRole('region', { name: 'May count twice' });
  await expect(guard).toContainText('Payout LH-44 of 1 Nov, 1,375.40, explains this deposit:');
  await expect(guard).toContainText('payout id LH-44 stands in the bank’s text');
  await guard.getByRole('button', { name: 'It is other money' }).click();
  await expect(page.getByText('1,375.40 of 4 Nov is other money').first()).toBeVisible();
  await expect(guard).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await expect(guard).toBeVisible();
  await guard.getByRole('button', { name: 'Count it once…' }).click();
  const dialog = page.getByRole('dialog', { name: 'Count this deposit once' });
  await expect(dialog).toContainText('4010 Gifts');
  await dialog.getByRole('button', { name: 'Count it once' }).click();
  await expect(page.getByText('Mended 1,375.40 of 4 Nov: it counts once').first()).toBeVisible();
  const sheet = page.getByRole('article', { name: 'Confirmed sheet' });
  await expect(sheet).toContainText('Payout LH-44');
  await expect(sheet).toContainText('payout id LH-44 stands in the bank’s text');
  await open(page, server, '', 'lantern-head');
  await expect(item).toHaveCount(0);
});

test('a rule is tried on the past, switched on and books; where invoices explain the money it says it would count twice', async ({
  page,
  server,
}) => {
  await open(page, server, 'banked?text=terminal');
  await page.getByRole('button', { name: /^Book to/ }).click();
  await page.getByRole('link', { name: 'Make a rule of it' }).click();
  const form = page.getByRole('region', { name: 'New rule' });
  await form.getByLabel('Text 1').fill('terminal rental');
  await form.getByRole('button', { name: 'and another text' }).click();
  await form.getByLabel('and', { exact: true }).selectOption({ label: 'has the number' });
  await form.getByLabel('Text 2').fill('42');
  await form.getByLabel('is booked to').selectOption({ label: '6110 Bank charges' });
  await expect(form).toContainText('It is so of 1 line, −4.00');
  await form.getByLabel('Name').fill('Terminal');
  await form.getByRole('button', { name: 'Switch it on' }).click();
  await expect(page.getByText('Made statement rule Terminal').first()).toBeVisible();
  await page.getByRole('button', { name: 'Book 1 line by rule' }).click();
  await expect(page.getByText('Booked 1 line by rule').first()).toBeVisible();
  await page.getByRole('button', { name: 'New rule' }).click();
  await form.getByLabel('Text 1').fill('skarra');
  await form.getByLabel('is booked to').selectOption({ label: '4010 Repairs' });
  await expect(form).toContainText('explained by payouts, invoices or receipts, which no rule takes');
  await form.getByRole('button', { name: 'Switch it on' }).click();
  await expect(page.getByText('Made statement rule skarra').first()).toBeVisible();
  await open(page, server, 'banked?text=skarra');
  await expect(page.getByRole('article', { name: 'Working sheet' })).toContainText('booked so it would count twice');
});

test('a line that is not ours is set aside with its reason, and taken back', async ({ page, server }) => {
  await open(page, server, 'banked?text=parking');
  await page.getByRole('button', { name: 'Set aside' }).click();
  await page.getByLabel('Why it is not wanted in the books').fill('private');
  await page.getByRole('dialog').getByRole('button', { name: 'Set aside' }).click();
  await expect(page.getByText('Set 1 statement line aside: private').first()).toBeVisible();
  await open(page, server, 'banked?state=aside');
  await expect(page.getByRole('article', { name: 'Line set aside' })).toContainText('Set aside: private');
  await page.getByRole('button', { name: 'Take back' }).click();
  await expect(page.getByText('Took 1 statement line back').first()).toBeVisible();
});

test('income booked from a deposit alone becomes a receipt later, and a deposit again', async ({ page, server }) => {
  await open(page, server, 'banked/bring-in');
  await chooseFile(
    page,
    file(
      'hire.txt',
      `:20:H\n:25:${IBAN}\n:60F:C261116EUR41601,13\n:61:261116C250,NTRFX//BK-90\n:86:BOAT SHED HIRE OARS CLUB\n:62F:C261116EUR41851,13\n-\n`,
    ),
  );
  await report(page).getByRole('button', { name: 'Bring in 1 statement line' }).click();
  await expect(page.getByText('Brought in 1 statement line from hire.txt').first()).toBeVisible();
  await open(page, server, 'banked?text=oars');
  const sheet = page.getByRole('article', { name: 'Working sheet' });
  await sheet.getByRole('button', { name: /^Book to/ }).click();
  await sheet.getByLabel('Account', { exact: true }).selectOption({ label: '4030 Lessons' });
  await sheet.getByRole('button', { name: 'Put on the sheet' }).click();
  await sheet.getByRole('button', { name: /^Confirm/ }).click();
  await expect(page.getByText('Confirmed 250.00 of 16 Nov').first()).toBeVisible();
  await open(page, server, 'banked/income');
  const table = page.getByRole('table', { name: 'Income from deposits alone' });
  await expect(table).toContainText('BOAT SHED HIRE OARS CLUB');
  await table.getByRole('button', { name: 'Turn BOAT SHED HIRE OARS CLUB into receipts' }).click();
  await page.getByLabel('It came by').selectOption({ label: 'Card desk' });
  await expect(page.getByRole('dialog')).toContainText('No balance moves by it.');
  await page.getByRole('dialog').getByRole('button', { name: 'Turn into receipts' }).click();
  await expect(page.getByText('Turned 1 deposit, 250.00, into receipts').first()).toBeVisible();
  await expect(page.getByText('No income was booked from a deposit alone')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await expect(table).toContainText('BOAT SHED HIRE OARS CLUB');
});
