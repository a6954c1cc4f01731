import { createHash } from 'node:crypto';
import {
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import { alone } from './lock.mjs';
import { AGENT_FILE, DATA, ROOT, SIMULATED_FILE, WORKER_FILE } from './paths.mjs';
import { run } from './run.mjs';

const SKIPPED = new Set(['node_modules', '.next', 'dist', 'tests', 'fixtures', 'testing']);

function* sourceFiles(folder) {
  for (const entry of readdirSync(folder, { withFileTypes: true }).sort((a, b) =>
    a.name < b.name ? -1 : 1,
  )) {
    if (SKIPPED.has(entry.name)) continue;
    const path = join(folder, entry.name);
    if (entry.isDirectory()) yield* sourceFiles(path);
    else yield path;
  }
}

/** A hash of everything a build depends on. */
export function sourceStamp() {
  const hash = createHash('sha256');
  for (const room of ['core', 'store', 'lab', 'bench', 'web']) {
    for (const path of sourceFiles(join(ROOT, room))) {
      if (statSync(path).isFile() && !/(next-env\.d\.ts|\.tsbuildinfo)$/.test(path))
        hash.update(path.slice(ROOT.length)).update(readFileSync(path));
    }
  }
  return hash.update(readFileSync(join(ROOT, 'package-lock.json'))).digest('hex');
}

/** Bundles the workers of the lab room, whose packages stay outside, the agent and the simulated bench. */
export async function bundleWorkers() {
  const { build } = await import('esbuild');
  await build({
    entryPoints: [join(ROOT, 'lab', 'src', 'compute', 'worker.ts')],
    outfile: WORKER_FILE,
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    jsx: 'automatic',
    external: ['@react-pdf/renderer', 'react', 'react/jsx-runtime', 'fflate', '@fontsource/*'],
    logLevel: 'warning',
  });
  for (const [entry, outfile] of [
    ['run-agent.ts', AGENT_FILE],
    ['run-simulated.ts', SIMULATED_FILE],
  ])
    await build({
      entryPoints: [join(ROOT, 'bench', 'src', entry)],
      outfile,
      bundle: true,
      platform: 'node',
      format: 'esm',
      target: 'node20',
      logLevel: 'warning',
    });
}

/** Builds workers and app, unless the last build was of the same sources. */
export async function ensureBuild({ force = false } = {}) {
  const stampFile = join(ROOT, 'web', '.next', 'source-stamp');
  const stamp = sourceStamp();
  const isDone = () =>
    existsSync(stampFile) &&
    existsSync(WORKER_FILE) &&
    existsSync(AGENT_FILE) &&
    readFileSync(stampFile, 'utf8') === stamp;
  if (!force && isDone()) return false;
  return alone(join(DATA, 'build.lock'), async () => {
    // Another command may have built the same in the meantime.
    if (!force && isDone()) return false;
    rmSync(stampFile, { force: true });
    await buildAll();
    mkdirSync(join(ROOT, 'web', '.next'), { recursive: true });
    writeFileSync(stampFile, stamp);
    return true;
  });
}

async function buildAll() {
  console.error('Building …');
  await bundleWorkers();
  await run(process.execPath, [join(ROOT, 'node_modules/next/dist/bin/next'), 'build'], {
    cwd: join(ROOT, 'web'),
    stdio: ['ignore', 'pipe', 'pipe'],
    env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1', NODE_ENV: 'production' },
  }).catch((error) => {
    throw new Error(`The build failed.\n${error.output ?? error.message}`);
  });
}
