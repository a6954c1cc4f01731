import { overprints, pdfPages } from './pdf-pages';
import { choose, signIn } from './helpers';
import { expect, test } from './test';

/** A report of all tested cells of a lot, issued here; its pages as they were set. */
async function pagesOf(
  page: import('@playwright/test').Page,
  { code, cells }: { code: string; cells: string },
  language: string,
) {
  await page.goto(`/lots/${code}/report`);
  await page.getByLabel('Customer').fill('Østergård & Ünal, Αθήνα, Київ');
  // A result of the others is held back, and a held result is not reported.
  await page.getByLabel('Cells', { exact: true }).fill(cells);
  await choose(page.getByRole('combobox', { name: 'Language' }), language);
  await page.getByRole('button', { name: 'Issue the report' }).click();
  await page.waitForURL(/\/reports\/R-\d{4}-\d{4}/);
  const number = page.url().split('/').at(-1)!;
  const pdf = await page.request.get(`/api/reports/${number}/pdf`);
  return pdfPages(await pdf.body());
}

test('on no page of the reports of lots A and B is a text set over another, in English and German', async ({
  page,
}) => {
  await signIn(page, 'lead');
  for (const lot of [
    { code: 'L-001', cells: 'B-0001 to B-0030' },
    { code: 'L-002', cells: '' },
  ])
    for (const language of ['English', 'German']) {
      const pages = await pagesOf(page, lot, language);
      expect(pages.length).toBeGreaterThan(0);
      expect(overprints(pages), `${lot.code}, ${language}`).toEqual([]);
      const text = pages.flatMap(({ texts }) => texts.map(({ text: one }) => one)).join(' ');
      // Letters of another alphabet are set from another part of the font: blanks are not told.
      expect(text.replace(/\s/g, '')).toContain('Østergård&Ünal,Αθήνα,Київ');
      if (language === 'German') expect(text).not.toMatch(/cylinder|prism\b/);
      else expect(text).toContain('the maker’s data sheet');
    }
});

test('two texts set over one another are found, and those of one word are not', () => {
  const at = (text: string, left: number, right: number, foot = 100) => ({
    text,
    left,
    right,
    foot,
    head: foot + 6,
  });
  const pages = (...texts: ReturnType<typeof at>[]) => [{ width: 595, texts }];
  const mark = at('B-0241 (0FZCB31K204170G8W0051200)', 46, 150);
  expect(overprints(pages(mark, at('98.86 ± 0.94', 115, 160)))).toHaveLength(1);
  expect(overprints(pages(mark, at('98.86 ± 0.94', 115, 160, 112)))).toEqual([]);
  expect(overprints(pages(at('7', 200, 204.5), at('.540', 202, 220)))).toEqual([]);
  expect(overprints(pages(at('Unbrauchbar', 540, 580)))).toHaveLength(1);
});

test('a name in letters that cannot be printed is asked for in others', async ({ page }) => {
  await signIn(page, 'lead');
  await page.goto('/lots/L-002/report');
  await page.getByLabel('Customer').fill('张伟');
  await page.getByRole('button', { name: 'Issue the report' }).click();
  await expect(page.getByText(/letters a PDF cannot print here \(张 伟\)/)).toBeVisible();
  await expect(page.getByLabel('Customer')).toHaveValue('张伟');
});
