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
const MT940 = `:20:W47\n:25:SKERIE2D/${IBAN}\n:28C:47/1\n:60F:C261112EUR41135,09\n:61:2611161116C332,54NTRFNONREF//BK-71\n:86:CD SETTLEMENT REF P-2233 KITTIWAKE\n:61:2611161116C115,NTRFNONREF//BK-72\n:86:CASH LODGED PORTMARA BRANCH\n:62F:C261116EUR41582,63\n-\n`;
const OFX = `OFXHEADER:100\nDATA:OFXSGML\n\n<OFX><BANKMSGSRSV1><STMTTRNRS><STMTRS><CURDEF>EUR<BANKACCTFROM><ACCTID>93115212345678</BANKACCTFROM><BANKTRANLIST><STMTTRN><TRNTYPE>CREDIT<DTPOSTED>20261116<TRNAMT>332.54<FITID>77<NAME>CARD DESK<MEMO>SETTLEMENT P-2233</STMTTRN><STMTTRN><TRNTYPE>DEBIT<DTPOSTED>20261116<TRNAMT>-4.00<FITID>78<MEMO>CARD TERMINAL RENTAL 0042</STMTTRN></BANKTRANLIST><LEDGERBAL><BALAMT>41578.63<DTASOF>20261116</LEDGERBAL></STMTRS></STMTTRNRS></BANKMSGSRSV1></OFX>\n`;
const TABLE =
  'When;What it says;Came;Went\n16.11.2026;CASH LODGED PORTMARA;115,00;\n16.11.2026;STREET PARKING SPECIMEN;;2,50\n';

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
    file('later.txt', `:20:L\n:25:${IBAN}\n:60F:C261123EUR50000,\n:61:261123C1,NTRFX\n:62F:C261123EUR50001,\n-\n`),
  );
  await report(page).getByRole('button', { name: 'Bring in 1 statement line' }).click();
  await expect(
    page.getByText(/between 16 Nov 2026 .* and 23 Nov 2026 .* moved that no statement here tells/),
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
  await sheet.getByRole('button', { name: /^Confirm/ }).click();
  await expect(page.getByText('Confirmed 85.60 of 9 Nov').first()).toBeVisible();
  // The other deposit of the pair has but one invoice left, and says so.
  await page.getByRole('grid', { name: 'Statement lines' }).getByText('HOLLOW T', { exact: true }).click();
  await expect(sheet).toContainText('Probable, because');
});

test('cash that is short is booked out of the box, the gap named; split, seen and taken apart', async ({
  page,
  server,
}) => {
  await open(page, server, 'banked?text=115,00');
  const sheet = page.getByRole('article', { name: 'Working sheet' });
  await expect(sheet).toContainText('CASH LODGED');
  await sheet.getByRole('button', { name: /^Book to/ }).click();
  await sheet.getByLabel('Account', { exact: true }).selectOption({ label: '1090 Workshop cash box' });
  await sheet.getByLabel('Amount', { exact: true }).fill('118.40');
  await sheet.getByRole('button', { name: 'Put on the sheet' }).click();
  await expect(sheet.getByLabel('Left to explain')).toHaveText('−3.40');
  await sheet.getByLabel('Book the rest as').selectOption({ label: '6105 Cash differences' });
  await sheet.getByRole('button', { name: /^Entry/ }).click();
  await expect(sheet).toContainText('1090 Workshop cash box');
  await sheet.getByRole('button', { name: /^Confirm/ }).click();
  await expect(page.getByText('Confirmed 115.00 of 16 Nov').first()).toBeVisible();
  await open(page, server, 'banked?state=matched&text=115.00');
  await page.getByRole('button', { name: /^Take apart/ }).click();
  await page.getByRole('dialog').getByRole('button', { name: /^Take/ }).click();
  await expect(page.getByText('Took apart 115.00 of 16 Nov').first()).toBeVisible();
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
