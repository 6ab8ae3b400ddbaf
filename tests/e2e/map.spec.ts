import { chooseFile, csv, expect, open, railFigure, report, test } from './books';

test.use({ booksOf: 'map' });

test.describe.configure({ mode: 'serial' });

/** What a counter's own sheet looks like: a title, German marks, days before months, brackets for what went back. */
const SHEET = csv(
  'counter.csv',
  [
    'Harbour counter, November;;;;;;',
    'Date;Ref;Name;Paid;Charge;What for;Where',
    '03/11/2026;HC-1;Orla Maher;"1.230,00 €";-12,30;Rig check, berth 14;TEA',
    '04/11/2026;HC-2;Finn Tully;61,50;-0,62;Lesson;Tea hatch',
    '05/11/2026;HC-3;;(24,60);0,00;Returned shackle;TEA',
    '06/11/2026;HC-4;Ada Quill;20,00;0,00;Rope;Nowhere',
    'Total;;;1.286,90;-12,92;;',
  ].join('\n'),
);

test('a channel is opened in steps that can be left and gone on with', async ({ page, server }) => {
  await open(page, server, 'set-up/channels');
  await page.getByRole('link', { name: 'Open a channel' }).click();
  await page.getByLabel('Name', { exact: true }).fill('Pier till');
  await page.getByRole('radio', { name: /^till / }).check();
  await page.getByLabel('Agreed fee, %').fill('1.00');
  await page.getByRole('button', { name: 'Next' }).click();
  await expect(page.getByLabel('Name of the clearing account')).toHaveValue('Pier till clearing');
  await page.getByRole('button', { name: 'Leave it for now' }).click();

  const begun = page.getByRole('region', { name: 'Begun and not opened' });
  await expect(begun).toContainText('Pier till');
  await begun.getByRole('link', { name: 'Go on' }).click();
  await expect(page.getByLabel('Name', { exact: true })).toHaveValue('Pier till');

  await page.getByRole('button', { name: /Accounts/ }).click();
  await page.getByLabel('Fees to').selectOption('make a new one');
  await page.getByLabel('Sales nothing else decides').selectOption({ label: '4040 Parts and workshop sales' });
  await page.getByLabel('Their tax code').selectOption({ label: 'S23' });
  await page.getByRole('button', { name: /Look it over/ }).click();
  await expect(page.getByText('A till has one site at least.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Open Pier till' })).toBeDisabled();
  await page.getByRole('button', { name: 'Sites', exact: true }).click();
  await page.getByRole('button', { name: 'Add a site' }).click();
  await page.getByLabel('Code of site 1').fill('TEA');
  await page.getByLabel('Name of site 1').fill('Tea hatch');
  await page.getByRole('button', { name: /Look it over/ }).click();
  await expect(page.getByRole('definition').filter({ hasText: 'new: 1210 Pier till clearing' })).toBeVisible();
  await page.getByRole('button', { name: 'Open Pier till' }).click();
  await expect(page.getByText('Opened channel Pier till')).toBeVisible();
  await expect(page.getByRole('region', { name: 'Pier till' })).toContainText('1210 Pier till clearing');
  await expect(begun).toHaveCount(0);
});

test('any export is read: guessed, asked about, corrected, brought in, and known again by its header', async ({
  page,
  server,
}) => {
  await open(page, server, 'collected/bring-in');
  await page.getByLabel('Collected through').selectOption({ label: 'Pier till, EUR' });
  await page.getByLabel('File to bring in').setInputFiles(SHEET);
  const reading = page.getByRole('region', { name: 'How the file is read' });
  await expect(reading).toContainText('1.230,00 € → 1,230.00');
  await expect(reading).toContainText('(24,60) → −24.60');
  await expect(reading.getByText('Say whether day or month comes first in its dates.')).toBeVisible();
  await expect(reading.getByRole('button', { name: 'See what it holds' })).toBeDisabled();
  await reading.getByLabel('Dates are written').selectOption({ label: 'day, month, year' });
  await reading.getByLabel('Column Where is read as').selectOption({ label: 'site' });
  await reading.getByRole('button', { name: 'See what it holds' }).click();
  await expect(report(page)).toContainText('2 receipts, 1,291.50 · 1 refund, −24.60');
  await expect(report(page)).toContainText('Line 6, HC-4: There is no site Nowhere at this channel.');
  await report(page).getByRole('button', { name: 'Bring in 3 movements' }).click();
  await expect(page.getByText('Brought in 3 movements from counter.csv')).toBeVisible();

  await chooseFile(page, SHEET);
  await expect(page.getByText('Read as files with this header were read before.')).toBeVisible();
  await expect(report(page)).toContainText('Nothing new in this file: all 3 movements are here already.');
});

