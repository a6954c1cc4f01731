import { describe, expect, it } from 'vitest';
import { evenness, thinnedString, watchString, type WatchedString } from '../src/evidence';
import { seededRandom } from '../src/statistics';

/** A string near full: every cell about one voltage, with so much of its own, V. */
function stringOf(rows: number, own: readonly ((i: number) => number)[], seed = 1): WatchedString {
  const random = seededRandom(seed);
  const timeS = Float64Array.from({ length: rows }, (_, i) => 10 * i);
  return {
    timeS,
    cellsV: own.map((more) =>
      Float64Array.from(timeS, (_, i) => 3.45 + more(i) + 0.0001 * random.normal()),
    ),
  };
}

const turns = (c: number, n: number) => (i: number) =>
  0.004 * Math.sin((2 * Math.PI * i) / 400 + (2 * Math.PI * c) / n);

describe('a string that is watched', () => {
  it('cells that match take turns: even shares, nobody stands out', () => {
    const watch = watchString(
      stringOf(
        4000,
        Array.from({ length: 8 }, (_, c) => turns(c, 8)),
      ),
      { chemistry: 'LFP' },
    );
    expect(watch.nearFull!.evenHighest).toBeGreaterThan(0.95);
    expect(watch.nearFull!.standOut).toEqual([]);
    const sum = (shares: number[]) => shares.reduce((a, b) => a + b, 0);
    expect(sum(watch.leaders.highest)).toBeCloseTo(1, 9);
    expect(sum(watch.leaders.lowest)).toBeCloseTo(1, 9);
    expect(watch.balancingShare).toBe(0);
  });

  it('one that runs ahead near full leads, and is named with its share', () => {
    const own = Array.from({ length: 8 }, (_, c) => turns(c, 8));
    own[5] = (i) => 0.03 + turns(5, 8)(i);
    const watch = watchString(stringOf(4000, own), { chemistry: 'LFP' });
    expect(watch.nearFull!.standOut[0]).toMatchObject({ cell: 5 });
    expect(watch.nearFull!.standOut[0]!.why).toMatch(/highest for 100 %/);
    expect(watch.nearFull!.evenHighest).toBeLessThan(0.1);
    expect(watch.balancingShare).toBeCloseTo(1, 3);
  });

  it('below the threshold of its class nothing is said of near full', () => {
    const low = stringOf(100, [(i) => -0.3 + 0 * i, (i) => -0.301 + 0 * i]);
    expect(watchString(low, { chemistry: 'LFP' }).nearFull).toBeNull();
    expect(watchString(low, { chemistry: 'LTO' }).nearFull).not.toBeNull();
  });

  it('spread against time and mean voltage, by hand', () => {
    const timeS = Float64Array.from({ length: 200 }, (_, i) => i);
    const first = Float64Array.from(timeS, (t) => (t < 100 ? 3.3 : 3.5));
    const string = { timeS, cellsV: [first, first.map((v, i) => v - (i < 100 ? 0.004 : 0.02))] };
    const watch = watchString(string, { chemistry: 'LFP' });
    expect(watch.spread.highestMv).toBeCloseTo(20, 1);
    expect(watch.balancingShare).toBeGreaterThan(0.48);
    expect(watch.balancingShare).toBeLessThan(0.53);
    const at = (v: number) => watch.byMean.find(({ meanV }) => Math.abs(meanV - v) < 0.0125)!;
    expect(at(3.298).medianMv).toBeCloseTo(4, 0);
    expect(at(3.49).medianMv).toBeCloseTo(20, 0);
    const second = watchString(string, { chemistry: 'LFP', fromS: 120, toS: 190 });
    expect(second.spread.medianMv).toBeCloseTo(20, 0);
    expect(second.seconds).toBeCloseTo(71, 0);
    expect(watchString(string, { chemistry: 'LFP', balanceV: 0.05 }).balancingShare).toBe(0);
  });

  it('nobody leads in a hole, and equal cells share', () => {
    const timeS = Float64Array.of(...Array.from({ length: 50 }, (_, i) => i), 100_000, 100_001);
    const same = timeS.map(() => 3.45);
    const watch = watchString({ timeS, cellsV: [same, same] }, { chemistry: 'LFP' });
    expect(watch.seconds).toBe(50);
    expect(watch.leaders.highest).toEqual([0.5, 0.5]);
  });

  it('entropy over that of equal shares', () => {
    expect(evenness([0.25, 0.25, 0.25, 0.25])).toBeCloseTo(1, 12);
    expect(evenness([1, 0, 0, 0])).toBe(0);
    expect(evenness([0.5, 0.5, 0, 0])).toBeCloseTo(0.5, 12);
  });

  it('refuses what is no string', () => {
    const one = { timeS: Float64Array.of(0, 1), cellsV: [Float64Array.of(3, 3)] };
    expect(() => watchString(one, { chemistry: 'LFP' })).toThrow(/two cells/);
    const uneven = { ...one, cellsV: [Float64Array.of(3, 3), Float64Array.of(3)] };
    expect(() => watchString(uneven, { chemistry: 'LFP' })).toThrow(/as long as time/);
  });

  it('a picture keeps every extreme', () => {
    const string = stringOf(5000, [turns(0, 2), turns(1, 2)]);
    string.cellsV[1]![3333] = 3.9;
    const { lowV, highV } = thinnedString(string, { fromS: 0, toS: 49_990, points: 300 });
    const most = (values: Float32Array) => values.reduce((a, v) => (v > a ? v : a), -Infinity);
    const least = (values: Float32Array) => values.reduce((a, v) => (v < a ? v : a), Infinity);
    expect(most(highV[1]!)).toBeCloseTo(3.9, 5);
    expect(least(lowV[0]!)).toBeCloseTo(Math.min(...string.cellsV[0]!), 5);
    for (let i = 0; i < 300; i++) expect(lowV[0]![i]!).toBeLessThanOrEqual(highV[0]![i]!);
  });
});
