import { signIn } from './helpers';
import { expect, test } from './test';

test('a token is made, shown once, works within its scope, and is revoked', async ({
  page,
  request,
}) => {
  await signIn(page, 'admin');
  await page.goto('/lab/tokens');
  const name = `reader ${Date.now() % 100_000}`;
  await page.getByLabel('What it is for').fill(name);
  await page.getByLabel(/^bench:/).uncheck();
  await page.getByLabel(/^read:/).check();
  await page.getByRole('button', { name: 'Make a token' }).click();
  const token = await page.locator('code').textContent();
  const headers = { authorization: `Bearer ${token}` };
  const cell = await request.get('/api/v1/cells/B-0001', { headers });
  expect(cell.status()).toBe(200);
  expect(
    (
      await request.post('/api/v1/readings', { headers, data: { lotId: 1, readings: [] } })
    ).status(),
  ).toBe(403);
  expect((await request.get('/api/v1/cells/B-0001')).status()).toBe(401);
  const document = (await (await request.get('/api/v1/openapi.json')).json()) as {
    openapi: string;
    paths: object;
  };
  expect(document.openapi).toBe('3.1.0');
  expect(Object.keys(document.paths)).toContain('/api/v1/agent/records');
  await page
    .getByRole('row')
    .filter({ hasText: name })
    .getByRole('button', { name: 'Revoke' })
    .click();
  await expect(page.getByRole('row').filter({ hasText: name })).toContainText('revoked');
  expect((await request.get('/api/v1/cells/B-0001', { headers })).status()).toBe(401);
});
