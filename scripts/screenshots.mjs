// Takes the pictures in docs/screenshots from a running demo: node scripts/screenshots.mjs http://127.0.0.1:4310 [folder] [name …]
import { chromium } from '@playwright/test';

const [base = 'http://127.0.0.1:4310', folder = 'docs/screenshots', ...names] = process.argv.slice(2);

/** Each main view: its address, and what to do before the picture. */
const VIEWS = {
  today: { path: '' },
  owed: {
    path: 'owed',
    then: async (page) => {
      await page.getByText('K2026-0002').first().click();
      await page.getByRole('article', { name: 'Invoice K2026-0002' }).waitFor();
    },
  },
  'new-invoice': {
    path: 'owed/new',
    then: async (page) => {
      await page.getByRole('combobox', { name: 'Payer' }).pressSequentially('ternp', { delay: 30 });
      await page.getByText('Ternport Sailing School', { exact: true }).last().click();
      await page.getByLabel('Item of line 1').selectOption({ label: 'Sail repair' });
      await page.getByLabel('Quantity of line 1').fill('2.5');
      await page.getByLabel('Net price of line 1').fill('48.00');
      await page.getByText('Balances it moves').waitFor();
    },
  },
  ageing: { path: 'owed/ageing', then: (page) => page.getByRole('link', { name: 'Skarra Yacht Club' }).click() },
  plan: {
    path: 'owed/plans',
    then: async (page) => {
      await page.getByRole('link', { name: /^Winter training/ }).click();
      await page.getByText('30 Nov 2026').waitFor();
    },
  },
  'pay-page': {
    path: 'owed?text=K2026-0001',
    then: async (page) => {
      await page.getByText('K2026-0001').first().click();
      const link = await page.getByRole('link', { name: 'Its pay page' }).getAttribute('href');
      await page.goto(base + link, { waitUntil: 'networkidle' });
    },
  },
  gift: {
    books: 'lantern-head',
    path: 'collected/key?as=gift',
    then: async (page) => {
      await page.getByLabel('Amount of line 1').fill('25.00');
      await page.getByLabel('For the fund').fill('Lens restoration');
      await page.getByText('Balances it moves').waitFor();
    },
  },
  collected: { path: 'collected?state=not-posted', then: (page) => page.keyboard.press('j') },
  'in-transit': { path: 'in-transit', then: (page) => page.getByRole('button', { name: 'P-2233' }).click() },
  banked: {
    path: 'banked',
    then: async (page) => {
      await page.getByRole('grid', { name: 'Statement lines' }).getByText('T HOLLOW RIG CHECK').click();
      await page
        .getByRole('button', { name: /^Lay Invoice/ })
        .first()
        .click();
      await page.getByRole('region', { name: 'Fits equally' }).waitFor();
    },
  },
  'banked-by-hand': {
    path: 'banked',
    then: async (page) => {
      await page
        .getByRole('grid', { name: 'Statement lines' })
        .getByText('CD SETTLEMENT 1011 KITTIWAKE SAILS 4471')
        .click();
      await page.getByRole('region', { name: 'Parts to add' }).waitFor();
    },
  },
  trail: {
    path: 'in-transit',
    then: async (page) => {
      await page.getByRole('button', { name: 'P-2232' }).click();
      await page.getByRole('article', { name: 'Payout P-2232' }).waitFor();
      await page.keyboard.press('t');
      await page.getByRole('region', { name: 'Banked' }).waitFor();
    },
  },
  proved: { path: 'proved' },
  'open-channel': {
    path: 'set-up/channels/open',
    then: async (page) => {
      await page.getByLabel('Name', { exact: true }).fill('Pier till');
      await page.getByRole('button', { name: 'Next' }).click();
      await page.getByLabel('Name of the clearing account').waitFor();
    },
  },
  map: {
    books: 'lantern-head',
    path: 'set-up/map',
    then: async (page) => {
      await page
        .getByText(/^item [\d,.]+/)
        .first()
        .waitFor();
      await page.getByRole('link', { name: 'Gifts to Lens restoration', exact: true }).click();
      await page.getByRole('button', { name: 'Try it on the past' }).click();
      await page.getByRole('region', { name: 'Tried on the past' }).waitFor();
    },
  },
  reading: {
    books: 'lantern-head',
    path: 'collected/bring-in',
    then: async (page) => {
      await page.getByLabel('File to bring in').setInputFiles('demo/lantern-head/files/giving-2026-11.csv');
      await page.getByRole('button', { name: 'Change how it is read' }).click();
      await page.getByRole('region', { name: 'How the file is read' }).waitFor();
      await page.getByRole('region', { name: 'How the file is read' }).scrollIntoViewIfNeeded();
    },
  },
  day: { books: 'lantern-head', path: 'collected/day?channel=2&date=2026-11-14' },
  fetching: {
    path: 'set-up/stand-ins',
    then: async (page) => {
      for (const day of ['17', '18', '19']) {
        await page.getByRole('button', { name: `Next working day: ${day} Nov 2026` }).click();
        await page.getByRole('heading', { name: `It is ${day} Nov 2026 out there` }).waitFor();
      }
      await page.goto(page.url().replace('stand-ins', 'fetching'), { waitUntil: 'networkidle' });
      await page.getByRole('link', { name: 'Card desk' }).click();
      await page.getByRole('region', { name: 'When Card desk is fetched' }).waitFor();
    },
  },
  payers: { books: 'driftline', path: 'owed/payers' },
};

const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
  args: [
    '--no-sandbox',
    '--disable-gpu',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
  ],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
page.on('console', (message) => message.type() === 'error' && console.error(message.text()));
page.on('pageerror', (error) => console.error(error.message));
for (const [name, view] of Object.entries(VIEWS)) {
  if (names.length > 0 && !names.includes(name)) continue;
  await page.goto(`${base}/books/${view.books ?? 'kittiwake'}${view.path ? `/${view.path}` : ''}`, {
    waitUntil: 'networkidle',
  });
  await view.then?.(page);
  await page.waitForTimeout(600);
  await page.screenshot({ path: `${folder}/${name}.png` });
  console.log(name);
}
await browser.close();
