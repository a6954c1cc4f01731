import { signIn } from './helpers';
import { expect, test } from './test';

test('an admin changes the lab’s place; what it changes is said before, the history after', async ({
  page,
}) => {
  await signIn(page, 'admin');
  await page.goto('/lab');
  await page.getByRole('link', { name: 'Settings' }).click();
  await page.waitForURL(/\/lab\/settings/);
  await expect(page.getByText('Nothing is changed yet.')).toBeVisible();
  const place = page.getByLabel('Place and address');
  const before = await place.inputValue();
  await place.fill('Quay 4, Saltmarsh');
  await page.getByLabel('Guard factor g').fill('3');
  await expect(page.getByText(/issued ones keep theirs/)).toBeVisible();
  await expect(page.getByText(/lots are judged anew at once/)).toBeVisible();
  await page.getByLabel('Why').fill('The lab moved.');
  await page.getByRole('button', { name: 'Keep the settings' }).click();
  // The words stand at the field, and the field has the focus.
  await expect(page.getByText('Expected at most 2.')).toBeVisible();
  await expect(page.getByLabel('Guard factor g')).toBeFocused();
  await page.getByLabel('Guard factor g').fill('1');
  await page.getByRole('button', { name: 'Keep the settings' }).click();
  const row = page.getByRole('row').filter({ hasText: 'The lab moved.' }).first();
  await expect(row).toContainText(`Place and address: ${before} → Quay 4, Saltmarsh`);
  await page.reload();
  await expect(place).toHaveValue('Quay 4, Saltmarsh');

  // A room with one end only is no range.
  await page.getByLabel('Room, coldest / °C').fill('19');
  await expect(page.getByText(/nobody recorded a temperature, it is taken/)).toBeVisible();
  await page.getByLabel('Why').fill('A thermostat.');
  await page.getByRole('button', { name: 'Keep the settings' }).click();
  await expect(page.getByText('Expected both ends of the room’s range, or neither.')).toBeVisible();
  await page.getByLabel('Room, coldest / °C').fill('');

  await page.getByLabel('Place and address').fill(before);
  await page.getByLabel('Why').fill('And back again.');
  await page.getByRole('button', { name: 'Keep the settings' }).click();
  await expect(page.getByRole('row').filter({ hasText: 'And back again.' })).toBeVisible();
});

test('who is no admin is told', async ({ page }) => {
  await signIn(page, 'lead');
  await page.goto('/lab/settings');
  await expect(page.getByText('changed by an admin')).toBeVisible();
});
