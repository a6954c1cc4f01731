import { describe, expect, it } from 'vitest';
import {
  BALANCE_MV,
  blocksBetween,
  comparePeriods,
  decodeThinned,
  encodeThinned,
  evenness,
  memorySource,
  readString,
  shareAbove,
  stringFromBlocks,
  thinnedString,
  watchString,
} from '../src/evidence';
import { stringOf, turns } from '../testing/watched-string';

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
    expect(shareAbove(watch.spreadSeconds, BALANCE_MV)).toBe(0);
  });

  it('one that runs ahead near full leads, and is named with its share', () => {
    const own = Array.from({ length: 8 }, (_, c) => turns(c, 8));
    own[5] = (i) => 0.03 + turns(5, 8)(i);
    const watch = watchString(stringOf(4000, own), { chemistry: 'LFP' });
    expect(watch.nearFull!.standOut[0]).toMatchObject({ cell: 5 });
    expect(watch.nearFull!.standOut[0]!.why).toMatch(/highest for 100 %/);
    expect(watch.nearFull!.evenHighest).toBeLessThan(0.1);
    expect(shareAbove(watch.spreadSeconds, BALANCE_MV)).toBeCloseTo(1, 3);
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
    expect(shareAbove(watch.spreadSeconds, 10)).toBeGreaterThan(0.48);
    expect(shareAbove(watch.spreadSeconds, 10)).toBeLessThan(0.53);
    expect(shareAbove(watch.spreadSeconds, 50)).toBe(0);
    expect(shareAbove([10, 10, 20], 1)).toBe(0.5);
    const at = (v: number) => watch.byMean.find(({ meanV }) => Math.abs(meanV - v) < 0.0125)!;
    expect(at(3.298).medianMv).toBeCloseTo(4, 0);
    expect(at(3.49).medianMv).toBeCloseTo(20, 0);
    const second = watchString(string, { chemistry: 'LFP', fromS: 120, toS: 190 });
    expect(second.spread.medianMv).toBeCloseTo(20, 0);
    expect(second.seconds).toBeCloseTo(71, 0);
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

  it('the spread of a picture is that of rows, not of what moved within a stretch', () => {
    // All cells rise by 200 mV together; none is ever more than 3 mV from another.
    const timeS = Float64Array.from({ length: 1000 }, (_, i) => i);
    const rising = timeS.map((t) => 3.3 + 0.0002 * t);
    const string = { timeS, cellsV: [rising, rising.map((v) => v + 0.003)], currentA: timeS };
    const { highSpreadV, lowSpreadV, currentA } = thinnedString(string, {
      fromS: 0,
      toS: 999,
      points: 10,
    });
    for (const spread of [...highSpreadV, ...lowSpreadV]) expect(spread).toBeCloseTo(0.003, 6);
    expect(currentA![0]).toBeCloseTo(49.5, 0);
  });

  it('a picture comes back whole from its bytes', () => {
    const string = stringOf(500, [turns(0, 3), turns(1, 3), turns(2, 3)]);
    const thinned = thinnedString(string, { fromS: 100, toS: 4000, points: 64 });
    expect(decodeThinned(encodeThinned(thinned))).toEqual(thinned);
    expect(() => decodeThinned(encodeThinned(thinned).subarray(0, 200))).toThrow(/whole/);
    expect(() => decodeThinned(new Uint8Array(40))).toThrow(/version 1/);
  });

  it('stretches near full are found, with their peaks, and small dips do not part them', () => {
    const timeS = Float64Array.from({ length: 3000 }, (_, i) => 10 * i);
    // Two charges; in the first the mean falls below near full for five minutes.
    const mean = (t: number) =>
      (t > 2000 && t < 6000 && !(t > 4000 && t < 4300)) || (t > 20_000 && t < 24_000)
        ? 3.42 + (t === 5000 || t === 21_000 ? 0.1 : 0)
        : 3.3;
    const first = timeS.map(mean);
    const { fulls } = watchString(
      { timeS, cellsV: [first, first.map((v) => v + 0.001)] },
      { chemistry: 'LFP' },
    );
    expect(fulls).toHaveLength(2);
    expect(Math.abs(fulls[0]!.peakS - 5000)).toBeLessThanOrEqual(40);
    expect(Math.abs(fulls[1]!.peakS - 21_000)).toBeLessThanOrEqual(40);
    expect(fulls[0]!.toS).toBeGreaterThan(5900);
  });

  it('parts add up to the whole: seconds, spreads and leads', () => {
    const string = stringOf(3000, [turns(0, 4), turns(1, 4), turns(2, 4), turns(3, 4)], 9);
    const whole = watchString(string, { chemistry: 'LFP' });
    const parts = [
      watchString(string, { chemistry: 'LFP', toS: 11_000 }),
      watchString(string, { chemistry: 'LFP', fromS: 11_010 }),
    ];
    // A row speaks until the next; so does the last of a part, where there is one.
    expect(parts[0]!.seconds + parts[1]!.seconds).toBeCloseTo(whole.seconds, 9);
    for (let c = 0; c < 4; c++) {
      const led = (watch: typeof whole) => watch.leaders.highest[c]! * watch.seconds;
      expect(led(parts[0]!) + led(parts[1]!)).toBeCloseTo(led(whole), 6);
    }
    const at = (i: number) =>
      parts.reduce((sum, { spreadSeconds }) => sum + (spreadSeconds[i] ?? 0), 0);
    whole.spreadSeconds.forEach((seconds, i) => expect(at(i)).toBeCloseTo(seconds, 6));
  });
});

