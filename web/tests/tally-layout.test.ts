import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { bunchStrokes, layoutTally, MARK_WORDS, type TallyStroke } from '../kit/tally-layout';

const strokesOf = (count: number, share: number | null = 1): TallyStroke[] =>
  Array.from({ length: count }, (_, i) => ({
    number: `B-${i}`,
    share,
    mark: share === null ? ('untested' as const) : ('met' as const),
  }));

describe('tally layout', () => {
  it.each([5, 240, 10_000])('%d strokes all stand inside the picture', (count) => {
    const { placed, height, rows, perRow } = layoutTally(
      strokesOf(count),
      1040,
      count > 600 ? 20 : 64,
    );
    expect(placed).toHaveLength(count);
    expect(rows * perRow).toBeGreaterThanOrEqual(count);
    for (const { x, base, height: tall } of placed) {
      expect(x).toBeGreaterThan(0);
      expect(x).toBeLessThan(1040);
      expect(base).toBeLessThanOrEqual(height);
      expect(base - tall).toBeGreaterThanOrEqual(0);
    }
  });

  it('240 strokes fit one row of a page, 10 000 wrap', () => {
    expect(layoutTally(strokesOf(240), 1040, 64).rows).toBe(1);
    expect(layoutTally(strokesOf(10_000), 1040, 20).rows).toBeGreaterThan(20);
  });

  it('a gap follows each group of five, and strokes never stand on each other', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 6, max: 500 }),
        fc.integer({ min: 200, max: 2000 }),
        (count, width) => {
          const { placed, perRow, pitch } = layoutTally(strokesOf(count), width, 40);
          for (let i = 1; i < Math.min(count, perRow); i++) {
            const gap = placed[i]!.x - placed[i - 1]!.x;
            if (i % 5 === 0) expect(gap).toBeCloseTo(1.7 * pitch, 6);
            else expect(gap).toBeCloseTo(pitch, 6);
          }
        },
      ),
    );
  });

  it('more capacity never stands shorter; the claim line is where 100 % is', () => {
    const at = (share: number) => layoutTally(strokesOf(1, share), 300, 64);
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 1.5, noNaN: true }),
        fc.double({ min: 0, max: 0.5, noNaN: true }),
        (share, more) => {
          expect(at(share + more).placed[0]!.height).toBeGreaterThanOrEqual(
            at(share).placed[0]!.height,
          );
        },
      ),
    );
    expect(at(1).placed[0]!.height).toBeCloseTo(at(1).claimHeight, 9);
    expect(at(0.95).placed[0]!.height).toBeLessThan(at(1).claimHeight);
  });

  it('an untested cell is a stub, an empty lot is nothing', () => {
    expect(layoutTally(strokesOf(1, null), 300, 64).placed[0]!.height).toBeLessThan(10);
    expect(layoutTally([], 300, 64).placed).toEqual([]);
  });
});

describe('bunching for a small strip', () => {
  it('keeps few strokes as they are', () => {
    const strokes = strokesOf(85);
    expect(bunchStrokes(strokes, 85)).toBe(strokes);
  });
  it('never hides a missed cell', () => {
    fc.assert(
      fc.property(fc.integer({ min: 100, max: 3000 }), fc.nat(), (count, where) => {
        const strokes = strokesOf(count);
        const bad = where % count;
        strokes[bad] = { number: 'bad', share: 0.9, mark: 'notMet' };
        const bunched = bunchStrokes(strokes, 85);
        expect(bunched.length).toBeLessThanOrEqual(85);
        expect(bunched.some((stroke) => stroke.mark === 'notMet')).toBe(true);
      }),
    );
  });
  it('has words for every mark', () => {
    expect(new Set(Object.values(MARK_WORDS)).size).toBe(10);
  });
});
