import { signIn, takeInLot } from './helpers';
import { expect, test } from './test';

test.use({ viewport: { width: 1024, height: 768 } });

test('a count that does not match, no cells, and more than a lot can hold', async ({ page }) => {
  test.setTimeout(480_000);
  await signIn(page, 'lead');
  await takeInLot(
    page,
    { title: 'Counted', supplier: 'Reedbank Cells', quantity: 6, model: 'Sedge N104' },
    'arrival/box',
  );
  const counted = page.getByLabel('Cells counted');
  const keep = page.getByRole('button', { name: 'Keep the count' });
  await counted.fill('six');
  await keep.click();
  await expect(page.getByText('Expected a whole number of 0 or more.')).toBeVisible();
  await counted.fill('20001');
  await keep.click();
  await expect(page.getByText('Expected at most 20000 cells')).toBeVisible();
  await counted.fill('4');
  await keep.click();
  await expect(page.getByTestId('count-note')).toContainText('6 ordered: 2 missing.');
  await counted.fill('0');
  await keep.click();
  await expect(page.getByTestId('count-note')).toHaveText('6 ordered.');
  await counted.fill('20000');
  await keep.click();
  await expect(page.getByText('counted 20000')).toBeVisible({ timeout: 120_000 });
  await page
    .getByRole('navigation', { name: 'Steps of receiving' })
    .getByText('Inspection')
    .click();
  await page.getByTestId('clear-rest').click();
  await expect(page.getByText('All marks are stored.')).toBeVisible({ timeout: 120_000 });
  await expect(page.getByRole('navigation', { name: 'Steps of receiving' })).toContainText(
    '20000 of 20000 inspected',
  );
});

test('two people weigh one box: what one typed and did not keep takes nothing of the other back', async ({
  browser,
}) => {
  const pages = await Promise.all([0, 1].map(async () => (await browser.newContext()).newPage()));
  const [one, two] = pages as [(typeof pages)[0], (typeof pages)[0]];
  await signIn(one, 'lead');
  await takeInLot(
    one,
    { title: 'Weighed', supplier: 'Reedbank Cells', quantity: 6, model: 'Sedge N104 w' },
    'arrival/box',
  );
  await signIn(two, 'technician');
  await two.goto(one.url());
  const weigh = (page: typeof one, field: RegExp) =>
    page.getByRole('form', { name: 'Weigh' }).getByLabel(field);
  await weigh(one, /^Gross/).fill('12100');
  await weigh(two, /^Tare/).fill('250');
  await two.getByRole('button', { name: 'Keep the weights' }).click();
  await expect(two.getByText('tare, g: 250')).toBeVisible();
  await one.getByRole('button', { name: 'Keep the weights' }).click();
  await expect(one.getByText('gross mass, g: 12100')).toBeVisible();
  await one.reload();
  await expect(weigh(one, /^Tare/)).toHaveValue('250');
  await expect(weigh(one, /^Gross/)).toHaveValue('12100');
  await Promise.all(pages.map((page) => page.close()));
});
