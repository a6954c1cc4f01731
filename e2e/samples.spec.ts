import { readdirSync, readFileSync } from 'node:fs';
import { sample, signIn, takeInLot } from './helpers';
import { expect, test } from './test';

interface Truth {
  cutoffs?: Record<string, { reached: boolean; ah: number | null }>;
}

const truth = JSON.parse(readFileSync(sample('truth.json'), 'utf8')) as Record<string, Truth>;
const names = readdirSync(sample('.')).filter((name) => /^\d\d-/.test(name));

test('the whole folder of samples dropped at once: each says what it holds, how sure, and what was odd', async ({
  page,
}) => {
  await signIn(page, 'lead');
  await takeInLot(page, {
    title: 'A folder of logs',
    supplier: 'Reedbank Cells',
    quantity: 2,
    model: 'Reed P104 f',
  });
  await page.getByTestId('log-input').setInputFiles(names.map((name) => sample(name)));
  const rows = page.getByTestId('log-row');
  await expect(rows).toHaveCount(names.length);
  await expect(page.getByText(/Waiting its turn|Reading,/)).toHaveCount(0, { timeout: 60_000 });
  for (const name of names) {
    const row = rows.filter({ hasText: name });
    const text = (await row.innerText()).replaceAll(/\s+/g, ' ');
    const known = truth[name]?.cutoffs?.['2.5'];
    if (/^9[1-5]/.test(name)) expect(text).toMatch(/Expected|expected/);
    if (!known?.ah || name.startsWith('17')) continue;
    const shown = /(at least )?([\d.]+) ± ([\d.]+) Ah/.exec(text);
    expect(shown, `${name}: ${text}`).not.toBeNull();
    const [value, U] = [Number(shown![2]), Number(shown![3])];
    expect(Boolean(shown![1]), name).toBe(!known.reached);
    expect(Math.abs(value - known.ah), name).toBeLessThanOrEqual(U);
  }
  for (const [name, odd] of [
    ['11-gap', /No readings for .* out of order|out of order/],
    ['13-cut-off', /ends abruptly/],
    ['14-stopped', /at least/],
    ['16-meter', /counter stood at/],
  ] as const)
    await expect(rows.filter({ hasText: name })).toContainText(odd);
});

test('a large log is read with progress; taking it away while it is read frees the next', async ({
  page,
}) => {
  await signIn(page, 'technician');
  await page.goto('/lots/L-002/logs');
  // Made in the page: a test may not hand over so much.
  await page.getByTestId('log-input').evaluate((input: HTMLInputElement) => {
    const parts = ['time_s,voltage_V,current_A\n0,3.4,0\n1,3.4,0\n'];
    for (let part = 0; part < 60; part++) {
      let text = '';
      for (let i = 0; i < 50_000; i++)
        text += `${part * 50_000 + i + 2},${(3.3 - 0.00000026 * (part * 50_000 + i)).toFixed(4)},-20.8${i % 10}0\n`;
      parts.push(text);
    }
    const files = new DataTransfer();
    files.items.add(new File(parts, 'huge.csv'));
    files.items.add(new File(['time_s,voltage_V\n0,3\n1,3\n2,3\n'], 'small.csv'));
    input.files = files.files;
    input.dispatchEvent(new Event('change', { bubbles: true }));
  });
  const huge = page.getByTestId('log-row').filter({ hasText: 'huge.csv' });
  const small = page.getByTestId('log-row').filter({ hasText: 'small.csv' });
  await expect(huge).toContainText(/Reading, [1-9]\d? %/);
  await expect(small).toContainText('Waiting its turn');
  await huge.getByRole('button', { name: /huge\.csv/ }).click();
  await expect(huge).toHaveCount(0);
  await expect(small).not.toContainText('Waiting its turn');
  await expect(small).toContainText('3 rows');
});
