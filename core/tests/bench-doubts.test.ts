import { describe, expect, it } from 'vitest';
import { enoughIsKnown, loadTestStep, rateStood, warmingKPerMin } from '../src/bench';
import type { WholeCurve } from '../src/units';

describe('warming while a current flows', () => {
  /** Thirty readings, one every ten seconds, of a cell that warms by 1 K/min. */
  const warm = (currentOf: (i: number) => number) =>
    Array.from({ length: 30 }, (_, i) => ({
      timeS: 10 * i,
      voltageV: 3.4,
      currentA: currentOf(i),
      temperatureC: 24 + i / 6,
    }));
  it('is told while the current stays within 5 % of what it is now', () => {
    expect(
      warmingKPerMin(
        warm(() => 50),
        10,
      ),
    ).toBeCloseTo(1, 9);
    expect(
      warmingKPerMin(
        warm((i) => (i === 20 ? 52.4 : 50)),
        10,
      ),
    ).toBeCloseTo(1, 9);
    expect(
      warmingKPerMin(
        warm((i) => (i === 20 ? 52.6 : 50)),
        10,
      ),
    ).toBeNull();
    expect(
      warmingKPerMin(
        warm((i) => (i === 20 ? -47.4 : -50)),
        10,
      ),
    ).toBeNull();
  });
  it('a milliampere is no change, however small the current', () => {
    expect(
      warmingKPerMin(
        warm((i) => (i === 20 ? 0.0009 : 0)),
        10,
      ),
    ).toBeCloseTo(1, 9);
    expect(
      warmingKPerMin(
        warm((i) => (i === 20 ? 0.0012 : 0)),
        10,
      ),
    ).toBeNull();
  });
  it('readings without a temperature, or none at all, tell nothing', () => {
    expect(warmingKPerMin([], 10)).toBeNull();
    const cold = warm(() => 50).map((one) => ({ ...one, temperatureC: null }));
    expect(warmingKPerMin(cold, 10)).toBeNull();
  });
});

describe('a load test, worked by hand', () => {
  const step = { stateOfChargePct: 50, lowA: 10, highA: 60, jointC: [] };
  it('each resistance carries the digits of both voltages and the gain of the current', () => {
    const [cell] = loadTestStep({ ...step, lowV: [3.3], highV: [3.25] }).cells;
    // 50 mV over 50 A are 1 mΩ; digits 1 mV/√12·√2 over 50 A, gain 1 %/√3.
    expect(cell!.mohm).toBeCloseTo(1, 9);
    expect(cell!.mohmU).toBeCloseTo(
      Math.hypot(Math.SQRT2 / Math.sqrt(12) / 50, 0.01 / Math.sqrt(3)),
      9,
    );
    expect(cell!.watts).toBeCloseTo(195, 9);
    const finer = { ...step, lowV: [3.3], highV: [3.25], lastDigitV: 0.0001, currentPct: 0.2 };
    expect(loadTestStep(finer).cells[0]!.mohmU).toBeCloseTo(
      Math.hypot((0.1 * Math.SQRT2) / Math.sqrt(12) / 50, 0.002 / Math.sqrt(3)),
      9,
    );
  });
  it('cells alike to the last digit: one stands out by a quarter of the median, of four at least', () => {
    const at = (highV: number[]) =>
      loadTestStep({ ...step, lowV: highV.map(() => 3.3), highV }).cells.map(
        (cell) => cell.standsOut,
      );
    // The others 50 mV, 1 mΩ; the last 62 and 63 mV.
    expect(at([3.25, 3.25, 3.25, 3.238])).toEqual([false, false, false, false]);
    expect(at([3.25, 3.25, 3.25, 3.237])).toEqual([false, false, false, true]);
    expect(at([3.25, 3.25, 3.237])).toEqual([false, false, false]);
  });
  it('the digit that tells cells apart is that over the difference of the loads', () => {
    // Median deviation 1 mV over the loads: the digit itself over 50 A, so just not alike.
    const lowV = [0, 1, 2, 3, 4, 5, 6].map(() => 3.3);
    const highV = [-0.002, -0.001, -0.001, 0, 0.001, 0.001, 0.002].map((by) => 3.25 + by);
    const z = (lastDigitV: number) =>
      loadTestStep({ ...step, lowV, highV, lastDigitV }).cells.map((cell) => cell.z !== null);
    expect(new Set(z(0.00099))).toEqual(new Set([true]));
    expect(new Set(z(0.00101))).toEqual(new Set([false]));
  });
  it('a joint is judged against its warmer neighbour, by more than 5 K', () => {
    const hot = (jointC: number[]) =>
      loadTestStep({ ...step, lowV: [3.3], highV: [3.25], jointC }).hotJoints.map(
        ({ joint }) => joint,
      );
    expect(hot([20, 25, 20])).toEqual([]);
    expect(hot([20, 25.1, 20])).toEqual([2]);
    expect(hot([20, 25.1, 20.2])).toEqual([]);
    expect(hot([26, 20, NaN])).toEqual([1]);
    expect(hot([26])).toEqual([]);
    expect(hot([NaN, 30, NaN])).toEqual([]);
  });
  it.each([
    [{ lowA: 60 }, /second load above the first/],
    [{ lowA: -1 }, /second load above the first/],
    [{ lowA: NaN }, /second load above the first/],
    [{ highV: [3.25] }, /as many voltages at both loads; found 2 and 1/],
    [{ lowV: [], highV: [] }, /found 0 and 0/],
    [{ lowV: [3.3, NaN] }, /both voltages of cell 2/],
  ])('%j is refused', (more, words) =>
    expect(() => loadTestStep({ ...step, lowV: [3.3, 3.3], highV: [3.25, 3.25], ...more })).toThrow(
      words,
    ),
  );
  it('the load that was stood is the highest without a hot joint', () => {
    const at = (highA: number, hot: number) => ({
      highA,
      result: {
        hotJoints: Array.from({ length: hot }, () => ({ joint: 1, celsius: 40, aboveK: 9 })),
      },
    });
    expect(rateStood([at(52, 0), at(104, 0), at(156, 1)], 104)).toEqual({ amps: 104, it: 1 });
    expect(rateStood([at(52, 1)], 104)).toBeNull();
    expect(rateStood([], 104)).toBeNull();
  });
});

