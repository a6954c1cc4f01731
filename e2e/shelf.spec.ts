import { choose, daysAgo, signIn, takeInLot } from './helpers';
import { expect, test } from './test';

test('cells are laid to rest, read by keys in the order they are due, and told what they lost', async ({
  page,
}) => {
  await signIn(page, 'lead');
  const code = await takeInLot(
    page,
    {
      title: 'On the shelf',
      supplier: 'Reedbank Cells',
      quantity: 4,
      model: 'Reed P104 shelf',
      arrivedOn: daysAgo(30),
    },
    'cells',
  );
  await page.goto(`/lots/${code}/cells`);
  const all = page.getByRole('checkbox', { name: 'Choose all rows' });
  const dialog = page.getByRole('dialog', { name: 'Lay 4 cells to rest' });
  // Laid down by mistake, and taken back while it is still said.
  await all.check();
  await page.getByRole('button', { name: 'Lay to rest …' }).click();
  await dialog.getByRole('button', { name: 'Lay them down' }).click();
  const said = page.getByRole('listitem').filter({ hasText: '4 cells on the shelf.' });
  await said.getByRole('button', { name: 'Take it back' }).click();
  await expect(page.getByText('Taken back.', { exact: true })).toBeVisible();
  await expect(said).toBeHidden();

  await all.check();
  await page.getByRole('button', { name: 'Lay to rest …' }).click();
  const protocol = dialog.getByRole('combobox', { name: 'Protocol' });
  await expect(protocol, 'a flat chemistry is judged by its lot').toContainText('against the lot');
  await choose(
    protocol,
    'careful: after 7 days: keeps its charge from 4.10 V, fast loss from 4.00 V, below that rejected; who loses faster than the lot is named',
  );
  const day = new Date(Date.now() - 8 * 86_400_000).toISOString().slice(0, 10);
  await dialog.getByLabel('Their charge ended, day').fill(day);
  await dialog.getByRole('button', { name: 'Lay them down' }).click();
  await expect(page.getByText('4 cells on the shelf.')).toBeVisible();

  await page.goto('/shelf');
  const now = page.getByRole('region', { name: 'To be read now' });
  const cells = await now
    .getByRole('row')
    .filter({ hasText: code })
    .getByRole('link')
    .allTextContents();
  expect(cells).toHaveLength(4);
  const field = (i: number) => page.getByLabel(`Voltage of ${cells[i]!} / V`);
  await page.getByLabel('Shelf / °C').fill('21.5');
  await field(0).fill('3.3301');
  await field(0).press('Enter');
  await expect(field(1), 'Enter leads to the next').toBeFocused();
  await field(1).fill('2.1');
  await field(1).press('Enter');
  const asked = page.getByText('1 reading is asked about and not stored yet.');
  await expect(page.getByText(/below the cut-off/)).toBeVisible();
  await expect(field(2), 'what is typed next is of the next cell').toBeFocused();
  await expect(asked).toBeVisible();
  // It is there after a reload, counted, and leads to its field.
  await page.reload();
  await expect(field(1)).toHaveValue('2.1');
  await expect(page.getByText(/below the cut-off/)).toBeVisible();
  await page.getByRole('button', { name: 'Go there' }).click();
  await expect(field(1)).toBeFocused();
  await field(1).fill('three');
  await field(1).press('Enter');
  await expect(page.getByRole('alert').filter({ hasText: 'three' })).toBeVisible();
  // What a meter showed in mV is offered in V.
  await field(1).fill('3330');
  await field(1).press('Enter');
  await page.getByRole('button', { name: '3.33 V', exact: true }).click();
  await expect(field(1)).toHaveValue('3.33');
  await field(1).fill('3,3304');
  await field(1).press('Enter');
  await expect(field(2)).toBeFocused();
  await expect(asked).toBeHidden();
  const done = page.getByRole('region', { name: 'Over in the last days' });
  for (const i of [0, 1])
    await expect(done.getByRole('row').filter({ hasText: cells[i]! })).toContainText('rejected');

  await page.getByRole('button', { name: `Take ${cells[3]!} off the shelf` }).click();
  await page.getByRole('dialog').getByLabel('Why').fill('needed for a set');
  await page.getByRole('dialog').getByRole('button', { name: 'Take it off' }).click();
  await expect(field(3)).toHaveCount(0);
  await page.goto(`/cells/${cells[2]!}`);
  await expect(page.getByText(/resting/).first()).toBeVisible();
});

test('sixty cells of the shelf are read by keys alone, none is lost', async ({ page }) => {
  await signIn(page, 'lead');
  const code = await takeInLot(
    page,
    {
      title: 'Sixty on the shelf',
      supplier: 'Reedbank Cells',
      quantity: 60,
      model: 'Reed P104 sixty',
      arrivedOn: daysAgo(30),
    },
    'cells',
  );
  await page.getByRole('checkbox', { name: 'Choose all rows' }).check();
  await page.getByRole('button', { name: 'Lay to rest …' }).click();
  const dialog = page.getByRole('dialog', { name: 'Lay 60 cells to rest' });
  const day = new Date(Date.now() - 14.5 * 86_400_000).toISOString().slice(0, 10);
  await dialog.getByLabel('Their charge ended, day').fill(day);
  await dialog.getByRole('button', { name: 'Lay them down' }).click();
  await expect(page.getByText('60 cells on the shelf.')).toBeVisible();
  await page.goto('/shelf');
  const rows = page.getByRole('row').filter({ hasText: code });
  await expect(rows).toHaveCount(60);
  await rows.first().getByRole('textbox').focus();
  let keys = 0;
  const began = Date.now();
  for (let i = 0; i < 60; i++) {
    const text = `3.3${String(100 + ((i * 7) % 40))}`;
    await page.keyboard.type(text);
    await page.keyboard.press('Enter');
    keys += text.length + 1;
  }
  await expect(page.getByText('All readings are stored.')).toBeVisible();
  const perCell = (Date.now() - began) / 1000 / 60;
  test.info().annotations.push({
    type: 'measured',
    description: `${(keys / 60).toFixed(1)} keys and ${perCell.toFixed(2)} s a cell`,
  });
  expect(keys / 60).toBeLessThanOrEqual(7.1);
  // A flat chemistry is judged by what was lost, which takes two readings.
  await expect(rows.filter({ hasText: 'read once' })).toHaveCount(60);
});
