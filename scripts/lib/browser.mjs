import { existsSync } from 'node:fs';
import { ensureDebianPackages } from './setup.mjs';

/** Debian's browsers that can do without a window, the lighter one first. */
const PROGRAMS = ['/usr/bin/chromium-headless-shell', '/usr/bin/chromium'];

/**
 * Installs what is missing for work with a browser: the one that has no windows at all takes a fifth
 * less time; where it cannot be had, the other one does.
 */
export async function ensureBrowser() {
  if (existsSync(PROGRAMS[0])) return;
  try {
    await ensureDebianPackages(['chromium-headless-shell']);
  } catch (error) {
    console.error(error.message);
    await ensureDebianPackages(['chromium']);
  }
}

/** How the browser is started: without a window, and without asking anything of a network. */
export const browserLaunch = () => ({
  executablePath: PROGRAMS.find((path) => existsSync(path)) ?? PROGRAMS[0],
  args: [
    '--no-sandbox',
    '--disable-gpu',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
  ],
});
