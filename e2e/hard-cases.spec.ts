import { readFileSync } from 'node:fs';
import { choose, sample, signIn, takeInLot } from './helpers';
import { expect, test } from './test';

test('a batch of 40 with 3 bad files stores 37 and lists 3', async ({ page }) => {
  await signIn(page, 'lead');
  await takeInLot(page, {
    title: 'Forty logs',
    supplier: 'Reedbank Cells',
    quantity: 40,
    model: 'Reed P104 b',
  });
  const heading = await page
    .getByRole('slider', { name: /Tally of the lot/ })
    .getAttribute('aria-valuetext');
  const first = Number(/B-(\d+)/.exec(heading!)![1]);
  const good = readFileSync(sample('14-stopped-early.csv'), 'utf8').split('\n');
  const bad = ['92-header-only.csv', '94-no-voltage.csv', '95-text-in-numbers.csv'].map((name) =>
    readFileSync(sample(name)),
  );
  const files = Array.from({ length: 40 }, (_, i) => ({
    name: `B-${String(first + i).padStart(4, '0')}.csv`,
    mimeType: 'text/csv',
    buffer:
      i % 13 === 5
        ? bad[(i - 5) / 13]!
        : Buffer.from(good.slice(0, good.length - 2 - i).join('\n')),
  }));
  await page.getByTestId('log-input').setInputFiles(files);
  await page.getByRole('button', { name: 'Store 37 logs' }).click();
  await expect(page.getByTestId('log-summary')).toContainText('40 files, 37 stored, 3 not taken', {
    timeout: 60_000,
  });
  for (const reason of [/Row 1 is a header/, /no voltage column/, /expected a number, found “ERR”/])
    await expect(page.getByText(reason)).toBeVisible();
});

test('readings survive a dropped connection and a reload, and are stored once', async ({
  page,
  context,
}) => {
  await signIn(page, 'lead');
  await takeInLot(page, {
    title: 'Dropped line',
    supplier: 'Reedbank Cells',
    quantity: 4,
    model: 'Reed P104 c',
  });
  await page.getByRole('link', { name: 'Readings' }).click();
  const cells = page.getByLabel(/^OCV \/ V, B-/);
  await cells.nth(0).click();
  await context.setOffline(true);
  await page.keyboard.type('3,291');
  await page.keyboard.press('Enter');
  await page.keyboard.type('3290 mV');
  await page.keyboard.press('Enter');
  await expect(page.getByText(/2 readings are waiting in this browser/)).toBeVisible();
  await context.setOffline(false);
  await page.reload();
  await expect(cells.nth(0)).toHaveValue('3.291');
  await expect(cells.nth(1)).toHaveValue('3.290');
  await expect(page.getByText('All readings are stored.')).toBeVisible({ timeout: 15_000 });
  await page.reload();
  await expect(cells.nth(1)).toHaveValue('3.290');
});

test('paste fills downwards, undo takes back, bad text says what was expected', async ({
  page,
}) => {
  await signIn(page, 'lead');
  await takeInLot(page, {
    title: 'Pasted',
    supplier: 'Reedbank Cells',
    quantity: 5,
    model: 'Reed P104 d',
  });
  await page.getByRole('link', { name: 'Readings' }).click();
  const cells = page.getByLabel(/^AC resistance \/ mΩ, B-/);
  await cells.nth(0).click();
  await cells.nth(0).evaluate((input) => {
    const clipboardData = new DataTransfer();
    clipboardData.setData('text', '0,41\t3,30\n0,42\t3,31\n0,43\tabc\n');
    input.dispatchEvent(
      new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }),
    );
  });
  await expect(cells.nth(2)).toHaveValue('0.43');
  await expect(page.getByText('Expected a number in V, or with mV; found “abc”.')).toBeVisible();
  await cells.nth(3).click();
  await page.keyboard.type('0.44');
  await page.keyboard.press('Enter');
  await expect(page.getByText('All readings are stored.')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(cells.nth(3)).toHaveValue('');
  await expect(page.getByText('All readings are stored.')).toBeVisible();
  await page.reload();
  await expect(cells.nth(0)).toHaveValue('0.41');
  await expect(cells.nth(3)).toHaveValue('');
});

test('a value that was asked about and kept is stored, and undo brings back what stood before', async ({
  page,
}) => {
  await signIn(page, 'technician');
  await page.goto('/lots/L-002/readings');
  // Voltages of a tested lot are those of the store unless it is said otherwise.
  const purpose = page.getByLabel('Voltages are taken');
  await expect(purpose).toHaveText('in store');
  const cell = page.getByLabel('OCV / V, B-0245');
  await expect(cell).toHaveValue('');
  await choose(purpose, 'on arrival');
  await expect(cell).not.toHaveValue('');
  const before = await cell.inputValue();
  await cell.fill('2.9');
  await cell.press('Enter');
  await expect(page.getByText('1 not stored: 1 asked about.')).toBeVisible();
  await page.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByText('All readings are stored.')).toBeVisible();
  await page.reload();
  await choose(purpose, 'on arrival');
  await expect(cell).toHaveValue('2.9');
  await cell.fill('5.5');
  await cell.press('Enter');
  await cell.press('Enter');
  await expect(page.getByText('All readings are stored.')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(cell).toHaveValue('2.9');
  await cell.fill(before);
  await cell.press('Enter');
  await expect(page.getByText('All readings are stored.')).toBeVisible();
});

