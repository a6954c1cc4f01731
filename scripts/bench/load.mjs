import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { runTypeScript } from '../lib/app.mjs';
import { cpuSeconds, setStage } from './bench-stage.mjs';

// Many channels at one reading a second beside the app: `bench load [channels] [minutes]`.
const [channels = 64, minutes = 10] = process.argv.slice(3).map(Number);
const pause = (ms) => new Promise((resolve) => setTimeout(resolve, ms));
const stage = await setStage({ places: channels, speed: 1, alive: channels });
try {
  // Somebody looks at the board all the while.
  const cookie = await signIn(stage.app.address);
  const lags = [];
  const stop = new AbortController();
  const looking = (async () => {
    const response = await fetch(`${stage.app.address}/api/bench/live`, {
      headers: { cookie },
      signal: stop.signal,
    });
    let text = '';
    for await (const chunk of response.body) {
      text += Buffer.from(chunk).toString('utf8');
      for (let end = text.indexOf('\n\n'); end >= 0; end = text.indexOf('\n\n')) {
        const line = text
          .slice(0, end)
          .split('\n')
          .find((one) => one.startsWith('data: '));
        text = text.slice(end + 2);
        if (!line) continue;
        const board = JSON.parse(line.slice(6));
        const now = Date.now();
        for (const { run } of board.channels)
          if (run?.startedAt && run.lastSeq > 5)
            // Time of the newest reading on the screen, on the wall clock: the bench runs at real time.
            lags.push(now - (Date.parse(run.startedAt) + run.timeS * 1000));
      }
    }
  })().catch(() => undefined);
  await pause(20_000);
  lags.length = 0;
  const before = {
    agent: cpuSeconds(stage.bench.agent.pid),
    app: cpuSeconds(stage.app.child.pid),
    bench: cpuSeconds(stage.bench.simulated.pid),
  };
  const started = performance.now();
  await pause(minutes * 60_000);
  const seconds = (performance.now() - started) / 1000;
  const share = (name, pid) => ((cpuSeconds(pid) - before[name]) / seconds) * 100;
  const shares = {
    agent: share('agent', stage.bench.agent.pid),
    app: share('app', stage.app.child.pid),
    bench: share('bench', stage.bench.simulated.pid),
  };
  stop.abort();
  await looking;
  lags.sort((a, b) => a - b);
  const least = lags[0] ?? 0;
  writeFileSync(join(stage.home, 'seen.json'), '[]');
  const said = await runTypeScript('scripts/bench/count-readings.ts', {
    ...stage.env,
    DUSK_SECONDS: String(seconds + 20),
  });
  console.log(said ?? '');
  console.log(
    `${channels} channels, ${(seconds / 60).toFixed(1)} minutes, one screen open: agent ${shares.agent.toFixed(1)} % and app ${shares.app.toFixed(1)} % of one core (${(shares.agent + shares.app).toFixed(1)} % together; the simulated instruments took ${shares.bench.toFixed(1)} %). The board was behind by a median of ${((lags[lags.length >> 1] ?? 0) / 1000).toFixed(2)} s, 99 % ${((lags[Math.floor(lags.length * 0.99)] ?? 0) / 1000).toFixed(2)} s, most ${((lags[lags.length - 1] ?? 0) / 1000).toFixed(2)} s (least ${(least / 1000).toFixed(2)} s).`,
  );
} finally {
  await stage.cleanUp();
}

async function signIn(address) {
  let cookie = '';
  await runTypeScript('scripts/bench/cookie.ts', {
    ...stage.env,
    DUSK_ADDRESS: address,
    DUSK_COOKIE: join(stage.home, 'cookie'),
  });
  const { readFileSync } = await import('node:fs');
  cookie = readFileSync(join(stage.home, 'cookie'), 'utf8');
  return cookie;
}