describe('two periods of a string', () => {
  const even = () => Array.from({ length: 6 }, (_, c) => turns(c, 6));
  const ahead = () => {
    const own = even();
    own[2] = (i) => 0.03 + turns(2, 6)(i);
    return own;
  };
  const watched = (own: readonly ((i: number) => number)[], seed: number) =>
    watchString(stringOf(2000, own, seed), { chemistry: 'LFP' });

  it('name who no longer stands out, and what the spread became at the same mean', () => {
    const { leads, atMeans, refused } = comparePeriods(watched(ahead(), 1), watched(even(), 2));
    expect(refused).toBeNull();
    expect(leads).toEqual([
      expect.objectContaining({ cell: 2, side: 'highest', change: 'no longer stands out' }),
    ]);
    expect(leads[0]!.before).toBeGreaterThan(0.99);
    expect(leads[0]!.after).toBeLessThan(0.3);
    expect(atMeans[0]!.beforeMv).toBeGreaterThan(atMeans[0]!.afterMv);
    const back = comparePeriods(watched(even(), 2), watched(ahead(), 1)).leads[0]!;
    expect(back.change).toBe('stands out now');
    expect(comparePeriods(watched(ahead(), 1), watched(ahead(), 3)).leads[0]!.change).toBe(
      'still stands out',
    );
  });

  it('say why leaders cannot be compared where one was never near full', () => {
    const low = watched(
      even().map((own) => (i: number) => own(i) - 0.2),
      4,
    );
    const { leads, refused, atMeans } = comparePeriods(watched(even(), 1), low);
    expect(leads).toEqual([]);
    expect(refused).toMatch(/second period.*3\.40 V.*5 minutes/);
    expect(atMeans).toEqual([]);
  });

  it('are of the same cells', () => {
    expect(() => comparePeriods(watched(even(), 1), watched(even().slice(1), 1))).toThrow(/same/);
  });
});

describe('the wide log of a monitor', () => {
  const rows = 900;
  const text = (head: string, mark = '.') =>
    [
      head,
      ...Array.from({ length: rows }, (_, i) =>
        [i * 2, '8.00', (3.3 + i / 9000).toFixed(3), (3.301 + i / 9000).toFixed(3)]
          .join(';')
          .replaceAll('.', mark),
      ),
    ].join('\n');
  const read = (log: string) => readString(memorySource(new TextEncoder().encode(log)));

  it('is read by its columns, and comes back from its blocks to the digit', () => {
    const log = read(text('time_s;pack_A;cell1_V;cell2_V', ','));
    expect(log).toMatchObject({ rows, cellHeaders: ['cell1_V', 'cell2_V'], decimalsV: 3 });
    const string = stringFromBlocks(log.blocks);
    expect(string.timeS[rows - 1]).toBe(2 * (rows - 1));
    expect(string.cellsV[1]![100]).toBeCloseTo(3.312, 6);
    expect(Math.abs(string.currentA![0]!)).toBeCloseTo(8, 5);
    expect(new Set(log.blocks.map(({ column }) => column))).toEqual(
      new Set(['timeS', 'currentA', 'cell1V', 'cell2V']),
    );
  });

  it('with one voltage is none of a string, and is told so', () => {
    expect(() => read(text('time_s;current_A;voltage_V;note'))).toThrow(
      /no column holds the voltage of a cell\. Expected one for each cell.*found time_s/,
    );
  });

  it('is opened by the blocks a stretch of time needs', () => {
    expect(blocksBetween([0, 100, 200, 300], 120, 260)).toEqual([1, 2]);
    expect(blocksBetween([0, 100, 200, 300], -5, 20)).toEqual([0, 0]);
    expect(blocksBetween([0, 100, 200, 300], 350, 900)).toEqual([3, 3]);
  });
});
