import { existsSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { keptSecret, runTypeScript, startApp } from './lib/app.mjs';
import { startBench } from './lib/bench.mjs';
import { ensureBuild } from './lib/build.mjs';
import { freePort, startDatabase } from './lib/database.mjs';
import { daysAhead, movedClock } from './lib/moved-clock.mjs';
import { DATA } from './lib/paths.mjs';
import { onStop, isStopping, stop } from './lib/run.mjs';
import { ensureDebianPackages, ensureNodeModules } from './lib/setup.mjs';

const HOME = join(DATA, 'demo');
const RUNNING = join(HOME, 'running.json');

/** Whether a process is there and its command line holds a word. */
function runs(pid, word) {
  try {
    return readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(word);
  } catch {
    return false;
  }
}

/**
 * The address of a demo of this checkout that runs already, or null. An app whose demo was
 * killed is stopped, so that this one can take over; its database is used as it is.
 */
async function runningAddress() {
  if (!existsSync(RUNNING)) return null;
  const { address, demoPid, appPid } = JSON.parse(readFileSync(RUNNING, 'utf8'));
  if (runs(demoPid, 'demo.mjs')) return address;
  if (runs(appPid, 'next')) process.kill(appPid, 'SIGTERM');
  for (let tries = 0; runs(appPid, 'next') && tries < 50; tries++) {
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  rmSync(RUNNING, { force: true });
  return null;
}

let days = 0;
try {
  days = daysAhead(process.argv.slice(2));
} catch (error) {
  console.error(error.message);
  process.exit(2);
}
const address = await runningAddress();
if (address) {
  console.log(
    days > 0
      ? `The demo is running (${address}). Stop it, then start it with its clock moved on.`
      : `The demo is running already: ${address}`,
  );
  process.exit(0);
}

await ensureDebianPackages(['mariadb-server']);
await ensureNodeModules();
let database = null;
let app = null;
let bench = null;
onStop(async () => {
  console.log('\nStopping …');
  rmSync(RUNNING, { force: true });
  await bench?.stop();
  await stop(app?.child);
  await database?.stop();
});
try {
  database = await startDatabase(HOME);
  // The bench and its agent, too: they take their environment from here.
  Object.assign(process.env, movedClock(join(HOME, 'clock.json'), days));
  await ensureBuild();
  const env = {
    DUSK_DATABASE_URL: database.url(),
    DUSK_SESSION_SECRET: keptSecret(join(HOME, 'session-secret')),
    DUSK_DEMO: '1',
  };
  await runTypeScript('scripts/load-demo.ts', env);
  app = await startApp({ port: await freePort(Number(process.env.PORT ?? 4180)), env });
  writeFileSync(
    RUNNING,
    JSON.stringify({ address: app.address, demoPid: process.pid, appPid: app.child.pid }),
  );
  bench = await startBench({ env, home: join(HOME, 'bench'), address: app.address });
  const { DUSK_AHEAD_S } = process.env;
  if (DUSK_AHEAD_S) console.log(`Its clock stands ${Number(DUSK_AHEAD_S) / 86_400} days ahead.`);
  console.log(`\nDusk Tally (demo): ${app.address}\nCtrl-C stops it; the data stays in ${HOME}.`);
  await new Promise((resolve) => app.child.once('exit', resolve));
  if (!isStopping()) console.error('The app ended by itself.');
} catch (error) {
  if (!isStopping()) console.error(error.message);
} finally {
  if (!isStopping()) {
    rmSync(RUNNING, { force: true });
    await bench?.stop();
    await stop(app?.child);
    await database?.stop();
    process.exitCode = 1;
  }
}
