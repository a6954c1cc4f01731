import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { sample, signIn } from './helpers';
import { expect, test } from './test';

/** What the focused element is called, as a screen reader would say it. */
const focusedName = (page: Page): Promise<string> =>
  page.evaluate(() => {
    const element = document.activeElement as HTMLElement | null;
    if (!element || element === document.body) return '';
    const by = element.getAttribute('aria-labelledby');
    const labels = (element as HTMLInputElement).labels;
    return (
      element.getAttribute('aria-label') ??
      (by ? document.getElementById(by)?.textContent : null) ??
      (labels && labels.length > 0 ? labels[0]!.textContent : null) ??
      element.textContent ??
      ''
    )
      .replace(/\s+/g, ' ')
      .trim();
  });

/** Goes on with Tab until something of this name has the focus. */
async function tabTo(page: Page, name: RegExp, most = 120): Promise<void> {
  const seen: string[] = [];
  for (let i = 0; i < most; i++) {
    const now = await focusedName(page);
    if (name.test(now)) return;
    seen.push(now);
    await page.keyboard.press('Tab');
  }
  throw new Error(
    `No ${String(name)} within ${most} tabs of ${page.url()}: ${seen.map((one) => one.slice(0, 24)).join(' | ')}`,
  );
}

async function find(page: Page, what: string): Promise<void> {
  await page.keyboard.press('Control+k');
  await expect(page.getByPlaceholder('Cell, lot, report, place')).toBeFocused();
  // Without waiting for what fits; not as fast as a scanner, though.
  await page.keyboard.type(what, { delay: 70 });
  await page.keyboard.press('Enter');
}

async function fill(page: Page, name: RegExp, text: string): Promise<void> {
  await tabTo(page, name);
  await page.keyboard.press('Control+a');
  await page.keyboard.type(text);
}

/** Opens a list and takes its last choice. */
async function takeLast(page: Page, name: RegExp): Promise<void> {
  await tabTo(page, name);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('option').first()).toBeVisible();
  await page.keyboard.press('End');
  await expect(page.getByRole('option').last()).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('option')).toHaveCount(0);
}

test('take-in, readings, a log, the verdict and a report without a mouse', async ({ page }) => {
  await signIn(page, 'lead');
  await page.goto('/');
  await find(page, 'Take in a new lot');
  await page.waitForURL(/arrivals\/new/);
  await expect(page.getByLabel('Short name')).toBeVisible();
  await fill(page, /^Short name/, 'By keys alone');
  await fill(page, /^Supplier/, 'Reedbank Cells');
  await fill(page, /^Cells counted/, '3');
  await takeLast(page, /^Model$/);
  await fill(page, /^Name of the model/, `Keyed K104 ${Date.now() % 10_000}`);
  await fill(page, /^Width \/ mm/, '130');
  await fill(page, /^Thickness \/ mm/, '36');
  await fill(page, /^Height \/ mm/, '195');
  await fill(page, /^Claimed capacity \/ Ah/, '104');
  await fill(page, /^at a rate of \/ It/, '0,2');
  await fill(page, /^down to \/ V/, '2.5');
  await tabTo(page, /^Take in the lot/);
  await page.keyboard.press('Enter');
  await page.waitForURL(/\/lots\/L-\d+\/arrival\/box/);
  const code = /L-\d+/.exec(page.url())![0];

  // Readings: value, Enter, next cell.
  await tabTo(page, /^Readings$/);
  await page.keyboard.press('Enter');
  await page.waitForURL(/\/readings$/);
  await expect(page.getByLabel(/^AC resistance \/ mΩ, B-/).first()).toBeVisible();
  await tabTo(page, /^AC resistance \/ mΩ, B-/);
  for (const value of ['0.441', '0.442', '0.443']) {
    await page.keyboard.type(value, { delay: 70 });
    await page.keyboard.press('Enter');
  }
  await expect(page.getByText('All readings are stored.')).toBeVisible();

  // A log, chosen by the button, of the first cell. Waited for early: the browser needs a moment until it
  // hands its list of files to the test.
  const chooser = page.waitForEvent('filechooser');
  await tabTo(page, /^Logs$/);
  await page.keyboard.press('Enter');
  await page.waitForURL(/\/logs$/);
  await expect(page.getByRole('button', { name: 'Choose files' })).toBeVisible();
  await tabTo(page, /^Choose files$/);
  await page.keyboard.press('Enter');
  // Some line breaks more, so that it is no file another test, or an earlier try, has brought in.
  const log = `${readFileSync(sample('02-quantity-slash-unit.csv'), 'utf8')}${'\n'.repeat(1 + (Date.now() % 500))}`;
  await (
    await chooser
  ).setFiles({ name: '02-by-keys.csv', mimeType: 'text/csv', buffer: Buffer.from(log) });
  const row = page.getByTestId('log-row').first();
  await expect(row).toContainText('Ah', { timeout: 60_000 });
  const strip = await page
    .getByRole('slider', { name: /Tally of the lot/ })
    .getAttribute('aria-valuetext');
  await fill(page, /^Cell for 02-by-keys/, /B-(\d+)/.exec(strip!)![1]!);
  // Back to the one act above the rows.
  await page.keyboard.press('Shift+Tab');
  await page.keyboard.press('Home');
  await tabTo(page, /^Store 1 log/, 300);
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('log-summary')).toContainText('1 stored', { timeout: 60_000 });

  await find(page, code);
  await page.waitForURL(new RegExp(code));
  // From wherever the focus was before, once round the page.
  await tabTo(page, /^Verdict$/, 300);
  await page.keyboard.press('Enter');
  await page.waitForURL(/\/verdict$/);
  await expect(page.getByTestId('lot-items')).toContainText('Capacity');

  await tabTo(page, /^Report$/);
  await page.keyboard.press('Enter');
  await page.waitForURL(/\/report$/);
  await fill(page, /^Customer/, 'Harbour Pilots');
  await tabTo(page, /^Issue the report/);
  await page.keyboard.press('Enter');
  await page.waitForURL(/\/reports\//);
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Report');
});
