import type { Locator, Page } from '@playwright/test';

/** A code as a scanner types it. */
export const code = (serial: number) => `0FZCB31K204170E3D${String(serial).padStart(7, '0')}`;

/** A scanner: keys faster than any hand, ended by Enter. */
export async function scan(page: Page, text: string): Promise<void> {
  await page.keyboard.type(text, { delay: 1 });
  await page.keyboard.press('Enter');
}

/** One of the steps of receiving, as its link. */
export const step = (page: Page, name: string): Locator =>
  page.getByRole('navigation', { name: 'Steps of receiving' }).getByRole('link', { name });

/** Number of the n-th cell of the lot that is open. */
export async function firstNumber(page: Page): Promise<number> {
  const tile = page.getByRole('group', { name: 'Cells' }).getByRole('button').first();
  return Number(/B-(\d+)/.exec(await tile.innerText())![1]);
}
/** A cell’s number as it is written. */
export const numbered = (n: number) => `B-${String(n).padStart(4, '0')}`;
