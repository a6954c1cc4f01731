import { signIn, takeInLot } from './helpers';
import { expect, test } from './test';

test('a reading the server will never take comes back to its field and lets the others pass', async ({
  page,
}) => {
  await signIn(page, 'lead');
  const lot = { title: 'Refused', supplier: 'Marl Cells', quantity: 6, model: 'Reed 104' };
  const code = await takeInLot(page, lot, 'readings');
  const fields = page.getByLabel(/^AC resistance \/ mΩ, B-/);
  // What can be no resistance is not even offered to be kept.
  for (const text of ['-0.5', '0', '1e308']) {
    await fields.nth(0).fill(text);
    await fields.nth(0).press('Enter');
    await expect(page.getByText(/^Expected 0.001 to 1000000 mΩ; found/)).toBeVisible();
    await expect(page.getByRole('button', { name: 'Keep it' })).toHaveCount(0);
  }
  await fields.nth(0).fill('0.41');
  await fields.nth(0).press('Enter');
  await expect(page.getByText('All readings are stored.')).toBeVisible();

  // A server that refuses one of several for good: that one is said, the rest is stored.
  await page.route('**/api/lots/*/readings', async (route) => {
    const body = route.request().postData() ?? '';
    if (!body.includes('0.43')) return route.continue();
    await route.fulfill({
      status: 422,
      json: { ok: false, code: 'invalid', message: 'The meter was out of calibration then.' },
    });
  });
  await fields.nth(1).click();
  await page.evaluate(
    ([text]) => {
      const data = new DataTransfer();
      data.setData('text', text!);
      document.activeElement!.dispatchEvent(
        new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }),
      );
    },
    ['0.42\n0.43\n0.44'],
  );
  await expect(page.getByText('Not stored: The meter was out of calibration then.')).toBeVisible();
  await expect(page.getByText('All readings are stored.')).toBeVisible();
  await page.unroute('**/api/lots/*/readings');
  await page.goto(`/lots/${code}/readings`);
  await expect(fields.nth(1)).toHaveValue('0.42');
  // The refused one is there still, and said to be not stored.
  await expect(fields.nth(2)).toHaveValue('0.43');
  await expect(page.getByText(/^1 not stored/)).toBeVisible();
  await expect(fields.nth(3)).toHaveValue('0.44');
});

test('what is typed belongs to who typed it, also where another signs in beside', async ({
  context,
}) => {
  const mine = await context.newPage();
  await signIn(mine, 'lead');
  const lot = { title: 'Two people', supplier: 'Marl Cells', quantity: 4, model: 'Reed 104' };
  const code = await takeInLot(mine, lot, 'readings');
  const field = (page: typeof mine) => page.getByLabel(/^AC resistance \/ mΩ, B-/).first();
  await expect(field(mine)).toBeVisible();

  const theirs = await context.newPage();
  await theirs.goto('/');
  await theirs.getByRole('button', { name: 'Sign out' }).click();
  await theirs.waitForURL(/sign-in/);
  await signIn(theirs, 'technician');

  // The first page still belongs to the lead: nothing of it is stored under another name.
  await field(mine).fill('0.47');
  await field(mine).press('Enter');
  await expect(mine.getByText(/somebody else has signed in/).first()).toBeVisible();
  await theirs.goto(`/lots/${code}/readings`);
  await expect(field(theirs)).toHaveValue('');
  await expect(theirs.getByText('Not stored yet')).toHaveCount(0);
  await mine.evaluate(() => window.dispatchEvent(new Event('focus')));
  const told = mine.getByRole('alertdialog');
  await expect(told).toContainText('Tobin Sayle has signed in on this browser');
  await told.getByRole('button', { name: 'Go on as Tobin Sayle' }).click();
  await mine.waitForURL((url) => url.pathname === '/');
  await expect(mine.getByText('Not stored yet')).toHaveCount(0);

  // The lead comes back: it waits in the rail, and is stored on the page it was typed on.
  await theirs.close();
  await mine.getByRole('button', { name: 'Sign out' }).click();
  await mine.waitForURL(/sign-in/);
  await signIn(mine, 'lead');
  await mine.goto('/');
  await mine.getByRole('link', { name: new RegExp(`1 entry of ${code}`) }).click();
  await expect(field(mine)).toHaveValue('0.47');
  await expect(mine.getByText('All readings are stored.')).toBeVisible();
  await expect(mine.getByText('Not stored yet')).toHaveCount(0);
  await mine.reload();
  await expect(field(mine)).toHaveValue('0.47');
});

test('signing out while something waits is asked first', async ({ page, context }) => {
  await signIn(page, 'lead');
  const lot = { title: 'Waiting', supplier: 'Marl Cells', quantity: 4, model: 'Reed 104' };
  await takeInLot(page, lot, 'readings');
  const field = page.getByLabel(/^AC resistance \/ mΩ, B-/).first();
  await expect(field).toBeVisible();
  await context.setOffline(true);
  await field.fill('0.46');
  await field.press('Enter');
  await expect(page.getByText('No connection.')).toBeVisible();
  await page.getByRole('button', { name: 'Sign out' }).click();
  const asked = page.getByRole('alertdialog');
  await expect(asked).toContainText('1 entry waits in this browser');
  await asked.getByRole('button', { name: 'Leave it as it is' }).click();
  await context.setOffline(false);
  await expect(page.getByText('All readings are stored.')).toBeVisible();
  await page.getByRole('button', { name: 'Sign out' }).click();
  await page.waitForURL(/sign-in/);
});

test('one signs out and another signs in on the same page, each under their own name', async ({
  page,
}) => {
  await signIn(page, 'lead');
  await page.goto('/');
  await page.getByRole('button', { name: 'Sign out' }).click();
  await page.waitForURL(/sign-in/);
  // Without a reload in between: the page must not still be the lead’s.
  await page.getByRole('button', { name: /technician/ }).click();
  await page.waitForURL((url) => url.pathname === '/');
  await expect(
    page.getByRole('link', { name: 'Tobin Sayle technician, my account' }),
  ).toBeVisible();
  await page.goto('/lots/L-002/readings');
  const field = page.getByLabel('OCV / V, B-0250');
  await field.fill('3.291');
  await field.press('Enter');
  await expect(page.getByText('All readings are stored.')).toBeVisible();
});
