import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  mostChargeAh,
  ownLimits,
  type ProgramStep,
  readingCame,
  type RunLimits,
  startRun,
} from '../src/bench';

const limits: RunLimits = { highV: 3.65, lowV: 2, ambientC: 22, intervalS: 10, mostAh: 9 };
const charge: ProgramStep = {
  kind: 'charge',
  amps: 3,
  limitV: 3.65,
  taperA: 0.3,
  maxS: 18_000,
  endsByTime: false,
  limitAh: null,
};

/** Feeds a charge of one voltage and current until it ends or the hours are over. */
function feed(plan: { program: ProgramStep[]; limits: RunLimits }, hours: number) {
  let at = startRun(plan);
  const events = [...at.events];
  for (let t = 10; t <= hours * 3600 && at.state.phase !== 'ended'; t += 10) {
    at = readingCame(plan, at.state, {
      timeS: t,
      voltageV: 3.4,
      currentA: 3,
      temperatureC: 22.5,
    });
    events.push(...at.events);
  }
  return { state: at.state, events };
}

describe('limits instruments hold by themselves', () => {
  it('lie a little behind the agent’s, by hand', () => {
    const own = ownLimits(charge, limits);
    expect([own.aboveV, own.seconds]).toEqual([3.75, 18_960]);
    expect(own.ah).toBeCloseTo(9.45, 9);
    expect(ownLimits({ ...charge, limitAh: 2 }, limits).ah).toBeCloseTo(2.1, 9);
    expect(ownLimits(charge, { ...limits, mostAh: null }).ah).toBeNull();
    expect(
      ownLimits({ kind: 'pulse', firstA: 1, firstS: 10, secondA: 5, secondS: 1 }, limits).seconds,
    ).toBeCloseTo(71.55, 9);
  });

  it('never end a step before the agent does', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1, max: 1e6, noNaN: true }),
        fc.option(fc.double({ min: 0.01, max: 1000, noNaN: true })),
        fc.double({ min: 0.1, max: 500, noNaN: true }),
        fc.double({ min: 0.1, max: 4000, noNaN: true }),
        (maxS, limitAh, mostAh, intervalS) => {
          const own = ownLimits({ ...charge, maxS, limitAh }, { ...limits, mostAh, intervalS });
          expect(own.seconds).toBeGreaterThan(maxS + 2.9 * intervalS);
          expect(own.ah!).toBeGreaterThan(Math.min(limitAh ?? Infinity, mostAh));
          expect(own.aboveV).toBeGreaterThan(limits.highV);
        },
      ),
    );
  });
});

describe('more charge than a cell can hold', () => {
  it('is 1.5 times the larger of what is claimed and what the model says', () => {
    expect(mostChargeAh(6, 5)).toBe(9);
    expect(mostChargeAh(6, 0)).toBe(9);
  });

  it('stops a charge that never comes to its end', () => {
    const { state, events } = feed({ program: [charge], limits }, 6);
    expect(state.phase).toBe('ended');
    expect(events).toContainEqual(
      expect.objectContaining({ event: 'alarm', code: 'tooMuchCharge', action: 'stop' }),
    );
    // 9 Ah at 3 A: in the first reading behind 3 h.
    expect(state.last!.timeS).toBeGreaterThan(10_800);
    expect(state.last!.timeS).toBeLessThan(10_840);
  });

  it('is not known of runs begun before it was said', () => {
    const { mostAh: _, ...older } = limits;
    expect(feed({ program: [charge], limits: older }, 4).state.phase).toBe('running');
  });
});
