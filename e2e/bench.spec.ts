import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { choose, signIn } from './helpers';
import { scan } from './receiving';
import { expect, test } from './test';

/** A cell that heats on charge on the simulated bench, and one that does not. */
const HEATER = 'B-0279';
const SOUND = 'B-0280';

/** Somebody is there at any hour, so that the tests run at any. */
async function attendAlways(page: Page): Promise<void> {
  await page.goto('/bench/plan');
  const hours = page.getByRole('button', { name: /^Somebody is there/ });
  if ((await hours.textContent())?.includes('Mon–Sun 00:00–23:59')) return;
  await hours.click();
  for (const day of ['Sat', 'Sun']) await page.getByRole('checkbox', { name: day }).check();
  await page.getByLabel('From', { exact: true }).fill('00:00');
  await page.getByLabel('To', { exact: true }).fill('23:59');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(hours).toContainText('Mon–Sun 00:00–23:59');
}

/** The cell is on the list of what waits; it is put there where it is not. */
async function list(page: Page, cell: string): Promise<void> {
  const block = page.getByRole('button', { name: new RegExp(`^${cell}`) });
  if ((await block.count()) > 0) return;
  const form = page.getByRole('region', { name: 'Cells to test' });
  await choose(form.getByLabel('Lot'), 'L-003: Scooter packs to break down');
  await form.getByLabel(/^Cells/).fill(cell);
  await form.getByRole('button', { name: 'Put on the list' }).click();
  await expect(form.getByText(/1 put on the list/)).toBeVisible();
}

/** A free channel of the driven bench is chosen, everything is answered, the run starts. */
async function start(page: Page, cell: string): Promise<void> {
  await list(page, cell);
  await page
    .getByRole('button', { name: new RegExp(`^${cell}`) })
    .first()
    .click();
  await page.getByRole('button', { name: 'Start it now' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByText('You answer for')).toBeVisible();
  const channel = dialog.getByLabel('Channel');
  await channel.click();
  await page
    .getByRole('option', { name: /^Driven bench, \d+$/ })
    .first()
    .click();
  await expect(dialog.getByText('The cut-off is set on the instrument itself')).toHaveCount(0);
  for (const box of await dialog.getByRole('checkbox').all()) await box.check();
  // Another cell stands at the place: nothing is started.
  const scanned = dialog.getByLabel('Cell at its place, scanned');
  await scanned.fill('B-0001');
  await dialog.getByRole('button', { name: 'Start', exact: true }).click();
  await expect(
    dialog.getByText(/B-0001 stands at Driven bench, \d+; this run is of/),
  ).toBeVisible();
  // A scan goes to the field wherever the focus is.
  await dialog.getByText('You answer for').click();
  await scan(page, cell);
  await expect(scanned).toHaveValue(cell);
  await dialog.getByRole('button', { name: 'Start', exact: true }).click();
  await page.waitForURL(/\/bench\/runs\/\d+/);
}

test('the first look at the bench is alive', async ({ page }) => {
  await signIn(page, 'technician');
  await page.goto('/');
  await page.getByRole('link', { name: 'Bench', exact: true }).click();
  await expect(page.getByText(/of 21 channels at work/)).toBeVisible();
  await expect(page.getByText('the bench’s clock runs 60 times as fast as real')).toBeVisible();
  const tile = page.getByRole('link', { name: /^Driven bench, 1,/ });
  const before = await tile.textContent();
  await expect.poll(() => tile.textContent(), { timeout: 20_000 }).not.toBe(before);
  await tile.click();
  const events = page.getByRole('region', { name: 'What happened' });
  await expect(events).toContainText('Started.');
  await expect(page.getByRole('region', { name: 'Steps' })).toContainText('discharging');
});

test('24 cells are planned, one is moved, one is refused, one starts', async ({ page }) => {
  await signIn(page, 'lead');
  await attendAlways(page);
  const form = page.getByRole('region', { name: 'Cells to test' });
  await choose(form.getByLabel('Lot'), 'L-003: Scooter packs to break down');
  await form.getByLabel(/^Cells/).fill('first 24');
  await expect(form.getByLabel('Cells (24)')).toBeVisible();
  await form.getByRole('button', { name: 'Put on the list' }).click();
  await expect(form.getByText(/24 put on the list/)).toBeVisible();
  await page.getByRole('button', { name: 'Plan from now on' }).click();
  await expect(page.getByTestId('plan-summary')).toContainText('all done by');
  await expect(page.getByTestId('plan-summary')).toContainText('No plan could end before');
  // By the form: an hour that is past is refused with its reason, nothing moves.
  const board = page.getByRole('region', { name: 'Channels against hours' });
  const block = board.getByRole('button', { name: /^B-0281,/ });
  await block.click();
  const job = page.getByRole('region', { name: 'Job of B-0281' });
  await job.getByLabel('Starts, day').fill('2020-01-01');
  await job.getByLabel('Starts, time').fill('09:00');
  await job.getByRole('button', { name: 'Move' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'It does not fit there' })).toContainText(
    'past',
  );
  // By dragging: what ends last of all has room behind it, and none before now.
  await page.getByRole('button', { name: '7 days' }).click();
  const blocks = board.getByRole('button', { name: /^B-\d{4}, .* to / });
  const edges = await blocks.evaluateAll((all) =>
    all.map((one) => one.getBoundingClientRect().right),
  );
  const last = blocks.nth(edges.indexOf(Math.max(...edges)));
  await last.scrollIntoViewIfNeeded();
  const named = (await last.getAttribute('aria-label'))!.slice(0, 6);
  const midnights = await board
    .getByText(/^(Mon|Tue|Wed|Thu|Fri|Sat|Sun)\b/)
    .evaluateAll((all) => all.map((one) => one.getBoundingClientRect().left));
  const day = midnights[1]! - midnights[0]!;
  const drag = async (pixels: number) => {
    const box = (await board
      .getByRole('button', { name: new RegExp(`^${named}, `) })
      .boundingBox())!;
    await page.mouse.move(box.x + 5, box.y + 10);
    await page.mouse.down();
    await page.mouse.move(box.x + 5 + pixels / 2, box.y + 10, { steps: 4 });
    await page.mouse.move(box.x + 5 + pixels, box.y + 10, { steps: 6 });
    await page.mouse.up();
  };
  // The same hour a day later is attended as the planned one is.
  await drag(day);
  await expect(
    board.getByRole('button', { name: new RegExp(`^${named}.*put by hand`) }),
  ).toBeVisible();
  await expect(page.getByText(/It does not fit there/)).toBeHidden();
  // Six hours before it was planned another cell is on that channel.
  await drag(-1.25 * day);
  await expect(page.getByText(/It does not fit there/)).toBeVisible();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Calendar file' }).click(),
  ]);
  const calendar = readFileSync((await download.path())!, 'utf8');
  expect(calendar.startsWith('BEGIN:VCALENDAR')).toBe(true);
  expect(calendar.replace(/\r\n /g, '')).toContain('SUMMARY:Connect and watch');
});

