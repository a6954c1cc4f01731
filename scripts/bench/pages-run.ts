import { chromium } from '@playwright/test';
import { type PageCost, pageCost } from '../../e2e/page-cost';
import { signIn } from './sign-in';
import { median } from './timing';
import { browserLaunch } from '../lib/browser.mjs';

const RUNS = 9;

/** Addresses of the app, and of one built from another state of the code with the same data. */
const addresses = [process.env.DUSK_ADDRESS!, process.env.DUSK_ADDRESS_OTHER].filter(
  (address) => address !== undefined,
);
const TABS = ['cells', 'readings', 'verdict'];
/** Stands for the lot of ten thousand. */
const LARGE = 'of-10000';

const browser = await chromium.launch(browserLaunch());
const of = (costs: readonly PageCost[], key: keyof PageCost) =>
  median(costs.map((cost) => cost[key])).toFixed(0);
try {
  const visitors = await Promise.all(
    addresses.map(async (address) => {
      const [name = '', value = ''] = (await signIn(address)).split('=');
      const context = await browser.newContext({ baseURL: address });
      await context.addCookies([{ name, value, url: address }]);
      return context.newPage();
    }),
  );
  // The lot of ten thousand that the bench of arrivals leaves, by its name: its code differs.
  const large = await Promise.all(
    visitors.map(async ({ request }) => {
      const found = await request.get('/api/search?q=Ten%20thousand');
      const { data } = (await found.json()) as { data: { href: string }[] };
      return /L-\d+/.exec(data[0]?.href ?? '')?.[0];
    }),
  );
  const pages = [
    '/',
    '/arrivals',
    ...['L-001', 'L-002', ...(large.includes(undefined) ? [] : [LARGE])].flatMap((lot) =>
      TABS.map((tab) => `/lots/${lot}/${tab}`),
    ),
  ];
  console.log(`Median of ${RUNS}: ms to the first byte / ms until loaded / kB of JavaScript`);
  for (const path of pages) {
    const costs = visitors.map((): PageCost[] => []);
    // In turns, so that a slow minute is everybody's.
    for (let run = 0; run < RUNS; run++)
      for (const [at, page] of visitors.entries())
        costs[at]!.push(await pageCost(page, path.replace(LARGE, large[at] ?? '')));
    const words = costs.map((own) =>
      [of(own, 'serverMs'), of(own, 'loadedMs'), of(own, 'scriptsKb')].join(' / '),
    );
    console.log(`  ${path.padEnd(24)} ${words.join('   other: ')}`);
  }
} finally {
  await browser.close();
}
