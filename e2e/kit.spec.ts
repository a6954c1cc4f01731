import AxeBuilder from '@axe-core/playwright';
import { choose, signIn } from './helpers';
import { expect, test } from './test';

test('the parts: named, reached and worked by keys alone, and nothing serious found', async ({
  page,
}) => {
  await page.goto('/kit');
  const light = page.getByRole('region', { name: 'light' });
  const found = await new AxeBuilder({ page }).setLegacyMode().analyze();
  expect(found.violations.map(({ id, nodes }) => [id, nodes[0]?.html])).toEqual([]);

  // A choice: opened by a key, taken by first letter, closed by Esc with the focus back.
  const choice = light.getByLabel('Choice');
  await choice.focus();
  await page.keyboard.press('ArrowDown');
  await expect(page.getByRole('option', { name: 'Second' })).toBeFocused();
  await page.keyboard.press('f');
  await expect(page.getByRole('option', { name: 'First' })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(choice).toHaveText('First');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  await expect(choice).toBeFocused();
  await choose(choice, 'none');
  await expect(choice).toHaveText('none');

  // A day: typed in several ways, refused where it is none, picked from the calendar.
  const day = light.getByLabel('Day', { exact: true });
  for (const [typed, shown] of [
    ['1.3.2026', '1 Mar 2026'],
    ['2026-03-02', '2 Mar 2026'],
    ['3 mar 26', '3 Mar 2026'],
  ] as const) {
    await day.fill(typed);
    await day.press('Tab');
    await expect(day).toHaveValue(shown);
  }
  await day.fill('31.2.2026');
  await expect(day).toHaveAttribute('aria-invalid', 'true');
  await day.fill('3.3.2026');
  await light.getByRole('button', { name: 'Open the calendar' }).first().click();
  // It comes with its first opening, and has the focus then.
  await expect(page.getByRole('gridcell').getByRole('button').first()).toBeVisible();
  await expect(page.locator('[role=grid] :focus')).toBeVisible();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Enter');
  await expect(day).toHaveValue('4 Mar 2026');

  // A number: what was understood is said beside it, what may be two values is asked.
  const ohm = light.getByLabel('AC resistance / mΩ');
  await ohm.fill('0,0042 ohm');
  await ohm.press('Tab');
  await expect(ohm).toHaveValue('4.2');
  await expect(light.getByText('0,0042 ohm is 4.2 mΩ')).toBeVisible();
  await ohm.fill('3,120 µΩ');
  await ohm.press('Tab');
  await light.getByRole('button', { name: '3.12', exact: true }).click();
  await expect(ohm).toHaveValue('3.12');

  // Panels: Esc closes, and the focus goes back to what opened them.
  for (const name of ['Panel over the page', 'Panel at the side', 'A question']) {
    const opener = light.getByRole('button', { name, exact: true });
    await opener.focus();
    await page.keyboard.press('Enter');
    await expect(page.getByRole(name === 'A question' ? 'alertdialog' : 'dialog')).toBeVisible();
    await page.keyboard.press('Escape');
    await expect(opener).toBeFocused();
  }
});

test('a long table: order, search, columns and chosen rows, by keys and in the address', async ({
  page,
}) => {
  await page.goto('/kit');
  const part = page.getByRole('region', { name: 'light' }).getByRole('region', {
    name: /^Long table/,
  });
  const row = (n: number) => part.getByRole('row').nth(n);
  await part.getByRole('button', { name: 'Capacity / Ah' }).click();
  await expect(page).toHaveURL(/sort=ah/);
  await expect(row(1)).toContainText('100.00');
  await part.getByRole('button', { name: 'Capacity / Ah' }).click();
  await expect(page).toHaveURL(/falling=1/);
  await expect(row(1)).toContainText('104.95');
  await part.getByLabel(/^Find in/).fill('B-0001 second');
  await expect(page).toHaveURL(/find=/);
  await expect(part.getByRole('table')).toHaveAttribute('aria-rowcount', '4');
  await page.reload();
  await expect(part.getByRole('table')).toHaveAttribute('aria-rowcount', '4');
  await part.getByLabel(/^Find in/).fill('');

  // Shift takes all between; the act says how many, and lets them go.
  const box = (n: number) => row(n).getByRole('checkbox');
  await box(2).click();
  await box(6).click({ modifiers: ['Shift'] });
  await expect(part.getByText('5 chosen')).toBeVisible();
  await part.getByRole('button', { name: 'Mark them' }).click();
  await expect(part.getByText('5 marked')).toBeVisible();

  // Arrows move between rows, Space takes one.
  await row(1).focus();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Space');
  await expect(part.getByText('1 chosen')).toBeVisible();
  await page.keyboard.press('End');
  await expect(part.getByRole('row', { name: /B-0000?4|–/ }).last()).toBeVisible();

  // A column is hidden and moved; the address keeps it.
  await part.getByRole('button', { name: 'Columns' }).click();
  await page.getByRole('menuitemcheckbox', { name: 'Grade' }).click();
  await page.getByRole('menuitem', { name: 'Cell further to the end' }).click();
  await page.keyboard.press('Escape');
  await expect(page).toHaveURL(/columns=ah%2Cnumber/);
  await expect(part.getByRole('columnheader', { name: 'Grade' })).toHaveCount(0);
});

test('on a phone the places stand behind one button, and no page is wider than the screen', async ({
  page,
}) => {
  await page.setViewportSize({ width: 390, height: 800 });
  await signIn(page, 'lead');
  await page.goto('/');
  await expect(page.getByRole('link', { name: /^Verdicts/ })).toBeHidden();
  await page.getByRole('button', { name: 'Places' }).click();
  const places = page.getByRole('dialog', { name: 'Places' });
  await expect(places.getByRole('button', { name: 'Sign out' })).toBeVisible();
  await places.getByRole('link', { name: /^Verdicts/ }).click();
  await page.waitForURL(/\/verdicts/);
  await expect(places).toBeHidden();
  for (const path of ['/', '/cells/B-0001', '/cells/B-0242', '/lots/L-001/cells', '/account']) {
    await page.goto(path);
    await expect(page.locator('main')).toBeVisible();
    // A chart takes its width a moment after it is drawn.
    await expect
      .poll(() => page.evaluate(() => document.documentElement.scrollWidth), { message: path })
      .toBeLessThanOrEqual(390);
  }
});