test('a run starts when everything is answered, can be paused, and goes on', async ({ page }) => {
  await signIn(page, 'lead');
  await attendAlways(page);
  await start(page, SOUND);
  await expect(page.getByRole('region', { name: 'What happened' })).toContainText('Step 1 began.');
  await page.getByLabel('Value').fill('3,71');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(page.getByLabel('Value')).toHaveValue('');
  await page.getByRole('button', { name: 'Pause' }).click();
  await expect(page.getByRole('button', { name: 'Go on' })).toBeVisible();
  await page.getByRole('button', { name: 'Go on' }).click();
  await expect(page.getByRole('button', { name: 'Pause' })).toBeVisible();
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await page.getByRole('button', { name: 'Stop it for good' }).click();
  await expect(page.getByText(/stopped it\./).first()).toBeVisible();
  await expect(page.getByRole('link', { name: 'Figures of this run' })).toBeVisible();
});

test('a heater is stopped, said with what to do, and blocked for good', async ({ page }) => {
  await signIn(page, 'lead');
  await attendAlways(page);
  await start(page, HEATER);
  await expect(page.getByRole('region', { name: 'What happened' })).toContainText('Hot on charge', {
    timeout: 90_000,
  });
  await page.goto('/bench');
  const alarms = page.getByRole('region', { name: 'Alarms' });
  await expect(alarms).toContainText(HEATER);
  await expect(alarms).toContainText('Move it with tongs');
  await alarms.getByRole('button', { name: 'Seen, all of them' }).click();
  await expect(alarms).toHaveCount(0);
  await page.goto(`/cells/${HEATER}`);
  await expect(page.getByText('heats on charge').first()).toBeVisible();
  await expect(page.getByText(/quarantine/i).first()).toBeVisible();
  await page.goto('/bench/plan');
  const form = page.getByRole('region', { name: 'Cells to test' });
  await choose(form.getByLabel('Lot'), 'L-003: Scooter packs to break down');
  await form.getByLabel(/^Cells/).fill(HEATER);
  await form.getByRole('button', { name: 'Put on the list' }).click();
  await expect(page.getByText(/may not go on a tester/)).toBeVisible();
});

