import { toBuffer } from 'bwip-js/node';
import { choose, signIn, takeInLot } from './helpers';
import { code, firstNumber, numbered, scan, step } from './receiving';
import { expect, test } from './test';

test.use({ viewport: { width: 1024, height: 768 } });

test('a lot of 24 is received: two damaged, one copied code, one at 0.6 V', async ({ page }) => {
  test.setTimeout(600_000);
  await signIn(page, 'lead');
  const lot = await takeInLot(
    page,
    {
      title: 'Tablet lot',
      supplier: 'Reedbank Cells',
      quantity: 24,
      model: 'Sedge T104',
    },
    'arrival/box',
  );

  // The box: 24 counted, and light.
  await expect(page.getByTestId('count-note')).toContainText('the count agrees');
  await page.getByRole('button', { name: 'Keep the count' }).click();
  await expect(page.getByText('counted 24')).toBeVisible();
  await page.getByLabel('Gross, with the box / g').fill('44,5 kg');
  await page.getByLabel('Tare, the empty box / g').fill('1200');
  await page.getByRole('button', { name: 'Keep the weights' }).click();
  await expect(page.getByTestId('weight-note')).toContainText(
    /43.300 g net for 24 cells is 1804.2 g each/,
  );
  await page.getByLabel('Part, such as bus bars').fill('bus bars');
  await page.getByLabel('How many').fill('24');
  await page.getByRole('button', { name: 'Add the part' }).click();
  await page.getByLabel('bus bars that came').fill('22');
  await page.getByLabel('bus bars that came').blur();
  await expect(page.getByText('2 missing')).toBeVisible();

  // A photograph, and one that is none.
  const picture = await toBuffer({ bcid: 'qrcode', text: 'box', scale: 4 });
  await page.getByTestId('photo-lot').setInputFiles([
    { name: 'box.png', mimeType: 'image/png', buffer: picture },
    { name: 'note.jpg', mimeType: 'image/jpeg', buffer: Buffer.from('no picture') },
  ]);
  await expect(page.getByRole('img', { name: /box.png/ })).toBeVisible();
  await expect(
    page.getByText(/note.jpg: expected a photograph as JPEG, PNG or WebP/),
  ).toBeVisible();

  // Codes: scanned one after the other; one comes a second time, on another cell.
  await step(page, 'Codes').click();
  await expect(page.getByText(/Scan the code of B-/)).toBeVisible();
  for (let i = 0; i < 23; i++) {
    await scan(page, i === 3 ? code(100 + i).toLowerCase() : code(100 + i));
    await expect(page.getByTestId('scan-told')).toContainText(`serial 0000${100 + i}`);
  }
  await expect(page.getByTestId('scan-told')).toContainText('produced 2024-03-13');
  await page.waitForTimeout(1_100);
  await scan(page, code(105));
  await page.getByRole('button', { name: /stands on B-\d+ too: a copied label/ }).click();
  await expect(page.getByText('copied labels.')).toBeVisible();
  await expect(page.getByText('Every cell carries a code')).toBeVisible();

  // Inspection: two damaged, the rest clear. The connection drops in the middle.
  await step(page, 'Inspection').click();
  const first = await firstNumber(page);
  const tile = (n: number) =>
    page.getByRole('button', { name: new RegExp(`^${numbered(first + n)}`) });
  await tile(2).click();
  await page.getByRole('button', { name: 'leaking or wet' }).click();
  await expect(
    page.getByRole('alert').getByText(`${numbered(first + 2)} is in quarantine`),
  ).toBeVisible();
  await expect(page.getByText('Leaked electrolyte burns')).toBeVisible();
  await page.getByRole('button', { name: 'Understood' }).click();
  await page.context().setOffline(true);
  await tile(9).click();
  await page.keyboard.press('t');
  await expect(page.getByText(/No connection. 1 mark is waiting in this browser/)).toBeVisible();
  await page.getByTestId('clear-rest').click();
  // Clear is shown once it is stored: somebody else may have found something meanwhile.
  await expect(tile(10)).toContainText('being stored');
  await page.context().setOffline(false);
  await expect(page.getByText('All marks are stored.')).toBeVisible();
  await expect(tile(10)).toContainText('clear');
  await page.reload();
  await expect(tile(9)).toContainText('damaged or repaired terminal thread');
  await expect(page.getByText('Its torque is not recorded: ask')).toBeVisible();
  await expect(step(page, 'Inspection')).toContainText('24 of 24 inspected');

  // First readings, across: voltage, resistance; one cell at 0.6 V.
  await step(page, 'First readings').click();
  await choose(page.getByLabel('A bare number under OCV / V is in'), 'typed in mV');
  await page.getByLabel(`OCV / V, ${numbered(first)}`).focus();
  for (let i = 0; i < 24; i++) {
    await page.keyboard.type(i === 15 ? '600' : String(3290 + (i % 3)));
    await page.keyboard.press('Enter');
    if (i === 15) await page.keyboard.press('Enter');
  }
  await expect(page.getByText('All readings are stored.')).toBeVisible();
  await step(page, 'Triage').click();
  const low = page.locator(`[data-cell="${numbered(first + 15)}"]`);
  await expect(low).toContainText('to discard');
  await expect(low).toContainText('was below 1.0 V');

  // By the recovery school it waits for a lead, who reads the caution.
  await choose(page.getByLabel('School'), 'recovery');
  await expect(low).toContainText('waits for a lead');

  // The sample.
  await step(page, 'Sampling').click();
  await page.getByText('ISO 2859-1').click();
  await choose(page.getByLabel('AQL / %'), '2.5');
  await expect(page.getByTestId('plan-words')).toContainText('Letter C: n = 5, Ac = 0');
  await page.getByLabel('Seed').fill('41');
  await page.getByRole('button', { name: 'Draw the sample' }).click();
  await expect(page.getByTestId('sample-outcome')).toContainText('0 of 5 judged');
  await expect(page.getByRole('list', { name: 'Drawn cells' }).getByRole('listitem')).toHaveCount(
    5,
  );
  await page.getByRole('link', { name: 'Pick list to print' }).click();
  await expect(page.getByRole('row')).toHaveCount(6);

  // Today: what is quarantined, what waits for a lead, what is ready.
  await page.goto('/');
  const due = (urgency: string) =>
    page.getByRole('region', { name: urgency }).getByRole('listitem').filter({ hasText: lot });
  await expect(due('Danger')).toContainText('1 cell is in quarantine');
  await expect(due('Due now')).toContainText('1 cell waits for a lead to release it');
  await expect(due('Blocked')).toContainText('1 cell is to be made good');
  await expect(due('Can wait')).toContainText('21 of 24 ready for the bench');
  const section = due('Due now');
  await section.getByText('waits for a lead').click();
  await expect(page).toHaveURL(new RegExp(`${lot}/arrival/triage`));
  await low.getByRole('button', { name: 'Release …' }).click();
  await low.getByRole('checkbox').check();
  await low.getByRole('button', { name: /Release B-\d+ for slow recovery/ }).click();
  await expect(low).toContainText('in slow recovery');

  // Made good: the other damaged one.
  await step(page, 'Inspection').click();
  await page.getByRole('button', { name: 'Made good …' }).click();
  await page.getByLabel('Before').fill('thread pulled for two turns');
  await page.getByLabel('Done, and how it is now').fill('thread re-cut, torque held');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(page.getByText('Before: thread pulled for two turns.')).toBeVisible();
});

test('a code is read from a picture, and an unreadable one is said to be', async ({ page }) => {
  await signIn(page, 'lead');
  await takeInLot(
    page,
    {
      title: 'Camera lot',
      supplier: 'Reedbank Cells',
      quantity: 3,
      model: 'Sedge C104',
    },
    'arrival/box',
  );
  await step(page, 'Codes').click();
  const matrix = await toBuffer({
    bcid: 'datamatrix',
    text: code(9001),
    scale: 6,
    padding: 12,
    backgroundcolor: 'ffffff',
  });
  await page
    .getByTestId('code-picture')
    .setInputFiles({ name: 'code.png', mimeType: 'image/png', buffer: matrix });
  await expect(page.getByTestId('scan-told')).toContainText('serial 0009001');
  const blank = await toBuffer({ bcid: 'qrcode', text: 'x', scale: 1, height: 1 });
  await page
    .getByTestId('code-picture')
    .setInputFiles({ name: 'wall.png', mimeType: 'image/png', buffer: blank.subarray(0, 60) });
  await expect(page.getByText('No code was found in wall.png')).toBeVisible();
});
