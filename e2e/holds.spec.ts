import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { sample, signIn, takeInLot } from './helpers';
import { expect, test } from './test';

const text = (name: string) => readFileSync(sample(name), 'utf8');

/** Every current of a log times a factor: a shunt ten times wrong, a range misread. */
const times = (log: string, factor: number): string =>
  log
    .split('\n')
    .map((line, i) => {
      const cells = line.split(',');
      if (i === 0 || cells.length < 3) return line;
      cells[2] = (Number(cells[2]) * factor).toFixed(4);
      return cells.join(',');
    })
    .join('\n');

async function store(page: Page, code: string, files: Record<string, string>): Promise<void> {
  await page.goto(`/lots/${code}/logs`);
  await page.getByTestId('log-input').setInputFiles(
    Object.entries(files).map(([name, content]) => ({
      name,
      mimeType: 'text/csv',
      // A remark of its own, so that no file is the same as one taken in before.
      buffer: Buffer.from(`${content.trimEnd()}\n# ${randomUUID()}\n`),
    })),
  );
  // Only once all are read: what is stored is what was understood by then.
  const count = Object.keys(files).length;
  await page
    .getByRole('button', { name: `Store ${count} ${count === 1 ? 'log' : 'logs'}` })
    .click();
  for (const name of Object.keys(files))
    await expect(page.getByTestId('log-row').filter({ hasText: name })).toContainText('stored in');
}

async function cellsOf(page: Page, code: string): Promise<string[]> {
  await page.goto(`/lots/${code}/cells`);
  const links = page.getByRole('row').getByRole('link', { name: /^B-\d+/ });
  await expect(links.first()).toBeVisible();
  return (await links.allInnerTexts()).map((name) => name.trim().split(/\s/)[0]!);
}

test('what cannot be is held: said first, kept out, not reported, and lifted with a reason', async ({
  page,
}) => {
  await signIn(page, 'lead');
  const code = await takeInLot(page, {
    title: 'Held back',
    supplier: 'Reedbank Cells',
    quantity: 4,
    model: 'Reed P104 h',
  });
  const [good, wild] = await cellsOf(page, code);
  const plain = text('02-quantity-slash-unit.csv');
  await store(page, code, { [`${good}.csv`]: plain, [`${wild}.csv`]: times(plain, 1.8) });

  await page.goto(`/lots/${code}/verdict`);
  const first = page.getByTestId('held-results');
  await expect(first).toContainText('Results of 1 cell are held');
  await expect(first).toContainText('more than such a cell can hold');
  await expect(page.getByTestId('lot-sentence')).toContainText('1 of 4 is held');
  await expect(page.getByTestId('lot-sentence')).toContainText('2 of 4 are not tested');
  await first.getByRole('link', { name: 'All of them in the cells table' }).click();
  await expect(page.getByRole('radio', { name: /^Held 1/ })).toBeChecked();
  await expect(page.getByRole('row')).toHaveCount(2);
  await expect(page.getByRole('row').nth(1)).toContainText('Held:');

  await page.goto('/');
  await expect(page.getByText('1 cell has held results only').first()).toBeVisible();

  await page.goto(`/cells/${wild}`);
  const held = page.getByRole('region', { name: 'Held' });
  await expect(held).toContainText(/fit its size and mass/);
  for (let left = 2; left > 0; left--) {
    await expect(held.getByRole('button', { name: 'Lift this hold …' })).toHaveCount(left);
    await held.getByRole('button', { name: 'Lift this hold …' }).first().click();
    const form = page.getByRole('form', { name: /^Let / });
    if (left === 2) {
      await form.getByRole('button', { name: 'Lift the hold' }).click();
      await expect(form).toContainText('Expected a reason');
    }
    await form.getByLabel('Reason').fill('checked against a second meter');
    await form.getByRole('button', { name: 'Lift the hold' }).click();
    await expect(form).toHaveCount(0);
  }
  await expect(held).toContainText('Lifted by');
  await expect(held).toContainText('checked against a second meter');
});

