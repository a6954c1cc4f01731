import { readFileSync } from 'node:fs';
import { recordDischarge, rowsAsCsv, typicalCell } from '../core/src/simulator';
import { choose, signIn } from './helpers';
import { expect, test } from './test';

/** A log of a cell of lot A on a sound joint. */
function repeatLog(seed: number): Buffer {
  const rows = recordDischarge(
    { ...typicalCell('LFP', 6), capacityAh: 6.2 },
    {
      currentA: 1.2,
      cutoffV: 2.5,
      intervalS: 10,
      restBeforeS: 3600,
      restAfterS: 600,
      ambientC: 23,
      seed,
      closerAtLoadOn: { everyS: 1, forS: 60 },
    },
  );
  return Buffer.from(rowsAsCsv(rows));
}

test('three AC readings in one field: the median is kept, the spread shown', async ({ page }) => {
  await signIn(page, 'technician');
  await page.goto('/lots/L-001/readings');
  const field = page.getByLabel('AC resistance / mΩ, B-0011');
  await field.fill('7,31 7,36 7,33');
  await field.press('Enter');
  await expect(field).toHaveValue('7.33');
  await expect(page.getByText('median of 7.31, 7.36, 7.33')).toBeVisible();
  await expect(page.getByText('All readings are stored.')).toBeVisible();
  // Over the bar the joint is in it, so a verdict against "at most" cannot fall.
  await choose(page.getByLabel('AC probes are'), 'on the bars');
  const other = page.getByLabel('AC resistance / mΩ, B-0012');
  await other.fill('9.4 9.6 9.5');
  await other.press('Enter');
  await page.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByText('All readings are stored.')).toBeVisible();
  await page.goto('/cells/B-0011');
  await expect(page.getByText('median of 7.31, 7.36, 7.33')).toBeVisible();
  await page.goto('/cells/B-0012');
  await expect(page.getByText(/Probes on the bars: the joint is in this reading/)).toBeVisible();
  const settling = page.getByRole('region', { name: 'What would settle the AC resistance' });
  await expect(settling).toContainText('Read it on the terminals');
});

test('energy behind an inverter gives its efficiency and losses beside the log', async ({
  page,
}) => {
  await signIn(page, 'technician');
  await page.goto('/lots/L-001/readings');
  const field = page.getByLabel('Energy behind an inverter / Wh, B-0006');
  // A choice made before the page is alive is lost: it is made again.
  await expect(async () => {
    await choose(page.getByLabel('More columns'), 'energy behind an inverter');
    await expect(field).toBeVisible({ timeout: 2000 });
  }).toPass();
  await field.fill('0.0184 kWh');
  await field.press('Enter');
  await expect(page.getByText('All readings are stored.')).toBeVisible();
  await page.goto('/cells/B-0006');
  await page.getByRole('link', { name: 'B-0006.csv' }).click();
  const panel = page.getByRole('region', { name: 'Through the inverter' });
  await expect(panel).toContainText('18.40 Wh');
  await expect(panel).toContainText(/Efficiency\s*9\d(\.\d)? ± /);
  await expect(panel).toContainText('W on average');
});

test('what a tester shows of one discharge has to fit together, or is asked about', async ({
  page,
}) => {
  await signIn(page, 'technician');
  await page.goto('/lots/L-001/readings');
  const field = (head: string) => page.getByLabel(`${head}, B-0005`);
  await expect(async () => {
    await choose(page.getByLabel('More columns'), 'energy, current and time as shown');
    await expect(field('Current as shown / A')).toBeVisible({ timeout: 2000 });
  }).toPass();
  const type = async (head: string, text: string) => {
    await field(head).fill(text);
    await field(head).press('Enter');
  };
  await type('Capacity as shown by a tester / Ah', '6.2');
  await type('Current as shown / A', '1.2');
  await type('Time as shown / h', '5.5');
  await expect(
    page.getByText(/1\.2 A for 5\.5 h make 6\.600 Ah, not 6\.2 Ah: 6\.2 % apart/),
  ).toBeVisible();
  await type('Time as shown / h', '310 min');
  await expect(page.getByText(/ % apart/)).toHaveCount(0);
  await type('Energy as shown / Wh', '13');
  await expect(
    page.getByText(/13 Wh over 6\.2 Ah is 2\.10 V, outside 2\.5 to 3\.65 V/),
  ).toBeVisible();
  await type('Energy as shown / Wh', '20.1');
  await expect(page.getByText('All readings are stored.')).toBeVisible();
  await page.goto('/cells/B-0005');
  await expect(page.getByText('Energy as shown by a tester, Wh')).toBeVisible();
});

test('the value typed off a tester stands beside the log, and a difference is said', async ({
  page,
}) => {
  await signIn(page, 'technician');
  await page.goto('/lots/L-001/readings');
  const field = page.getByLabel(/Capacity as shown by a tester \/ Ah, B-0008/);
  await field.fill('6.45');
  await field.press('Enter');
  await expect(page.getByText('All readings are stored.')).toBeVisible();
  await page.goto('/cells/B-0008');
  await page.getByRole('link', { name: 'B-0008.csv' }).click();
  const panel = page.getByRole('region', { name: 'The same charge, counted' });
  await expect(panel).toContainText('Current integrated over time');
  await expect(panel).toContainText('Typed off the tester');
  await expect(panel).toContainText(/the value typed off the tester 6\.450 Ah: \d\.\d % apart/);
});

