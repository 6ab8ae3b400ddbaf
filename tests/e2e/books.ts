import { test as base, expect, type Page } from '@playwright/test';
import { join } from 'node:path';
import { Server } from './server';

/** Each file of tests has a server with fresh demo books; its tests follow each other on them. */
export const test = base.extend<object, { booksOf: string; server: Server }>({
  /** Whose books these are: a file of tests names itself, so that none works on another's. */
  booksOf: ['', { option: true, scope: 'worker' }],
  server: [
    async ({ booksOf: _ }, use, info) => {
      const server = await Server.start(4377 + info.parallelIndex);
      await use(server);
      await server.stop();
    },
    { scope: 'worker' },
  ],
});
export { expect };

export const FILES = join(__dirname, '..', '..', 'demo', 'kittiwake', 'files');

export async function open(page: Page, server: Server, path = '', books = 'kittiwake'): Promise<void> {
  await page.goto(`${server.address}/books/${books}${path ? `/${path}` : ''}`, { waitUntil: 'networkidle' });
}

/** Chooses a file on a bring-in page and waits for its report or its refusal. */
export async function chooseFile(
  page: Page,
  file: string | { name: string; mimeType: string; buffer: Buffer },
): Promise<void> {
  await page.getByLabel('File to bring in').setInputFiles(file);
  await expect(
    page.getByRole('region', { name: 'Report on the file' }).or(page.getByRole('alert')).first(),
  ).toBeVisible();
}

export const report = (page: Page) => page.getByRole('region', { name: 'Report on the file' });
export const csv = (name: string, text: string) => ({ name, mimeType: 'text/csv', buffer: Buffer.from(text) });

/** A station's figure on the rail. */
export async function railFigure(page: Page, station: string): Promise<string> {
  return page.getByRole('link', { name: new RegExp(`^${station}: .*, see what is behind it`) }).innerText();
}
