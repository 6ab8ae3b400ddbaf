import axe from 'axe-core';
import type { Page } from '@playwright/test';

/** What axe finds on a page that payers see, its rules for WCAG 2.2 AA. */
export async function faults(page: Page): Promise<string[]> {
  await page.evaluate(axe.source);
  return page.evaluate(async () => {
    const { violations } = await (window as unknown as { axe: typeof axe }).axe.run(document, {
      runOnly: ['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa'],
    });
    return violations.map(({ id, nodes }) => `${id}: ${nodes[0]?.html}`);
  });
}

/** Chooses a payer where one is asked for. */
export const choosePayer = async (page: Page, text: string, name: string) => {
  // Typed as it is by people: the list is asked for while the name is being written.
  await page.getByRole('combobox', { name: /^(Payer|Donor)/ }).pressSequentially(text, { delay: 30 });
  await page.getByText(name, { exact: true }).last().click();
};
