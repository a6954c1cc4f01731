import { readFileSync } from 'node:fs';
import { choose, sample, signIn, takeInLot } from './helpers';
import { expect, test } from './test';

test('uploads: a wrong cell, a foreign page and the same file are refused with the right status', async ({
  page,
  baseURL,
}) => {
  await signIn(page, 'lead');
  await takeInLot(page, {
    title: 'Doors',
    supplier: 'Reedbank Cells',
    quantity: 2,
    model: 'Reed P104 f',
  });
  const heading = await page
    .getByRole('slider', { name: /Tally of the lot/ })
    .getAttribute('aria-valuetext');
  const number = /B-\d+/.exec(heading!)![0];
  await page.getByTestId('log-input').setInputFiles(sample('01-plain-seconds.csv'));
  await page.getByLabel('Cell for 01-plain-seconds.csv').fill(number);
  const [upload] = await Promise.all([
    page.waitForRequest((request) => request.url().includes('/logs?')),
    page.getByRole('button', { name: 'Store 1 log' }).click(),
  ]);
  await expect(page.getByText(`stored in ${number}`)).toBeVisible();
  const url = upload.url();
  const data = readFileSync(sample('01-plain-seconds.csv'));
  const post = (to: string, headers: Record<string, string> = { origin: baseURL! }) =>
    page.request.post(to, { data, headers });

  const again = await post(url);
  expect(again.status()).toBe(409);
  expect(await again.json()).toMatchObject({
    ok: false,
    code: 'duplicate',
    link: `/cells/${number}`,
  });
  expect((await post(url, { origin: 'https://elsewhere.example' })).status()).toBe(403);
  const alien = await page.request.post(url.replace(/cell=\d+/, 'cell=1'), {
    data: readFileSync(sample('03-semicolon-decimal-comma.csv')),
    headers: { origin: baseURL! },
  });
  expect(alien.status()).toBe(404);
  const junk = await page.request.post(url.replace(/name=[^&]*/, 'name=junk.csv'), {
    data: readFileSync(sample('95-text-in-numbers.csv')),
    headers: { origin: baseURL! },
  });
  expect(junk.status()).toBe(422);
  expect((await junk.json()).message).toContain('Row 3, column “voltage_V”');
});

test('readings: broken bodies are refused in words, and nothing of a bad batch is kept', async ({
  page,
  baseURL,
}) => {
  await signIn(page, 'technician');
  const headers = { origin: baseURL!, 'content-type': 'application/json' };
  const notJson = await page.request.post('/api/lots/1/readings', {
    data: Buffer.from('{nope'),
    headers,
  });
  expect(notJson.status()).toBe(422);
  expect((await notJson.json()).message).toMatch(/Expected JSON/);
  const bad = await page.request.post('/api/lots/1/readings', {
    data: {
      readings: [
        {
          cellId: 1,
          kind: 'acResistance',
          value: 'high',
          decimals: 1,
          clientKey: crypto.randomUUID(),
        },
      ],
    },
    headers,
  });
  expect(bad.status()).toBe(422);
  expect((await bad.json()).message).toMatch(/Expected a number/);
});

test('a trace can be fetched whole and in part; what is not there is 404', async ({ page }) => {
  await signIn(page, 'technician');
  const whole = await page.request.get('/api/runs/1/trace?points=400');
  const part = await page.request.get('/api/runs/1/trace?points=400&from=4000&to=5000');
  expect((await whole.body()).length).toBeGreaterThan((await part.body()).length);
  const points = (await part.body()).readUInt32LE(0);
  expect(points).toBeGreaterThan(10);
  const times = Array.from({ length: points }, (_, i) => 0 + i);
  const body = await part.body();
  for (const i of times) {
    const t = body.readDoubleLE(8 + 8 * i);
    expect(t).toBeGreaterThanOrEqual(4000);
    expect(t).toBeLessThanOrEqual(5000);
  }
  expect((await page.request.get('/api/runs/99999/trace')).status()).toBe(404);
  expect((await page.request.get('/api/figures/99999')).status()).toBe(404);
  expect((await page.request.get('/api/reports/R-1999-0001/pdf')).status()).toBe(404);
});

test('a trail can be shared by its address and closed by Esc; Back works', async ({ page }) => {
  await signIn(page, 'technician');
  await page.goto('/lots/L-002/cells');
  await page.getByTitle('How this figure came about').first().click();
  await expect(page.getByTestId('trail')).toBeVisible();
  const address = page.url();
  expect(address).toContain('figure=');
  await page.goBack();
  await expect(page.getByTestId('trail')).toBeHidden();
  await page.goto(address);
  await expect(page.getByTestId('trail')).toContainText('Uncertainty budget');
  await page.keyboard.press('Escape');
  await expect(page.getByTestId('trail')).toBeHidden();
});

