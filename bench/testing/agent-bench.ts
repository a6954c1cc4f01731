import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import {
  type Assignment,
  programOf,
  type ProgramStep,
  type RecipeStep,
} from '@dusk-tally/core/bench';
import { afterEach, beforeEach } from 'vitest';
import { Agent, type AgentSettings } from '../src/agent';
import { type PlaceFaults, SimulatedBench } from '../src/simulated';
import { MemoryApp } from './memory-app';
import { connectTo } from './connect';
import { CONDITIONS } from './small-cell';

export const SHORT: RecipeStep[] = [
  {
    kind: 'charge',
    current: { in: 'It', value: 0.5 },
    limitV: null,
    taperIt: 0.05,
    maxHours: null,
    limitAh: null,
  },
  { kind: 'rest', minutes: 10 },
  { kind: 'measure', what: 'acResistance' },
  {
    kind: 'discharge',
    load: { by: 'current', current: { in: 'It', value: 1 } },
    cutoffV: null,
    maxHours: null,
    limitAh: null,
  },
  { kind: 'rest', minutes: 10 },
];

export let folder: string;
export let app: MemoryApp;
export let bench: SimulatedBench | null = null;
let agent: Agent | null = null;
export const speed = 2000;

beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'dusk-agent-'));
  app = new MemoryApp();
});
afterEach(async () => {
  await agent?.stop();
  await bench?.close();
  agent = bench = null;
  rmSync(folder, { recursive: true, force: true });
});

export const open = async (
  places: Partial<PlaceFaults>[],
  { program = programOf(SHORT, CONDITIONS) as ProgramStep[], soc = 0.6 } = {},
) => {
  bench = new SimulatedBench({
    seed: 5,
    capacitySpread: 0,
    speed,
    port: 0,
    places: places.map((faults) => ({
      chemistry: 'LFP',
      ratedAh: 6,
      stateOfCharge: soc,
      faults,
    })),
  });
  const wirings = await bench.open();
  app.waiting.push(
    ...wirings.map((wiring, i): Assignment => ({
      run: i + 1,
      channel: { id: i + 1, title: `Place ${i + 1}`, wiring },
      cell: `A-000${i + 1}`,
      program,
      limits: { highV: 3.65, lowV: 2, ambientC: 22, intervalS: 0.02 * speed },
      everyMs: 20,
      counterAh: 0,
      expected: { chemistry: 'LFP', ratedAh: 6, stateOfCharge: soc, capacityAh: null },
    })),
  );
};
export const begin = (
  more: Partial<Pick<AgentSettings, 'wallMs' | 'compactFrom' | 'log'>> = {},
) => {
  agent = new Agent({
    ...more,
    beforeRun: connectTo(() => bench!),
    name: 'bench',
    app,
    folder,
    speed,
    tickMs: 20,
    pollMs: 30,
    timeoutMs: 300,
  });
  agent.start();
  return agent;
};
export const alarms = (run: number) =>
  app.events(run).flatMap((event) => (event.event === 'alarm' ? [event.code] : []));
