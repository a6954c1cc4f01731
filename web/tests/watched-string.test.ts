import { type ThinnedString, thinnedString, watchString } from '@dusk-tally/core/evidence';
import { describe, expect, it } from 'vitest';
import { fillFrom } from '@/features/evidence/strings/fill-from';
import { firstPeriods } from '@/features/evidence/strings/period-compare';
import {
  linesOf,
  nearestStretch,
  rangeOf,
  readingAt,
  stringCsv,
} from '@/features/evidence/strings/string-lines';
import { standOutWords, watchFacts } from '@/features/evidence/strings/watch-words';

const CELLS = Array.from({ length: 6 }, (_, i) => ({ id: 11 + i, number: `B-000${i + 1}` }));

describe('fields of a string’s columns', () => {
  it('are filled from one on by a range, and what else was typed stays as it is', () => {
    expect(fillFrom(['wrong', '#2-4', 'B-0009', '', 'later'], 1, CELLS)).toEqual({
      texts: ['wrong', 'B-0002', 'B-0003', 'B-0004', 'later'],
    });
    expect(fillFrom(['', 'b2'], 0, CELLS)).toEqual({ texts: ['', 'b2'] });
  });

  it('say what names no cell, and what does not fit', () => {
    expect(fillFrom(['B-0001', 'X-7'], 1, CELLS)).toEqual({ wrong: '“X-7”: no cell of this lot.' });
    expect(fillFrom(['', '#1-3'], 1, CELLS)).toEqual({
      wrong: '“#1-3” names 3 cells; from here on there are 1 columns.',
    });
  });
});

/** Two cells read every 10 s over 1000 s, with a hole of 400 s. */
const string = () => {
  const timeS = Float64Array.from(
    Array.from({ length: 100 }, (_, i) => 10 * i).filter((t) => t < 300 || t >= 700),
  );
  const first = timeS.map((t) => 3.3 + t / 1e5);
  return { timeS, cellsV: [first, first.map((v) => v + 0.004)] };
};
const thinned = (points: number): ThinnedString =>
  thinnedString(string(), { fromS: 0, toS: 990, points });

describe('curves of a string', () => {
  it('are broken at a hole, and not between rows that stand far apart in the picture', () => {
    const fine = thinned(400);
    const pieces = linesOf(fine, fine.lowV[0]!, fine.highV[0]!, 120);
    expect(pieces).toHaveLength(2);
    expect(pieces[0]!.h).toHaveLength(30);
    // So coarse that a stretch is longer than the hole limit.
    const coarse = thinned(3);
    expect(linesOf(coarse, coarse.lowV[0]!, coarse.highV[0]!, 120)).toHaveLength(1);
  });

  it('go through both extremes of a stretch, the nearer one first', () => {
    const one = {
      ...thinned(3),
      lowV: [Float32Array.of(3, 3, 3)],
      highV: [Float32Array.of(4, 3.5, 5)],
    };
    expect(linesOf(one, one.lowV[0]!, one.highV[0]!, 1e6)[0]!.y).toEqual([3, 4, 3.5, 3, 3, 5]);
  });

  it('are read at the pointer to the digits of the log, in a hole at the nearest reading', () => {
    const fine = thinned(99);
    expect(nearestStretch(fine, 505 / 3600)).toBe(70);
    expect(readingAt(3.3412, 3.3414, 3)).toBe('3.341');
    expect(readingAt(3.34, 3.352, 3)).toBe('3.340 to 3.352');
    const [low, high] = rangeOf([[fine.lowV[0]!, fine.highV[1]!]]);
    expect(low).toBeCloseTo(3.3, 6);
    expect(high).toBeCloseTo(3.3139, 6);
  });

  it('are saved with a row for each stretch that holds readings', () => {
    const rows = stringCsv(thinned(99), ['B-0001', 'B-0002'], 3).trim().split('\n');
    expect(rows[0]).toBe(
      'time_s,B-0001_low_V,B-0001_high_V,B-0002_low_V,B-0002_high_V,spread_high_mV',
    );
    expect(rows).toHaveLength(1 + 59);
    expect(rows[1]).toBe('5.0,3.300,3.300,3.304,3.304,4.0');
  });
});

describe('what a watch is told as', () => {
  const watch = watchString(string(), { chemistry: 'LFP' });

  it('names the threshold it was asked for, and says where nothing was seen', () => {
    const facts = new Map(watchFacts(watch, 3));
    expect(facts.get('Balancing from 3 mV')).toBe('100 % of it');
    expect(new Map(watchFacts(watch, 5)).get('Balancing from 5 mV')).toBe('0 % of it');
    expect(facts.get('Mean at 3.40 V or above')).toBe('never');
    expect(standOutWords(watch, ['a', 'b'])).toContain('never reached 3.40 V');
  });

  it('offers the next log of the lot, or both halves of the only one', () => {
    const page = { id: 4, durationS: 7200, others: [{ id: 4, name: 'x', durationS: 7200 }] };
    expect(firstPeriods(page as never)).toEqual([
      { id: 4, fromH: '0', toH: '1' },
      { id: 4, fromH: '1', toH: '2' },
    ]);
    const more = { ...page, others: [{ id: 3, name: 'y', durationS: 3600 }, ...page.others] };
    expect(firstPeriods(more as never).map(({ id }) => id)).toEqual([3, 4]);
  });
});
