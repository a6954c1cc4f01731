import type { Page, Route } from '@playwright/test';
import { signIn } from './helpers';
import { expect, test } from './test';

/** What a proxy says whose app is gone. */
const BAD_GATEWAY = { status: 502, contentType: 'text/html', body: '<h1>Bad gateway</h1>' };

/** An act of a page, as the browser sends it. */
const isAct = (route: Route) =>
  route.request().method() === 'POST' && 'next-action' in route.request().headers();

/** Does something else with the acts of a page. */
async function onActs(page: Page, meet: (route: Route, nth: number) => Promise<void>) {
  let acts = 0;
  await page.route('**/*', (route) => (isAct(route) ? meet(route, ++acts) : route.fallback()));
}

async function noteForm(page: Page) {
  await signIn(page, 'lead');
  await page.goto('/suppliers');
  const link = page.getByRole('link', { name: 'Reedbank Cells' }).first();
  await page.goto((await link.getAttribute('href'))!);
  const form = page.getByRole('region', { name: 'Notes' });
  const text = `Seen at the quay ${Date.now()}`;
  await form.getByLabel('What was said or seen').fill(text);
  /** The act has ended well, and what it stored is there once. */
  const isKeptOnce = async () => {
    await expect(form.getByLabel('What was said or seen')).toHaveValue('');
    await page.reload();
    await expect(page.getByRole('main').getByText(text)).toHaveCount(1);
  };
  const keep = form.getByRole('button', { name: 'Keep the note' });
  return { form, keep, isKeptOnce };
}

test('an answer that was lost is looked up: stored once, and shown', async ({ page }) => {
  const { keep, isKeptOnce } = await noteForm(page);
  await onActs(page, async (route, nth) => {
    // The server does it; what it says gets lost. The browser may send it again by itself.
    if (nth === 1) await route.fetch();
    await (nth === 1 ? route.abort('connectionreset') : route.continue());
  });
  await keep.click();
  await isKeptOnce();
  await expect(page.getByText(/Nothing was stored/)).toHaveCount(0);
});

test('what never reached the server is said to be stored nowhere, and can be sent again', async ({
  page,
}) => {
  const { form, keep, isKeptOnce } = await noteForm(page);
  await onActs(page, (route, nth) => (nth === 1 ? route.fulfill(BAD_GATEWAY) : route.continue()));
  await keep.click();
  await expect(form.getByText(/Nothing was stored; try again/)).toBeVisible();
  await keep.click();
  await isKeptOnce();
});

test('where nobody can be asked it is not said that nothing was stored, and nothing is stored twice', async ({
  page,
}) => {
  const { form, keep, isKeptOnce } = await noteForm(page);
  let isDown = true;
  await page.route('**/api/acts/*', (route) => (isDown ? route.abort() : route.continue()));
  await onActs(page, async (route, nth) => {
    if (nth === 1) await route.fetch();
    await (nth === 1 ? route.fulfill(BAD_GATEWAY) : route.continue());
  });
  await keep.click();
  await expect(form.getByText(/not known yet whether this was stored/)).toBeVisible();
  isDown = false;
  await keep.click();
  await isKeptOnce();
});

test('a press that comes twice is one', async ({ page }) => {
  const { keep, isKeptOnce } = await noteForm(page);
  await keep.dblclick();
  await isKeptOnce();
});
