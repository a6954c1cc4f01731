import { choose, signIn } from './helpers';
import { expect, test } from './test';

test('a scheme is tried before it is kept; a cell’s grade is decided by a person, and taken back', async ({
  page,
}) => {
  await signIn(page, 'lead');
  await page.goto('/lab/grades');
  const house = page.getByRole('region', {
    name: 'House grades, for every cell without grades of its own',
  });
  await expect(house.getByRole('row', { name: /^Second/ })).toContainText('SoH at least 95 %');

  // Grades of their own for sodium-ion, so that no other lot of the demo moves.
  await choose(page.getByRole('combobox', { name: 'Other grades for' }), 'all sodium-ion');
  await page.getByRole('link', { name: 'Begin' }).click();
  await page.waitForURL(/\/lab\/grades\/change/);
  const trial = page.getByRole('region', { name: 'What it would do' });
  await expect(trial).toContainText('would be of another grade');
  await expect(trial.getByRole('status')).toContainText('No cell of');
  await page.getByLabel('Name of the scheme').fill('Soft cells');
  const second = page.getByRole('group', { name: 'Second', exact: true });
  await second.getByLabel('at least / %').fill('105');
  // Above First nobody could be Second that is not First; the form says so and tries nothing.
  await expect(trial.getByRole('status')).toContainText('of another grade');
  await expect(
    trial.getByRole('img', { name: /^Moves: \d+ from Second to Utility/ }),
  ).toBeVisible();
  await trial.getByRole('button', { name: 'Cell by cell' }).click();
  await expect(
    trial.getByRole('table', { name: 'Cells that move' }).getByRole('row').first(),
  ).toContainText('Second → Utility');
  await second.getByRole('button', { name: 'And another condition' }).click();
  const kind = second.getByRole('combobox', { name: 'What' }).last();
  await choose(kind, 'age on arrival');
  await second.getByLabel('at most / months').fill('18');
  await page.getByRole('button', { name: 'Keep it and grade anew' }).click();
  await expect(page.getByText('Say why, in a few words.')).toBeVisible();
  await page.getByLabel('Why', { exact: true }).fill('what buyers of these ask for');
  await page.getByRole('button', { name: 'Keep it and grade anew' }).click();
  await page.waitForURL(/\/lab\/grades$/);
  const own = page.getByRole('region', { name: 'Soft cells, for all sodium-ion' });
  await expect(own.getByRole('row', { name: /^Second/ })).toContainText(
    'SoH at least 105 %; age on arrival at most 18 months',
  );
  await own.getByRole('button', { name: 'End it' }).click();
  await own.getByLabel('Reason').fill('only tried');
  await own.getByRole('button', { name: 'End it and grade anew' }).click();
  await expect(own).toBeHidden();
  await expect(page.getByRole('table', { name: 'Versions' })).toContainText('ended');

  await page.goto('/cells/B-0003');
  const grade = page.getByRole('region', { name: 'Grade' });
  await grade.getByRole('button', { name: 'Decide another grade' }).click();
  await choose(grade.getByRole('combobox', { name: 'Grade' }), 'Utility');
  await grade.getByLabel(/^Why/).fill('the wrong cell');
  await grade.getByRole('button', { name: 'Decide it' }).click();
  await page
    .getByRole('listitem')
    .filter({ hasText: 'Utility by decision.' })
    .getByRole('button', { name: 'Take it back' })
    .click();
  await expect(page.getByText('Taken back.', { exact: true })).toBeVisible();
  await expect(grade).toContainText('Taken back at once.');
  await grade.getByRole('button', { name: 'Decide another grade' }).click();
  await choose(grade.getByRole('combobox', { name: 'Grade' }), 'Spares');
  await grade.getByLabel(/^Why/).fill('kept as a spare for the bench');
  await grade.getByRole('button', { name: 'Decide it' }).click();
  await expect(grade).toContainText('Spares by decision of');
  await expect(page.getByText(/^Spares by decision of .* on \d{4}/)).toBeVisible();
  await grade.getByRole('button', { name: 'Take it back' }).click();
  await grade.getByLabel('Reason').fill('sold after all');
  await grade.getByRole('button', { name: 'Take it back' }).click();
  await expect(grade).toContainText('sold after all');
});

test('who may not change grades reads them; an unknown scheme is none', async ({ page }) => {
  await signIn(page, 'technician');
  await page.goto('/lab/grades');
  await expect(page.getByRole('heading', { name: 'Grades', exact: true })).toBeVisible();
  await expect(page.getByRole('link', { name: 'Change it' })).toBeHidden();
  await page.goto('/lab/grades/change');
  await expect(page.getByText('A lead changes grades')).toBeVisible();
  for (const scope of ['model:0', 'model:99999', 'chemistry:cheese', 'house%00'])
    expect((await page.goto(`/lab/grades/change?for=${scope}`))?.status()).toBe(404);
});
