import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { drawOrder, drawSample, operatingCurve } from '../src/arrivals';

describe('the operating characteristic', () => {
  it('starts at certainty, falls, and passes the chapter’s point', () => {
    const curve = operatingCurve({ lotSize: 200, sampleSize: 32, acceptance: 1 });
    expect(curve[0]).toEqual({ marked: 0, percentShort: 0, accept: 1 });
    expect(curve.find((point) => point.marked === 10)!.accept).toBeCloseTo(0.50402, 5);
    for (let i = 1; i < curve.length; i++)
      expect(curve[i]!.accept).toBeLessThanOrEqual(curve[i - 1]!.accept);
    expect(curve[curve.length - 1]!.accept).toBeLessThan(0.001);
  });

  it('keeps to a few points for a large lot', () => {
    const curve = operatingCurve({ lotSize: 10_000, sampleSize: 200, acceptance: 14 });
    expect(curve.length).toBeLessThanOrEqual(162);
  });
});

describe('drawing a sample', () => {
  const lot = (sizes: number[]) =>
    sizes.flatMap((size, stratum) =>
      Array.from({ length: size }, (_, i) => ({
        id: stratum * 1000 + i,
        producedOn: `2026-01-0${1 + (stratum % 3)}`,
        box: `Box ${stratum}`,
      })),
    );

  it('draws the asked number, each once, in proportion within one per stratum', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 60 }), { minLength: 1, maxLength: 6 }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.integer(),
        (sizes, share, seed) => {
          const cells = lot(sizes);
          const count = Math.round(share * cells.length);
          const { ids, strata } = drawSample(cells, count, seed);
          expect(new Set(ids).size).toBe(count);
          expect(ids).toEqual([...ids].sort((a, b) => a - b));
          for (const stratum of strata) {
            const fair = (count * stratum.size) / cells.length;
            expect(stratum.drawn).toBeLessThanOrEqual(stratum.size);
            expect(stratum.drawn).toBeGreaterThanOrEqual(Math.min(1, Math.floor(fair)));
            if (count >= strata.length) expect(stratum.drawn).toBeGreaterThanOrEqual(1);
            if (Math.min(...strata.map((s) => (count * s.size) / cells.length)) >= 1)
              expect(Math.abs(stratum.drawn - fair)).toBeLessThan(1 + 1e-9);
          }
        },
      ),
    );
  });

  it('draws the same cells from the same seed and others from another', () => {
    const cells = lot([80, 40]);
    expect(drawSample(cells, 20, 7)).toEqual(drawSample(cells, 20, 7));
    expect(drawSample(cells, 20, 7).ids).not.toEqual(drawSample(cells, 20, 8).ids);
  });

  it('favours no cell: each is drawn about as often', () => {
    const cells = lot([20]);
    const counts = new Map<number, number>();
    for (let seed = 0; seed < 4000; seed++)
      for (const id of drawSample(cells, 5, seed * 7919).ids)
        counts.set(id, (counts.get(id) ?? 0) + 1);
    // 1000 expected, binomial standard deviation 27; all twenty within five of them.
    for (const cell of cells) expect(Math.abs(counts.get(cell.id)! - 1000)).toBeLessThan(137);
  });

  it('refuses more than there are', () => {
    expect(() => drawSample(lot([3]), 4, 1)).toThrow('0 to 3');
  });
});

describe('the order a sample is tested in', () => {
  const cells = Array.from({ length: 240 }, (_, id) => ({
    id,
    producedOn: null,
    box: `box ${Math.floor(id / 60)}`,
  }));

  it('is the same for the same seed, and holds every drawn cell once', () => {
    const { ids } = drawSample(cells, 52, 7);
    expect(drawOrder(ids, 7)).toEqual(drawOrder(ids, 7));
    expect(drawOrder(ids, 7)).not.toEqual(drawOrder(ids, 8));
    expect(drawOrder(ids, 7).toSorted((a, b) => a - b)).toEqual(ids);
  });

  it('puts every part of the lot first as often, over 20 000 seeds: stopping early picks nothing', () => {
    const parts = Array<number>(12).fill(0);
    for (let seed = 0; seed < 20_000; seed++) {
      const first = drawOrder(drawSample(cells, 52, seed * 7919 + 3).ids, seed * 7919 + 3);
      for (const id of first.slice(0, 5)) parts[Math.floor(id / 20)]!++;
    }
    const even = (20_000 * 5) / 12;
    const chiSquare = parts.reduce((sum, count) => sum + (count - even) ** 2 / even, 0);
    // 99.9 % of a fair order at 11 degrees of freedom; with the draw’s own numbers it was 52.
    expect(chiSquare).toBeLessThan(31.3);
  });
});