describe('whether enough is known, on curves one can see through', () => {
  /** From 3.4 V at nothing given to 2.4 V at `ah`, a straight line. */
  const straight = (ah: number, standardUncertaintyAh: number | null = 0): WholeCurve => ({
    chargeAh: Array.from({ length: 101 }, (_, i) => (ah * i) / 100),
    voltageV: Array.from({ length: 101 }, (_, i) => 3.4 - i / 100),
    standardUncertaintyAh,
  });
  const now = (more: object = {}) => ({
    charge: { value: 50, standardUncertainty: 0, bound: 'exact' as const },
    voltageV: 2.9,
    voltageUncertaintyV: 0,
    currentA: 10,
    claimedAh: 104,
    guardFactor: 1,
    ...more,
  });
  it('the best of the curves counts, not the worst', () => {
    // From 2.9 V on the curves of 100 and 120 Ah give about 50 and 60 Ah more.
    expect(enoughIsKnown(now(), [straight(100), straight(120)]).kind).toBe('open');
    const hopeless = enoughIsKnown(now({ claimedAh: 130 }), [straight(100), straight(120)]);
    expect(hopeless.kind).toBe('cannotBeMet');
    if (hopeless.kind !== 'cannotBeMet') return;
    // 5 mV in which cells differ, twice, are 1.2 Ah of the larger one.
    expect(hopeless.mostAh).toBeCloseTo(50 + 60 + 1.2, 1);
    expect(hopeless.text).toContain('the best of 2 curves');
  });
  it('no curve, one that never stood so high, or one nobody is sure of leaves it open', () => {
    expect(enoughIsKnown(now({ claimedAh: 130 }), []).kind).toBe('open');
    expect(enoughIsKnown(now({ claimedAh: 130, voltageV: 3.6 }), [straight(100)]).kind).toBe(
      'open',
    );
    expect(enoughIsKnown(now({ claimedAh: 130 }), [straight(100, null)]).kind).toBe('open');
  });
  it('a charge nobody is sure of, at most, or against no claim leaves it open', () => {
    const charge = { value: 200, standardUncertainty: 0, bound: 'exact' as const };
    expect(enoughIsKnown(now({ charge }), [straight(100)]).kind).toBe('metAlready');
    for (const more of [
      { charge: { ...charge, standardUncertainty: null } },
      { charge: { ...charge, bound: 'atMost' } },
      { charge, claimedAh: 0 },
    ])
      expect(enoughIsKnown(now(more), [straight(100)]).kind).toBe('open');
  });
  it('what is saved is the middle curve’s, and its time at this current', () => {
    const charge = { value: 105, standardUncertainty: 0, bound: 'exact' as const };
    const met = enoughIsKnown(now({ charge }), [straight(80), straight(100), straight(120)]);
    expect(met).toMatchObject({
      kind: 'metAlready',
      savesAh: expect.closeTo(50, 6),
      savesH: expect.closeTo(5, 6),
    });
    expect(enoughIsKnown(now({ charge, currentA: 0 }), [straight(100)])).toMatchObject({
      savesH: null,
    });
    expect(enoughIsKnown(now({ charge }), [])).toMatchObject({ savesAh: null, savesH: null });
  });
});