test('cell or connection: three facts, re-tighten, repeat, and the joint is named', async ({
  page,
}) => {
  await signIn(page, 'lead');
  await page.goto('/cells/B-0101');
  const panel = page.getByRole('region', { name: 'Cell or connection' });
  await expect(panel).toContainText('Suspect the connection, not the cell.');
  await expect(panel.getByRole('term')).toHaveCount(3);
  await expect(panel).toContainText('Not re-tightened and repeated yet.');
  await expect(panel).toContainText('Local rules and licensed practice come first.');
  await panel.getByRole('button', { name: 'Joint tightened again, repeat follows' }).click();
  await expect(panel).toContainText('Tightened again on');
  await page.goto('/lots/L-001/logs');
  await page.getByTestId('log-input').setInputFiles({
    name: 'B-0101 again.csv',
    mimeType: 'text/csv',
    buffer: repeatLog(811),
  });
  await page.getByRole('button', { name: 'Store 1 log' }).click();
  await expect(page.getByTestId('log-summary')).toContainText('1 stored');
  await page.goto('/cells/B-0101');
  await expect(panel).toContainText(/3\d(\.\d)? mΩ before, 1\d(\.\d)? mΩ after/);
  await expect(panel).toContainText('take the later result');
});

test('a result too close to call says what would settle it', async ({ page }) => {
  await signIn(page, 'technician');
  await page.goto('/cells/B-0244');
  const settling = page.getByRole('region', { name: 'What would settle the capacity' });
  await expect(settling).toContainText(/U has to fall from [\d.]+ to [\d.]+ Ah or less/);
  // A run that was stopped by hand is to be run down instead.
  await page.goto('/cells/B-0258');
  await expect(settling).toContainText('Run it down to the cut-off');
});

test('a window of a run is stated as that, and the model’s full curves make an estimate of it', async ({
  page,
}) => {
  await signIn(page, 'technician');
  await page.goto('/cells/B-0030');
  await page.getByRole('link', { name: 'B-0030.csv' }).click();
  const panel = page.getByRole('region', { name: 'Between two voltages' });
  await panel.getByLabel('From / V').fill('3,25');
  await panel.getByLabel('down to / V').fill('3.0');
  await panel.getByRole('button', { name: 'Read off' }).click();
  await expect(panel).toContainText(/Window capacity \d\.\d+ ± .* from 3\.25 V to 3 V/);
  await expect(panel).toContainText(/Full capacity, estimated 6\.\d+ ±/);
  await expect(panel).toContainText('An estimate, not a measurement.');
  await panel.getByLabel('From / V').fill('2.9');
  await panel.getByRole('button', { name: 'Read off' }).click();
  await expect(panel).toContainText('Expected the upper voltage first');
  await panel.getByLabel('From / V').fill('three');
  await panel.getByRole('button', { name: 'Read off' }).click();
  await expect(panel.getByRole('alert')).toContainText('Expected two voltages in V');
});

test('dQ/dV and dV/dQ of a lot, the odd peak named, and rate sets below', async ({ page }) => {
  await signIn(page, 'technician');
  await page.goto('/lots/L-001/curves');
  await page.getByRole('radio', { name: 'dQ/dV' }).click();
  await expect(
    // Of all but the few whose results other tests had held.
    page.getByRole('img', { name: /Charge per volt against voltage for 2[34]\d/ }),
  ).toBeVisible();
  await page.getByRole('radio', { name: 'dV/dQ' }).click();
  await expect(page).toHaveURL(/axis=dvdq/);
  await expect(page.getByRole('img', { name: /Fall of voltage per ampere-hour/ })).toBeVisible();
  const waiting = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save what is shown as CSV' }).click();
  const csv = readFileSync(await (await waiting).path(), 'utf8');
  expect(csv).toMatch(/^cell,charge_given_Ah,dV\/dQ_V\/Ah\n/);
  expect(csv.split('\n').length).toBeGreaterThan(20_000);
  const sets = page.getByRole('region', { name: 'Rate sets' });
  await expect(sets.getByRole('row')).toHaveCount(7);
  await expect(sets).toContainText('B-0121');
});

test('leads are found from spot readings and carried with their uncertainty', async ({ page }) => {
  await signIn(page, 'technician');
  await page.goto('/lots/L-002/logs');
  await page.getByTestId('log-input').setInputFiles({
    name: 'two-wire.csv',
    mimeType: 'text/csv',
    buffer: repeatLog(812),
  });
  await page.getByRole('button', { name: 'from spot readings' }).click();
  const type = async (line: number, values: [string, string, string]) => {
    for (const [head, value] of [
      ['Current / A', values[0]],
      ['Tester shows / V', values[1]],
      ['On the cell / V', values[2]],
    ] as const)
      await page.getByLabel(`${head}, line ${line}`).fill(value);
  };
  await type(1, ['0', '3.300', '3.302']);
  await type(2, ['20', '3.125', '3.202']);
  await expect(page.getByText(/3\.75 ± 0\.1\d mΩ/)).toBeVisible();
  await expect(page.getByText('the meters differ by 2.0 mV at no current')).toBeVisible();
  await page.getByRole('button', { name: 'Use it' }).click();
  await expect(page.getByLabel('Lead resistance, two-wire / mΩ')).toHaveValue('3.75');
});
