import { expect, test } from '@playwright/test';
import { signIn, takeInLot } from './helpers';

/** A log whose columns nobody can know by their names. */
const foreign = (name: string, shift: number) => ({
  name,
  mimeType: 'text/csv',
  buffer: Buffer.from(
    [
      'alpha,beta,gamma',
      ...Array.from(
        { length: 400 },
        (_, i) => `${i * 30},${3300 - 2 * i - shift},${i < 5 ? 0 : 20_800}`,
      ),
      '',
    ].join('\n'),
  ),
});

test('a log that is not recognised is read by columns assigned once, and the next one by itself', async ({
  page,
}) => {
  await signIn(page, 'lead');
  await takeInLot(page, {
    title: 'Foreign logs',
    supplier: 'Reedbank Cells',
    quantity: 3,
    model: 'Reed M104',
  });
  await page.getByTestId('log-input').setInputFiles([foreign('one.csv', 0)]);
  const row = (name: string) => page.getByTestId('log-row').filter({ hasText: name });
  await expect(row('one.csv')).toContainText('no voltage column');
  await row('one.csv').getByRole('button', { name: 'Assign its columns by hand' }).click();
  const panel = page.getByTestId('mapping');
  await panel.getByLabel('What alpha is').selectOption('time');
  await panel.getByLabel('Unit of alpha').selectOption('s');
  await panel.getByLabel('What gamma is').selectOption('current');
  await panel.getByLabel('Unit of gamma').selectOption('mA');
  await panel.getByRole('button', { name: /^Read it so/ }).click();
  await expect(panel).toContainText('Expected a column as voltage');
  await panel.getByLabel('What beta is').selectOption('voltage');
  await panel.getByLabel('Unit of beta').selectOption('mV');
  await panel.getByRole('button', { name: /^Read it so/ }).click();
  await expect(row('one.csv')).toContainText('68.');
  await page.getByLabel('Cell for one.csv').fill('1');
  await page.getByTestId('log-input').setInputFiles([foreign('two.csv', 1)]);
  await expect(row('two.csv')).toContainText('Ah');

  // Remembered: after a reload too, and where it is stored.
  await page.reload();
  await page.getByTestId('log-input').setInputFiles([foreign('three.csv', 2)]);
  await expect(row('three.csv')).toContainText('68.');
  const number = (await page
    .getByRole('slider', { name: /Tally of the lot/ })
    .getAttribute('aria-valuetext'))!.match(/B-(\d+)/)![1]!;
  await page.getByLabel('Cell for three.csv').fill(number);
  await page.getByRole('button', { name: 'Store 1 log' }).click();
  await expect(page.getByText(/stored in B-/)).toBeVisible();
});
