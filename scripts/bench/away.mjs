import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { startDatabase } from '../lib/database.mjs';
import { setStage } from './bench-stage.mjs';
import { journalSeen } from './journal-seen.mjs';

// The database is killed and stays away while many channels run: `bench away [channels] [seconds]`.
const [channels = 64, seconds = 90] = process.argv.slice(3).map(Number);
const pause = (ms) => new Promise((resolve) => setTimeout(resolve, ms));
const stage = await setStage({ places: channels, speed: 1, alive: channels });
const seen = journalSeen(stage);
try {
  await pause(30_000);
  seen.read();
  const url = stage.database.url();
  process.kill(Number(readFileSync(join(stage.home, 'mariadb.pid'), 'utf8')), 'SIGKILL');
  const answer = await fetch(`${stage.app.address}/api/health`).then(
    (response) => response.status,
    () => 'nothing',
  );
  for (let left = seconds; left > 0; left -= 5) {
    await pause(Math.min(5, left) * 1000);
    seen.read();
  }
  stage.database = await startDatabase(stage.home);
  if (stage.database.url() !== url) throw new Error('The database came back at another port.');
  const back = performance.now();
  await pause(20_000);
  seen.read();
  await pause(6000);
  console.log(
    `Database away for ${seconds} s with ${channels} channels (the app’s health page answered ${answer} meanwhile; ${((performance.now() - back) / 1000).toFixed(0)} s after it was back). ${await seen.compare()}`,
  );
} finally {
  await stage.cleanUp();
}
