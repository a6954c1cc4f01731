import { readFileSync } from 'node:fs';
import { sample, signIn } from './helpers';
import { expect, test } from './test';

test('a watched string: who stands out, the last minutes, one cell alone, three decimals', async ({
  page,
}) => {
  await signIn(page, 'technician');
  await page.goto('/lots/L-002/strings');
  const list = page.getByRole('table', { name: 'Watched periods' });
  await expect(list).toContainText('First charges of the string');
  await list.getByRole('link', { name: 'First charges of the string' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('First charges of the string');
  await expect(page.getByTestId('stands-out')).toContainText('B-0249 is highest for');

  // The last minutes before full, where differences appear.
  await page.getByRole('combobox', { name: 'Go to the last minutes' }).click();
  await page.getByRole('option', { name: /^2\. at/ }).click();
  await expect(page.getByText(/^23 min of 24 h/)).toBeVisible();
  await expect(page).toHaveURL(/from=\d/);
  const figure = page.getByRole('figure', { name: /Voltages of 16 cells/ });
  await expect(figure.locator('path[stroke="var(--curve)"]').nth(15)).toBeAttached();
  await page.waitForLoadState('networkidle');
  const box = (await figure.boundingBox())!;
  // A hand that moves across, not one that jumps.
  for (const share of [0.58, 0.59, 0.6])
    await page.mouse.move(box.x + share * box.width, box.y + 100);
  await expect(page.getByTestId('string-moment')).toContainText(/At \d+\.\d\d min|At \d+\.\d+ h/);
  const cells = page.getByRole('table', { name: 'Cells of the string' });
  await expect(cells.getByRole('row', { name: /B-0249/ })).toContainText(/\d\.\d{3}/);

  // One cell alone, by its box.
  await cells.getByRole('checkbox', { name: 'Pick out B-0249' }).click();
  await page.getByRole('checkbox', { name: 'only the cells picked out' }).click();
  await expect(figure.locator('path[stroke="var(--ember)"]').first()).toBeVisible();

  // Back to all of it by keyboard.
  await figure.focus();
  await page.keyboard.press('-');
  await page.keyboard.press('Escape');
  await expect(page).not.toHaveURL(/from=/);
});

test('two periods side by side: who stood out no longer does', async ({ page }) => {
  await signIn(page, 'technician');
  await page.goto('/lots/L-002/strings');
  await page.getByRole('link', { name: 'First charges of the string' }).click();
  const beside = page.getByRole('region', { name: 'Two periods side by side' });
  await expect(beside.getByRole('combobox').nth(1)).toContainText('After it was brought level');
  await beside.getByRole('button', { name: 'Compare' }).click();
  const told = page.getByTestId('periods-beside');
  await expect(told).toContainText('B-0249 no longer stands out: highest near full for');
  await expect(told.getByRole('row', { name: /Spread, highest/ })).toContainText('mV');
  await beside.getByLabel('to / h').first().fill('0');
  await beside.getByRole('button', { name: 'Compare' }).click();
  await expect(beside.locator('p[role=alert]')).toContainText('the end after its beginning');
});

test('a log is dropped, its cells are named by one range, and it is taken back with a reason', async ({
  page,
}) => {
  await signIn(page, 'technician');
  await page.goto('/lots/L-003/strings');
  // A log of one voltage is none of a string.
  await page.getByTestId('string-file').setInputFiles(sample('01-plain-seconds.csv'));
  await expect(page.locator('p[role=alert]')).toContainText(
    'no column holds the voltage of a cell',
  );
  await page.getByLabel('Name of the period').fill('Eight in a row');
  // One line break more, so that it is no file an earlier try has brought in.
  const log = `${readFileSync(sample('10-multi-cell-charge.csv'), 'utf8')}${'\n'.repeat(1 + (Date.now() % 500))}`;
  await page.getByTestId('string-file').setInputFiles({
    name: '10-eight.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(log),
  });
  await page.waitForURL(/\/strings\/\d+$/);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Eight in a row');

  const first = page.getByRole('textbox', { name: 'cell1_V' });
  await first.fill('#1-8');
  await first.press('Enter');
  await expect(page.getByRole('textbox', { name: 'cell8_V' })).not.toHaveValue('');
  const number = await first.inputValue();
  await page.getByRole('button', { name: 'Keep the cells' }).click();
  await expect(page.getByText('Which cells these are: 8 of 8 named')).toBeVisible();
  await page.goto(`/cells/${number}`);
  const table = page.getByRole('table', { name: 'Strings this cell was watched in' });
  await expect(table).toContainText('Eight in a row');

  await table.getByRole('link', { name: 'Eight in a row' }).click();
  await page.getByRole('button', { name: 'Take back' }).click();
  await page.getByLabel('Why').fill('of another lot');
  await page.getByRole('button', { name: 'Take it back' }).click();
  await expect(page.getByText('It says nothing of its cells any more')).toBeVisible();
  await page.goto(`/cells/${number}`);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(number);
  await expect(table).toHaveCount(0);
});
