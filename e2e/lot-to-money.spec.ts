import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { choose, sample, signIn } from './helpers';
import { expect, test } from './test';

const OFFER = 'LFP prismatic 3.2 V 110 Ah, brand new, 1980 g, 3 pcs';

test('from an offer to the file that gets money back, by the screens alone', async ({ page }) => {
  test.setTimeout(240_000);
  await signIn(page, 'lead');

  // Before it is bought: can it be true, and what is it worth?
  await page.goto('/suppliers/offer');
  const offer = page.getByRole('form', { name: 'The offer' });
  await offer.getByLabel('The offer, pasted').fill(OFFER);
  await offer.getByRole('button', { name: 'Read it into the fields' }).click();
  await expect(offer.getByLabel('Claimed capacity / Ah')).toHaveValue('110');
  await choose(offer.getByRole('combobox', { name: 'Chemistry' }), 'LFP');
  await choose(offer.getByRole('combobox', { name: 'Model, for its size' }), 'Sedge P104');
  await offer.getByLabel(/^Price of all/).fill('150');
  await offer.getByRole('button', { name: 'What is it worth?' }).click();
  await expect(page.getByRole('region', { name: 'What it is worth' })).toContainText(
    'It can be true.',
  );

  // Bought and taken in, its claim filled from the offer.
  const model = `Reed P110 ${randomUUID().slice(0, 6)}`;
  await page.goto('/arrivals/new');
  await page.getByLabel('Short name').fill('From offer to money');
  await page.getByLabel('Supplier').fill('Reedbank Cells');
  await page.getByLabel('Ordered', { exact: true }).fill('3');
  await page.getByLabel('Cells counted').fill('3');
  await page.getByLabel('Price / EUR').fill('150');
  await page.getByLabel('Its text, as it was written').fill(OFFER);
  await page.getByRole('button', { name: 'Fill the claim from it' }).click();
  await choose(page.getByRole('combobox', { name: 'Model', exact: true }), 'A new model …');
  await page.getByLabel('Name of the model').fill(model);
  for (const [name, size] of [
    ['Width / mm', '130'],
    ['Thickness / mm', '36'],
    ['Height / mm', '195'],
    ['at a rate of / It', '0.2'],
    ['down to / V', '2.5'],
  ] as const)
    await page.getByLabel(name).fill(size);
  await choose(page.getByRole('combobox', { name: 'Further item' }), 'Dispute window');
  await page.getByLabel(/^Claimed dispute window/).fill('15');
  await page.getByRole('button', { name: 'Take in the lot' }).click();
  await page.waitForURL(/\/lots\/L-\d+\/arrival\/box/);
  const code = /L-\d+/.exec(page.url())![0];

  // Two cells are tested.
  await page.goto(`/lots/${code}/logs`);
  const logs = ['02-quantity-slash-unit.csv', '08-counters-only.csv'];
  await page.getByTestId('log-input').setInputFiles(
    logs.map((name) => ({
      name,
      mimeType: 'text/csv',
      // Line breaks more, so that it is no file another test has brought in.
      buffer: Buffer.from(
        `${readFileSync(sample(name), 'utf8')}${'\n'.repeat(2 + (Date.now() % 500))}`,
      ),
    })),
  );
  const tally = page.getByRole('slider', { name: /Tally of the lot/ });
  const first = Number(/B-(\d+)/.exec((await tally.getAttribute('aria-valuetext'))!)![1]);
  for (const [i, log] of logs.entries())
    await page.getByLabel(`Cell for ${log}`).fill(String(first + i));
  await page.getByRole('button', { name: 'Store 2 logs' }).click();
  await expect(page.getByTestId('log-summary')).toContainText('2 stored');

  // Grades of its own for this model, tried before they are kept.
  await page.goto('/lab/grades');
  await choose(page.getByRole('combobox', { name: 'Other grades for' }), model);
  await page.getByRole('link', { name: 'Begin' }).click();
  await page.waitForURL(/\/lab\/grades\/change/);
  const second = page.getByRole('group', { name: 'Second', exact: true });
  await second.getByLabel('at least / %').fill('97');
  await expect(
    page.getByRole('region', { name: 'What it would do' }).getByRole('status'),
  ).toContainText('of another grade');
  await page.getByLabel('Why', { exact: true }).fill('buyers of these ask for it');
  await page.getByRole('button', { name: 'Keep it and grade anew' }).click();
  await page.waitForURL(/\/lab\/grades$/);

  // What each way leaves in hand; then the dispute, and its file.
  await page.goto(`/lots/${code}/money`);
  for (const [grade, price] of [
    ['First', '44'],
    ['Second', '38'],
    ['Utility', '25'],
  ] as const)
    await page.getByLabel(grade, { exact: true }).fill(price);
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  const ways = page.getByRole('region', { name: /^What each way leaves in hand/ });
  await expect(ways).toContainText('What returning risks');
  const ask = /To ask for: ([\d.]+)/.exec((await ways.innerText()).replace(/\s+/g, ' '))![1]!;
  await page.goto(`/lots/${code}/money/dispute`);
  await page
    .getByRole('form', { name: 'Open a dispute' })
    .getByRole('button', { name: 'Open a dispute' })
    .click();
  const dispute = page.getByRole('region', { name: /^Dispute, / });
  await expect(
    dispute.getByRole('heading', { name: `${ask.replace(/\.$/, '')} EUR asked` }),
  ).toBeVisible();
  const files = dispute.getByRole('region', { name: 'Dispute files' });
  await files.getByRole('button', { name: 'Make it from what is known now' }).click();
  const link = files.getByRole('link', { name: /^X-\d{4}-\d{4}$/ });
  const number = await link.innerText();
  const data = (await (await page.request.get(`/api/disputes/files/${number}/json`)).json()) as {
    offer: { texts: string[] };
    shortfall: { amount: string; cells: number };
    shortAh: unknown[];
  };
  expect(data.offer.texts).toEqual([OFFER]);
  expect(data.shortAh).toHaveLength(data.shortfall.cells);
  await link.click();
  const lacks = page.getByRole('table', { name: 'What each cell lacks' });
  await expect(lacks.getByRole('row', { name: /^Worth/ })).toContainText(data.shortfall.amount);
});
