import { join } from 'node:path';
import { chromium, type Page } from '@playwright/test';
import { choose } from '../e2e/helpers';
import { browserLaunch } from './lib/browser.mjs';

const address = process.env.DUSK_ADDRESS!;
const root = join(import.meta.dirname, '..');
const browser = await chromium.launch(browserLaunch());

interface View {
  name: string;
  path: string;
  theme: 'light' | 'dark';
  /** Brings the view into the state worth showing. */
  prepare?: (page: Page) => Promise<void>;
}

const VIEWS: View[] = [
  { name: 'channels', path: '/lab/channels', theme: 'light' },
  { name: 'run', path: '/runs/60', theme: 'dark' },
  { name: 'round', path: '/bench/round', theme: 'light' },
  { name: 'shelf', path: '/shelf', theme: 'dark' },
  { name: 'string', path: '/strings/1', theme: 'light' },
  { name: 'bench', path: '/bench', theme: 'dark' },
  {
    name: 'plan',
    path: '/bench/plan',
    theme: 'light',
    prepare: async (page) => {
      const form = page.getByRole('region', { name: 'Cells to test' });
      await choose(form.getByLabel('Lot'), 'L-003: Scooter packs to break down');
      await form.getByLabel(/^Cells/).fill('first 24');
      await form.getByRole('button', { name: 'Put on the list' }).click();
      await form.getByText(/24 put on the list/).waitFor();
      await page.getByRole('button', { name: 'Plan from now on' }).click();
      await page.getByText(/all done by/).waitFor();
      await page.waitForTimeout(2500);
    },
  },
  { name: 'today', path: '/', theme: 'dark' },
  { name: 'claim', path: '/lots/L-005/claim', theme: 'light' },
  {
    name: 'inspection',
    path: '/lots/L-003/arrival/inspection',
    theme: 'light',
    prepare: async (page) => {
      await page.getByRole('button', { name: /^B-0281/ }).click();
      await page.getByRole('button', { name: /^B-0282/ }).click();
    },
  },
  {
    name: 'grades',
    path: '/lab/grades/change?for=house',
    theme: 'light',
    prepare: async (page) => {
      const second = page.getByRole('group', { name: 'Second', exact: true });
      await second.getByLabel('at least / %').fill('97');
      await page.getByText(/would be of another grade: /).waitFor();
      await page.evaluate(() => scrollTo(0, 0));
    },
  },
  { name: 'suppliers', path: '/suppliers/2', theme: 'light' },
  { name: 'dispute', path: '/lots/L-002/money/dispute', theme: 'dark' },
  {
    name: 'readings',
    path: '/lots/L-002/readings',
    theme: 'light',
    prepare: async (page) => {
      const input = page.getByLabel('AC resistance / mΩ, B-0243');
      await input.fill('4,47');
      await input.press('Enter');
    },
  },
  { name: 'cells', path: '/lots/L-002/cells', theme: 'light' },
  { name: 'curves', path: '/lots/L-001/curves?cells=17', theme: 'dark' },
  { name: 'verdict', path: '/lots/L-002/verdict', theme: 'dark' },
  {
    name: 'cell-trail',
    path: '/cells/B-0241',
    theme: 'light',
    prepare: async (page) => {
      await page.getByTitle('How this figure came about').first().click();
      await page.getByText('Uncertainty budget').waitFor();
    },
  },
  {
    name: 'report',
    path: '/lots/L-002/report',
    theme: 'light',
    prepare: async (page) => {
      await page.getByLabel('Customer').fill('Tidewright Buoys');
      await page.getByLabel('Cells', { exact: true }).fill('241-258');
      await page.getByRole('button', { name: 'Issue the report' }).click();
      await page.waitForURL(/\/reports\/R-/);
    },
  },
];

try {
  for (const { name, path, theme, prepare } of VIEWS) {
    const context = await browser.newContext({
      viewport: { width: 1280, height: 800 },
      colorScheme: theme,
      reducedMotion: 'reduce',
    });
    const page = await context.newPage();
    await page.goto(`${address}/sign-in`);
    await page.getByRole('button', { name: /lead/ }).click();
    await page.waitForURL((url) => url.pathname === '/');
    await page.goto(address + path);
    // The live board keeps a line open: it is never without a request.
    if (path !== '/bench') await page.waitForLoadState('networkidle');
    else await page.waitForTimeout(9000);
    await prepare?.(page);
    await page.waitForTimeout(900);
    await page.screenshot({ path: join(root, 'docs', 'screenshots', `${name}.png`) });
    console.log(`docs/screenshots/${name}.png`);
    await context.close();
  }
} finally {
  await browser.close();
}