test('a file that lacks what is needed asks for it, and one without a header is refused', async ({ page, server }) => {
  await open(page, server, 'collected/bring-in');
  await page.getByLabel('File to bring in').setInputFiles(csv('colours.csv', 'Name,Colour\nA,red\n'));
  await expect(page.getByText('Say which column has the date, and which column has the amount.')).toBeVisible();
  await page.getByLabel('File to bring in').setInputFiles(csv('bare.csv', '1,2\n3,4\n'));
  await expect(page.getByRole('alert').first()).toContainText('No row names the columns');
});

test('a dimension is added and asked for; a receipt without it waits and says so', async ({ page, server }) => {
  await open(page, server, 'set-up/dimensions');
  await page.getByLabel('New dimension').fill('Berth');
  await page.getByLabel('Its values, parted by commas').fill('North, South');
  await page.getByRole('button', { name: 'Add', exact: true }).first().click();
  const berth = page.getByRole('region', { name: 'Berth' });
  await expect(berth.getByRole('button', { name: 'North' })).toBeVisible();
  await berth.getByLabel('Ask for Berth on an account').selectOption({ label: '4020 Rig checks' });
  await expect(berth.getByRole('button', { name: '4020 Rig checks ✕' })).toBeVisible();
});

test('what falls through is given a rule, tried on the past, and decides from then on', async ({ page, server }) => {
  await open(page, server, 'set-up/map');
  await expect(page.getByRole('table', { name: 'Channels and what is decided' })).toContainText(/default [\d,.]+/);
  const fallen = page.getByRole('region', { name: 'What falls through' });
  await fallen
    .getByRole('row', { name: /Rig check, berth 14 Pier till/ })
    .getByRole('link', { name: 'Make a rule' })
    .click();
  const form = page.getByRole('form', { name: 'New rule' });
  await expect(form.getByLabel('Text has')).toHaveValue('Rig check, berth 14');
  await form.getByLabel('Name of the rule').fill('Rig checks');
  await form.getByLabel('Text has').fill('rig check');
  await form.getByRole('button', { name: 'Remove Pier till' }).click();
  await form.getByLabel('Income').selectOption({ label: '4020 Rig checks' });
  await form.getByRole('button', { name: 'Try it on the past' }).click();
  const tried = page.getByRole('region', { name: 'Tried on the past' });
  await expect(tried).toContainText('4040 Parts and workshop sales → 4020 Rig checks');
  await form.getByRole('button', { name: 'Make the rule' }).click();
  await expect(page.getByText('Made map rule Rig checks')).toBeVisible();
  await expect(page.getByRole('table', { name: 'Map rules' })).toContainText('text has “rig check”');

  // The account asks for a berth, which the rule does not give yet.
  await open(page, server, 'collected?state=not-posted&text=HC-1');
  await page.getByRole('grid', { name: 'Receipts' }).getByRole('button', { name: 'HC-1' }).click();
  const panel = page.getByRole('article', { name: 'Receipt HC-1' });
  await expect(panel.getByRole('alert')).toContainText('asks for a Berth, and nothing gives receipt HC-1 one');
  await open(page, server, 'set-up/map');
  await page.getByRole('link', { name: 'Rig checks', exact: true }).click();
  await page.getByRole('form', { name: 'Rule Rig checks' }).getByLabel('Berth').selectOption({ label: 'North' });
  await page.getByRole('button', { name: 'Save the rule' }).click();
  await expect(page.getByText('Changed map rule Rig checks')).toBeVisible();

  await open(page, server, 'collected?state=not-posted&text=HC-1');
  await page.getByRole('grid', { name: 'Receipts' }).getByRole('button', { name: 'HC-1' }).click();
  await expect(panel.getByRole('region', { name: 'Entry it will write' })).toContainText(
    'rule “Rig checks”; Berth North: rule “Rig checks”',
  );
  await panel.getByRole('button', { name: /^Post/ }).click();
  await expect(page.getByText('Posted 1 receipt, 1,230.00')).toBeVisible();
});

