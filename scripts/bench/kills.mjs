import { spawn } from 'node:child_process';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { runTypeScript } from '../lib/app.mjs';
import { startDatabase } from '../lib/database.mjs';
import { AGENT_FILE } from '../lib/paths.mjs';
import { stop } from '../lib/run.mjs';
import { family, setStage } from './bench-stage.mjs';

// Kills agent, app or database at random moments while runs are on, again and again, then
// compares what the agent’s journal ever held with what the database has: `bench kills [n] [seed]`.
const [count = 50, seed = 1] = process.argv.slice(3).map(Number);
const pause = (ms) => new Promise((resolve) => setTimeout(resolve, ms));

let state = seed >>> 0;
const draw = () => {
  state = (state + 0x6d2b79f5) | 0;
  let t = Math.imul(state ^ (state >>> 15), 1 | state);
  t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
  return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
};

const stage = await setStage({ places: 12, speed: 60, alive: 12 });
const journal = join(stage.home, 'bench', 'agent', 'journal.log');
/** Every line that was ever whole on disk; the journal is written anew now and then. */
const seen = new Map();
function readJournal() {
  if (!existsSync(journal)) return;
  for (const line of readFileSync(journal, 'utf8').split('\n')) {
    if (line[8] !== ' ') continue;
    try {
      const entry = JSON.parse(line.slice(9));
      for (const record of entry.t === 'record'
        ? [entry.record]
        : entry.t === 'snapshot'
          ? entry.unsent
          : [])
        seen.set(`${record.run}/${record.seq}`, record);
    } catch {
      // The last line, cut short: it never counted.
    }
  }
}

const agentEnv = {
  ...process.env,
  DUSK_APP: stage.app.address,
  DUSK_TOKEN_FILE: join(stage.home, 'bench', 'agent-token'),
  DUSK_AGENT_FOLDER: join(stage.home, 'bench', 'agent'),
  DUSK_BENCH_SPEED: '60',
};
let agent = stage.bench.agent;
const kill = (pid) =>
  family(pid).forEach((one) => {
    try {
      process.kill(one, 'SIGKILL');
    } catch {
      // Gone already.
    }
  });
const acts = {
  agent: async () => {
    kill(agent.pid);
    await pause(50);
    readJournal();
    agent = spawn(process.execPath, [AGENT_FILE], { env: agentEnv, stdio: 'ignore' });
  },
  app: async () => {
    kill(stage.app.child.pid);
    await pause(200 + 800 * draw());
    await stage.startApp();
  },
  database: async () => {
    process.kill(Number(readFileSync(join(stage.home, 'mariadb.pid'), 'utf8')), 'SIGKILL');
    await pause(500 + 1500 * draw());
    const url = stage.database.url();
    stage.database = await startDatabase(stage.home);
    if (stage.database.url() !== url) {
      // It answers at another port: the app is told by starting it again.
      stage.env.DUSK_DATABASE_URL = stage.database.url();
      kill(stage.app.child.pid);
      await stage.startApp();
    }
  },
};
const tally = { agent: 0, app: 0, database: 0 };
try {
  for (let i = 0; i < count; i++) {
    await pause(300 + 2500 * draw());
    readJournal();
    const chance = draw();
    const what = chance < 0.5 ? 'agent' : chance < 0.8 ? 'app' : 'database';
    tally[what]++;
    await acts[what]();
    process.stderr.write(`${i + 1}/${count} ${what}\n`);
  }
  // Time to hand in what waits.
  await pause(15_000);
  readJournal();
  kill(agent.pid);
  await pause(100);
  readJournal();
  agent = spawn(process.execPath, [AGENT_FILE], { env: agentEnv, stdio: 'ignore' });
  await pause(7000);
  // What is on disk now is to be in the database a few seconds later.
  readJournal();
  await pause(6000);
  await stop(agent);
  const file = join(stage.home, 'seen.json');
  writeFileSync(file, JSON.stringify([...seen.values()]));
  const said = await runTypeScript('scripts/bench/compare-records.ts', {
    ...stage.env,
    DUSK_SEEN: file,
    DUSK_STDOUT: '1',
  }).catch((error) => error.message);
  console.log(
    `${count} kills with seed ${seed}: agent ${tally.agent}, app ${tally.app}, database ${tally.database}. ${said || ''}`,
  );
} finally {
  await stop(agent);
  await stage.cleanUp();
}
