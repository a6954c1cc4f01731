import { randomUUID } from 'node:crypto';
import { join } from 'node:path';
import type { Locator, Page } from '@playwright/test';

export const SAMPLES = join(import.meta.dirname, '..', 'core', 'fixtures', 'samples');
export const sample = (name: string): string => join(SAMPLES, name);

/** Signs in with one of the demo accounts offered on the page; the first time that leads to Today, later nowhere. */
export async function signIn(page: Page, role: 'technician' | 'lead' | 'admin'): Promise<void> {
  const context = page.context();
  const known = sessions.get(role);
  if (known) {
    await context.clearCookies();
    await context.addCookies(known);
    // A session that was ended meanwhile is not one any more.
    const answer = await page.request.get('/account', { maxRedirects: 0 });
    if (answer.status() === 200) return;
  }
  await page.goto('/sign-in');
  await page.getByRole('button', { name: new RegExp(role) }).click();
  await page.waitForURL((url) => url.pathname === '/');
  sessions.set(role, await context.cookies());
}

/** Sessions of the people of the demo, by role: who has signed in once stays so in later tests. */
const sessions = new Map<string, Awaited<ReturnType<ReturnType<Page['context']>['cookies']>>>();

/** Opens a choice and takes what is called so. */
export async function choose(field: Locator, words: string): Promise<void> {
  await field.click();
  await field.page().getByRole('option', { name: words, exact: true }).click();
}

/** Takes in a lot of a new 104 Ah prismatic model and opens one of its tabs. @returns its code. */
export async function takeInLot(
  page: Page,
  lot: { title: string; supplier: string; quantity: number; model: string; arrivedOn?: string },
  tab = 'logs',
): Promise<string> {
  await page.goto('/arrivals/new');
  await page.getByLabel('Short name').fill(lot.title);
  await page.getByLabel('Supplier').fill(lot.supplier);
  await page.getByLabel('Cells counted').fill(String(lot.quantity));
  if (lot.arrivedOn) await page.getByLabel('Arrived on').fill(lot.arrivedOn);
  await choose(page.getByRole('combobox', { name: 'Model', exact: true }), 'A new model …');
  // A name of its own, so that a second try does not meet the model of the first.
  await page
    .getByLabel('Name of the model')
    .fill(`${lot.model} ${randomUUID().replace(/[^a-f]/g, '')}`);
  await page.getByLabel('Width / mm').fill('130');
  await page.getByLabel('Thickness / mm').fill('36');
  await page.getByLabel('Height / mm').fill('195');
  await page.getByLabel('Claimed capacity / Ah').fill('104');
  await page.getByLabel('at a rate of / It').fill('0,2');
  await page.getByLabel('down to / V').fill('2.5');
  await page.getByLabel('Claimed AC resistance / mΩ').fill('0.0005 ohm');
  await page.getByRole('button', { name: 'Take in the lot' }).click();
  await page.waitForURL(/\/lots\/L-\d+\/arrival\/box/);
  const code = /L-\d+/.exec(page.url())![0];
  if (tab !== 'arrival/box') await page.goto(`/lots/${code}/${tab}`);
  return code;
}

/** A day so many days ago, as a day field takes it. */
export const daysAgo = (days: number): string =>
  new Date(Date.now() - days * 86_400_000).toISOString().slice(0, 10);
