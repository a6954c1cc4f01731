import { randomUUID } from 'node:crypto';
import type { APIRequestContext, Page } from '@playwright/test';
import { signIn } from './helpers';
import { expect, test } from './test';

/** Makes a token with some scopes on its page. @returns headers that carry it. */
async function token(page: Page, scopes: readonly ('read' | 'write' | 'bench')[]) {
  await page.goto('/lab/tokens');
  await page.getByLabel('What it is for').fill(`trial ${randomUUID().slice(0, 6)}`);
  for (const scope of ['read', 'write', 'bench'] as const)
    await page.getByLabel(new RegExp(`^${scope}:`)).setChecked(scopes.includes(scope));
  await page.getByRole('button', { name: 'Make a token' }).click();
  return { authorization: `Bearer ${(await page.locator('code').textContent())!}` };
}

interface Cell {
  cell: { id: number; lotId: number; number: string };
  readings: { value: number | null; kind: string }[];
  runs: { id: number }[];
}
const cellOf = async (
  request: APIRequestContext,
  number: string,
  headers: Record<string, string>,
): Promise<Cell> =>
  (await (await request.get(`/api/v1/cells/${number}`, { headers })).json()) as Cell;
const problemOf = async (response: { json: () => Promise<unknown> }) =>
  ((await response.json()) as { error: { code: string; message: string } }).error;

test('programs read and write by the documented interface, within their scopes and sizes', async ({
  page,
  request,
}) => {
  await signIn(page, 'admin');
  const headers = await token(page, ['read', 'write']);
  const document = (await (await request.get('/api/v1/openapi.json')).json()) as {
    openapi: string;
    paths: Record<string, Record<string, { description: string; requestBody?: object }>>;
  };
  expect(document.openapi).toBe('3.1.0');
  for (const [path, methods] of Object.entries(document.paths))
    for (const [method, { description, requestBody }] of Object.entries(methods)) {
      expect(description).toMatch(/scope “(read|write|bench)”/);
      expect(requestBody !== undefined).toBe(method === 'post');
      // Nothing in the document is out of anybody’s reach by accident, nor open to all.
      const bare = await request.fetch(path.replace(/\{\w+\}/, '1'), { method });
      expect([path, bare.status()]).toEqual([path, 401]);
    }

  const before = await cellOf(request, 'B-0310', headers);
  const reading = {
    cellId: before.cell.id,
    kind: 'openCircuitVoltage',
    value: 3.297,
    decimals: 3,
    clientKey: randomUUID(),
  };
  const send = (data: unknown) =>
    request.post('/api/v1/readings', { headers, data: data as object });
  const body = { lotId: before.cell.lotId, readings: [reading] };
  const both = await Promise.all([send(body), send(body)]);
  expect(both.map((response) => response.status())).toEqual([200, 200]);
  const after = await cellOf(request, 'B-0310', headers);
  expect(after.readings.length).toBe(before.readings.length + 1);
  const wrong = await send({ ...body, readings: [{ ...reading, value: 3297 }] });
  expect(wrong.status()).toBe(422);
  expect((await problemOf(wrong)).message).toContain('Expected -6 to 60 V; found 3297 V.');
  const noJson = await request.post('/api/v1/readings', {
    headers: { ...headers, 'content-type': 'application/json' },
    data: Buffer.from('{"lotId": 1,'),
  });
  expect(await problemOf(noJson)).toEqual({
    code: 'invalid',
    message: 'Expected JSON in the body.',
  });
  const large = await request.post('/api/v1/readings', {
    headers: { ...headers, 'content-type': 'application/json' },
    data: Buffer.alloc(1024 * 1024 + 1, 0x20),
  });
  expect(large.status()).toBe(413);

  expect((await request.get('/api/v1/cells/X-9999', { headers })).status()).toBe(404);
  expect((await request.get('/api/v1/runs/seven', { headers })).status()).toBe(422);
  expect(
    (
      await request.post('/api/v1/agent/poll', {
        headers,
        data: { agent: 'mine', instance: 'instance-1', speed: 1, runs: [], done: [] },
      })
    ).status(),
  ).toBe(403);
});

test('a log comes in through the interface and is the same evidence as a dropped one', async ({
  page,
  request,
}) => {
  await signIn(page, 'admin');
  const headers = await token(page, ['read', 'write']);
  const salt = Date.now() % 100_000;
  const rows = Array.from({ length: 900 }, (_, i) => {
    const load = i < 20 ? 0 : 4;
    return `${i * 20},${(3.33 - 0.0009 * Math.max(0, i - 20)).toFixed(4)},${(-load).toFixed(3)}`;
  });
  const log = Buffer.from(`# ${salt}\ntime_s,voltage_V,current_A\n${rows.join('\n')}\n`);
  const send = (query: string) =>
    request.post(`/api/v1/files?${query}`, {
      headers: { ...headers, 'content-type': 'application/octet-stream' },
      data: log,
    });
  const taken = await send('cell=B-0311&name=api.csv&ambient=23');
  const run = (await taken.json()) as { runId: number; cell: string; rows: number };
  expect(taken.status(), JSON.stringify(run)).toBe(200);
  expect(run).toMatchObject({ cell: 'B-0311', rows: 900 });
  const again = await send('cell=B-0311&name=api-again.csv');
  expect(again.status()).toBe(409);
  expect((await problemOf(again)).message).toContain('is the same file as api.csv');
  expect((await send('name=api.csv')).status()).toBe(422);
  expect((await send('cell=X-9999&name=api.csv')).status()).toBe(404);
  const view = (await (await request.get(`/api/v1/runs/${run.runId}`, { headers })).json()) as {
    figures: { quantity: string; value: number; standardUncertainty: number }[];
  };
  const shown = view.figures.map(({ quantity }) => quantity);
  expect(shown).toContain('energy');
  await page.goto(`/runs/${run.runId}`);
  await expect(page.getByText('api.csv').first()).toBeVisible();
});
