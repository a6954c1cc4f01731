import { randomUUID } from 'node:crypto';
import { signIn } from './helpers';
import { expect, test } from './test';

/** A day so many from today, as people type it. */
const day = (fromToday: number): string =>
  new Date(Date.now() + fromToday * 86_400_000).toISOString().slice(0, 10);

test('a job that waits is made due and pressing, and says so after a reload', async ({ page }) => {
  await signIn(page, 'technician');
  await page.goto('/bench/plan');
  const due30 = day(30);
  const pick = async () => {
    await page.getByRole('button', { name: /^B-0029,/ }).click();
    return page.getByRole('region', { name: 'Job of B-0029' });
  };
  const job = await pick();
  await expect(job.getByText(/Pressing\.|Due 2/)).toHaveCount(0);
  const due = job.getByRole('form', { name: 'When it is due' });
  await due.getByRole('textbox', { name: 'Due' }).fill(due30);
  await due.getByRole('checkbox', { name: 'Pressing' }).click();
  await due.getByRole('button', { name: 'Keep' }).click();
  await expect(page.getByText('B-0029: kept. The next planning takes it up.')).toBeVisible();
  await expect(job.getByText(`Due ${due30}. Pressing.`)).toBeVisible();
  await page.reload();
  await expect((await pick()).getByText(`Due ${due30}. Pressing.`)).toBeVisible();
});

test('a recipe is taken off the list, taken back at once, and taken up again later', async ({
  page,
}) => {
  await signIn(page, 'lead');
  const name = `Trial ${randomUUID().slice(0, 6)}`;
  await page.goto('/bench/recipes/new');
  await page.getByLabel('Name').fill(name);
  await page.getByRole('button', { name: 'Keep the recipe' }).click();
  const recipe = page.getByRole('link', { name });
  const offList = page.getByRole('region', { name: 'Recipes off the list' });
  await recipe.click();
  await page.getByRole('button', { name: 'Take off the list' }).click();
  await expect(offList.getByText(name)).toBeVisible();
  await expect(recipe).toHaveCount(0);
  await page.getByRole('button', { name: 'Take it back' }).click();
  await expect(recipe).toBeVisible();
  await expect(offList.getByText(name)).toHaveCount(0);

  await recipe.click();
  await page.getByRole('button', { name: 'Take off the list' }).click();
  await expect(offList.getByText(name)).toBeVisible();
  await page.goto('/bench/plan');
  await page.getByRole('combobox', { name: 'Recipe' }).click();
  await expect(page.getByRole('option', { name: 'Claim check', exact: true })).toBeVisible();
  await expect(page.getByRole('option', { name })).toHaveCount(0);
  await page.keyboard.press('Escape');
  await page.goto('/bench/recipes');
  await page.getByRole('button', { name: `Take up ${name} again` }).click();
  await expect(recipe).toBeVisible();
});

test('a recipe that jobs wait for stays, and says why', async ({ page }) => {
  await signIn(page, 'lead');
  await page.goto('/bench/recipes');
  await page.getByRole('link', { name: 'Claim check', exact: true }).click();
  await page.getByRole('button', { name: 'Take off the list' }).click();
  await expect(page.getByText(/jobs wait for “Claim check” or run by it/)).toBeVisible();
  await expect(page).toHaveURL(/recipes\/\d+$/);
});

test('what held of an instrument is listed, and an earlier mistake is mended from there', async ({
  page,
}) => {
  await signIn(page, 'lead');
  await page.goto('/lab');
  const open = async () => {
    await page.getByRole('button', { name: 'Change Bench scale' }).click();
    const dialog = page.getByRole('dialog', { name: 'Change Bench scale' });
    await expect(dialog.getByLabel('Why')).toBeVisible();
    return dialog;
  };
  const [renewed, until] = [day(-10), day(355)];
  let dialog = await open();
  await expect(dialog.getByRole('region', { name: 'What held' })).toHaveCount(0);
  await dialog.getByLabel('Calibrated on').fill(renewed);
  await dialog.getByLabel('Due on').fill(until);
  await dialog.getByLabel('Holds from; empty is today').fill(renewed);
  await dialog.getByLabel('Why').fill('the certificate came');
  await dialog.getByRole('button', { name: 'Keep the change' }).click();
  await expect(dialog).toHaveCount(0);
  // The page shows it: what is opened now is opened on it.
  await expect(page.getByRole('row').filter({ hasText: 'Bench scale' })).toContainText(until);

  dialog = await open();
  const held = dialog.getByRole('region', { name: 'What held' });
  await expect(held.getByRole('listitem')).toHaveCount(2);
  await expect(held.getByRole('listitem').first()).toContainText(
    `since ${renewed}calibrated on ${renewed}, due on ${until}; the certificate came`,
  );
  await held.getByRole('button', { name: 'Mend what held from the beginning' }).click();
  await expect(dialog.getByLabel('Calibrated on')).toHaveValue('');
  await dialog.getByLabel('Calibrated on').fill(day(-300));
  await dialog.getByLabel('Why').fill('read from the wrong sheet');
  await dialog.getByRole('button', { name: 'Keep the change' }).click();
  await expect(dialog).toHaveCount(0);
  dialog = await open();
  await expect(held.getByRole('listitem')).toHaveCount(2);
  await expect(held.getByRole('listitem').nth(1)).toContainText(`calibrated on ${day(-300)}`);
  await expect(held.getByRole('listitem').first()).toContainText(`calibrated on ${renewed}`);
});
