import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { keptSecret, runTypeScript, startApp } from './lib/app.mjs';
import { startBench } from './lib/bench.mjs';
import { ensureBrowser } from './lib/browser.mjs';
import { ensureBuild } from './lib/build.mjs';
import { freePort, startDatabase } from './lib/database.mjs';
import { onStop, stop } from './lib/run.mjs';
import { ensureDebianPackages, ensureNodeModules } from './lib/setup.mjs';

// One current picture of each main view, from the demo's data, in docs/screenshots.
await ensureDebianPackages(['mariadb-server']);
await ensureBrowser();
await ensureNodeModules();
await ensureBuild();
const home = mkdtempSync(join(tmpdir(), 'dusk-shots-'));
let app = null;
let bench = null;
const database = await startDatabase(home, { forTests: true });
const cleanUp = async () => {
  await bench?.stop();
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
  bench = await startBench({
    env,
    home: join(home, 'bench'),
    address: app.address,
    quiet: true,
  });
  await runTypeScript('scripts/take-screenshots.ts', { DUSK_ADDRESS: app.address });
} finally {
  await cleanUp();
}
