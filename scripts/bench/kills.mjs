import { spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { startDatabase } from '../lib/database.mjs';
import { stop } from '../lib/run.mjs';
import { family, setStage } from './bench-stage.mjs';
import { agentOf, journalSeen } from './journal-seen.mjs';

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
const seen = journalSeen(stage);
const agentStart = agentOf(stage, 60);
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
    seen.read();
    agent = spawn(process.execPath, [agentStart.file], { env: agentStart.env, stdio: 'ignore' });
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
    seen.read();
    const chance = draw();
    const what = chance < 0.5 ? 'agent' : chance < 0.8 ? 'app' : 'database';
    tally[what]++;
    await acts[what]();
    process.stderr.write(`${i + 1}/${count} ${what}\n`);
  }
  // Time to hand in what waits.
  await pause(15_000);
  seen.read();
  kill(agent.pid);
  await pause(100);
  seen.read();
  agent = spawn(process.execPath, [agentStart.file], { env: agentStart.env, stdio: 'ignore' });
  await pause(7000);
  // What is on disk now is to be in the database a few seconds later.
  seen.read();
  await pause(6000);
  await stop(agent);
  const said = await seen.compare();
  console.log(
    `${count} kills with seed ${seed}: agent ${tally.agent}, app ${tally.app}, database ${tally.database}. ${said || ''}`,
  );
} finally {
  await stop(agent);
  await stage.cleanUp();
}
