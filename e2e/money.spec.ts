import { signIn } from './helpers';
import { expect, test } from './test';

test('the books of a lot: what only people know moves the ways out, to the cent', async ({
  page,
}) => {
  await signIn(page, 'technician');
  await page.goto('/lots/L-002/money');
  const cost = page.getByRole('table', { name: 'What it cost' });
  // 1360.00 and 84.00 freight, and 310 minutes at 0.75.
  await expect(cost.getByRole('row', { name: /^landed/ })).toContainText('1676.50');
  const ways = page.getByRole('table', { name: 'Ways out' });
  await expect(ways.getByRole('row', { name: /^Return it/ })).toContainText('1173.60');
  await expect(ways).toContainText('No replacement is offered.');
  await page.getByLabel('Return freight').fill('100,40');
  await page.getByLabel('Partial refund offered').fill('300');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(ways.getByRole('row', { name: /^Return it/ })).toContainText('1169.60');
  const cells = page.getByRole('table', { name: 'Books, cell by cell' });
  await expect(cells.getByRole('row')).toHaveCount(33);

  // Without a price for a grade that occurs nothing is claimed to be known.
  await page.getByLabel('Second').fill('');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(page.getByText('until then nobody knows what keeping them leaves')).toBeVisible();
  await page.getByLabel('Second').fill('38');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(ways).toBeVisible();
});
