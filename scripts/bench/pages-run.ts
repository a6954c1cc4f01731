import { chromium } from '@playwright/test';
import { type PageCost, pageCost } from '../../e2e/page-cost';
import { signIn } from './sign-in';
import { median } from './timing';

const RUNS = 9;

/** Addresses of the app, and of one built from another state of the code with the same data. */
const addresses = [process.env.DUSK_ADDRESS!, process.env.DUSK_ADDRESS_OTHER].filter(
  (address) => address !== undefined,
);
const TABS = ['cells', 'readings', 'verdict'];

const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--disable-background-networking'],
});
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
  // The lot of ten thousand that the bench of arrivals leaves, by its name.
  const found = await visitors[0]!.request.get('/api/search?q=Ten%20thousand');
  const { data } = (await found.json()) as { data: { kind: string; href: string }[] };
  const large = data.flatMap(({ href }) => /L-\d+/.exec(href)?.[0] ?? []).slice(0, 1);
  const pages = [
    '/',
    '/arrivals',
    ...['L-001', 'L-002', ...large].flatMap((lot) => TABS.map((tab) => `/lots/${lot}/${tab}`)),
  ];
  console.log(`Median of ${RUNS}: ms to the first byte / ms until loaded / kB of JavaScript`);
  for (const path of pages) {
    const costs = visitors.map((): PageCost[] => []);
    // In turns, so that a slow minute is everybody's.
    for (let run = 0; run < RUNS; run++)
      for (const [at, page] of visitors.entries()) costs[at]!.push(await pageCost(page, path));
    const words = costs.map((own) =>
      [of(own, 'serverMs'), of(own, 'loadedMs'), of(own, 'scriptsKb')].join(' / '),
    );
    console.log(`  ${path.padEnd(24)} ${words.join('   other: ')}`);
  }
} finally {
  await browser.close();
}
