import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { studentFactor } from '../src/statistics';
import { impossibleRest, restDoubt, type RestReading, selfDischargeSlope } from '../src/resting';
import { normals } from '../testing/normals';

describe('what is odd about a voltage of a cell that stands', () => {
  const ask = (valueV: number, lastV: number | null = null) =>
    restDoubt(valueV, [2.5, 3.65], lastV);

  it('is a voltage its model cannot have', () => {
    expect(ask(2.499)).toMatch(/below the cut-off of 2\.5 V.*triage/);
    expect(ask(3.651)).toMatch(/above the charge voltage of 3\.65 V/);
    for (const fine of [2.5, 3.2, 3.65]) expect(ask(fine)).toBeNull();
  });

  it('is one that rose beyond the meter, or fell by more than a fifth of a volt', () => {
    expect(ask(3.306, 3.3)).toMatch(/rose by 6 mV; nothing charges by standing/);
    expect(ask(3.304, 3.3)).toBeNull();
    expect(ask(3.3, 3.3)).toBeNull();
    expect(ask(3.101, 3.3)).toBeNull();
    expect(ask(3.05, 3.3)).toMatch(/fell by 250 mV since/);
  });

  it('is asked of one thing at a time, the worst first', () => {
    expect(ask(2.4, 3.3)).toMatch(/cut-off/);
    expect(ask(3.7, 3.3)).toMatch(/charge voltage/);
  });
});

describe('the slope of a rest', () => {
  const reading = (days: number, voltageV: number, limitV = 0.0001): RestReading => ({
    days,
    voltageV,
    temperatureC: 21,
    limitV,
  });

  /** The same line from differences of pairs, without a mean; V a day, and its scatter’s u. */
  function byPairs(readings: readonly RestReading[]): { slope: number; u: number } {
    let [xy, xx, yy] = [0, 0, 0];
    for (const a of readings)
      for (const b of readings) {
        xy += (a.days - b.days) * (a.voltageV - b.voltageV);
        xx += (a.days - b.days) ** 2;
        yy += (a.voltageV - b.voltageV) ** 2;
      }
    const n = readings.length;
    const [slope, sxx] = [xy / xx, xx / (2 * n)];
    const squares = (yy - xy ** 2 / xx) / (2 * n);
    return { slope, u: Math.sqrt(Math.max(0, squares) / (n - 2) / sxx) };
  }

  it('and its uncertainty are those of the differences between all pairs', () => {
    const normal = normals(7);
    const rows = fc.array(fc.integer({ min: 2, max: 40 }), { minLength: 5, maxLength: 12 });
    fc.assert(
      fc.property(rows, (days) => {
        if (new Set(days).size < 3) return;
        // 2 mV of scatter stands far above a meter of 0.1 mV.
        const readings = days.map((day) => reading(day, 3.33 - 0.001 * day + 0.002 * normal()));
        const { slope, u } = byPairs(readings);
        const found = selfDischargeSlope(readings)!;
        expect(found.value).toBeCloseTo(1000 * slope, 9);
        const byMeter = 0.1 / Math.sqrt(3);
        const scatter = found.budget.find(({ kind }) => kind === 'restScatter');
        // Fewer than ten degrees of freedom widen it by Student’s factor.
        const factor = studentFactor(days.length - 2);
        if (scatter)
          expect(scatter.standardUncertainty / (1000 * u)).toBeCloseTo(
            days.length - 2 < 10 ? factor : 1,
            6,
          );
        expect(found.standardUncertainty!).toBeGreaterThan(0);
        expect(found.standardUncertainty!).toBeLessThan(1000 * u * factor + byMeter);
      }),
      { seed: 14, numRuns: 100 },
    );
  });

  it('is never known better than the meter allows, however well the readings lie', () => {
    const days = [2, 5, 8, 11, 14];
    const line = days.map((day) => reading(day, 3.33 - 0.001 * day, 0.0005));
    const sxx = days.reduce((sum, day) => sum + (day - 8) ** 2, 0);
    const { value, standardUncertainty, budget } = selfDischargeSlope(line)!;
    expect(value).toBeCloseTo(-1, 9);
    expect(budget.map(({ kind }) => kind)).toEqual(['restReading']);
    expect(standardUncertainty).toBeCloseTo((0.5 / Math.sqrt(3) / Math.sqrt(sxx)) as number, 9);
  });
});

describe('a voltage no such cell shows', () => {
  it('is refused with what was expected, never asked about', () => {
    const [lfp, nmc] = [
      [2.5, 3.65],
      [2.8, 4.2],
    ] as const;
    for (const [valueV, volts] of [
      [41.57, nmc],
      [-4.1, nmc],
      [4.1, lfp],
      [-0.001, lfp],
    ] as const)
      expect(impossibleRest(valueV, volts)).toMatch(/^Expected 0 to 3\.85|^Expected 0 to 4\.4/);
    for (const [valueV, volts] of [
      [4.157, nmc],
      [0, nmc],
      [3.8, lfp],
      [2.1, lfp],
    ] as const)
      expect(impossibleRest(valueV, volts)).toBeNull();
  });
});
