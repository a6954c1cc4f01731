import { choose, signIn, takeInLot } from './helpers';
import { expect, test } from './test';

test.use({ viewport: { width: 1024, height: 768 } });

test('packs: a label’s builds are ranked, and nothing is opened before the caution', async ({
  page,
}) => {
  await signIn(page, 'lead');
  await page.goto('/lots/L-003/arrival/packs');
  const closed = page
    .getByRole('listitem')
    .filter({ has: page.getByRole('button', { name: 'What can its label mean?' }) })
    .first();
  const number = /P-\d+/.exec(await closed.innerText())![0];
  const pack = page.getByRole('listitem').filter({ hasText: number });
  await pack.getByRole('button', { name: 'What can its label mean?' }).click();
  const rows = pack.getByRole('row');
  await expect(rows.nth(1)).toContainText('4S2P');
  await expect(rows.nth(1)).toContainText('the cell as claimed');
  const caution = page.getByRole('button', { name: 'Read; gloves and glasses are on' });
  if (await caution.isVisible()) {
    await expect(rows.nth(1).getByRole('button')).toBeDisabled();
    await caution.click();
  }
  await expect(page.getByText('You read this today.')).toBeVisible();
  await pack.getByLabel('Minutes spent on it').fill('26');
  await rows.nth(1).getByRole('button', { name: 'Broken down so' }).click();
  await expect(pack).toContainText('4S2P NMC, broken down by');
  await expect(page.getByTestId('harvest')).toContainText(/Harvest of 1[0-2] packs/);
  await expect(page.getByText(/Group 3 stands 531 mV under the others/)).toBeVisible();
});

test('a wrong model is put right after its consequences were shown, and a lot can be called off', async ({
  page,
}) => {
  await signIn(page, 'lead');
  const lot = await takeInLot(
    page,
    {
      title: 'Wrongly taken',
      supplier: 'Reedbank Cells',
      quantity: 2,
      model: 'Sedge X104',
    },
    'arrival/box',
  );
  await page.goto(`/lots/${lot}/arrival/readings`);
  await page
    .getByLabel(/^OCV \/ V, B-/)
    .first()
    .fill('2.2');
  await page.keyboard.press('Enter');
  await expect(page.getByText('All readings are stored.')).toBeVisible();
  await page.goto(`/lots/${lot}/claim`);
  await page.getByText('Taken as the wrong model').click();
  await choose(page.getByLabel('It is in truth'), 'Reed pouch 20, NMC');
  await expect(page.getByTestId('consequences')).toContainText(
    '1 first voltages are judged by NMC instead of LFP',
  );
  await page.getByLabel('Why', { exact: true }).fill('the printing says so');
  await page.getByRole('button', { name: 'Change the model' }).click();
  await expect(page.getByText(/2 × Reed pouch 20/)).toBeVisible();
  await page.getByText('Call the lot off').click();
  await page.getByLabel(/^Why; everything recorded stays/).fill('goes back unopened');
  await page.getByRole('button', { name: 'Call it off' }).click();
  await expect(page.getByText('This lot was called off: goes back unopened')).toBeVisible();
  await page.goto('/');
  await expect(page.getByRole('region', { name: 'Can wait' })).toBeVisible();
  await expect(page.getByRole('main').getByText(lot, { exact: true })).toHaveCount(0);
});

test('an offer’s text fills the claim and stays as evidence', async ({ page }) => {
  await signIn(page, 'lead');
  await page.goto('/lots/L-005/claim');
  await expect(page.getByTestId('plausibility')).toContainText('1033 Wh/L');
  await expect(page.getByTestId('plausibility')).toContainText('not possible');
  await expect(page.getByRole('complementary', { name: 'The claim as it counts' })).toContainText(
    'charged to 4.2 V usual for the chemistry',
  );
  await page.goto('/arrivals/new');
  await page
    .getByLabel('Its text, as it was written')
    .fill('26650 LFP 3600 mAh, used, 85 g, 40 pcs');
  await page.getByRole('button', { name: 'Fill the claim from it' }).click();
  await expect(page.getByLabel('Claimed capacity / Ah')).toHaveValue('3.6');
  await expect(page.getByLabel('Claimed mass / g')).toHaveValue('85');
});

test('what a lead keeps: a profile with its reason, a template tried first, a torque', async ({
  page,
}) => {
  await signIn(page, 'lead');
  await page.goto('/lab/chemistry');
  const lto = page.getByRole('region', { name: 'LTO' });
  await lto.getByRole('button', { name: 'Change …' }).click();
  await lto.getByLabel('LTO, Ceiling / Wh/L').fill('190');
  await lto.getByLabel('Why it changes').fill('newest data sheets');
  await lto.getByRole('button', { name: 'Keep the profile' }).click();
  await expect(lto).toContainText('newest data sheets');
  await page.goto('/lab/codes');
  await page.getByLabel('Pattern').fill('{maker:3}{year:2}{month:2}{day:2}{serial:4}');
  await page.getByLabel('Samples to try it on').fill('ABC2511300042\nABC2513300042');
  await page.getByRole('button', { name: 'Try it' }).click();
  const trial = page.getByRole('list', { name: 'What the pattern reads' });
  await expect(trial).toContainText('produced 2025-11-30, serial 0042');
  await expect(trial).toContainText('which is no month');
  await page.goto('/lab/models');
  const model = page.getByRole('region', { name: 'Sedge P104' });
  await model.getByRole('button', { name: 'Complete the data sheet …' }).click();
  await model.getByLabel('Terminal torque / N·m').fill('4');
  await model.getByLabel('Why, or where it is from').fill('the data sheet, page 4');
  await model.getByRole('button', { name: 'Keep the data sheet' }).click();
  await expect(model).toContainText('Torque by the data sheet: 4 N·m.');
});
