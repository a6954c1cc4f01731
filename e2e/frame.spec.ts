import type { Page } from '@playwright/test';
import { signIn } from './helpers';
import { expect, test } from './test';

const rail = { name: 'Places' };

test('Today tells what presses first, and each thing leads to where it is done', async ({
  page,
}) => {
  await signIn(page, 'lead');
  await page.goto('/');
  const titles = page.getByRole('main').getByRole('heading', { level: 2 });
  await expect(titles).toHaveText(['Danger', 'Due now', 'Blocked', 'Can wait']);
  await expect(page.getByRole('region', { name: 'Due now' })).toContainText(
    'calibration of Load bank West, 4 ended on',
  );
  const can = page.getByRole('region', { name: 'Can wait' });
  const box = (await can.boundingBox())!;
  expect(box.y, 'the last group begins on the first screen').toBeLessThan(700);
  await page
    .getByRole('listitem')
    .filter({ hasText: 'L-003' })
    .getByRole('link', { name: /in quarantine/ })
    .click();
  await expect(page).toHaveURL(/L-003\/arrival\/inspection/);
});

test('the rail marks where one came from, and the crumbs say where one is', async ({ page }) => {
  await signIn(page, 'technician');
  await page.goto('/lots/L-001/verdict');
  const marked = page.getByRole('navigation', rail).locator('[aria-current="page"]');
  await expect(marked).toHaveText(/Verdicts/);
  await page.getByRole('slider', { name: /Tally of the lot/ }).focus();
  await page.keyboard.press('End');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/cells\/B-0240/);
  await expect(marked).toHaveText(/Verdicts/);
  await page.reload();
  await expect(marked).toHaveText(/Verdicts/);
  await page.goto('/arrivals');
  await expect(marked).toHaveText(/Arrivals/);
  await page.goto('/cells/B-0031');
  await expect(marked).toHaveText(/Arrivals/);
  const crumbs = page.getByRole('navigation', { name: 'Where this is' });
  await crumbs.getByRole('link', { name: '32700 for tide gauges' }).click();
  await expect(page).toHaveURL(/L-001\/cells/);
});

test('a lot’s head is short, and says which lot it is when scrolled away', async ({ page }) => {
  await signIn(page, 'technician');
  await page.goto('/lots/L-002/verdict');
  const stages = page.getByRole('navigation', { name: 'Stages of the lot' });
  await expect(stages).toBeVisible();
  expect((await stages.boundingBox())!.y).toBeLessThan(150);
  const facts = page.getByRole('button', { name: /32 × Sedge P104 from Hollin Reach Surplus/ });
  await expect(facts).toHaveAttribute('aria-expanded', 'false');
  await facts.click();
  await expect(facts).toHaveAttribute('aria-expanded', 'true');
  const named = page.getByRole('paragraph').filter({ hasText: /^Prismatic 104 Ah for workboats$/ });
  await expect(named).toHaveCount(0);
  await page.mouse.wheel(0, 2000);
  await expect(named).toBeVisible();
  await expect(stages).toBeInViewport();
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog')).toContainText('on the tally: back to all cells');
});

test('the key of the strip is told on demand, only what occurs in it', async ({ page }) => {
  await signIn(page, 'technician');
  await page.goto('/lots/L-002/cells');
  await expect(page.getByText('A stroke is a cell')).toHaveCount(0);
  await page.getByRole('button', { name: 'Key' }).click();
  const key = page.getByRole('dialog');
  await expect(key).toContainText('A stroke is a cell');
  await expect(key).toContainText('too close to call');
  await expect(key).not.toContainText('in quarantine');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'Key' })).toBeFocused();
});

test('ten thousand cells are one picture, and a stroke opens into its cells', async ({ page }) => {
  await signIn(page, 'technician');
  await page.goto('/kit');
  const strip = page.getByRole('slider', { name: /Tally of the lot/ }).nth(1);
  await strip.focus();
  await page.keyboard.press('ArrowRight');
  await expect(strip).toHaveAttribute(
    'aria-valuetext',
    /B-00\d+1 to B-00\d+0, \d+ cells: median 1/,
  );
  expect((await strip.boundingBox())!.height).toBeLessThan(80);
  await page.keyboard.press('Enter');
  await expect(strip).toHaveAttribute(
    'aria-valuetext',
    /^B-00\d+1: \d+\.\d % of claim, claim met$/,
  );
  await page.getByRole('button', { name: 'All 10000 cells' }).click();
  await expect(strip).toHaveAttribute('aria-valuetext', /cells: median/);
});

test('lots are found by their words, ordered, and opened by keys', async ({ page }) => {
  await signIn(page, 'technician');
  await page.goto('/arrivals');
  const rows = page.getByRole('table', { name: 'Lots' }).getByRole('row');
  await page.getByPlaceholder('Find in the table').fill('-11- complete');
  await page.getByRole('button', { name: /^Cells/ }).click();
  await expect(rows.nth(1)).toContainText('Prismatic 104 Ah for workboats');
  await expect(page).toHaveURL(/sort=cells/);
  await page.getByPlaceholder('Find in the table').fill('withy');
  await expect(rows).toHaveCount(2);
  await expect(rows.nth(1)).toContainText(/\d in quarantine, \d more/);
  await rows.nth(1).focus();
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/L-003/);
});

test('how wide a column is follows the person to another machine, and nobody else', async ({
  browser,
}) => {
  const widthOf = async (page: Page) => {
    await page.goto('/lots/L-001/cells');
    const head = page.getByRole('columnheader', { name: 'Cell', exact: true });
    await expect(head).toBeVisible();
    return { head, width: (await head.boundingBox())!.width };
  };
  const here = await browser.newPage();
  await signIn(here, 'lead');
  const { head, width } = await widthOf(here);
  const edge = (await head.getByTitle('Drag to change the width').boundingBox())!;
  await here.mouse.move(edge.x + edge.width / 2, edge.y + edge.height / 2);
  await here.mouse.down();
  await here.mouse.move(edge.x + 61, edge.y + edge.height / 2, { steps: 4 });
  const kept = here.waitForResponse(
    (reply) => reply.request().method() === 'POST' && reply.ok() && reply.url().includes('/cells'),
  );
  await here.mouse.up();
  await kept;
  const there = await browser.newPage();
  await signIn(there, 'lead');
  expect((await widthOf(there)).width).toBeGreaterThan(width + 40);
  const other = await browser.newPage();
  await signIn(other, 'technician');
  expect((await widthOf(other)).width).toBeCloseTo(width, 0);
  await Promise.all([here, there, other].map((page) => page.close()));
});
