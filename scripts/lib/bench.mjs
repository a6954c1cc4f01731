import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { runTypeScript } from './app.mjs';
import { AGENT_FILE, SIMULATED_FILE } from './paths.mjs';
import { start, stop } from './run.mjs';

/**
 * Starts a simulated bench and the agent that drives it, with runs under way.
 * @returns what stops both.
 */
export async function startBench({
  env,
  home,
  address,
  speed = 60,
  places = 12,
  quiet = false,
  prepare = true,
}) {
  mkdirSync(home, { recursive: true });
  const wirings = join(home, 'wirings.json');
  const tokenFile = join(home, 'agent-token');
  rmSync(wirings, { force: true });
  const stdio = quiet ? 'ignore' : ['ignore', 'ignore', 'inherit'];
  const simulated = start(process.execPath, [SIMULATED_FILE], {
    stdio,
    env: {
      ...process.env,
      DUSK_BENCH_PLACES: String(places),
      DUSK_BENCH_SPEED: String(speed),
      DUSK_BENCH_WIRINGS: wirings,
      DUSK_BENCH_HEATERS: 'B-0279,B-0298',
      DUSK_BENCH_STATE: join(home, 'simulated.json'),
    },
  });
  for (let tries = 0; !existsSync(wirings) || readFileSync(wirings).length === 0; tries++) {
    if (simulated.exitCode !== null || tries > 200)
      throw new Error('The simulated bench did not start.');
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  if (prepare)
    await runTypeScript('scripts/demo/start-bench.ts', {
      ...env,
      DUSK_BENCH_WIRINGS: wirings,
      DUSK_TOKEN_FILE: tokenFile,
    });
  const agent = start(process.execPath, [AGENT_FILE], {
    stdio: quiet ? 'ignore' : ['ignore', 'ignore', 'ignore'],
    env: {
      ...process.env,
      DUSK_APP: address,
      DUSK_TOKEN_FILE: tokenFile,
      DUSK_AGENT_FOLDER: join(home, 'agent'),
      DUSK_BENCH_SPEED: String(speed),
      DUSK_BENCH_CONTROL: JSON.parse(readFileSync(wirings, 'utf8')).control,
    },
  });
  return {
    agent,
    simulated,
    wirings,
    stop: async () => {
      await stop(agent);
      await stop(simulated);
    },
  };
}