test('a spoilt test is set aside, a swapped run goes to its cell', async ({ page }) => {
  await signIn(page, 'lead');
  const code = await takeInLot(page, {
    title: 'Swapped',
    supplier: 'Reedbank Cells',
    quantity: 3,
    model: 'Reed P104 s',
  });
  const [one, two] = await cellsOf(page, code);
  const plain = text('02-quantity-slash-unit.csv');
  await store(page, code, {
    [`${one}.csv`]: times(plain, 1.001),
    [`${two}.csv`]: times(plain, 0.93),
  });
  await page.goto(`/cells/${one}`);
  await expect(page.getByText('met, claimed').or(page.getByText(/^met$/)).first()).toBeVisible();

  await page.getByRole('button', { name: 'Of another cell …' }).click();
  const move = page.getByRole('form', { name: `This run is not of ${one}` });
  await move.getByLabel('Number of the right cell').fill('B-9999999');
  await move.getByLabel('Why').fill('the holders were swapped');
  await move.getByRole('button', { name: 'Move it' }).click();
  await expect(move).toContainText('B-9999999 is not here');
  await move.getByLabel('Number of the right cell').fill(two!.toLowerCase());
  await move.getByLabel('Why').fill('the holders were swapped');
  await move.getByRole('button', { name: 'Move it' }).click();
  await expect(page.getByRole('region', { name: 'Held' })).toContainText(`from ${one} to ${two}`);
  await expect(page.getByText('No log of this cell yet')).toBeVisible();

  await page.goto(`/cells/${two}`);
  await expect(page.getByRole('region', { name: 'Held' })).toContainText(
    'the holders were swapped',
  );
  // Two runs of one cell that are 7 % apart: both are held until one is set aside.
  await expect(page.getByRole('region', { name: 'Held' })).toContainText(/apart, E_n/);
  const spoilt = page.getByRole('region', { name: `Run from ${two}.csv` });
  await spoilt.getByRole('button', { name: 'Set aside …' }).click();
  const aside = page.getByRole('form', { name: 'Set this result aside' });
  await aside.getByLabel('What went wrong').fill('of the other cell');
  await aside.getByRole('button', { name: 'Set aside', exact: true }).click();
  await expect(aside).toHaveCount(0);
  await expect(page.getByRole('region', { name: 'Held' })).toContainText('of the other cell');
  await expect(spoilt).toContainText('held');
  await expect(page.getByText(/measured\s*105\./).first()).toBeVisible();
});

test('a hole is drawn as a hole, and two readings of a time are asked about', async ({ page }) => {
  await signIn(page, 'lead');
  const code = await takeInLot(page, {
    title: 'Holes and clocks',
    supplier: 'Reedbank Cells',
    quantity: 3,
    model: 'Reed P104 z',
  });
  const [one, two] = await cellsOf(page, code);
  const rows = text('02-quantity-slash-unit.csv').split('\n');
  // Three hours in which everything stood still.
  const holed = rows
    .map((line, i) => {
      const [t, ...rest] = line.split(',');
      return i > 900 && rest.length > 1 ? [Number(t) + 10_800, ...rest].join(',') : line;
    })
    .join('\n');
  await store(page, code, { [`${one}.csv`]: holed });
  await page.goto(`/cells/${one}`);
  await expect(page.getByText('no readings', { exact: false }).first()).toBeVisible();
  await page.getByRole('link', { name: `${one}.csv` }).click();
  await expect(page.getByText('no readings, nothing counted')).toBeVisible();
  await expect(page.getByText(/neither a counter nor the voltage says what flowed/)).toBeVisible();

  await page.goto(`/lots/${code}/logs`);
  const hours = rows
    .map((line, i) => {
      const [t, ...rest] = line.split(',');
      if (rest.length < 2) return line;
      // A column nobody needs, with a name of its own: no answer is remembered for this shape.
      const own = i === 0 ? `x${randomUUID()}` : '0';
      return [i === 0 ? 't' : (Number(t) / 36_000).toFixed(7), ...rest, own].join(',');
    })
    .join('\n');
  await page
    .getByTestId('log-input')
    .setInputFiles({ name: `${two}.csv`, mimeType: 'text/csv', buffer: Buffer.from(hours) });
  const row = page.getByTestId('log-row');
  await expect(row).toContainText('Which time is meant?');
  const choices = row.getByRole('group').getByRole('button');
  expect(await choices.count()).toBeGreaterThan(1);
  await row.getByRole('button', { name: /^hours/ }).click();
  await expect(row).not.toContainText('Which time is meant?');
});
