import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { programOf, SHIPPED_RECIPES } from '@dusk-tally/core/bench';
import { afterEach, describe, expect, it } from 'vitest';
import { Agent } from '../src/agent';
import { type BenchDescription, SimulatedBench } from '../src/simulated';
import { MemoryApp, until } from '../testing/memory-app';
import { connectTo } from '../testing/connect';
import { CONDITIONS } from '../testing/small-cell';

const description = (places: number, speed: number): BenchDescription => ({
  seed: 5,
  speed,
  port: 0,
  capacitySpread: 0,
  places: Array.from({ length: places }, () => ({
    chemistry: 'LFP' as const,
    ratedAh: 6,
    stateOfCharge: 0.8,
  })),
});

describe('a simulated bench that is left and opened again', () => {
  const open: SimulatedBench[] = [];
  const bench = (...args: ConstructorParameters<typeof SimulatedBench>) => {
    const made = new SimulatedBench(...args);
    open.push(made);
    return made;
  };
  afterEach(async () => {
    for (const one of open.splice(0)) await one.close().catch(() => undefined);
  });
  const discharging = (of: SimulatedBench) =>
    Object.assign(of.places[0]!.load, { on: true, mode: 'current', currentA: 6, cutoffV: 2.5 });

  it('has the same cells in the same state, and what flowed flows on', () => {
    const before = bench(description(2, 1));
    discharging(before);
    before.places[0]!.advanceTo(600);
    before.places[0]!.clockOffS = 40;
    const left = { ...before.snapshot(), nowS: 600 };
    // As it is when it was written to disk and read again.
    const after = bench(description(2, 1), JSON.parse(JSON.stringify(left)), left.savedAtMs);
    const [one, two] = [before.places[0]!, after.places[0]!];
    expect(two.stateOfCharge).toBe(one.stateOfCharge);
    expect(two.load).toEqual(one.load);
    expect(two.counterAh).toBe(one.counterAh);
    expect(two.clockS).toBe(one.clockS);
    for (const place of [one, two]) place.advanceTo(1800);
    expect(two.stateOfCharge).toBe(one.stateOfCharge);
    expect(two.counterAh).toBeCloseTo(3, 2);
    expect(after.places[1]!.counterAh).toBe(0);
  });
  it('time went on meanwhile: a discharge is further, and ended at its own cut-off if it got there', () => {
    const before = bench(description(1, 60));
    discharging(before);
    const left = before.snapshot();
    const shortly = bench(description(1, 60), left, left.savedAtMs + 20_000);
    shortly.places[0]!.advanceTo(shortly.nowS);
    expect(shortly.places[0]!.counterAh).toBeCloseTo(2, 1);
    expect(shortly.places[0]!.load.on).toBe(true);
    const long = bench(description(1, 60), left, left.savedAtMs + 8 * 3_600_000);
    long.places[0]!.advanceTo(long.nowS);
    expect(long.places[0]!.load.on).toBe(false);
    expect(long.places[0]!.counterAh).toBeGreaterThan(4);
    expect(long.places[0]!.counterAh).toBeLessThan(5.2);
    // A clock that was set back meanwhile does not turn time back.
    expect(bench(description(1, 60), left, left.savedAtMs - 5000).nowS).toBeGreaterThanOrEqual(
      left.nowS,
    );
  });
  it('answers where it answered before', async () => {
    const before = bench(description(3, 1));
    const wirings = await before.open();
    const left = before.snapshot();
    await before.close();
    expect(await bench(description(3, 1), left).open()).toEqual(wirings);
  });
  it('refuses what was left of another number of places', () => {
    const left = bench(description(3, 1)).snapshot();
    expect(() => bench(description(2, 1), left)).toThrow('Expected 2 places as described; 3 were');
  });
  it('a run goes on when agent and bench were both started again', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'dusk-again-'));
    const app = new MemoryApp();
    const speed = 2000;
    const first = bench(description(1, speed));
    const agent = () =>
      new Agent({
        beforeRun: connectTo(() => first),
        name: 'bench',
        app,
        folder,
        speed,
        tickMs: 20,
        pollMs: 30,
        timeoutMs: 300,
      });
    try {
      const [wiring] = await first.open();
      const discharge = SHIPPED_RECIPES[0]!.steps.filter(({ kind }) => kind === 'discharge');
      app.waiting.push({
        run: 1,
        channel: { id: 1, title: 'Place 1', wiring: wiring! },
        cell: 'A-0001',
        program: programOf(discharge, CONDITIONS),
        limits: { highV: 3.65, lowV: 2, ambientC: 22, intervalS: 0.02 * speed },
        everyMs: 20,
        counterAh: 0,
        expected: { chemistry: 'LFP', ratedAh: 6, stateOfCharge: 0.8, capacityAh: 6 },
      });
      const driving = agent();
      driving.start();
      await until(() => app.readings(1).length > 10, 10_000, 'readings');
      await driving.stop();
      const left = first.snapshot();
      await first.close();
      const before = app.readings(1).length;
      expect(before).toBeLessThan(400);
      await bench(description(1, speed), left).open();
      const again = agent();
      again.start();
      await until(() => !!app.ended(1), 20_000, 'the end');
      await again.stop();
      expect(app.ended(1)).toMatchObject({ completed: true });
      expect(app.readings(1).length).toBeGreaterThan(before);
      const alarms = app.events(1).flatMap((one) => (one.event === 'alarm' ? [one.code] : []));
      expect(alarms).not.toContain('noReadings');
      expect(app.troubles).toEqual([]);
    } finally {
      rmSync(folder, { recursive: true, force: true });
    }
  });
});
