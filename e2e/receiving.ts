import type { CDPSession, Locator, Page } from '@playwright/test';

/** A code as a scanner types it. */
export const code = (serial: number) => `0FZCB31K204170E3D${String(serial).padStart(7, '0')}`;

/** A line to the browser that keys are sent by, for each page. */
const lines = new WeakMap<Page, Promise<CDPSession>>();
const lineOf = (page: Page): Promise<CDPSession> => {
  const known = lines.get(page) ?? page.context().newCDPSession(page);
  lines.set(page, known);
  return known;
};

/**
 * A scanner: keys 2 ms after each other, ended by Enter. They carry the time they were pressed at, as
 * a keyboard’s do: a machine that is busy reads them late, not slowly.
 * @param meanwhile is called after half of them.
 */
export async function scan(page: Page, text: string, meanwhile = () => {}): Promise<void> {
  const line = await lineOf(page);
  const at = Date.now() / 1000;
  const keys = [...text].map((key) => ({ key, text: key, code: '', windowsVirtualKeyCode: 0 }));
  keys.push({ key: 'Enter', text: '\r', code: 'Enter', windowsVirtualKeyCode: 13 });
  const half = keys.length >> 1;
  const press = (from: number, to: number) =>
    Promise.all(
      keys.slice(from, to).flatMap((key, i) =>
        (['keyDown', 'keyUp'] as const).map((type, up) =>
          line.send('Input.dispatchKeyEvent', {
            ...(type === 'keyDown' ? key : { ...key, text: undefined }),
            type,
            timestamp: at + 0.002 * (from + i) + 0.001 * up,
          }),
        ),
      ),
    );
  await press(0, half);
  meanwhile();
  await press(half, keys.length);
}

/** One of the steps of receiving, as its link. */
export const step = (page: Page, name: string): Locator =>
  page.getByRole('navigation', { name: 'Steps of receiving' }).getByRole('link', { name });

/** Number of the n-th cell of the lot that is open. */
export async function firstNumber(page: Page): Promise<number> {
  const tile = page.getByRole('group', { name: 'Cells' }).getByRole('button').first();
  return Number(/B-(\d+)/.exec(await tile.innerText())![1]);
}
/** A cell’s number as it is written. */
export const numbered = (n: number) => `B-${String(n).padStart(4, '0')}`;
