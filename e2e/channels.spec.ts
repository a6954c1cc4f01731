import { signIn } from './helpers';
import { expect, test } from './test';

test('the biased channel is named, the drifting one releases its results once a lead looked', async ({
  page,
}) => {
  await signIn(page, 'lead');
  await page.goto('/lab/channels');
  const biased = page.getByRole('rowgroup', { name: 'Load bank West, 3' });
  await expect(biased).toContainText(/Reads 3\.\d\d % high/);
  await expect(page.getByRole('rowgroup', { name: 'Load bank West, 4' })).toContainText('overdue');
  const drifting = page.getByRole('rowgroup', { name: 'Load bank East, 2' });
  await expect(drifting).toContainText('Results since its last good point are held back.');
  await expect(
    drifting.getByRole('img', { name: /Control chart of 12 points, [2-9]/ }),
  ).toBeVisible();

  // A result of the biased channel says so, with what was measured beside it.
  await page.goto('/cells/B-0003');
  await expect(page.getByText(/Load bank West, 3 reads 3\.\d\d % high/)).toBeVisible();
  await expect(page.getByText('at the claim’s conditions; measured')).toBeVisible();

  // One tested while the other drifted waits.
  await page.goto('/cells/B-0031');
  const held = page.getByRole('region', { name: 'Held' });
  await expect(held).toContainText('Its channel waits for a look');
  await page.getByRole('link', { name: 'Look at the channel' }).click();
  await drifting.getByLabel('What you found, looking at it').fill('shunt loose, tightened');
  await drifting.getByRole('button', { name: 'Release its results' }).click();
  await expect(drifting).toContainText('shunt loose, tightened');
  await expect(drifting).not.toContainText('held back');
  await page.goto('/cells/B-0031');
  await expect(page.getByText('Its channel waits for a look')).toHaveCount(0);

  // The lot says what that moved in it.
  await page.goto('/lots/L-001/verdict');
  const moved = page.getByRole('region', { name: 'What moved from elsewhere' });
  await moved.getByRole('button', { name: /because of other evidence/ }).click();
  await expect(moved).toContainText('Changed: a look at a channel.');

  // Cells against channels.
  await page.goto('/lab/channels');
  await page.getByRole('checkbox', { name: 'Load bank West, 3' }).uncheck();
  await page.getByRole('button', { name: 'Study them' }).click();
  await expect(page.getByTestId('gauge-study')).toContainText('2 cells × 5 channels × 6 repeats');
  await page.getByLabel('What was compared').fill('one cell, three meters');
  for (const [i, [meter, value, accuracy]] of [
    ['bank', '3,2910', '0,002'],
    ['hand', '3.2915', '0.002'],
    ['old', '3.3', '0.002'],
  ].entries()) {
    if (i === 2) await page.getByRole('button', { name: 'One more meter' }).click();
    await page.getByLabel(`Meter ${i + 1}`, { exact: true }).fill(meter!);
    await page.getByLabel(`Reading / V, meter ${i + 1}`).fill(value!);
    await page.getByLabel(`Accuracy ± / V, meter ${i + 1}`).fill(accuracy!);
  }
  await expect(page.getByRole('row', { name: /bank and hand/ })).toContainText('agree');
  await page.getByRole('button', { name: 'Keep the comparison' }).click();
  await expect(page.getByText(/2 of 3 pairs disagree/)).toBeVisible();
});

test('a channel is added and its calibration kept; a table that is none is refused', async ({
  page,
}) => {
  await signIn(page, 'lead');
  await page.goto('/lab/channels');
  await page.getByRole('button', { name: 'Load bank East', exact: true }).click();
  await page.getByLabel('Channel', { exact: true }).fill('3');
  await page.getByLabel(/^Voltage check/).fill('2,500 2,501\nthree');
  await page.getByRole('button', { name: 'Add the channel' }).click();
  await expect(page.getByText('Line 2: expected two voltages')).toBeVisible();
  await page.getByLabel(/^Voltage check/).fill('2,500 2,501\n3.300 3.3012');
  await page.getByRole('button', { name: 'Add the channel' }).click();
  const added = page.getByRole('rowgroup', { name: 'Load bank East, 3' });
  await expect(added).toContainText('a table of 2 points');
  await expect(added).toContainText('Not compared with other channels yet.');
  await page.goto('/lots/L-001/logs');
});
