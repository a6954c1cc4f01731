import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { sample, signIn, takeInLot } from './helpers';
import { expect, test } from './test';

async function textOf(pdf: Uint8Array): Promise<string> {
  const document = await getDocument({ data: pdf, verbosity: 0 }).promise;
  const pages: string[] = [];
  for (let i = 1; i <= document.numPages; i++) {
    const content = await (await document.getPage(i)).getTextContent();
    pages.push(content.items.map((item) => ('str' in item ? item.str : '')).join(' '));
  }
  return pages.join('\n').replace(/\s+/g, ' ');
}

const plain = (text: string | null): string =>
  (text ?? '').replace(/[\s\u00a0\u202f]+/g, ' ').trim();

test('from a claim to a report a buyer can hold', async ({ page }) => {
  await signIn(page, 'lead');
  const code = await takeInLot(page, {
    title: 'Prismatic trial',
    supplier: 'Reedbank Cells',
    quantity: 3,
    model: 'Reed P104',
  });

  // Two logs are read, one is refused with its reason; numbers alone name cells.
  await page
    .getByTestId('log-input')
    .setInputFiles(
      ['02-quantity-slash-unit.csv', '14-stopped-early.csv', '93-binary.csv'].map(sample),
    );
  await expect(page.getByText(/Row 1 is not text/)).toBeVisible();
  await expect(page.getByTestId('log-row').filter({ hasText: '14-stopped-early' })).toContainText(
    'at least',
  );
  const heading = await page
    .getByRole('slider', { name: /Tally of the lot/ })
    .getAttribute('aria-valuetext');
  const first = Number(/B-(\d+)/.exec(heading!)![1]);
  const cell = (n: number) => `B-${String(first + n).padStart(4, '0')}`;
  await page.getByLabel('Cell for 02-quantity-slash-unit.csv').fill(String(first));
  await page.getByLabel('Cell for 14-stopped-early.csv').fill(String(first + 1));
  await page.getByRole('button', { name: 'Store 2 logs' }).click();
  await expect(page.getByText(`stored in ${cell(0)}`)).toBeVisible();
  await expect(page.getByText(`stored in ${cell(1)}`)).toBeVisible();
  await expect(page.getByTestId('log-summary')).toContainText('3 files, 2 stored, 1 not taken');

  // Resistances by keyboard alone: value, Enter, next cell; an odd one is asked about once.
  await page.getByRole('link', { name: 'Readings' }).click();
  const grid = (n: number) => page.getByLabel(`AC resistance / mΩ, ${cell(n)}`);
  await grid(0).click();
  await page.keyboard.type('0,43');
  await page.keyboard.press('Enter');
  await expect(grid(1)).toBeFocused();
  await page.keyboard.type('45');
  await page.keyboard.press('Enter');
  await expect(page.getByText(/decimal point right/)).toBeVisible();
  await grid(1).fill('0.45');
  await page.keyboard.press('Enter');
  await expect(grid(2)).toBeFocused();
  await page.keyboard.type('620 uohm');
  await page.keyboard.press('Enter');
  await expect(page.getByText('All readings are stored.')).toBeVisible();
  await page.reload();
  await expect(grid(0)).toHaveValue('0.43');
  await expect(grid(2)).toHaveValue('0.620');

  // Verdicts: the first decides, the second is only a lower bound, the third waits.
  await page.getByRole('link', { name: 'Verdict', exact: true }).click();
  await expect(page.getByTestId('lot-sentence')).toContainText('1 of 3 misses it');
  await page.getByRole('link', { name: 'Cells', exact: true }).click();
  const row = (n: number) => page.getByRole('row').filter({ hasText: cell(n) });
  await expect(row(0)).toContainText('met');
  await expect(row(0)).toContainText('Second');
  await expect(row(1)).toContainText('at least');
  await expect(row(1)).toContainText('at least; open');
  await expect(row(2)).toContainText('waiting');

  // The report: every figure on paper is the one on screen, and each screen figure has its trail.
  const capacityOnScreen = plain(await row(0).getByRole('cell').nth(2).textContent()).replace(
    / ?measured.*/,
    '',
  );
  const resistanceOnScreen = plain(await row(0).getByRole('cell').nth(4).textContent());
  await row(0)
    .getByRole('link', { name: capacityOnScreen.replace(/ .*/, '') })
    .click();
  const trail = page.getByTestId('trail');
  await expect(trail).toContainText('Uncertainty budget');
  await expect(trail).toContainText('current gain');
  await expect(trail).toContainText('02-quantity-slash-unit.csv');
  expect(plain(await trail.getByTestId('trail-value').textContent())).toBe(
    `${capacityOnScreen} Ah`,
  );
  await page.keyboard.press('Escape');
  await expect(trail).toBeHidden();
  await page.goto(`/lots/${code}/report`);
  await page.getByLabel('Customer').fill('Tidewright Buoys');
  await page.getByRole('button', { name: 'Issue the report' }).click();
  await page.waitForURL(/\/reports\/R-\d{4}-\d{4}/);
  const number = /R-\d{4}-\d{4}/.exec(page.url())![0];
  const download = await page.request.get(`/api/reports/${number}/pdf`);
  expect(download.headers()['content-type']).toBe('application/pdf');
  const text = await textOf(new Uint8Array(await download.body()));
  for (const expected of [
    number,
    'Tidewright Buoys',
    cell(0),
    capacityOnScreen,
    resistanceOnScreen,
    'at least 87.88',
    'page 1 of',
    'too close to call',
    'at least 104 Ah',
    'at a rate of 0.2 It',
    'to 2.5 V',
    'guard band',
    'Cautions',
  ]) {
    expect(text).toContain(expected);
  }
  const onPage = await page
    .getByRole('row')
    .filter({ hasText: cell(0) })
    .getByRole('cell')
    .allTextContents();
  for (const figure of onPage.slice(1, 5).map(plain)) expect(text).toContain(figure);
});
