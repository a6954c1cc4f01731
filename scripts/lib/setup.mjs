import { createHash } from 'node:crypto';
import { existsSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { alone } from './lock.mjs';
import { DATA, ROOT } from './paths.mjs';
import { run } from './run.mjs';

const PROGRAMS = {
  'mariadb-server': ['/usr/sbin/mariadbd', '/usr/libexec/mariadbd'],
  'chromium-headless-shell': ['/usr/bin/chromium-headless-shell'],
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

const readJson = (path) => JSON.parse(readFileSync(path, 'utf8'));

/** Whether a package of the lock file is for another kind of machine. */
function isForElsewhere({ os, cpu, libc }) {
  const refuses = (list, own) =>
    list !== undefined &&
    (list.includes(`!${own}`) || (!list.some((one) => one.startsWith('!')) && !list.includes(own)));
  return (
    refuses(os, process.platform) ||
    refuses(cpu, process.arch) ||
    (libc !== undefined && process.platform === 'linux' && !libc.includes('glibc'))
  );
}

/**
 * Whether node_modules holds what the lock file names: npm writes its own list there last of all,
 * so an installation that was broken off has none, or one whose packages are not all there.
 * @returns what is missing in words; null when all is there.
 */
export function missingPackages(root = ROOT) {
  const wanted = readJson(join(root, 'package-lock.json')).packages;
  let installed;
  try {
    installed = readJson(join(root, 'node_modules', '.package-lock.json')).packages;
  } catch {
    return 'npm’s list of installed packages';
  }
  for (const [path, entry] of Object.entries(wanted)) {
    if (path === '' || !path.includes('node_modules/')) continue;
    if (entry.optional && (isForElsewhere(entry) || !installed[path])) continue;
    const found = installed[path];
    if (!found || found.version !== entry.version || found.integrity !== entry.integrity)
      return path;
    if (!existsSync(join(root, path, entry.link ? '' : 'package.json'))) return path;
  }
  return null;
}

const INSTALLING = join(DATA, 'installing');

/**
 * Runs `npm ci` unless node_modules is whole and of the lock file, whoever installed it. Two
 * commands at once take turns; an installation that was broken off is done again.
 */
export async function ensureNodeModules() {
  const stamp = join(ROOT, 'node_modules', '.lock-installed');
  const lock = createHash('sha256')
    .update(readFileSync(join(ROOT, 'package-lock.json')))
    .digest('hex');
  const isDone = () =>
    !existsSync(INSTALLING) && existsSync(stamp) && readFileSync(stamp, 'utf8') === lock;
  if (isDone() && existsSync(join(ROOT, 'node_modules', '.package-lock.json'))) return;
  await alone(join(DATA, 'setup.lock'), async () => {
    if (isDone() && missingPackages() === null) return;
    if (existsSync(INSTALLING) || missingPackages() !== null) {
      console.error('Installing packages with npm ci …');
      // Stays until npm has ended well: what was killed in between is not taken for whole.
      writeFileSync(INSTALLING, '');
      rmSync(stamp, { force: true });
      await run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], {
        stdio: ['ignore', 2, 2],
      });
      const missing = missingPackages();
      if (missing !== null)
        throw new Error(
          `npm ci ended, but ${missing} is not there. Delete node_modules, try again.`,
        );
    }
    writeFileSync(stamp, lock);
    rmSync(INSTALLING, { force: true });
  });
}
