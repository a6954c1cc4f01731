import { gzipSync } from 'node:zlib';
import type { Page, Response } from '@playwright/test';

/** What a page costs before anybody presses anything. */
export interface PageCost {
  /** Until the first byte of the page, ms. */
  serverMs: number;
  /** Until it is loaded, ms. */
  loadedMs: number;
  /** JavaScript as gzip compresses it, whether or not this server does; what a first visit fetches, kB. */
  scriptsKb: number;
}

/** Loads a page as on a first visit, and waits until it asks for nothing more. */
export async function pageCost(page: Page, path: string): Promise<PageCost> {
  const wire = await page.context().newCDPSession(page);
  await wire.send('Network.enable');
  await wire.send('Network.setCacheDisabled', { cacheDisabled: true });
  const scripts: Response[] = [];
  const keep = (response: Response) => {
    if (response.request().resourceType() === 'script') scripts.push(response);
  };
  page.on('response', keep);
  await page.goto(path, { waitUntil: 'networkidle' });
  page.off('response', keep);
  const [times, bodies] = await Promise.all([
    page.evaluate(() => {
      const [entry] = performance.getEntriesByType('navigation') as PerformanceNavigationTiming[];
      return {
        serverMs: entry!.responseStart - entry!.requestStart,
        loadedMs: entry!.loadEventEnd,
      };
    }),
    Promise.all(scripts.map((script) => script.body())),
  ]);
  await wire.detach();
  const bytes = bodies.reduce((sum, body) => sum + gzipSync(body).length, 0);
  return { ...times, scriptsKb: bytes / 1000 };
}
