import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { keptSecret, runTypeScript, startApp } from './lib/app.mjs';
import { ensureBuild } from './lib/build.mjs';
import { freePort, startDatabase } from './lib/database.mjs';
import { onStop, stop } from './lib/run.mjs';
import { ensureBrowser } from './lib/browser.mjs';
import { ensureDebianPackages, ensureNodeModules } from './lib/setup.mjs';

const [which, one] = process.argv.slice(2);
if (which === 'kills') {
  await import('./bench/kills.mjs');
  process.exit();
}
if (which === 'load') {
  await import('./bench/load.mjs');
  process.exit();
}
if (which === 'away') {
  await import('./bench/away.mjs');
  process.exit();
}

if (which === 'trust' || which === 'coverage') {
  await ensureNodeModules();
  await runTypeScript('scripts/bench/trust-run.ts', {
    DUSK_BENCH_PART: which,
    DUSK_BENCH_LINE: one ?? '',
  });
  process.exit();
}

// Benchmarks on the built app with the demo's data: figures, not pass or fail. `kills`,
// `load` and `away` try the bench agent, `trust` and `coverage` how often a figure or verdict is wrong
// (`trust hole`: one fault alone); `arrivals`, `money`,
// `pages`, `parser`, `pictures`, `recompute` and `growth` run that part alone.
await ensureDebianPackages(['mariadb-server']);
if (which === 'pages') await ensureBrowser();
await ensureNodeModules();
await ensureBuild();
const home = mkdtempSync(join(tmpdir(), 'dusk-bench-'));
let app = null;
const database = await startDatabase(home);
const cleanUp = async () => {
  await stop(app?.child);
  await database.stop();
  rmSync(home, { recursive: true, force: true });
};
onStop(cleanUp);
try {
  const env = {
    DUSK_DATABASE_URL: database.url(),
    DUSK_SESSION_SECRET: keptSecret(join(home, 'secret')),
    DUSK_DEMO: '1',
  };
  await runTypeScript('scripts/load-demo.ts', env);
  app = await startApp({ port: await freePort(), env, quiet: true });
  if (which === 'arrivals')
    await runTypeScript('scripts/bench/arrivals-run.ts', { ...env, DUSK_ADDRESS: app.address });
  else if (which === 'pages') {
    await runTypeScript('scripts/bench/arrivals-run.ts', { ...env, DUSK_ADDRESS: app.address });
    await runTypeScript('scripts/bench/fill-large-lot.ts', env);
    await runTypeScript('scripts/bench/pages-run.ts', { ...env, DUSK_ADDRESS: app.address });
  } else if (which === 'money') await runTypeScript('scripts/bench/money-run.ts', env);
  else if (which) {
    await runTypeScript('scripts/bench/evidence-run.ts', {
      ...env,
      DUSK_ADDRESS: app.address,
      DUSK_BENCH_PART: which,
    });
  } else {
    await runTypeScript('scripts/bench-run.ts', {
      ...env,
      DUSK_ADDRESS: app.address,
      DUSK_APP_PID: String(app.child.pid),
    });
    const peak = /VmHWM:\s+(\d+) kB/.exec(
      readFileSync(`/proc/${serverPid(app.child.pid)}/status`, 'utf8'),
    );
    console.log(
      `Peak memory of the server process through all of this: ${(Number(peak?.[1] ?? 0) / 1024).toFixed(0)} MB`,
    );
    await runTypeScript('scripts/bench/arrivals-run.ts', { ...env, DUSK_ADDRESS: app.address });
    await runTypeScript('scripts/bench/evidence-run.ts', { ...env, DUSK_ADDRESS: app.address });
  }
} finally {
  await cleanUp();
}

/** Next starts the server as a child of its command in some versions: the largest process counts. */
function serverPid(pid) {
  const children = readFileSync(`/proc/${pid}/task/${pid}/children`, 'utf8')
    .trim()
    .split(/\s+/)
    .filter(Boolean)
    .map(Number);
  const memory = (id) =>
    Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${id}/status`, 'utf8'))?.[1] ?? 0);
  return [pid, ...children].sort((a, b) => memory(b) - memory(a))[0];
}
