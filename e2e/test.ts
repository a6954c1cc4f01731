import { type BrowserContext, expect, test as base } from '@playwright/test';

/**
 * A browser test. Whatever a page throws and nobody catches, a promise nobody waits for among it,
 * fails the test it happened in: people see nothing of it, and what they asked for is not done.
 */
export const test = base.extend<{ nothingThrown: void }>({
  nothingThrown: [
    async ({ browser, context }, use) => {
      const thrown: string[] = [];
      const watch = (pages: BrowserContext): BrowserContext =>
        pages.on('weberror', (error) => {
          thrown.push(error.error().stack ?? error.error().message);
        });
      watch(context);
      // Those a test opens for other people are watched, too.
      const open = browser.newContext.bind(browser);
      browser.newContext = async (options) => watch(await open(options));
      await use();
      browser.newContext = open;
      expect(thrown, 'thrown by a page and caught by nobody').toEqual([]);
    },
    { auto: true },
  ],
});

export { expect };
