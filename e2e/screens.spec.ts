import { AxeBuilder } from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { signIn } from './helpers';
import { expect, test } from './test';

const VIEWS = [
  '/',
  '/arrivals',
  '/arrivals/new',
  '/lots/L-001/claim',
  '/lots/L-005/arrival/box',
  '/lots/L-003/arrival/packs',
  '/lots/L-005/arrival/codes',
  '/lots/L-003/arrival/inspection',
  '/lots/L-002/arrival/readings',
  '/lots/L-003/arrival/triage',
  '/lots/L-004/arrival/sampling',
  '/lots/L-004/pick-list',
  '/lab/chemistry',
  '/lab/codes',
  '/lab/models',
  '/lab/tokens',
  '/bench',
  '/shelf',
  '/shelf/protocols',
  '/bench/round',
  '/bench/runs/3',
  '/bench/plan',
  '/bench/recipes',
  '/bench/recipes/1',
  '/bench/channels',
  '/bench/parallel',
  '/bench/load-test',
  '/bench/load-test/new',
  '/bench/runs/6',
  '/lots/L-001/readings',
  '/lots/L-001/logs',
  '/lots/L-001/cells',
  '/lots/L-002/curves',
  '/lots/L-002/strings',
  '/strings/1',
  '/lots/L-002/verdict',
  '/lots/L-002/money',
  '/lots/L-002/money/dispute',
  '/lots/L-002/money/dispute/X-2026-0001',
  '/lots/L-002/report',
  '/verdicts',
  '/reports',
  '/suppliers',
  '/lab',
  '/cells/B-0241',
  '/runs/1',
  '/figures/1',
  '/lab/channels',
  '/lab/settings',
  '/account',
];

/** What stands in somebody’s way on a page, in light and in dark. */
async function barriers(page: Page, view: string): Promise<string[]> {
  await page.emulateMedia({ colorScheme: 'light' });
  await page.goto(view);
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
  // The live views keep a line open: they are never without a request.
  if (!/^\/bench($|\/runs)/.test(view)) await page.waitForLoadState('networkidle');
  // No frames on any screen: nothing to gather in a page of its own.
  const light = await new AxeBuilder({ page })
    .setLegacyMode()
    .options({ resultTypes: ['violations'] })
    .analyze();
  // Only colours differ by theme.
  await page.emulateMedia({ colorScheme: 'dark' });
  const dark = await new AxeBuilder({ page })
    .setLegacyMode()
    .options({ resultTypes: ['violations'], runOnly: ['color-contrast'] })
    .analyze();
  return [...light.violations, ...dark.violations].map(
    ({ id, nodes }) => `${view} ${id}: ${nodes[0]?.html}`,
  );
}

test('no barrier on any screen, light or dark', async ({ page, context }) => {
  test.setTimeout(900_000);
  await signIn(page, 'admin');
  // Two at a time: while one page waits for the server the other is looked at.
  const views = VIEWS[Symbol.iterator]();
  const found: string[] = [];
  const lookOn = async (on: Page) => {
    for (const view of views) found.push(...(await barriers(on, view)));
  };
  await Promise.all([lookOn(page), lookOn(await context.newPage())]);
  expect(found).toEqual([]);
});

test('the tally picks cells by keyboard and opens them', async ({ page }) => {
  await signIn(page, 'technician');
  await page.goto('/lots/L-001/cells');
  const strip = page.getByRole('slider', { name: /Tally of the lot/ });
  await strip.focus();
  await page.keyboard.press('End');
  await expect(strip).toHaveAttribute('aria-valuetext', /B-0240: .* of claim/);
  await page.keyboard.press('Home');
  await page.keyboard.press('ArrowRight');
  await expect(strip).toHaveAttribute('aria-valuenow', '2');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/cells\/B-0002/);
  await page.keyboard.press('j');
  await expect(page).toHaveURL(/\/cells\/B-0003/);
});

test('curves: a subset is picked out, and three decimals stand at the pointer', async ({
  page,
}) => {
  await signIn(page, 'technician');
  await page.goto('/lots/L-002/curves');
  await expect(page.getByText('31 of 31 curves')).toBeVisible();
  await page.getByLabel('Cells', { exact: true }).fill('241-244');
  await expect(page.getByText('4 picked out')).toBeVisible();
  await page.getByLabel('only these').check();
  await expect(page.getByText('4 of 31 curves')).toBeVisible();
  await expect(page).toHaveURL(/only=1/);
  const chart = page.getByRole('img', { name: /Voltage against charge for 4 cells/ });
  const box = (await chart.boundingBox())!;
  const found = page.getByText(/^\d+\.\d{3} Ah, \d\.\d{3} V$/);
  for (let y = 0.1; y < 0.9 && !(await found.isVisible()); y += 0.04)
    await page.mouse.move(box.x + box.width * 0.5, box.y + box.height * y);
  await expect(found).toBeVisible();
});

test('find goes to a cell by number and by its own mark', async ({ page }) => {
  await signIn(page, 'technician');
  await page.goto('/lots/L-002/cells');
  await page.keyboard.press('Control+k');
  await page.getByPlaceholder('Cell, lot, report, place').fill('0004218');
  await page.getByRole('option', { name: /B-0242/ }).click();
  await expect(page).toHaveURL(/\/cells\/B-0242/);
});

test('who is not signed in sees nothing; who may not act is told', async ({ page, request }) => {
  expect((await request.get('/api/lots/1/curves')).status()).toBe(401);
  await page.goto('/lots/L-001/cells');
  await expect(page).toHaveURL(/\/sign-in/);
  await page.getByLabel('E-mail').fill('lead@fennick.example');
  await page.getByLabel('Password').fill('wrong');
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await expect(page.getByText('do not fit together')).toBeVisible();
  await signIn(page, 'technician');
  await page.goto('/arrivals/new');
  await expect(page.getByText('needs the role lead')).toBeVisible();
  await page.goto('/cells/B-999999');
  await expect(page.getByText('This is not here')).toBeVisible();
  await page.goto('/');
  await page.getByRole('button', { name: 'Sign out' }).click();
  await expect(page).toHaveURL(/\/sign-in/);
});