test('a claim no such can could hold is called impossible while it is typed', async ({ page }) => {
  await signIn(page, 'lead');
  await page.goto('/arrivals/new');
  await choose(page.getByRole('combobox', { name: 'Model', exact: true }), 'A new model …');
  await page.getByLabel('Name of the model').fill('Round 26650');
  await choose(page.getByLabel('Chemistry'), 'NMC / NCA');
  await page.getByLabel('Claimed capacity / Ah').fill('9,9');
  await expect(page.getByTestId('plausibility')).toContainText(
    '1033 Wh/L; NMC / NCA cells reach 850 Wh/L: not possible. At most 8.1 Ah',
  );
});

test('two people at one claim: the second sees the first one’s, nothing is overwritten', async ({
  browser,
}) => {
  const [one, two] = await Promise.all([browser.newPage(), browser.newPage()]);
  await signIn(one, 'lead');
  const code = await takeInLot(one, {
    title: 'Two editors',
    supplier: 'Reedbank Cells',
    quantity: 2,
    model: 'Reed P104 e',
  });
  await signIn(two, 'admin');
  await one.goto(`/lots/${code}/claim`);
  await two.goto(`/lots/${code}/claim`);
  await one.getByLabel('Claimed capacity / Ah').fill('100');
  await one.getByRole('button', { name: 'Keep the claim' }).click();
  await expect(one.getByText('Claim kept')).toBeVisible();
  await two.getByLabel('Claimed capacity / Ah').fill('90');
  await two.getByRole('button', { name: 'Keep the claim' }).click();
  await expect(two.getByText(/Someone else changed this lot/)).toBeVisible();
  const both = two.getByRole('region', { name: 'Both versions' });
  await expect(both).toContainText('Stored meanwhile: 100');
  await expect(both).toContainText('Typed by you: 90');
  await both.getByRole('radio', { name: /Stored meanwhile/ }).click();
  await expect(two.getByLabel('Claimed capacity / Ah')).toHaveValue('100');
  await Promise.all([one.close(), two.close()]);
});

test('bad input to a new lot is refused in words and keeps what was typed', async ({ page }) => {
  await signIn(page, 'lead');
  await page.goto('/arrivals/new');
  await page.getByLabel('Short name').fill('Odd lot');
  await page.getByLabel('Supplier').fill('Reedbank Cells');
  await choose(page.getByRole('combobox', { name: 'Model', exact: true }), 'Sedge P104');
  for (const [count, message] of [
    ['-3', /whole number, or nothing while the box is on its way; found “-3”/],
    ['twelve', /found “twelve”/],
    ['20001', /at most 20000/],
  ] as const) {
    await page.getByLabel('Cells counted').fill(count);
    await page.getByRole('button', { name: 'Take in the lot' }).click();
    await expect(page.getByText(message)).toBeVisible();
  }
  await page.getByLabel('Cells counted').fill('2');
  await page.getByLabel('Claimed capacity / Ah').fill('lots');
  await page.getByRole('button', { name: 'Take in the lot' }).click();
  await expect(page.getByText(/Capacity: Expected a number in Ah/)).toBeVisible();
  await expect(page.getByLabel('Short name')).toHaveValue('Odd lot');
});

test('a lot half typed survives a reload and a refusal, and a lost answer makes no second one', async ({
  page,
}) => {
  await signIn(page, 'lead');
  await page.goto('/arrivals/new');
  await page.getByLabel('Short name').fill('Lost answer');
  await page.getByLabel('Supplier').fill('Marl Cells');
  await page.getByLabel('Cells counted').fill('3');
  await choose(page.getByRole('combobox', { name: 'Model', exact: true }), 'Sedge P104');
  await page.getByLabel('Price / EUR').fill('12,345');
  await page.getByLabel('Price / EUR').press('Tab');
  await page.getByRole('button', { name: '12345', exact: true }).click();
  await page.getByLabel('Claimed capacity / Ah').fill('-104');
  await page.getByRole('button', { name: 'Take in the lot' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'apacity' })).toBeVisible();
  await page.reload();
  await expect(page.getByLabel('Short name')).toHaveValue('Lost answer');
  await expect(page.getByLabel('Price / EUR')).toHaveValue('12345');
  await page.getByLabel('Claimed capacity / Ah').fill('104');

  // Without a connection it says so; with it, an answer that is lost leads to the same lot.
  await page.context().setOffline(true);
  await page.getByRole('button', { name: 'Take in the lot' }).click();
  await expect(page.getByText(/No connection: the lot is not taken in yet/)).toBeVisible();
  await page.context().setOffline(false);
  let sent = 0;
  await page.route('**/arrivals/new', async (route) => {
    if (route.request().method() !== 'POST' || ++sent > 1) return route.continue();
    // The server did it, and the browser never hears of it: the try is sent again as it was.
    await route.fetch();
    await route.abort();
  });
  await page.getByRole('button', { name: 'Take in the lot' }).click();
  await page.waitForURL(/\/lots\/L-\d+\/arrival\/box/);
  expect(sent).toBeGreaterThan(1);
  await page.goto('/arrivals');
  await expect(page.getByRole('link', { name: /Lost answer/ })).toHaveCount(1);
  await page.goto('/arrivals/new');
  await expect(page.getByLabel('Short name')).toHaveValue('');
});
