import { readFileSync } from 'node:fs';
import { signIn } from './helpers';
import { expect, test } from './test';

test('a run is zoomed to its samples, saved, and computed again to the same bits', async ({
  page,
}) => {
  await signIn(page, 'technician');
  await page.goto('/cells/B-0100');
  await page
    .getByRole('link', { name: /\.csv$/ })
    .first()
    .click();
  await expect(page).toHaveURL(/\/runs\/\d+$/);
  await expect(page.getByText('How the file was read')).toBeVisible();
  const chart = page.getByRole('figure', { name: /Voltage and current of the run/ });
  await expect(page.getByText('extremes are drawn')).toBeVisible();
  await chart.focus();
  for (let i = 0; i < 3; i++) await page.keyboard.press('+');
  await expect(page.getByText('every sample is drawn')).toBeVisible();
  await page.keyboard.press('ArrowRight');
  await page.getByRole('button', { name: 'Whole run' }).click();
  await expect(page.getByText('extremes are drawn')).toBeVisible();

  // Dragging across does the same.
  const box = (await chart.boundingBox())!;
  await page.mouse.move(box.x + box.width * 0.3, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * 0.45, box.y + box.height / 2, { steps: 6 });
  await page.mouse.up();
  await expect(page.getByRole('button', { name: 'Whole run' })).toBeVisible();
  const saved = async (name: string) => {
    const waiting = page.waitForEvent('download');
    await page.getByRole('button', { name }).click();
    return readFileSync(await (await waiting).path(), 'utf8');
  };
  const csv = await saved('Save what is shown as CSV');
  expect(csv).toMatch(/^time_s,voltage_V,current_A,temperature_C,charge_given_Ah\n/);
  expect(csv.split('\n').length).toBeGreaterThan(50);
  expect(await saved('Save what is shown as SVG')).toMatch(/^<svg[^]*<\/svg>$/);

  await page.getByRole('button', { name: 'Compute again and compare' }).click();
  await expect(page.getByText(/All \d+ figures come out the same, to the last bit/)).toBeVisible();
});

test('a trail is a page of its own, with the samples marked and what would help most', async ({
  page,
}) => {
  await signIn(page, 'technician');
  await page.goto('/cells/B-0100');
  await page
    .getByRole('link', { name: /± .* Ah/ })
    .first()
    .click();
  const trail = page.getByTestId('trail');
  await expect(trail).toContainText('What would help most');
  await trail.getByRole('link', { name: 'As a page, to print' }).click();
  await expect(page).toHaveURL(/\/figures\/\d+$/);
  await expect(page.getByRole('heading', { level: 1 })).toContainText('B-0100');
  await expect(page.getByRole('region', { name: 'The samples it was read from' })).toBeVisible();
  await expect(page.getByText('Uncertainty budget')).toBeVisible();
  await page.goto('/figures/999999');
  await expect(page.getByText('This is not here')).toBeVisible();
});

test('cells that never cycled are named for rising early, with what to do', async ({ page }) => {
  await signIn(page, 'technician');
  await page.goto('/lots/L-004/curves');
  const odd = page.getByRole('region', { name: 'Odd curves' });
  await expect(odd.getByRole('listitem')).toHaveCount(2);
  await expect(odd).toContainText('rises early on charge');
  await expect(odd).toContainText('Condition it two or three cycles');
});

test('curves are picked out, with or without the median, and saved', async ({ page }) => {
  await signIn(page, 'technician');
  await page.goto('/lots/L-002/curves?cells=241');
  await expect(page.getByText('1 picked out')).toBeVisible();
  await expect(page.getByLabel('median band')).toBeChecked();
  await page.getByLabel('only these').check();
  await expect(page.getByText('1 of 31 curves')).toBeVisible();
  const waiting = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save what is shown as CSV' }).click();
  const csv = readFileSync(await (await waiting).path(), 'utf8');
  expect(csv).toMatch(/^cell,time_s,charge_Ah,voltage_V\n/);
  expect(
    new Set(
      csv
        .trim()
        .split('\n')
        .slice(1)
        .map((row) => row.split(',')[0]),
    ),
  ).toEqual(new Set(['B-0241']));
  await page.getByLabel('median band').uncheck();
  await expect(page).toHaveURL(/band=0/);
});
