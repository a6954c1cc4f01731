import { choose, signIn } from './helpers';
import { expect, test } from './test';

test('suppliers stand beside each other with how sure that is; a lot from before counts, hearsay does not', async ({
  page,
}) => {
  await signIn(page, 'lead');
  await page.goto('/suppliers');
  const ranking = page.getByRole('table', { name: 'Suppliers', exact: true });
  const surplus = ranking.getByRole('row', { name: /^Hollin Reach Surplus/ });
  await expect(surplus).toContainText('in 4 lots');
  await expect(
    surplus.getByRole('img', { name: /^\d+ % of claims met, between \d+ % and \d+ %/ }),
  ).toBeVisible();

  await page.getByRole('link', { name: 'Withy Yard Returns' }).click();
  await expect(page.getByRole('heading', { name: 'Withy Yard Returns', level: 1 })).toBeVisible();
  await page.getByRole('button', { name: 'A lot from before …' }).click();
  const form = page.getByRole('form', { name: 'A lot from before' });
  await form.getByLabel('Short name').fill('Packs of the year before');
  await form.getByLabel('Model', { exact: true }).fill('Reed pouch 20');
  await choose(form.getByRole('combobox', { name: 'Chemistry' }), 'NMC');
  await form.getByLabel('Arrived on').fill('2025-04-03');
  await form.getByLabel('Cells', { exact: true }).fill('50');
  await form.getByLabel('Cells tested against the claim').fill('60');
  await form.getByLabel('of them met it').fill('21');
  await form.getByRole('button', { name: 'Keep it' }).click();
  await expect(form.getByText('Expected at most the 50 cells.')).toBeVisible();
  await form.getByLabel('Cells tested against the claim').fill('40');
  await form.getByRole('button', { name: 'Keep it' }).click();
  const lots = page.getByRole('table', { name: 'Lots of this supplier' });
  const own = lots.getByRole('row', { name: /Packs of the year before/ });
  await expect(own).toContainText('21 of 40');
  const known = page.getByRole('region', { name: 'What is known' });
  await expect(known).toContainText('of claimed capacities met');
  // One lot crowns nobody, and damns nobody either.
  await expect(known).toContainText('It cannot be told apart from Hollin Reach Surplus');
  const before = await known.innerText();

  const notes = page.getByRole('region', { name: 'Notes' });
  await notes
    .getByLabel('What was said or seen')
    .fill('They say half of it is from one scooter fleet');
  await notes.getByRole('button', { name: 'Keep the note' }).click();
  await expect(notes.getByText('Hearsay, counted nowhere.')).toBeVisible();
  expect(await known.innerText()).toBe(before);

  await own.getByRole('button', { name: 'Take it back' }).click();
  await own.getByLabel('Reason').fill('only tried');
  await own.getByRole('button', { name: 'Take it back' }).click();
  await expect(own).toBeHidden();
  expect((await page.goto('/suppliers/999999'))?.status()).toBe(404);
});

test('an offer is pasted, read into the fields, and looked at before anything is bought', async ({
  page,
}) => {
  await signIn(page, 'lead');
  await page.goto('/suppliers/offer');
  const form = page.getByRole('form', { name: 'The offer' });
  await form
    .getByLabel('The offer, pasted')
    .fill('26650 NMC 9900 mAh brand new, 60 pcs, 95 g each');
  await form.getByRole('button', { name: 'Read it into the fields' }).click();
  await expect(form.getByLabel('Claimed capacity / Ah')).toHaveValue('9.9');
  await expect(form.getByLabel('Cells', { exact: true })).toHaveValue('60');
  await form.getByRole('button', { name: 'What is it worth?' }).click();
  const worth = page.getByRole('region', { name: 'What it is worth' });
  await expect(worth).toContainText('It cannot be true.');

  await choose(form.getByRole('combobox', { name: 'Supplier' }), 'Hollin Reach Surplus');
  await choose(form.getByRole('combobox', { name: 'Chemistry' }), 'LFP');
  await choose(form.getByRole('combobox', { name: 'Model, for its size' }), 'Sedge P104');
  await form.getByLabel('or size code, such as 32700').fill('');
  await form.getByLabel('Claimed capacity / Ah').fill('104');
  await form.getByLabel('Mass of a cell / g').fill('1980');
  await form.getByLabel('Cells', { exact: true }).fill('32');
  await form.getByLabel(/^Price of all/).fill('1360');
  await form.getByLabel(/^Freight, duty/).fill('84');
  await form.getByRole('button', { name: 'What is it worth?' }).click();
  await expect(worth).toContainText('It can be true.');
  await expect(
    worth.getByRole('table', { name: 'What similar claims turned out to be' }).getByRole('row'),
  ).toHaveCount(4);
  await expect(worth).toContainText(/A kWh in good cells is to cost about \d+\.\d\d EUR/);
  await expect(worth).toContainText('At 150.00 EUR a good kWh we would pay');
  await expect(worth.getByRole('table', { name: 'What a sample would tell' })).toContainText('± ');

  // A second offer empties the first; a reload keeps what is typed; it becomes a lot as it stands.
  await form
    .getByLabel('The offer, pasted')
    .fill('100 pcs LFP 50 Ah, AC <= 0.9 mOhm, USD 21.50 each, dispute within 15 days');
  await form.getByRole('button', { name: 'Read it into the fields' }).click();
  await expect(form.getByLabel(/^Price of all \/ USD/)).toHaveValue('2150');
  await expect(form.getByLabel('Mass of a cell / g')).toHaveValue('');
  await expect(form.getByLabel(/^Freight, duty/)).toHaveValue('');
  await form.getByLabel('1 USD in EUR').fill('0.92');
  await form.getByRole('button', { name: 'What is it worth?' }).click();
  await expect(worth).toContainText(/we would pay \d+\.\d\d EUR \(\d+\.\d\d USD\)/);
  await page.reload();
  await expect(form.getByLabel('1 USD in EUR')).toHaveValue('0.92');
  await form.getByRole('button', { name: 'What is it worth?' }).click();
  await worth.getByRole('link', { name: /take it in as a lot/ }).click();
  const lot = page.getByRole('form', { name: 'A lot' });
  await expect(lot.getByText('Filled from the offer that was looked at')).toBeVisible();
  await expect(lot.getByLabel('Price / USD')).toHaveValue('2150');
  await expect(lot.getByLabel('Ordered', { exact: true })).toHaveValue('100');
  await expect(lot.getByLabel('Supplier')).toHaveValue('Hollin Reach Surplus');
});