test('the cells table sorts and filters in the address', async ({ page }) => {
  await signIn(page, 'technician');
  await page.goto('/lots/L-002/cells');
  const firstRow = page.getByRole('row').nth(1);
  await page.getByRole('button', { name: /Capacity \/ Ah/ }).click();
  await expect(page).toHaveURL(/sort=capacityAh/);
  const lowest = await firstRow.getByRole('cell').nth(2).textContent();
  await page.getByRole('button', { name: /Capacity \/ Ah/ }).click();
  await expect(page).toHaveURL(/falling=1/);
  await expect(firstRow.getByRole('cell').nth(2)).not.toHaveText(lowest!);
  await page.getByRole('radio', { name: /Too close/ }).click();
  await expect(page).toHaveURL(/show=tooClose/);
  await expect(firstRow).toContainText('too close to call');
  await page.reload();
  await expect(firstRow).toContainText('too close to call');
});

test('an admin adds a person, who chooses a password, works, and is shut out', async ({
  page,
  browser,
}) => {
  await signIn(page, 'admin');
  await page.goto('/lab');
  const form = page.getByRole('form', { name: 'A new person' });
  await form.getByLabel('Name').fill('Wren Hollow');
  await form.getByLabel('E-mail').fill('wren@fennick');
  await form.getByRole('button', { name: 'Add the person' }).click();
  await expect(form.getByText(/Expected an e-mail address/)).toBeVisible();
  await form.getByLabel('E-mail').fill('wren@fennick.example');
  await form.getByRole('button', { name: 'Add the person' }).click();
  const once = (await page.getByTestId('once-password').textContent())!;
  await page.getByRole('button', { name: 'Handed over' }).click();
  await expect(page.getByRole('cell', { name: 'wren@fennick.example' })).toBeVisible();
  const context = await browser.newContext();
  const other = await context.newPage();
  await other.goto('/sign-in');
  await other.getByLabel('E-mail').fill('wren@fennick.example');
  await other.getByLabel('Password').fill(once);
  await other.getByRole('button', { name: 'Sign in', exact: true }).click();
  // A password for one sign-in leads nowhere else until it is changed.
  await other.waitForURL(/\/account/);
  await other.goto('/arrivals');
  await expect(other).toHaveURL(/\/account/);
  await other.getByLabel('The password you were given').fill(once);
  await other.getByLabel('New password', { exact: true }).fill('Password2026!');
  await other.getByLabel('New password, once more').fill('Password2026!');
  await other.getByRole('button', { name: 'Change my password' }).click();
  await expect(other.getByText(/guessed first/)).toBeVisible();
  await other.getByLabel('New password', { exact: true }).fill('seven grey herons');
  await other.getByLabel('New password, once more').fill('seven grey herons');
  await other.getByRole('button', { name: 'Change my password' }).click();
  await other.waitForURL((url) => url.pathname === '/');
  await other.goto('/arrivals');
  await expect(other.getByRole('heading', { name: 'Arrivals', level: 1 })).toBeVisible();
  await page
    .getByRole('row')
    .filter({ hasText: 'wren@' })
    .getByRole('button', { name: 'Shut out' })
    .click();
  await page
    .getByRole('alertdialog', { name: /^Shut out / })
    .getByRole('button', { name: 'Shut out' })
    .click();
  await expect(page.getByText('technician, shut out')).toBeVisible();
  await other.goto('/arrivals');
  await expect(other).toHaveURL(/\/sign-in/);
  await context.close();
});

test('an instrument with its accuracy is added and offered where logs come in', async ({
  page,
}) => {
  await signIn(page, 'lead');
  await page.goto('/lab');
  await page.getByRole('textbox', { name: 'Name', exact: true }).fill('Load bank North');
  await page.getByLabel('Current, ± % of reading').fill('0,1');
  await page.getByLabel('Current, ± mA').fill('2');
  await page.getByLabel('Voltage, ± mV').fill('2');
  await page.getByRole('button', { name: 'Add the instrument' }).click();
  await expect(page.getByRole('cell', { name: 'Load bank North', exact: true })).toBeVisible();
  await page.goto('/lots/L-002/logs');
  await page.getByTestId('log-input').setInputFiles(sample('13-cut-off-mid-line.csv'));
  await expect(page.getByText(/NUL byte\(s\) at the end were dropped/)).toBeVisible();
  await choose(page.getByRole('combobox', { name: 'Tested with' }), 'Load bank North');
  await expect(page.getByRole('combobox', { name: 'Tested with' })).toContainText(
    'Load bank North',
  );
});

test('words nobody offers in an address are no places, and break no page', async ({ page }) => {
  await signIn(page, 'lead');
  for (const path of [
    '/lots/L-001/arrival/toString',
    '/lab/grades/change?for=__proto__',
    '/bench/load-test/new?run=abc',
    '/bench/load-test/new?run=1&run=2',
  ])
    expect((await page.goto(path))?.status(), path).toBe(404);
  for (const path of [
    '/lots/L-001/cells?show=toString&sort=constructor&find=%25%5C&life=__proto__',
    '/lots/L-001/curves?axis=constructor&cells=!!&only=2&band=',
    '/lots/L-001/verdict?figure=abc',
    '/bench/plan?lot=__proto__&cells=9e9',
    '/bench/parallel?lot=1e99',
  ]) {
    expect((await page.goto(path, { waitUntil: 'networkidle' }))?.status(), path).toBe(200);
    await expect(page.getByRole('heading').first(), path).toBeVisible();
    await expect(page.getByText(/This page could not be made/), path).toHaveCount(0);
  }
});
