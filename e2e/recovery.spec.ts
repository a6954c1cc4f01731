import type { Page } from '@playwright/test';
import { choose, signIn, takeInLot } from './helpers';
import { expect, test } from './test';

test.use({ viewport: { width: 1024, height: 768 } });

const step = (page: Page, name: string) =>
  page.getByRole('navigation', { name: 'Steps of receiving' }).getByRole('link', { name });

/** Takes in a lot and types a first voltage for each cell. @returns the cells’ numbers. */
async function readIn(page: Page, model: string, volts: string[]): Promise<string[]> {
  await takeInLot(
    page,
    { title: 'Low ones', supplier: 'Reedbank Cells', quantity: volts.length, model },
    'arrival/readings',
  );
  const inputs = page.getByLabel(/^OCV \/ V, B-/);
  const numbers: string[] = [];
  for (let i = 0; i < volts.length; i++)
    numbers.push((await inputs.nth(i).getAttribute('aria-label'))!.split(', ')[1]!);
  await inputs.first().focus();
  for (const text of volts) {
    await page.keyboard.type(text);
    await page.keyboard.press('Enter');
    if (await page.getByRole('button', { name: 'Keep it' }).isVisible())
      await page.keyboard.press('Enter');
  }
  const keep = page.getByRole('button', { name: 'Keep it' });
  while (await keep.first().isVisible()) await keep.first().click();
  await expect(page.getByText('All readings are stored.')).toBeVisible();
  return numbers;
}

test('slow recovery: released by a lead, watched, and ended each of its three ways', async ({
  page,
}) => {
  await signIn(page, 'lead');
  const numbers = await readIn(page, 'Sedge R104', ['0.7 V', '0.8 V', '0.9 V', '3.29 V']);
  await step(page, 'Triage').click();
  await choose(page.getByLabel('School'), 'recovery');
  const row = (i: number) => page.locator(`[data-cell="${numbers[i]}"]`);
  for (let i = 0; i < 3; i++) {
    await expect(row(i)).toContainText('waits for a lead');
    await row(i).getByRole('button', { name: 'Release …' }).click();
    const release = row(i).getByRole('button', { name: /for slow recovery/ });
    // Nobody releases a cell unread.
    await expect(release).toBeDisabled();
    await row(i).getByRole('checkbox').check();
    await release.click();
    await expect(row(i)).toContainText('in slow recovery');
  }
  await row(0).getByLabel('After / min').fill('ten');
  await row(0).getByRole('button', { name: 'Keep the heat check' }).click();
  await expect(row(0)).toContainText('Expected minutes and °C as numbers.');
  await row(0).getByLabel('After / min').fill('10');
  await row(0).getByLabel('Surface / °C').fill('24,5');
  await row(0).getByRole('button', { name: 'Keep the heat check' }).click();
  await expect(row(0)).toContainText('heat check after 10 min, 24.5 °C');
  // Nothing counts as recovered before its voltage was read again.
  await row(0).getByRole('button', { name: 'Recovered' }).click();
  await expect(row(0)).toContainText('Type its voltage first');
  await step(page, 'First readings').click();
  const volts = page.getByLabel(`OCV / V, ${numbers[0]}`);
  await volts.fill('3.05');
  await volts.press('Enter');
  await expect(page.getByText('All readings are stored.')).toBeVisible();
  await step(page, 'Triage').click();
  await row(0).getByRole('button', { name: 'Recovered' }).click();
  await expect(row(0)).not.toContainText('in slow recovery');
  await row(1).getByRole('button', { name: 'No rise' }).click();
  await expect(row(1)).toContainText('to discard');
  await row(2).getByRole('button', { name: 'It grew warm' }).click();
  await expect(row(2)).toContainText('to discard');

  // What ended badly may go on no tester; the recovered one goes on by its next step.
  await page.goto('/');
  const blocked = page.getByRole('region', { name: 'Blocked' });
  await expect(blocked.getByRole('listitem').filter({ hasText: 'Low ones' }).first()).toContainText(
    '2 cells are to be discarded',
  );
});

test('a technician sees that a cell waits, and cannot release it', async ({ page }) => {
  await signIn(page, 'technician');
  await page.goto('/lots/L-003/arrival/triage');
  await expect(page.getByRole('button', { name: 'Release …' })).toHaveCount(0);
});
