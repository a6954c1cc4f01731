import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect } from 'vitest';
import { Agent } from '../../bench/src/agent';
import { SimulatedBench } from '../../bench/src/simulated';
import {
  agentOrders,
  listRecipes,
  planBoard,
  readAmbient,
  setChannelLimits,
  startJob,
  startList,
  takeRecords,
} from '../src/bench';
import { ABLE, type BenchLab, benchLab, listEight, NOW } from './bench-lab';

const SPEED = 2000;

export let { fresh, lotId, cells, channels, technician } = {} as BenchLab;
export let clock = NOW;
export const lab = () => fresh.lab;
export const recipe = async (name: string) =>
  (await listRecipes(lab(), fresh.admin, {})).find((one) => one.name === name)!;

export let bench: SimulatedBench;
let folder: string;
let agent: Agent;
const app = {
  poll: (poll: Parameters<typeof agentOrders>[2]) => agentOrders(lab(), fresh.admin, poll),
  records: (batch: Parameters<typeof takeRecords>[2]) => takeRecords(lab(), fresh.admin, batch),
};
export const begin = async (cell: number, channel: number) => {
  const job = (await planBoard(lab(), technician, {})).jobs.find(
    ({ cellId }) => cellId === cells[cell]!.id,
  )!;
  const where = { jobId: job.id, channelId: channels[channel]! };
  const list = await startList(lab(), technician, where);
  expect(list.questions.map(({ question }) => question)).not.toContain('cutoffOnInstrument');
  const { benchRunId } = await startJob(lab(), technician, {
    ...where,
    answers: list.questions.map(({ question, known }) => ({
      question,
      answeredFor: known ? ('set' as const) : ('cell' as const),
    })),
  });
  return benchRunId;
};
export const state = async (id: number) => (await lab().store.bench.runs.one({ id }))!;
export const over = async (id: number) => {
  for (let i = 0; i < 600; i++) {
    if ((await state(id)).state === 'ended') return;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  throw new Error('The run did not end.');
};

/** Lets time pass, or go back. */
export const setClock = (at: Date): void => void (clock = at);

/** A lab whose bench is driven by a simulated one, for the tests of one file; call it at the top of the file. */
export function useDrivenBench(): void {
  beforeAll(async () => {
    clock = NOW;
    const made = await benchLab(() => clock);
    ({ fresh, lotId, cells, channels, technician } = made);
    await listEight(made);
    await readAmbient(lab(), technician, { celsius: 22 });
  });
  afterAll(() => fresh.close());
  beforeAll(async () => {
    folder = mkdtempSync(join(tmpdir(), 'dusk-lab-bench-'));
    bench = new SimulatedBench({
      seed: 3,
      capacitySpread: 0,
      speed: SPEED,
      port: 0,
      places: [
        { chemistry: 'LFP', ratedAh: 6, stateOfCharge: 0.5 },
        { chemistry: 'LFP', ratedAh: 6, stateOfCharge: 0.1, faults: { heaterWPerA2: 3 } },
        { chemistry: 'LFP', ratedAh: 6, stateOfCharge: 0.5, faults: { capacityShare: 0.93 } },
        { chemistry: 'LFP', ratedAh: 6, stateOfCharge: 0.5 },
      ],
    });
    const wirings = await bench.open();
    for (const [i, channelId] of channels.entries())
      await setChannelLimits(lab(), fresh.admin, {
        channelId,
        version: 1,
        limits: ABLE,
        wiring: wirings[i]!,
        agent: 'bench',
      });
    agent = new Agent({
      name: 'bench',
      app: app as never,
      folder,
      speed: SPEED,
      tickMs: 20,
      pollMs: 50,
      timeoutMs: 500,
    });
    agent.start();
  });
  afterAll(async () => {
    await agent.stop();
    await bench.close();
    rmSync(folder, { recursive: true, force: true });
  });
}
