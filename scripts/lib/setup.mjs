import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT } from './paths.mjs';
import { run } from './run.mjs';

const PROGRAMS = {
  'mariadb-server': ['/usr/sbin/mariadbd', '/usr/libexec/mariadbd'],
  chromium: ['/usr/bin/chromium'],
};

/** Path of MariaDB's server program. */
export function mariadbd() {
  return PROGRAMS['mariadb-server'].find((path) => existsSync(path));
}

/** Installs the Debian packages that are missing; needs root only then. Output goes to standard error. */
export async function ensureDebianPackages(names) {
  const missing = names.filter((name) => !PROGRAMS[name].some((path) => existsSync(path)));
  if (missing.length === 0) return;
  console.error(`Installing Debian packages: ${missing.join(', ')} …`);
  const isRoot = process.getuid() === 0;
  const apt = (args) =>
    run(isRoot ? 'apt-get' : 'sudo', isRoot ? args : ['apt-get', ...args], {
      env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
      stdio: ['inherit', 2, 2],
    });
  try {
    await apt(['update', '-qq']);
    await apt(['install', '-y', '-qq', '--no-install-recommends', ...missing]);
  } catch (error) {
    throw new Error(
      `${missing.join(' and ')} could not be installed (${error.message}) Install by hand: apt-get install ${missing.join(' ')}`,
    );
  }
}

/** Runs `npm ci` when node_modules is missing or older than the lock file. */
export async function ensureNodeModules() {
  const lock = createHash('sha256')
    .update(readFileSync(join(ROOT, 'package-lock.json')))
    .digest('hex');
  const stamp = join(ROOT, 'node_modules', '.lock-installed');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return;
  console.error('Installing packages with npm ci …');
  await run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], {
    stdio: ['ignore', 2, 2],
  });
  mkdirSync(join(ROOT, 'node_modules'), { recursive: true });
  writeFileSync(stamp, lock);
}
