import type { Page } from '@playwright/test';
import { choose, signIn, takeInLot } from './helpers';
import { expect, test } from './test';

const place = (page: Page) => page.getByRole('textbox', { name: 'Place and address' });
const settings = async (page: Page) => {
  await page.goto('/lab/settings');
  await expect(place(page)).toBeVisible();
};
const keep = (page: Page) => page.getByRole('button', { name: 'Keep the settings' }).click();

test('what is typed outlives a reload, and leaving it is asked about', async ({ page }) => {
  await signIn(page, 'admin');
  await settings(page);
  const before = await place(page).inputValue();
  await place(page).fill('Half a thought');
  await page.reload();
  await expect(place(page)).toHaveValue('Half a thought');
  await expect(page.getByText('What you typed earlier and did not keep is back.')).toBeVisible();
  const lab = page.getByRole('navigation', { name: 'Where this is' }).getByRole('link');
  await lab.click();
  const asked = page.getByRole('alertdialog');
  await expect(asked).toContainText('Leave without storing it?');
  await asked.getByRole('button', { name: 'Stay here' }).click();
  await expect(page).toHaveURL(/settings/);
  await lab.click();
  await asked.getByRole('button', { name: 'Leave', exact: true }).click();
  await expect(page).toHaveURL(/\/lab$/);
  await settings(page);
  await expect(place(page)).toHaveValue('Half a thought');
  await page.getByRole('button', { name: 'Begin anew' }).click();
  await expect(place(page)).toHaveValue(before);
  await page.reload();
  await expect(place(page)).toHaveValue(before);
});

test('two people change the settings: both versions are shown, field by field', async ({
  browser,
}) => {
  const [one, two] = await Promise.all(
    [0, 1].map(async () => {
      const page = await (await browser.newContext()).newPage();
      await signIn(page, 'admin');
      await settings(page);
      return page;
    }),
  );
  const before = await place(one!).inputValue();
  await place(one!).fill('Harbour 1');
  await one!.getByLabel('Why').fill('by the first');
  await keep(one!);
  await expect(one!.getByRole('row').filter({ hasText: 'by the first' }).first()).toBeVisible();

  await place(two!).fill('Harbour 2');
  await two!.getByLabel('Why').fill('by the second');
  await keep(two!);
  const both = two!.getByRole('region', { name: 'Both versions' });
  await expect(both).toContainText('Stored meanwhile: Harbour 1');
  await expect(both).toContainText('Typed by you: Harbour 2');
  await expect(two!.getByLabel('Why')).toHaveValue('by the second');
  await both.getByRole('radio', { name: /Stored meanwhile/ }).click();
  await expect(place(two!)).toHaveValue('Harbour 1');
  await both.getByRole('radio', { name: /Typed by you/ }).click();
  await keep(two!);
  await expect(two!.getByRole('row').filter({ hasText: 'by the second' }).first()).toContainText(
    'Harbour 1 → Harbour 2',
  );
  await place(two!).fill(before);
  await two!.getByLabel('Why').fill('back again');
  await keep(two!);
  await expect(two!.getByRole('row').filter({ hasText: 'back again' }).first()).toBeVisible();
});

test('a wrong field has the focus and its words; what only the server knows lands on its field', async ({
  page,
}) => {
  await signIn(page, 'lead');
  await page.goto('/lab');
  const form = page.getByRole('form', { name: 'A new instrument' });
  await form.getByRole('button', { name: 'Add the instrument' }).click();
  await expect(form.getByLabel('Name')).toBeFocused();
  await expect(form.getByText('Expected a name.')).toBeVisible();
  await form.getByLabel('Name').fill('Load bank West');
  await form.getByRole('button', { name: 'Add the instrument' }).click();
  // An accuracy of nothing is none.
  await expect(form.getByText(/how far the current may be off/)).toBeVisible();
  await expect(form.getByLabel('Current, ± % of reading')).toBeFocused();
  await form.getByLabel('Current, ± % of reading').fill('0,2');
  await form.getByLabel('Voltage, ± mV').fill('3 mV');
  await form.getByRole('button', { name: 'Add the instrument' }).click();
  await expect(form.getByText('An instrument named Load bank West is here already.')).toBeVisible();
  await expect(form.getByLabel('Name')).toBeFocused();
});