test('a recipe is written by keys, refused where it makes no sense, kept as a version', async ({
  page,
}) => {
  await signIn(page, 'lead');
  await page.goto('/bench/recipes');
  await page.getByRole('link', { name: 'New recipe' }).click();
  const name = `Twice ${Date.now() % 100_000}`;
  await page.getByLabel('Name').fill(name);
  await page.getByRole('button', { name: '+ Measure' }).click();
  await page.getByRole('button', { name: 'Step 6 up' }).click();
  const steps = page.getByRole('list', { name: 'Steps' });
  await expect(steps.getByRole('listitem').nth(4)).toContainText('Measure');
  await page.getByLabel('until / It').fill('0.9');
  await expect(page.getByRole('alert').filter({ hasText: 'Step 1' })).toContainText('below');
  await expect(page.getByRole('button', { name: 'Keep the recipe' })).toBeDisabled();
  await page.getByLabel('until / It').fill('0,05');
  await expect(page.getByRole('img', { name: /Expected course over/ })).toBeVisible();
  await page.getByRole('button', { name: 'Keep the recipe' }).click();
  await page.getByRole('link', { name }).click();
  await page.getByRole('button', { name: 'Take step 5 out' }).click();
  await page.getByLabel('What changed, for version 2').fill('nothing is measured');
  await page.getByRole('button', { name: 'Keep as a new version' }).click();
  await expect(page.getByRole('article').filter({ hasText: name })).toContainText('version 2');
});

test('a bank that is full too early is said at once', async ({ page }) => {
  await signIn(page, 'technician');
  await page.goto('/bench/parallel');
  await choose(page.getByLabel('Lot'), 'L-002: Prismatic 104 Ah for workboats');
  await page.waitForURL(/lot=/);
  const at = (hoursAgo: number) => {
    const date = new Date(Date.now() - hoursAgo * 3_600_000);
    return new Date(date.getTime() - date.getTimezoneOffset() * 60_000).toISOString().slice(0, 16);
  };
  const moment = async (label: string, text: string) => {
    const [day, time] = text.split('T') as [string, string];
    await page.getByLabel(`${label}, day`).first().fill(day);
    await page.getByLabel(`${label}, time`).first().fill(time);
  };
  await moment('Started', at(22));
  await expect(page.getByRole('button', { name: 'Keep time' })).toBeDisabled();
  await page.getByRole('checkbox').check();
  await page.getByRole('button', { name: 'Keep time' }).click();
  await moment('Full at', at(1));
  await page.getByRole('button', { name: 'It is full' }).first().click();
  await expect(
    page.getByText(/at most 52\.5 Ah went into each on average, so at most 75 Ah each/),
  ).toBeVisible();
});

test('a string under load: the cell that sags and the joint that is hot are named and kept', async ({
  page,
}) => {
  await signIn(page, 'technician');
  await page.goto('/bench/load-test');
  await page.getByRole('link', { name: 'New load test' }).click();
  const first = page.getByLabel('Cells at the first load / V');
  const second = page.getByLabel('Cells at the second load / V');
  await first.fill('3,280 3,281 3,279 3,280 3,280 3,281');
  await second.fill('3.262 3.263 3.261 3.262 3.226');
  await expect(page.getByRole('alert').filter({ hasText: 'as many voltages' })).toBeVisible();
  await second.fill('3.262 3.263 3.261 3.262 3.226 3.263');
  await page.getByLabel(/^Joints/).fill('24 25 33 25 24 24');
  await expect(page.getByRole('row', { name: /^5 54 1\.80/ })).toContainText('stands out');
  await expect(page.getByText(/Joint 3 has 33 °C, 8\.0 K above its neighbours/)).toBeVisible();
  await page.getByLabel('Cable, copper / mm²').fill('2.5');
  await expect(page.getByRole('region', { name: 'The string' })).toContainText(
    'take a thicker one',
  );
  // What was typed outlives a page that is loaded again, and a refusal.
  await page.reload();
  await expect(page.getByRole('row', { name: /^5 54/ })).toBeVisible();
  const name = `Six on the bench ${Date.now() % 100_000}`;
  await page.getByLabel('Name', { exact: true }).fill(name);
  const cells = page.getByLabel(/^Numbers of its cells/);
  await cells.fill('B-0281 B-0282 B-0283 B-0284 X-0005 B-0286');
  await page.getByRole('button', { name: 'Store load test' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'no cell X-0005' })).toBeVisible();
  await cells.fill('B-0281 B-0282 B-0283 B-0284 B-0285 B-0286');
  await page.getByRole('button', { name: 'Store load test' }).click();
  await expect(page.getByRole('heading', { name })).toBeVisible();
  await page.goto('/bench/load-test');
  await expect(page.getByRole('row').filter({ hasText: name })).toContainText(
    'B-0285; a joint was hot',
  );
  await page.goto('/cells/B-0285');
  const place = page.getByRole('region', { name: 'In a string' });
  await expect(place).toContainText('place 5');
  await expect(place).toContainText('stands out');
});
