import { signIn } from './helpers';
import { expect, test } from './test';

test('the round: Enter leads from field to field and tester to tester; what does not fit is asked', async ({
  page,
}) => {
  await signIn(page, 'technician');
  await page.goto('/bench/round');
  const stops = page.locator('[data-stop]');
  await expect(stops).toHaveCount(3);
  const [first, second] = [stops.nth(0), stops.nth(1)];
  const cell = (await first.getAttribute('data-stop'))!;
  await expect(first).toContainText('Set the tester’s cut-off to 2.4');
  await expect(stops.nth(2)).toContainText('3.20 Ah more than the current can have given');
  // As fast as somebody types: the keys of one point are counted.
  let keys = 0;
  const press = async (key: string) => {
    keys++;
    await page.keyboard.press(key);
  };
  const write = async (text: string) => {
    for (const key of text) await press(key);
  };
  const charge = await chargeNow(page, cell);
  await page.goto('/bench/round');
  await first.getByLabel(`Display / V of ${cell}`).focus();
  await write('3.15');
  await press('Enter');
  await expect(first.getByLabel(`Charge / Ah of ${cell}`)).toBeFocused();
  await write((charge / 10).toFixed(1));
  await press('Enter');
  await expect(first.getByRole('button', { name: 'Keep it as read' })).toBeVisible();
  await expect(second.getByRole('textbox').first(), 'on to the next tester').toBeFocused();
  await expect(page.getByText('1 point is asked about and not stored yet.')).toBeVisible();
  // Enter in another of its fields is no answer, and a reload loses nothing.
  await first.getByLabel(`Display / V of ${cell}`).press('Enter');
  await expect(first.getByRole('button', { name: 'Keep it as read' })).toBeVisible();
  await page.reload();
  await expect(first.getByLabel(`Charge / Ah of ${cell}`)).toHaveValue((charge / 10).toFixed(1));
  await expect(first.getByRole('button', { name: 'Keep it as read' })).toBeVisible();
  await first.getByLabel(`Charge / Ah of ${cell}`).fill(charge.toFixed(1));
  await press('Enter');
  await expect(first.getByRole('alert')).toHaveCount(0);
  await expect(second.getByRole('textbox').first()).toBeFocused();
  await expect(page.getByText('All points are stored.')).toBeVisible();
  expect(keys).toBeLessThan(16);
  await expect(first).toContainText(`${Number(charge.toFixed(1)).toPrecision(3)} Ah so far`);
});

/** What a counter at 20.8 A shows by now of a cell whose load came on when its log says. */
async function chargeNow(page: import('@playwright/test').Page, cell: string): Promise<number> {
  await page.goto('/bench/round');
  await page.locator(`[data-stop="${cell}"]`).getByRole('link', { name: cell }).click();
  const table = page.getByRole('table', { name: 'Points' });
  await expect(table).toBeVisible();
  const texts = await table.getByRole('row').nth(1).getByRole('cell').allTextContents();
  const [hour, minute] = /(\d\d):(\d\d)/.exec(texts[0]!)!.slice(1).map(Number);
  const zone = await page.evaluate(() => new Date().getTimezoneOffset());
  const now = new Date(Date.now() - zone * 60_000);
  const sinceMin = (now.getUTCHours() - hour!) * 60 + now.getUTCMinutes() - minute!;
  return Number(texts[3]) + (20.8 * ((sinceMin + 1440) % 1440)) / 60;
}

test('a tester that has stopped: its cut-off corrected, the end read between points, the cell stands by it', async ({
  page,
}) => {
  await signIn(page, 'technician');
  await page.goto('/bench/round');
  const stop = page.locator('[data-stop]').nth(1);
  const cell = (await stop.getAttribute('data-stop'))!;
  await stop.getByRole('link', { name: cell }).click();
  const log = page.getByRole('region', { name: 'Hand log' });
  await expect(log).toContainText('at least 91.52');
  await page.getByLabel(`Charge / Ah of ${cell}`).fill('99.30');
  await page.getByRole('button', { name: 'The tester has stopped' }).click();
  await expect(log, 'its leads made it stop too early').toContainText('at least 99.30');
  await log.getByRole('button', { name: 'How the tester is set' }).click();
  await log.getByLabel('Set cut-off / V').fill('2,42');
  await log.getByRole('button', { name: 'Correct it' }).click();
  await expect(log).toContainText(/99\.\d+ ± 0\.\d+ Ah, read between 91\.52 Ah and 99\.30 Ah/);
  // One mistyped is taken back, and counts no more.
  await page.getByLabel(`Charge / Ah of ${cell}`).fill('199.30');
  await page.getByLabel(`Charge / Ah of ${cell}`).press('Enter');
  await expect(page.getByRole('button', { name: 'Keep it as read' })).toBeVisible();
  await page.getByLabel(`Charge / Ah of ${cell}`).press('Enter');
  await expect(log.getByText('kept as read')).toBeVisible();
  await log.getByRole('button', { name: 'Take back' }).first().click();
  await expect(log).toContainText(/99\.\d+ ± 0\.\d+ Ah, read between/);
  await log.getByRole('button', { name: 'It has ended …' }).click();
  await log.getByRole('button', { name: 'End the run with this' }).click();
  await expect(page.getByText('Read by hand to its end.')).toBeVisible();
  await page.goto(`/cells/${cell}`);
  await expect(page.getByText(/hand log|hand-log/i).first()).toBeVisible();
  await page.goto('/bench/round');
  await expect(page.locator(`[data-stop="${cell}"]`)).toHaveCount(0);
});
