import { describe, expect, it } from 'vitest';
import type { ClaimConditions } from '../src/arrivals';
import { cutSections, sustainedCurrents } from '../src/evidence';
import { assessCell, type CellEvidence } from '../src/verdicts';
import { capacity, claimed, evidence } from '../testing/assessed';
import { bareTrace } from '../testing/trace-of';

type Kept = CellEvidence['currents'][number];

/** A discharge of 100 Ah claimed at 104 A: falling from 3.3 V, warming from 25 °C, with a rest before it. */
function run({
  seconds,
  everyS = 1,
  fallVPerS = 0.01,
  warmKPerS = 0.01,
  amps = 104,
}: {
  seconds: number;
  everyS?: number;
  fallVPerS?: number;
  warmKPerS?: number;
  amps?: number;
}): Kept[] {
  const rests = Array.from({ length: 60 }, (_, i) => i - 60);
  const times = [
    ...rests,
    ...Array.from({ length: Math.floor(seconds / everyS) + 1 }, (_, i) => i * everyS),
  ];
  const trace = bareTrace({
    timeS: Float64Array.from(times),
    voltageV: Float64Array.from(times, (t) => (t < 0 ? 3.3 : 3.2 - fallVPerS * t)),
    currentA: Float64Array.from(times, (t) => (t < 0 ? 0 : -amps)),
  });
  const warm = {
    ...trace,
    temperatureC: Float64Array.from(times, (t) => 25 + warmKPerS * Math.max(0, t)),
  };
  return sustainedCurrents(warm, cutSections(warm));
}
const judge = (
  currents: readonly Kept[],
  conditions: ClaimConditions = {},
  more: Partial<CellEvidence> = {},
) =>
  assessCell(
    evidence({ currents, capacities: [capacity(104)], ...more }),
    [claimed('capacity', 104), claimed('maxDischarge', 104, { cutoffV: 2.5, ...conditions })],
    1,
  ).items.find(({ item }) => item === 'maxDischarge')!;

describe('a discharge current claimed for some seconds', () => {
  it('is met by a pulse of that length that stays above the cut-off', () => {
    expect(judge(run({ seconds: 10 }), { pulseS: 10 })).toMatchObject({
      state: 'met',
      probability: 1,
    });
    expect(judge(run({ seconds: 9.8, everyS: 0.2 }), { pulseS: 10 }).state).toBe('met');
    expect(judge(run({ seconds: 9 }), { pulseS: 10 })).toMatchObject({
      state: 'waitingFor',
      what: ['a load of 10 s, read at its end'],
    });
  });

  it('what came later in a longer run does not speak against it', () => {
    // Below 2.5 V after 70 s, above 60 °C after 350 s: neither within the ten seconds claimed.
    const long = run({ seconds: 400, warmKPerS: 0.1 });
    expect(long[0]).toMatchObject({ durationS: 400, maxTemperatureC: 65 });
    expect(judge(long, { pulseS: 10 })).toMatchObject({ state: 'met' });
    expect(judge(long, { pulseS: 60 })).toMatchObject({ state: 'met' });
    // And a longer run does not make a pulse that failed in its time a good one.
    expect(judge(long, { pulseS: 120 })).toMatchObject({ state: 'notMet', probability: 0 });
    const hot = run({ seconds: 400, warmKPerS: 1, fallVPerS: 0.001 });
    expect(judge(hot, { pulseS: 60 })).toMatchObject({ state: 'notMet' });
    expect(judge(hot, { pulseS: 30 })).toMatchObject({ state: 'met' });
  });

  it('says at which voltage it was when it failed', () => {
    const weak = judge(run({ seconds: 12, fallVPerS: 0.1 }), { pulseS: 10 });
    expect(weak.state).toBe('notMet');
    expect(weak.differences).toEqual([
      'Its voltage was at 2.200 V after 10 s, below the cut-off of 2.5 V.',
    ]);
  });

  it('one broken off below its cut-off failed, however short it was', () => {
    expect(judge(run({ seconds: 4, fallVPerS: 0.3 }), { pulseS: 10 })).toMatchObject({
      state: 'notMet',
    });
  });

  it('readings too far apart leave it open: between 8 s and 16 s nobody looked', () => {
    const coarse = run({ seconds: 160, everyS: 8, fallVPerS: 0.06 });
    // After 8 s 2.72 V, after 16 s 2.24 V.
    expect(judge(coarse, { pulseS: 10 })).toMatchObject({ state: 'waitingFor' });
    expect(judge(run({ seconds: 160, everyS: 8, fallVPerS: 0.04 }), { pulseS: 10 }).state).toBe(
      'met',
    );
    expect(judge(run({ seconds: 160, everyS: 8, fallVPerS: 0.1 }), { pulseS: 10 }).state).toBe(
      'notMet',
    );
  });

  it('one pulse that stood is enough, whatever others did', () => {
    const [good] = run({ seconds: 10 });
    const [bad] = run({ seconds: 10, fallVPerS: 0.2 });
    expect(judge([bad!, good!], { pulseS: 10 }).state).toBe('met');
    expect(judge([bad!], { pulseS: 10 }).state).toBe('notMet');
  });

  it('without a temperature it waits for one, and an old log without times is judged by its end', () => {
    const [kept] = run({ seconds: 10 });
    const cold = {
      ...kept!,
      maxTemperatureC: null,
      by: kept!.by!.map((one) => ({ ...one, maxC: null })),
    };
    expect(judge([cold], { pulseS: 10 })).toMatchObject({
      state: 'waitingFor',
      what: ['the temperature under this load'],
    });
    const old = ({ by: _by, ...rest }: Kept): Kept => rest;
    expect(judge([old(kept!)], { pulseS: 10 }).state).toBe('met');
    // Its end lies after the pulse and below the cut-off: when it fell is not known.
    expect(judge([old(run({ seconds: 100 })[0]!)], { pulseS: 10 }).state).toBe('waitingFor');
  });

  it('less than 98 % of the current is another current', () => {
    expect(judge(run({ seconds: 10, amps: 102 }), { pulseS: 10 }).state).toBe('met');
    expect(judge(run({ seconds: 10, amps: 101.8 }), { pulseS: 10 })).toMatchObject({
      state: 'waitingFor',
      what: ['a load test at 104 A for 10 s'],
    });
  });
});

describe('a discharge current claimed without a time', () => {
  it('is met by a run down to the cut-off that stays below 60 °C', () => {
    const down = run({ seconds: 3500, fallVPerS: 0.0002, warmKPerS: 0.005 });
    expect(judge(down)).toMatchObject({ state: 'met' });
    expect(judge(run({ seconds: 3500, fallVPerS: 0.0002, warmKPerS: 0.0101 }))).toMatchObject({
      state: 'notMet',
    });
    expect(judge(run({ seconds: 3000, fallVPerS: 0.0002 }))).toMatchObject({
      state: 'waitingFor',
      what: ['a run at this current down to the cut-off'],
    });
    // A blow at a nearly empty cell is no run down.
    expect(judge(run({ seconds: 80 })).state).toBe('waitingFor');
  });
});
