import { join } from 'node:path';
import { keptSecret, runTypeScript, startApp } from './lib/app.mjs';
import { bundleWorkers } from './lib/build.mjs';
import { freePort, startDatabase } from './lib/database.mjs';
import { DATA } from './lib/paths.mjs';
import { onStop, stop } from './lib/run.mjs';
import { ensureDebianPackages, ensureNodeModules } from './lib/setup.mjs';

// The demo's data under Next's development server; workers are bundled once at the start.
await ensureDebianPackages(['mariadb-server']);
await ensureNodeModules();
const home = join(DATA, 'demo');
const database = await startDatabase(home);
let app = null;
onStop(async () => {
  await stop(app?.child);
  if (!database.reused) await database.stop();
});
await bundleWorkers();
const env = {
  DUSK_DATABASE_URL: database.url(),
  DUSK_SESSION_SECRET: keptSecret(join(home, 'session-secret')),
  DUSK_DEMO: '1',
};
await runTypeScript('scripts/load-demo.ts', env);
app = await startApp({ port: await freePort(Number(process.env.PORT ?? 4190)), env, mode: 'dev' });
console.log(`Dusk Tally (development): ${app.address}`);
await new Promise((resolve) => app.child.once('exit', resolve));
if (!database.reused) await database.stop();
