import { randomBytes } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { ROOT, WORKER_FILE } from './paths.mjs';
import { run, start } from './run.mjs';

/** A secret kept in a file, made at first need. */
export function keptSecret(file) {
  if (!existsSync(file)) {
    mkdirSync(dirname(file), { recursive: true });
    writeFileSync(file, randomBytes(32).toString('base64url'), { mode: 0o600 });
  }
  return readFileSync(file, 'utf8').trim();
}

/** Runs a TypeScript file of the project with settings in its environment. */
export function runTypeScript(file, env = {}, args = []) {
  return run(process.execPath, ['--import', 'tsx', join(ROOT, file), ...args], {
    env: { ...process.env, DUSK_WORKER_FILE: WORKER_FILE, ...env },
  });
}

/**
 * A connection nobody uses is closed by who asked, not by the app: what is asked just when it closes
 * would be lost. Longer than the minute proxies and clients usually wait.
 */
const KEPT_OPEN_MS = 75_000;

/** Starts the built app on loopback and waits until it answers. */
export async function startApp({ port, env, quiet = false, mode = 'start' }) {
  const child = start(
    process.execPath,
    [
      join(ROOT, 'node_modules/next/dist/bin/next'),
      mode,
      '-p',
      String(port),
      '-H',
      env.DUSK_HOST ?? '127.0.0.1',
      ...(mode === 'start' ? ['--keepAliveTimeout', String(KEPT_OPEN_MS)] : []),
    ],
    {
      cwd: join(ROOT, 'web'),
      stdio: quiet ? ['ignore', 'pipe', 'pipe'] : ['ignore', 'ignore', 'inherit'],
      env: {
        ...process.env,
        NEXT_TELEMETRY_DISABLED: '1',
        NODE_ENV: mode === 'dev' ? 'development' : 'production',
        DUSK_WORKER_FILE: WORKER_FILE,
        ...env,
      },
    },
  );
  let output = '';
  if (quiet)
    for (const stream of [child.stdout, child.stderr])
      stream.on('data', (chunk) => (output = (output + chunk).slice(-20_000)));
  child.output = () => output;
  const address = `http://127.0.0.1:${port}`;
  for (let tries = 0; ; tries++) {
    const up = await fetch(`${address}/api/health`).then(
      (response) => response.ok,
      () => false,
    );
    if (up) return { child, address };
    if (child.exitCode !== null || tries > 600)
      throw new Error(`The app did not start.\n${output}`);
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
}