test('what is posted stays; what the map has otherwise now is offered with before and after', async ({
  page,
  server,
}) => {
  await open(page, server, 'set-up/map');
  await page.getByRole('button', { name: 'Posted otherwise…' }).click();
  const dialog = page.getByRole('dialog');
  const table = dialog.getByRole('table', { name: 'Posted otherwise' });
  await expect(table.getByRole('row', { name: /CD-775/ })).toHaveText(
    /4020 Rig checks · 83.704020 Rig checks · North · 83.70$/,
  );
  await dialog.getByRole('button', { name: /^Reverse and post \d+ again/ }).click();
  await expect(page.getByText(/^Posted \d+ receipts? again by the map as it stands/)).toBeVisible();
  await page.getByRole('button', { name: 'Posted otherwise…' }).click();
  await expect(page.getByRole('dialog')).toContainText('All that is posted is where the map has it');
});

test('one receipt is landed elsewhere by hand, one is set aside with a reason and taken back', async ({
  page,
  server,
}) => {
  await open(page, server, 'collected?state=not-posted&text=HC-2');
  await page.getByRole('grid', { name: 'Receipts' }).getByRole('button', { name: 'HC-2' }).click();
  const panel = page.getByRole('article', { name: 'Receipt HC-2' });
  await panel.getByRole('button', { name: 'Land it elsewhere…' }).click();
  await page.getByRole('dialog').getByLabel('Income').selectOption({ label: '4030 Lessons' });
  await page.getByRole('dialog').getByRole('button', { name: 'Set', exact: true }).click();
  await expect(panel.getByRole('region', { name: 'Entry it will write' })).toContainText('you set it on this receipt');

  const before = await railFigure(page, 'Collected');
  await panel.getByRole('button', { name: 'Set aside…' }).click();
  await page.getByLabel('Why it is not wanted in the books').fill('Paid twice by mistake');
  await page.getByRole('dialog').getByRole('button', { name: 'Set aside' }).click();
  await expect(page.getByText('Set 1 receipt aside: Paid twice by mistake')).toBeVisible();
  await expect.poll(() => railFigure(page, 'Collected')).not.toBe(before);
  await open(page, server, 'collected?state=aside');
  await page.getByRole('grid', { name: 'Receipts' }).getByRole('button', { name: 'HC-2' }).click();
  await panel.getByRole('button', { name: 'Take it back' }).click();
  await expect(page.getByText('Took 1 receipt back')).toBeVisible();
  await expect.poll(() => railFigure(page, 'Collected')).toBe(before);
});

test('the till posts by the day from a day on: one entry stands for all of it', async ({ page, server }) => {
  await open(page, server, 'set-up/channels');
  const till = page.getByRole('region', { name: 'Pier till' });
  await till.getByRole('button', { name: 'Switch…' }).click();
  await till.getByLabel('Pier till posts one entry a day and site from').fill('2026-11-01');
  await till.getByRole('button', { name: 'Switch', exact: true }).click();
  await expect(page.getByText(/^Pier till posts one entry a day and site from 1 Nov 2026/)).toBeVisible();
  await open(page, server, 'collected?state=not-posted&text=HC-2');
  await page.getByRole('grid', { name: 'Receipts' }).getByRole('button', { name: 'HC-2' }).click();
  const panel = page.getByRole('article', { name: 'Receipt HC-2' });
  await expect(panel.getByRole('region', { name: 'Entry it will write' })).toContainText('1 receipt: ');
  await panel.getByRole('button', { name: /^Post/ }).click();
  await expect(page.getByText('Posted 1 receipt, 61.50')).toBeVisible();
  await expect(panel.getByRole('region', { name: 'Entry it wrote' })).toBeVisible();
});

test('a selection is picked by mouse and by Space, and just that is posted', async ({ page, server }) => {
  await open(page, server, 'collected?state=not-posted&text=CD-84');
  const list = page.getByRole('grid', { name: 'Receipts' });
  await list.getByRole('checkbox', { name: 'Pick CD-841' }).check();
  await page.getByRole('heading', { name: 'Receipts', exact: true }).click();
  await page.keyboard.press('j');
  await page.keyboard.press(' ');
  await page.getByRole('button', { name: 'Post 2 picked…' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Post 2 receipts' }).click();
  await expect(page.getByText(/^Posted 2 receipts, /)).toBeVisible();
  await expect(list.getByRole('checkbox', { name: 'Pick CD-841' })).toHaveCount(0);
});
