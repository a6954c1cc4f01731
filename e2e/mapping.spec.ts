import exceljs from 'exceljs';
import { strToU8, zipSync } from 'fflate';
import { choose, signIn, takeInLot } from './helpers';
import { expect, test } from './test';

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
  await choose(panel.getByLabel('What alpha is'), 'time');
  await choose(panel.getByLabel('Unit of alpha'), 's');
  await choose(panel.getByLabel('What gamma is'), 'current');
  await choose(panel.getByLabel('Unit of gamma'), 'mA');
  await panel.getByRole('button', { name: /^Read it so/ }).click();
  await expect(panel).toContainText('Expected a column as voltage');
  await choose(panel.getByLabel('What beta is'), 'voltage');
  await choose(panel.getByLabel('Unit of beta'), 'mV');
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

test('an archive and a workbook are taken apart into their logs; what holds none says so', async ({
  page,
}) => {
  const log = foreign('x.csv', 0)
    .buffer.toString()
    .replace('alpha,beta,gamma', 'time_s,mV,current_mA');
  const workbook = new exceljs.Workbook();
  const sheet = workbook.addWorksheet('discharge');
  for (const line of log.trim().split('\n'))
    sheet.addRow(line.split(',').map((cell) => (isNaN(Number(cell)) ? cell : Number(cell))));
  const xlsx = Buffer.from(await workbook.xlsx.writeBuffer());
  const zip = (files: Record<string, string>) =>
    Buffer.from(
      zipSync(
        Object.fromEntries(Object.entries(files).map(([name, text]) => [name, strToU8(text)])),
      ),
    );
  await signIn(page, 'lead');
  await takeInLot(page, {
    title: 'Packed logs',
    supplier: 'Reedbank Cells',
    quantity: 3,
    model: 'Reed Z104',
  });
  const file = (name: string, buffer: Buffer) => ({
    name,
    mimeType: 'application/octet-stream',
    buffer,
  });
  await page
    .getByTestId('log-input')
    .setInputFiles([
      file('logs.zip', zip({ 'a/first.csv': log, 'a/second.csv': log, 'a/readme.md': 'no log' })),
      file('book.xlsx', xlsx),
      file('empty.zip', zip({ 'readme.md': 'no log' })),
      file('broken.zip', Buffer.from('PK\u0003\u0004 not an archive at all')),
    ]);
  const row = (name: string) => page.getByTestId('log-row').filter({ hasText: name });
  for (const name of ['first.csv', 'second.csv', 'book.csv'])
    await expect(row(name)).toContainText('68.');
  await expect(row('empty.zip')).toContainText('no log is in it');
  await expect(row('broken.zip')).toContainText('damaged or locked');
  await expect(page.getByTestId('log-summary')).toContainText('5 files');
});
