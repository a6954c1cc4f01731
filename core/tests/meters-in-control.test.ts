import { describe, expect, test } from 'vitest';
import {
  atCommonTimes,
  calibrationState,
  channelHold,
  compareMeters,
  controlChart,
  correctReading,
} from '@dusk-tally/core/evidence';
import { normals } from '../testing/normals';

describe('meters side by side', () => {
  test('E_n is the difference over the root of both squares', () => {
    const [worst, , best] = compareMeters([
      { meter: 'A', value: 104.0, expanded: 0.3 },
      { meter: 'B', value: 104.2, expanded: 0.4 },
      { meter: 'C', value: 105.2, expanded: 0.5 },
    ]);
    expect(worst).toMatchObject({ a: 'A', b: 'C', agrees: false });
    expect(worst!.en).toBeCloseTo(1.2 / Math.hypot(0.3, 0.5), 12);
    expect(best).toMatchObject({ a: 'A', b: 'B', agrees: true });
    expect(best!.en).toBeCloseTo(0.2 / 0.5, 12);
  });

  test('a meter that reports once a minute is compared at its own times', () => {
    const quick = Float64Array.from({ length: 601 }, (_, i) => i);
    const slow = Float64Array.from({ length: 11 }, (_, i) => 60 * i + 0.5);
    const line = (t: number) => 3.3 - 0.0001 * t;
    const common = atCommonTimes(
      { timeS: quick, values: quick.map(line) },
      { timeS: slow, values: slow.map((t) => line(t) + 0.002) },
    );
    expect(common.timeS).toEqual([...slow].slice(0, 10));
    common.a.forEach((a, i) => expect(common.b[i]! - a).toBeCloseTo(0.002, 9));
  });

  test('a stamp inside a hole of the quicker one is left out', () => {
    const quick = {
      timeS: Float64Array.of(0, 1, 2, 100, 101),
      values: Float64Array.of(1, 1, 1, 2, 2),
    };
    const slow = { timeS: Float64Array.of(1, 50, 101), values: Float64Array.of(1, 1, 2) };
    expect(atCommonTimes(slow, quick).timeS).toEqual([1, 101]);
  });
});

describe('control chart', () => {
  test('limits are the mean and 2.66 mean moving ranges, wider for so few points', () => {
    const values = [10, 10.2, 9.9, 10.1, 10, 9.8, 10.1, 9.9];
    const chart = controlChart(values)!;
    const ranges = [0.2, 0.3, 0.2, 0.1, 0.2, 0.3, 0.2];
    const mr = ranges.reduce((a, b) => a + b, 0) / 7;
    expect(chart.centre).toBeCloseTo(10, 12);
    expect(chart.meanRange).toBeCloseTo(mr, 12);
    expect((chart.upper - 10) / (2.66 * mr)).toBeCloseTo(1.598, 3);
    const many = controlChart(Array.from({ length: 400 }, (_, i) => 10 + (i % 2)))!;
    expect((many.upper - many.centre) / 2.66).toBeCloseTo(1, 1);
    expect(chart.signals).toEqual([]);
    expect(channelHold(chart)).toBeNull();
  });

  const calm = [10, 10.1, 9.9, 10.1, 9.9, 10, 10.1, 9.9];
  test.each([
    ['beyondLimits', [...calm, 11]],
    ['eightOneSide', [...calm, ...Array.from({ length: 8 }, (_, i) => 10.15 + 0.02 * (i % 2))]],
  ] as const)('notices %s', (rule, values) => {
    const chart = controlChart(values, { baseline: calm.length })!;
    expect(chart.signals.map((signal) => signal.rule)).toContain(rule);
    // Limits are kept: what came after its base moves them no more.
    const { centre, upper } = controlChart(calm)!;
    expect([chart.centre, chart.upper]).toEqual([centre, upper]);
  });

  test('a drifting channel is held back to its last good point until someone looked', () => {
    const values = [...calm, 10, 10.1, 10.7, 10.8];
    const chart = controlChart(values, { baseline: calm.length })!;
    const hold = channelHold(chart)!;
    expect(hold.firstBad.index).toBe(10);
    expect(hold.lastGood).toBe(9);
    expect(channelHold(chart, values.length - 1)).toBeNull();
  });

  test.each([20, 80])('calls at most 1 in 100 of %i points of a channel in control', (points) => {
    const draw = normals(11);
    let [signals, all] = [0, 0];
    for (let channel = 0; channel < 600; channel++) {
      const values = Array.from({ length: 8 + points }, () => 5 + 0.1 * draw());
      const chart = controlChart(values, { baseline: 8 })!;
      signals += new Set(chart.signals.map(({ index }) => index)).size;
      all += points;
    }
    expect(signals / all).toBeLessThan(0.01);
    expect(signals / all).toBeGreaterThan(0.0005);
  });

  test('a shift of three of its deviations is called within eight points by most', () => {
    const draw = normals(12);
    let called = 0;
    for (let channel = 0; channel < 300; channel++) {
      const values = Array.from({ length: 16 }, (_, i) => 5 + 0.1 * draw() + (i < 8 ? 0 : 0.3));
      if (controlChart(values, { baseline: 8 })!.signals.length > 0) called++;
    }
    expect(called / 300).toBeGreaterThan(0.75);
  });

  test('a lucky baseline gets no narrower limits than repeats are known to need', () => {
    const values = [10, 10.01, 10, 10.01, 10, 10.01, 10, 10.01, 10.2];
    expect(controlChart(values, { baseline: 8 })!.signals.length).toBeGreaterThan(0);
    const wide = controlChart(values, { baseline: 8, leastMeanRange: 0.1 })!;
    expect((wide.upper - wide.centre) / 0.266).toBeCloseTo(1.598, 3);
    expect(wide.signals).toEqual([]);
  });

  test('few points have no limits', () => {
    expect(controlChart([1, 2, 3, 4, 5, 6, 7])).toBeNull();
  });
});

describe('calibration', () => {
  const table = [
    { shown: 2, reference: 2.002 },
    { shown: 3, reference: 3.001 },
    { shown: 4, reference: 3.998 },
  ];
  test('errors are interpolated between points and held beyond them', () => {
    expect(correctReading(table, 2)).toBeCloseTo(2.002, 12);
    expect(correctReading(table, 2.5)).toBeCloseTo(2.5015, 12);
    expect(correctReading(table, 3.5)).toBeCloseTo(3.4995, 12);
    expect(correctReading(table, 1)).toBeCloseTo(1.002, 12);
    expect(correctReading(table, 5)).toBeCloseTo(4.998, 12);
    expect(() => correctReading([], 3)).toThrow('at least one point');
    expect(() => correctReading([table[0]!, table[0]!], 3)).toThrow('found two');
  });
  test('a due date is valid, near, past or not there', () => {
    expect(calibrationState('2026-12-31', '2026-11-25')).toBe('valid');
    expect(calibrationState('2026-12-20', '2026-11-25')).toBe('dueSoon');
    expect(calibrationState('2026-11-25', '2026-11-25')).toBe('dueSoon');
    expect(calibrationState('2026-11-24', '2026-11-25')).toBe('overdue');
    expect(calibrationState(null, '2026-11-25')).toBe('none');
  });
});
