import type { Page } from '@playwright/test';
import { signIn } from './helpers';
import { pageCost } from './page-cost';
import { scan } from './receiving';
import { expect, test } from './test';

/** Holds back every piece of the interface a page asks for from now on, so long. */
async function slowParts(page: Page, ms: number): Promise<void> {
  await page.route('**/_next/static/chunks/**', async (route) => {
    await new Promise((passed) => setTimeout(passed, ms));
    await route.continue();
  });
}

/** Opens a page that is shown, and alive only when the answer is called. */
async function shownAndStill(page: Page, path: string): Promise<() => void> {
  let letGo = () => {};
  const gone = new Promise<void>((resolve) => (letGo = resolve));
  await page.route('**/_next/static/chunks/**/*.js', async (route) => {
    await gone;
    await route.continue();
  });
  await page.goto(path, { waitUntil: 'commit' });
  await expect(page.getByRole('button', { name: /Find/ })).toBeVisible();
  return letGo;
}

test('a scan on a page that is shown and not yet alive is taken once it is', async ({ page }) => {
  await signIn(page, 'technician');
  const alive = await shownAndStill(page, '/reports');
  await scan(page, 'b-0243');
  await expect(page).toHaveURL(/reports$/);
  alive();
  await expect(page).toHaveURL(/cells\/B-0243$/);
});

test('a page that comes alive in the middle of a scan takes its keys in their order', async ({
  page,
}) => {
  await signIn(page, 'technician');
  for (const number of ['0241', '0242', '0243', '0244']) {
    const alive = await shownAndStill(page, '/reports');
    await scan(page, `b-${number}`, alive);
    await expect(page).toHaveURL(new RegExp(`cells/B-${number}$`));
  }
});

test('what is asked of a page that is not yet alive comes: the keys, the finder and its words', async ({
  page,
}) => {
  await signIn(page, 'technician');
  let alive = await shownAndStill(page, '/reports');
  await page.keyboard.press('?');
  alive();
  await expect(page.getByRole('dialog', { name: 'Keys on this screen' })).toBeVisible();
  alive = await shownAndStill(page, '/reports');
  await page.keyboard.press('Control+k');
  await page.keyboard.type('B-0243');
  await page.keyboard.press('Enter');
  alive();
  await expect(page).toHaveURL(/cells\/B-0243$/);
});

test('what was typed before the finder was there is typed into it, Enter too', async ({ page }) => {
  await signIn(page, 'technician');
  await page.goto('/reports');
  await expect(page.getByRole('button', { name: /Find/ })).toBeVisible();
  await slowParts(page, 700);
  await page.keyboard.press('Control+k');
  await page.keyboard.type('B-02432');
  await page.keyboard.press('Backspace');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/cells\/B-0243$/);
});

test('Escape before the finder is there leaves it closed', async ({ page }) => {
  await signIn(page, 'technician');
  await page.goto('/reports');
  await expect(page.getByRole('button', { name: /Find/ })).toBeVisible();
  await slowParts(page, 400);
  await page.keyboard.press('Control+k');
  await page.keyboard.type('B-0243');
  const came = page.waitForResponse(/_next\/static\/chunks/);
  await page.keyboard.press('Escape');
  await came;
  await page.waitForLoadState('networkidle');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await expect(page).toHaveURL(/reports$/);
});

test('a panel asked for without a connection says so, and comes once it is back', async ({
  page,
}) => {
  await signIn(page, 'technician');
  await page.goto('/lots/L-001/verdict');
  const key = page.getByRole('button', { name: 'Key', exact: true }).first();
  await expect(key).toBeVisible();
  await page.waitForLoadState('networkidle');
  await page.context().setOffline(true);
  await key.click();
  await expect(page.getByText(/^What was asked for did not come: no connection/)).toBeVisible();
  await expect(page.getByRole('dialog')).toHaveCount(0);
  // The page itself stands as it stood.
  await expect(page.getByRole('slider', { name: /Tally of the lot/ })).toBeVisible();
  await page.context().setOffline(false);
  await key.click();
  const panel = page.getByRole('dialog');
  await expect(panel).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(panel).toHaveCount(0);
  await expect(page.getByRole('button', { name: 'Key', exact: true }).first()).toBeFocused();
});

test('a choice opens by an arrow before its list is there, and keeps the focus', async ({
  page,
}) => {
  await signIn(page, 'technician');
  await page.goto('/lots/L-001/cells');
  const choice = page.getByRole('combobox').first();
  await expect(choice).toBeVisible();
  const before = await choice.textContent();
  await slowParts(page, 300);
  await choice.focus();
  await page.keyboard.press('ArrowDown');
  await expect(page.getByRole('listbox')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(choice).toBeFocused();
  await expect(choice).toHaveText(before!);
  await page.keyboard.press('Enter');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('listbox')).toHaveCount(0);
  await expect(choice).toBeFocused();
});

test('pages take no more JavaScript than they did before the parts', async ({ page }) => {
  await signIn(page, 'lead');
  const most = {
    '/': 198,
    '/arrivals': 196,
    '/lots/L-002/cells': 217,
    '/lots/L-002/readings': 270,
    '/lots/L-002/verdict': 376,
  };
  for (const [path, kilobytes] of Object.entries(most))
    expect((await pageCost(page, path)).scriptsKb, path).toBeLessThanOrEqual(kilobytes);
});

test('a scan on any page goes to the cell; one that nothing carries is told', async ({ page }) => {
  await signIn(page, 'technician');
  await page.goto('/reports', { waitUntil: 'networkidle' });
  await scan(page, 'NOBODY-00417');
  await expect(page.getByText('NOBODY-00417 is on no cell yet.')).toBeVisible();
  await scan(page, 'b-0243');
  await expect(page).toHaveURL(/cells\/B-0243$/);
});

test('a scan the server will not take is told its reason, one nobody hears the lost connection', async ({
  page,
}) => {
  await signIn(page, 'technician');
  await page.goto('/reports', { waitUntil: 'networkidle' });
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await scan(page, `LONG-${'0'.repeat(200)}1`);
  await expect(page.getByText(/at most 200/)).toBeVisible();
  await page.context().setOffline(true);
  await scan(page, 'NOBODY-00418');
  await expect(page.getByText('No connection: nobody knows what was scanned.')).toBeVisible();
  await page.context().setOffline(false);
  await expect(page).toHaveURL(/reports$/);
});

test('the finder says when nobody could be asked, and why it was refused', async ({ page }) => {
  await signIn(page, 'technician');
  await page.goto('/reports');
  await page.getByRole('button', { name: /Find/ }).click();
  const typed = page.getByRole('dialog').getByPlaceholder('Cell, lot, report, place');
  await typed.fill('no such thing');
  await expect(page.getByText('Nothing fits “no such thing”.')).toBeVisible();
  await typed.fill('x'.repeat(81));
  await expect(page.getByRole('dialog').getByText(/at most 80/)).toBeVisible();
  await page.context().setOffline(true);
  await typed.fill('B-0243');
  await expect(page.getByText('No connection: only places of the app are found.')).toBeVisible();
  await page.context().setOffline(false);
  await expect(page.getByRole('option', { name: /B-0243/ })).toBeVisible();
});
