import { expect, test } from '@playwright/test';
import { signIn, takeInLot } from './helpers';

test.use({ viewport: { width: 1024, height: 768 } });

test('a count that does not match, no cells, and more than a lot can hold', async ({ page }) => {
  test.setTimeout(480_000);
  await signIn(page, 'lead');
  await takeInLot(
    page,
    { title: 'Counted', supplier: 'Reedbank Cells', quantity: 6, model: 'Sedge N104' },
    'arrival/box',
  );
  const counted = page.getByLabel('Cells counted');
  const keep = page.getByRole('button', { name: 'Keep the count' });
  await counted.fill('six');
  await keep.click();
  await expect(page.getByText('Expected a whole number of 0 or more.')).toBeVisible();
  await counted.fill('20001');
  await keep.click();
  await expect(page.getByText('Expected at most 20000 cells')).toBeVisible();
  await counted.fill('4');
  await keep.click();
  await expect(page.getByTestId('count-note')).toContainText('6 ordered: 2 missing.');
  await counted.fill('0');
  await keep.click();
  await expect(page.getByTestId('count-note')).toHaveText('6 ordered.');
  await counted.fill('20000');
  await keep.click();
  await expect(page.getByText('counted 20000')).toBeVisible({ timeout: 120_000 });
  await page
    .getByRole('navigation', { name: 'Steps of receiving' })
    .getByText('Inspection')
    .click();
  await page.getByTestId('clear-rest').click();
  await expect(page.getByText('All marks are stored.')).toBeVisible({ timeout: 120_000 });
  await expect(page.getByRole('navigation', { name: 'Steps of receiving' })).toContainText(
    '20000 of 20000 inspected',
  );
});
