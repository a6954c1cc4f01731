import { choose, signIn, takeInLot } from './helpers';
import { expect, test } from './test';

test('a sample that stops early: what it expects, its order, and what each result decides', async ({
  page,
}) => {
  await signIn(page, 'lead');
  const code = await takeInLot(
    page,
    { title: 'Stopping early', supplier: 'Reedbank Cells', quantity: 60, model: 'Reed P104 seq' },
    'arrival/sampling',
  );
  await page.getByText('By risk, stopping early').click();
  const words = page.getByTestId('plan-words');
  await expect(words).toContainText('decided as soon as the results allow');
  await expect(
    page.getByRole('img', { name: /Tests expected: \d+ where none is short/ }),
  ).toBeVisible();
  await page.getByLabel('taken at most / %').fill('0');
  await expect(page.getByRole('alert').filter({ hasText: 'risk between 0 and 100' })).toBeVisible();
  await page.getByLabel('taken at most / %').fill('10');
  await page.getByLabel('Seed').fill('17');
  await page.getByRole('button', { name: 'Draw the sample' }).click();
  const sample = page.getByRole('region', { name: 'The sample' });
  await expect(sample.getByTestId('sample-outcome')).toContainText('0 results in their order');
  const drawn = await sample
    .getByRole('list', { name: 'Drawn cells' })
    .getByRole('link')
    .allTextContents();
  const first = drawn.slice(0, 2).map((text) => /B-\d+/.exec(text)![0]);
  await expect(sample.getByText('Test next, in this order:')).toContainText(first[0]!);

  // In so small a lot the first short one decides; typed out of turn the second one does not.
  await page.goto(`/lots/${code}/readings`);
  const type = async (what: string, value: string, cell: string) => {
    const field = page.getByLabel(`${what}, ${cell}`);
    await field.fill(value);
    await field.press('Enter');
  };
  const capacity = 'Capacity as shown by a tester / Ah';
  const current = 'Current as shown / A';
  await expect(page.getByText('a typed one is compared only with its current')).toBeVisible();
  const showCurrent = () =>
    expect(async () => {
      await choose(page.getByLabel('More columns'), 'energy, current and time as shown');
      await expect(page.getByLabel(`${current}, ${first[0]}`)).toBeVisible({ timeout: 2000 });
    }).toPass();
  await showCurrent();
  await type(current, '20.8', first[1]!);
  await type(capacity, '98', first[1]!);
  await expect(page.getByText('All readings are stored.')).toBeVisible();
  await page.goto(`/lots/${code}/arrival/sampling`);
  await expect(sample.getByTestId('sample-outcome')).toContainText('0 results in their order');
  await page.goto(`/lots/${code}/readings`);
  await type(capacity, '98', first[0]!);
  await expect(page.getByText('All readings are stored.')).toBeVisible();
  // At a rate nobody wrote down it cannot be set against a claim at 0.2 It.
  await page.goto(`/lots/${code}/arrival/sampling`);
  await expect(
    sample.getByRole('list', { name: 'Drawn cells' }).getByRole('link', { name: first[0]! }),
  ).toContainText('not comparable');
  await expect(sample.getByTestId('sample-outcome')).toContainText('0 results in their order');
  await page.goto(`/lots/${code}/readings`);
  await showCurrent();
  await type(current, '20.8', first[0]!);
  await expect(page.getByText('All readings are stored.')).toBeVisible();
  await page.goto(`/lots/${code}/arrival/sampling`);
  await expect(sample.getByTestId('sample-outcome')).toContainText(
    'Failed: 1 result in their order, 1 short',
  );
});

test('a rest protocol is copied, and cells can be laid down by it', async ({ page }) => {
  await signIn(page, 'lead');
  await page.goto('/shelf/protocols');
  await page.getByRole('button', { name: 'Copy or change …' }).first().click();
  const dialog = page.getByRole('dialog', { name: 'Rest protocol' });
  await dialog.getByLabel('Name; another one makes a copy').fill('ten days');
  await dialog.getByLabel('Due after / days').fill('10');
  await dialog.getByLabel('Usable, fast loss, from / V').fill('4.2');
  await dialog.getByLabel('Why', { exact: true }).fill('for radios');
  await dialog.getByRole('button', { name: 'Keep it' }).click();
  await expect(dialog).toContainText('below the voltage that keeps');
  await dialog.getByLabel('Usable, fast loss, from / V').fill('4.02');
  await dialog.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByRole('heading', { name: /^ten days version 1/ })).toBeVisible();
  await expect(page.getByText('for radios')).toBeVisible();
});
