import type { Page } from '@playwright/test';
import { signIn, takeInLot } from './helpers';
import { expect, test } from './test';

const field = (page: Page, i: number) => page.getByLabel(/^AC resistance \/ mΩ, B-/).nth(i);
const lot = { title: 'Grid of two', supplier: 'Reedbank Cells', quantity: 6, model: 'Sedge G104' };

async function both(browser: import('@playwright/test').Browser) {
  const [one, two] = await Promise.all(
    (['lead', 'technician'] as const).map(async (role) => {
      const page = await (await browser.newContext()).newPage();
      await signIn(page, role);
      return page;
    }),
  );
  const code = await takeInLot(one!, lot, 'readings');
  await expect(field(one!, 0)).toBeVisible();
  await two!.goto(`/lots/${code}/readings`);
  await expect(field(two!, 0)).toBeVisible();
  return { one: one!, two: two!, code };
}

async function type(page: Page, i: number, text: string) {
  await field(page, i).fill(text);
  await field(page, i).press('Enter');
}

test('two people in one grid see each other; what both typed is shown and asked', async ({
  browser,
}) => {
  const { one, two } = await both(browser);
  await type(one, 0, '0.441');
  await expect(field(two, 0)).toHaveValue('0.441');
  // With who it was, in the row itself.
  await expect(two.getByText('Ines Tregarth', { exact: true })).toBeVisible();

  // The same cell, at once: the second one is asked.
  await field(two, 1).focus();
  await type(one, 1, '0.442');
  await expect(one.getByText('All readings are stored.')).toBeVisible();
  await field(two, 1).fill('0.449');
  await field(two, 1).press('Enter');
  const asked = two.getByRole('alert').filter({ hasText: 'typed 0.442 here meanwhile' });
  await expect(asked).toBeVisible();
  await expect(two.getByText('1 not stored: 1 asked about.')).toBeVisible();
  await asked.getByRole('button', { name: 'Keep 0.449' }).click();
  await expect(two.getByText('All readings are stored.')).toBeVisible();
  await expect(field(one, 1)).toHaveValue('0.449');
});

test('a stale entry typed offline never takes the place of a later one in silence', async ({
  browser,
}) => {
  const { one, two, code } = await both(browser);
  await two.context().setOffline(true);
  await type(two, 2, '0.450');
  await expect(two.getByText(/1 reading is waiting in this browser/)).toBeVisible();
  await type(one, 2, '0.443');
  await expect(one.getByText('All readings are stored.')).toBeVisible();
  await two.context().setOffline(false);
  const asked = two.getByRole('alert').filter({ hasText: 'typed 0.443 here meanwhile' });
  await expect(asked).toBeVisible();
  await asked.getByRole('button', { name: 'Take 0.443' }).click();
  await expect(field(two, 2)).toHaveValue('0.443');
  await one.goto(`/lots/${code}/readings`);
  await expect(field(one, 2)).toHaveValue('0.443');
});

test('one undo for one paste; what was not stored is counted, and there after a reload', async ({
  browser,
}) => {
  const { one } = await both(browser);
  await type(one, 0, '0.441');
  await type(one, 1, '0.442');
  await type(one, 2, '0.443');
  await expect(one.getByText('All readings are stored.')).toBeVisible();
  const paste = (text: string) =>
    field(one, 3).evaluate((element, data) => {
      const clipboard = new DataTransfer();
      clipboard.setData('text', data);
      element.dispatchEvent(
        new ClipboardEvent('paste', { clipboardData: clipboard, bubbles: true, cancelable: true }),
      );
    }, text);
  await field(one, 3).focus();
  await paste('0.444\n0.445\n0.446\n0.447');
  await expect(field(one, 5)).toHaveValue('0.446');
  await expect(one.getByText('1 not stored: 1 did not fit below or beside.')).toBeVisible();
  await field(one, 3).focus();
  await one.keyboard.press('Control+z');
  for (const i of [3, 4, 5]) await expect(field(one, i)).toHaveValue('');
  await expect(field(one, 2)).toHaveValue('0.443');
  await expect(one.getByText('All readings are stored.')).toBeVisible();
  await one.getByRole('button', { name: 'Leave those out' }).click();
  await expect(one.getByText(/not stored/)).toHaveCount(0);

  await paste('44\na lot\n0.446');
  await expect(
    one.getByText('2 not stored: 1 asked about, 1 not understood or not taken.'),
  ).toBeVisible();
  await expect(one.getByText('All readings are stored.')).toBeVisible();
  await one.reload();
  await expect(field(one, 4)).toHaveValue('a lot');
  await expect(field(one, 5)).toHaveValue('0.446');
  await expect(
    one.getByText('2 not stored: 1 asked about, 1 not understood or not taken.'),
  ).toBeVisible();
});

test('two tabs of one person without a connection: what was typed in either is stored', async ({
  browser,
}) => {
  const context = await browser.newContext();
  const first = await context.newPage();
  await signIn(first, 'lead');
  const code = await takeInLot(first, lot, 'readings');
  const second = await context.newPage();
  for (const page of [first, second]) {
    await page.goto(`/lots/${code}/readings`);
    await expect(field(page, 0)).toBeVisible();
  }
  const readings = '**/api/lots/*/readings';
  await context.route(readings, (route) =>
    route.request().method() === 'POST' ? route.abort() : route.continue(),
  );
  await type(first, 0, '0.441');
  await type(first, 1, '0.442');
  await expect(first.getByText(/2 readings are waiting in this browser/)).toBeVisible();
  await type(second, 2, '0.443');
  await expect(second.getByText(/1 reading is waiting in this browser/)).toBeVisible();
  await first.close();
  await second.close();
  const later = await context.newPage();
  await context.unroute(readings);
  await later.goto(`/lots/${code}/readings`);
  await expect(later.getByText('All readings are stored.')).toBeVisible();
  await later.reload();
  for (const [i, value] of ['0.441', '0.442', '0.443'].entries())
    await expect(field(later, i)).toHaveValue(value);
  await context.close();
});

test('a browser without room to keep anything says so, and sends all the same', async ({
  page,
}) => {
  await signIn(page, 'lead');
  await takeInLot(page, lot, 'readings');
  await expect(field(page, 0)).toBeVisible();
  await page.evaluate(() => {
    Storage.prototype.setItem = () => {
      throw new DOMException('full', 'QuotaExceededError');
    };
  });
  await page.route('**/api/lots/*/readings', (route) =>
    route.request().method() === 'POST' ? route.abort() : route.continue(),
  );
  await type(page, 0, '0.441');
  await expect(page.getByText(/leave this page open/)).toBeVisible();
  await page.unroute('**/api/lots/*/readings');
  await expect(page.getByText('All readings are stored.')).toBeVisible();
  await page.reload();
  await expect(field(page, 0)).toHaveValue('0.441');
});
