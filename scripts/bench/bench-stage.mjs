import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { keptSecret, runTypeScript, startApp } from '../lib/app.mjs';
import { startBench } from '../lib/bench.mjs';
import { ensureBuild } from '../lib/build.mjs';
import { freePort, startDatabase } from '../lib/database.mjs';
import { onStop, stop } from '../lib/run.mjs';
import { ensureDebianPackages, ensureNodeModules } from '../lib/setup.mjs';

/** A whole bench on data of its own: database, app, simulated instruments, agent. */
export async function setStage({ places, speed, alive }) {
  await ensureDebianPackages(['mariadb-server']);
  await ensureNodeModules();
  await ensureBuild();
  const home = mkdtempSync(join(tmpdir(), 'dusk-stage-'));
  const stage = {
    home,
    database: await startDatabase(home),
    app: null,
    bench: null,
    port: await freePort(),
  };
  stage.cleanUp = async () => {
    await stage.bench?.stop();
    await stop(stage.app?.child);
    await stage.database.stop();
    rmSync(home, { recursive: true, force: true });
  };
  onStop(stage.cleanUp);
  stage.env = {
    DUSK_DATABASE_URL: stage.database.url(),
    DUSK_SESSION_SECRET: keptSecret(join(home, 'secret')),
    DUSK_DEMO: '1',
    DUSK_BENCH_ALIVE: String(alive),
  };
  await runTypeScript('scripts/load-demo.ts', stage.env);
  stage.startApp = async () => {
    stage.app = await startApp({ port: stage.port, env: stage.env, quiet: true });
  };
  await stage.startApp();
  stage.startBench = async (prepare) => {
    stage.bench = await startBench({
      env: stage.env,
      home: join(home, 'bench'),
      address: stage.app.address,
      places,
      speed,
      quiet: true,
      prepare,
    });
  };
  await stage.startBench(true);
  return stage;
}

/** Process ids below one, itself first. */
export function family(pid) {
  try {
    const children = readFileSync(`/proc/${pid}/task/${pid}/children`, 'utf8')
      .trim()
      .split(/\s+/)
      .filter(Boolean)
      .map(Number);
    return [pid, ...children.flatMap(family)];
  } catch {
    return [];
  }
}

/** Processor time of a process and those below it, s. */
export function cpuSeconds(pid) {
  return family(pid).reduce((sum, one) => {
    try {
      const fields = readFileSync(`/proc/${one}/stat`, 'utf8').split(') ')[1].split(' ');
      return sum + (Number(fields[11]) + Number(fields[12])) / 100;
    } catch {
      return sum;
    }
  }, 0);
}
