import { describe, expect, it } from 'vitest';
import {
  memorySource,
  readString,
  stringFromBlocks,
  thinnedString,
  watchString,
} from '../src/evidence';
import { stringOf, turns } from '../testing/watched-string';

describe('what is wrong with a string log', () => {
  const cells = (n: number) => Array.from({ length: n }, (_, c) => turns(c, n));

  it('a wire that shows 0 V is named and in no figure', () => {
    const string = stringOf(2000, cells(6));
    const sound = watchString(stringOf(2000, cells(6)), { chemistry: 'LFP' });
    string.cellsV[3]!.fill(0.001);
    const watch = watchString(string, { chemistry: 'LFP' });
    expect(watch.offWires).toMatchObject([{ cell: 3 }]);
    expect(watch.offWires[0]!.seconds).toBeCloseTo(watch.seconds, -1);
    expect(watch.spread.highestMv).toBeLessThan(sound.spread.highestMv + 1);
    expect(watch.nearFull!.lowest[3]).toBe(0);
    const thinned = thinnedString(string, { fromS: 0, toS: 20_000, points: 50 });
    expect(Math.max(...thinned.highSpreadV)).toBeLessThan(0.05);
  });

  it('one that comes off for a while is left out for that while', () => {
    const string = stringOf(2000, cells(6));
    string.cellsV[1]!.fill(0, 500, 700);
    const { offWires, spread } = watchString(string, { chemistry: 'LFP' });
    expect(offWires).toMatchObject([{ cell: 1, seconds: 2000 }]);
    expect(spread.highestMv).toBeLessThan(50);
  });

  it('a hole is named', () => {
    const string = stringOf(2000, cells(4));
    for (let i = 900; i < 2000; i++) string.timeS[i]! += 3600;
    expect(watchString(string, { chemistry: 'LFP' }).holes).toEqual([{ fromS: 8990, toS: 12_600 }]);
  });

  it('blank values keep the one above them and are counted, far beyond one in a hundred', () => {
    const lines = ['time_s,current_A,cell1_V,cell2_V,cell3_V'];
    for (let i = 0; i < 400; i++)
      lines.push(
        `${10 * i},1.5,${(3.3 + i / 1e4).toFixed(4)},${i % 20 === 7 ? '' : (3.31 + i / 1e4).toFixed(4)},3.3`,
      );
    const log = readString(memorySource(new TextEncoder().encode(lines.join('\n'))));
    expect(log.rows).toBe(400);
    expect(log.findings.find(({ code }) => code === 'blank-cells')!.text).toMatch(
      /^20 reading.*20 of “cell2_V”/,
    );
    const { cellsV } = stringFromBlocks(log.blocks);
    expect(cellsV[1]![7]).toBeCloseTo(cellsV[1]![6]!, 6);
    expect([...cellsV[1]!].every(Number.isFinite)).toBe(true);
  });
});