test('a calibration is renewed from a day on, and what that computes again is said before', async ({
  page,
}) => {
  await signIn(page, 'lead');
  await page.goto('/lab');
  await page.getByRole('button', { name: 'Change Load bank East' }).click();
  const form = page.getByRole('dialog');
  await expect(form.getByRole('status').filter({ hasText: 'computed again' })).toContainText(
    /\d+ runs of that day and later, in \d lots?, computed again/,
  );
  await form.getByLabel('Holds from; empty is today').fill('1 Jan 2099');
  await form.getByLabel('Why').fill('the certificate came');
  await form.getByRole('button', { name: 'Keep the change' }).click();
  await expect(form.getByText(/Expected a day from 1990-01-01 to today/)).toBeVisible();
  await form.getByLabel('Holds from; empty is today').fill('');
  await form.getByLabel('Due on').fill('31 Dec 2027');
  await form.getByRole('button', { name: 'Keep the change' }).click();
  await expect(form).toHaveCount(0);
  const row = page.getByRole('row').filter({ hasText: 'Load bank East' });
  await expect(row).toContainText('2027-12-31');
  await row.getByRole('button', { name: 'Change Load bank East' }).click();
  await page
    .getByRole('dialog')
    .getByRole('button', { name: /^History/ })
    .click();
  await expect(page.getByRole('dialog')).toContainText('because: the certificate came');
});

test('a supplier typed twice is taken together, a lot’s name is mended', async ({ page }) => {
  await signIn(page, 'lead');
  const lot = { title: 'Two names', quantity: 2, model: 'Sedge T104' };
  const code = await takeInLot(page, { ...lot, supplier: 'Tide Water Trade' }, 'claim');
  await takeInLot(page, { ...lot, title: 'One name', supplier: 'Tidewater Trading' }, 'claim');
  await page.goto('/suppliers');
  await page.getByRole('link', { name: 'Tide Water Trade' }).click();
  await page.getByRole('button', { name: 'Tide Water Trade is the same as another' }).click();
  const merge = page.getByRole('dialog');
  await choose(merge.getByLabel('It is the same as'), 'Tidewater Trading');
  await expect(merge.getByRole('status')).toContainText(
    '1 lot goes from Tide Water Trade to Tidewater Trading',
  );
  await merge.getByRole('button', { name: 'Take them together' }).click();
  await expect(merge.getByText('Say why, in a few words.')).toBeVisible();
  await merge.getByLabel('Why').fill('one house, two names');
  await merge.getByRole('button', { name: 'Take them together' }).click();
  await expect(merge).toBeHidden();
  await page.goto('/suppliers');
  await expect(page.getByRole('link', { name: 'Tidewater Trading' })).toBeVisible();
  await expect(page.getByRole('link', { name: 'Tide Water Trade' })).toHaveCount(0);

  await page.goto(`/lots/${code}/claim`);
  await page.getByRole('button', { name: 'The order, its name and its supplier' }).click();
  await expect(page.getByLabel('Supplier', { exact: true })).toContainText('Tidewater Trading');
  await page.getByLabel('Short name').fill('Two names of one');
  await page.getByLabel('Why', { exact: true }).fill('misread at the door');
  await page.getByRole('button', { name: 'Keep the order' }).click();
  await expect(page.getByRole('heading', { name: 'Two names of one', level: 1 })).toBeVisible();
  await page
    .getByRole('button', { name: /^History/ })
    .first()
    .click();
  await expect(page.getByText(/because: misread at the door/)).toBeVisible();
});

test('a mark is changed with a reason', async ({ page }) => {
  await signIn(page, 'technician');
  await page.goto('/cells/B-0242');
  const form = page.getByRole('form', { name: 'Mark' });
  const mark = form.getByLabel('Mark on the cell');
  const before = await mark.inputValue();
  await mark.fill('ZX-0001');
  await form.getByRole('button', { name: 'Keep' }).click();
  await expect(form.getByText(/say why it is to be another/)).toBeVisible();
  await form.getByLabel('Why').fill('a smudged figure');
  await form.getByRole('button', { name: 'Keep' }).click();
  await expect(form.getByRole('button', { name: 'Keep' })).toHaveCount(0);
  await mark.fill(before);
  await form.getByLabel('Why').fill('it was right');
  await form.getByRole('button', { name: 'Keep' }).click();
  await page.getByRole('button', { name: /^What was done with it/ }).click();
  await expect(page.getByText(/ZX-0001 → .*because: it was right/)).toBeVisible();
});
