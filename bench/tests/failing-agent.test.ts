import { spawn } from 'node:child_process';
import { appendFileSync, mkdirSync, readFileSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { once } from 'node:events';
import { build } from 'esbuild';
import { programOf } from '@dusk-tally/core/bench';
import { expect, it } from 'vitest';
import { Agent, Journal } from '../src/agent';
import { alarms, app, begin, bench, folder, open, SHORT, speed } from '../testing/agent-bench';
import { until } from '../testing/memory-app';
import { CONDITIONS } from '../testing/small-cell';

/** Puts something into the way of a journal that is to be written anew. */
const blockCompacting = () => mkdirSync(join(folder, 'journal.log.new'));
const isOn = () => bench!.places.some(({ load, supply }) => load.on || supply.on);

it('switches off where its journal cannot be written anew, and says so', async () => {
  await open([{}, {}]);
  blockCompacting();
  const running = begin({ compactFrom: 4000 });
  await until(() => !!app.ended(1) && !!app.ended(2), 15_000, 'the end of both');
  expect(isOn()).toBe(false);
  expect(alarms(1)).toContain('journalFull');
  expect(app.ended(1)!.reason).toContain('The journal cannot be written');
  expect(app.troubles).toEqual([]);
  // It lives on and looks after nothing new.
  expect(running.runs.size).toBeLessThanOrEqual(2);
});

it('a run begun in the moment the disk fails has nothing switched on', async () => {
  await open([{}]);
  const append = Journal.prototype.append;
  Journal.prototype.append = () => Promise.reject(new Error('ENOSPC: no space left on device'));
  try {
    begin();
    await until(() => !!app.ended(1), 10_000, 'the end');
    await new Promise((resolve) => setTimeout(resolve, 100));
    expect(isOn()).toBe(false);
  } finally {
    Journal.prototype.append = append;
  }
});

it('switches off what was on where its journal cannot even be opened', async () => {
  await open([{}]);
  const running = begin();
  await until(() => bench!.places[0]!.supply.on, 10_000, 'a charge');
  await until(() => app.readings(1).length > 5, 10_000, 'readings');
  await running.stop();
  expect(isOn()).toBe(true);
  // A cut line has to be mended at the start, and cannot be.
  const path = join(folder, 'journal.log');
  appendFileSync(path, 'deadbeef {"t":"rec');
  blockCompacting();
  begin();
  await until(() => !isOn(), 10_000, 'everything off');
  await until(() => !!app.ended(1), 10_000, 'the end');
  expect(alarms(1)).toContain('journalFull');
});

it('switches off first where anything else fails', async () => {
  await open([{}]);
  const said: string[] = [];
  const running = begin({ log: (line) => said.push(`${isOn() ? 'on' : 'off'}: ${line}`) });
  await until(() => app.readings(1).length > 5, 10_000, 'readings');
  (running as unknown as { watchWallClock: () => void }).watchWallClock = () => {
    throw new TypeError('nobody thought of it');
  };
  await until(() => !!app.ended(1), 10_000, 'the end');
  expect(alarms(1)).toContain('agentFailed');
  expect(isOn()).toBe(false);
  const line = said.find((one) => one.includes('nobody thought of it'));
  expect(line).toMatch(/^off: Outputs are off\./);
});

it('one instrument that does not answer keeps no other one on', async () => {
  await open([{}, {}]);
  const running = begin();
  await until(() => app.readings(1).length > 5 && app.readings(2).length > 5, 10_000, 'readings');
  bench!.disturb({ ...bench!.loads[0]!.faults, silent: 1 }, [bench!.loads[0]!]);
  await running.failed(new Error('out of memory'));
  expect(bench!.places.map(({ supply }) => supply.on)).toEqual([false, false]);
});

it('limits of the instruments end a charge nobody watches any more', async () => {
  await open([{}], { soc: 0.1 });
  const running = begin();
  await until(() => bench!.places[0]!.supply.on, 10_000, 'a charge');
  const { ends } = bench!.places[0]!;
  expect(ends.supply).toMatchObject({ aboveV: 3.75 });
  expect(ends.supply.seconds).toBeGreaterThan(3 * 3600);
  await running.stop();
  // Hours go by on the bench; nobody speaks to it.
  const place = bench!.places[0]!;
  place.advanceTo(bench!.nowS + ends.supply.seconds + 10);
  expect(place.supply.on).toBe(false);
});

it('an instrument without words for a limit is said once, and the run goes on', async () => {
  await open([{}], { program: programOf([SHORT[3]!], CONDITIONS), soc: 0.9 });
  const { instrument } = bench!.loads[0]!;
  const receive = instrument.receive.bind(instrument);
  instrument.receive = (message) => receive(message.replaceAll(':TIME:LIM', ':TIME:NONE'));
  begin();
  await until(() => !!app.ended(1), 20_000, 'the end');
  expect(alarms(1).filter((code) => code === 'ownLimitMissing')).toHaveLength(1);
  const text = app.events(1).flatMap((event) => (event.event === 'alarm' ? event.text : []));
  expect(text.join()).toContain('no limit of time of its own');
  expect(app.ended(1)).toMatchObject({ completed: true });
});

/** An app that hands out nothing but what it is told, over HTTP. */
async function listen() {
  const server = createServer((request, response) => {
    let body = '';
    request.on('data', (part) => (body += part));
    request.on('end', async () => {
      const asked = JSON.parse(body);
      const answer = request.url!.endsWith('poll')
        ? await app.poll(asked)
        : await app.records(asked);
      response.end(JSON.stringify(answer));
    });
  });
  server.listen(0, '127.0.0.1');
  await once(server, 'listening');
  return { server, url: `http://127.0.0.1:${(server.address() as AddressInfo).port}` };
}

it('the shipped agent: a disk that is full switches outputs off, the process says so and lives', async () => {
  await open([{}]);
  const { server, url } = await listen();
  const outfile = join(folder, 'agent.mjs');
  await build({
    entryPoints: [join(import.meta.dirname, '../src/run-agent.ts')],
    bundle: true,
    platform: 'node',
    format: 'esm',
    outfile,
    logLevel: 'error',
  });
  // No file may grow beyond 2.5 KiB: as a disk that is full.
  const child = spawn('sh', ['-c', `ulimit -f 5 && exec "${process.execPath}" "${outfile}"`], {
    env: {
      ...process.env,
      DUSK_APP: url,
      DUSK_TOKEN: 'any',
      DUSK_AGENT_FOLDER: join(folder, 'journal'),
      DUSK_BENCH_SPEED: String(speed),
    },
    stdio: ['ignore', 'ignore', 'pipe'],
  });
  let said = '';
  child.stderr.on('data', (part: Buffer) => (said += part));
  try {
    await until(() => bench!.places[0]!.supply.on, 30_000, 'a charge');
    await until(() => !!app.ended(1), 120_000, 'the end');
    expect(isOn()).toBe(false);
    expect(said).toContain('Outputs are off. The journal cannot be written');
    expect(child.exitCode).toBeNull();
    expect(readFileSync(join(folder, 'journal', 'journal.log')).length).toBeLessThanOrEqual(2560);
  } finally {
    child.kill('SIGTERM');
    await once(child, 'exit');
    server.close();
  }
}, 180_000);

it('an agent that was started on a disk that failed takes nothing on', async () => {
  await open([{}]);
  blockCompacting();
  appendFileSync(join(folder, 'journal.log'), 'deadbeef cut');
  const agent = new Agent({ name: 'bench', app, folder, speed, tickMs: 20, pollMs: 30 });
  agent.start();
  bench!.places[0]!.turn('supply', true);
  await until(() => !isOn(), 10_000, 'everything off');
  expect(agent.runs.size).toBe(0);
  await agent.stop();
});
