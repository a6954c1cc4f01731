import { describe, expect, it } from 'vitest';
import {
  type ConditionedResult,
  connectedParts,
  Design,
  solveOnce,
  standardised,
} from '../src/evidence/meters/joint-design';
import { bisquare, HOUSE_SCATTER, huber, scatterOf } from '../src/evidence/meters/robust-weights';
import { identity, seededRandom, solve } from '../src/statistics';

/** Results of cells on channels, unbalanced: each cell on two or three of them, drawn from a seed. */
function drawn(seed: number, cells: number, channels: number): ConditionedResult[] {
  const { uniform: random } = seededRandom(seed);
  return Array.from({ length: cells }).flatMap((_, cell) => {
    const own = 2 + Math.floor(2 * random());
    const first = Math.floor(channels * random());
    return Array.from({ length: own }, (__, k) => ({
      cell: `cell ${cell}`,
      channel: `channel ${(first + k) % channels}`,
      value: 100 * (1 + 0.05 * random()) * (1 + 0.01 * ((first + k) % channels)),
    }));
  });
}
const UNWEIGHTED = (design: Design) => design.rows.map(() => 1);
const solved = (design: Design, weights = UNWEIGHTED(design), variance = 1) =>
  solveOnce(design, new Array<number>(design.size).fill(0), weights, variance);

/** The same by plain least squares with a column for every cell; channels of each part sum to zero. */
function plainly(design: Design, weights: readonly number[]) {
  const cells = design.cells.length;
  const size = cells + design.channels.length;
  const rows = design.rows.map((row) => {
    const x = new Array<number>(size).fill(0);
    x[row.cell] = 1;
    if (row.channel !== null) x[cells + row.channel] = 1;
    return { x, y: row.logQ };
  });
  const constraints = design.parts.map((part) => {
    const x = new Array<number>(size).fill(0);
    for (const name of part) x[cells + design.channels.indexOf(name)] = 1;
    return x;
  });
  const normal = identity(size).map((line) => line.map(() => 0));
  const moments = new Array<number>(size).fill(0);
  const add = (x: readonly number[], y: number, w: number) =>
    x.forEach((a, i) => {
      moments[i]! += w * a * y;
      x.forEach((b, j) => (normal[i]![j]! += w * a * b));
    });
  rows.forEach(({ x, y }, i) => add(x, y, weights[i]!));
  for (const x of constraints) add(x, 0, 1);
  const inverse = solve(normal, identity(size))!;
  const beta = inverse.map((line) => line.reduce((sum, v, j) => sum + v * moments[j]!, 0));
  const form = (x: readonly number[], z: readonly number[]) =>
    x.reduce((sum, a, i) => sum + a * inverse[i]!.reduce((s, v, j) => s + v * z[j]!, 0), 0);
  return {
    channels: beta.slice(cells),
    residuals: rows.map(({ x, y }) => y - x.reduce((sum, a, i) => sum + a * beta[i]!, 0)),
    leverage: rows.map(({ x }, i) => weights[i]! * form(x, x)),
    /** Variance of the difference of two channels at a variance of one. */
    apart: (a: number, b: number) => {
      const x = new Array<number>(size).fill(0);
      x[cells + a] = 1;
      x[cells + b] = -1;
      return form(x, x);
    },
  };
}
const close = (found: readonly number[], expected: readonly number[]) => {
  expect(found.length).toBe(expected.length);
  found.forEach((value, i) => expect(value).toBeCloseTo(expected[i]!, 9));
};

describe('channels and cells fitted together', () => {
  it.each([1, 2, 3, 4, 5])('is plain least squares with a column a cell (draw %i)', (seed) => {
    const results = drawn(seed, 12, 5);
    const design = new Design(results, connectedParts(results));
    const { uniform: random } = seededRandom(100 + seed);
    for (const weights of [UNWEIGHTED(design), design.rows.map(() => 0.2 + random())]) {
      const { beta, residuals, leverage, covariance } = solved(design, weights, 0.04);
      const plain = plainly(design, weights);
      close(beta, plain.channels);
      close(residuals, plain.residuals);
      close(leverage, plain.leverage);
      for (let a = 0; a < design.size; a++)
        for (let b = 0; b < a; b++)
          expect(covariance[a]![a]! + covariance[b]![b]! - 2 * covariance[a]![b]!).toBeCloseTo(
            0.04 * plain.apart(a, b),
            9,
          );
    }
  });

  it('channels that share no cell stand in parts of their own, each summing to zero', () => {
    const results = [
      ...drawn(7, 8, 3),
      ...drawn(8, 6, 2).map((result) => ({
        ...result,
        cell: `other ${result.cell}`,
        channel: `other ${result.channel}`,
      })),
    ];
    const parts = connectedParts(results);
    expect(parts.map(({ length }) => length)).toEqual([3, 2]);
    const design = new Design(results, parts);
    const { beta } = solved(design);
    for (const part of parts) {
      const sum = part.reduce((total, name) => total + beta[design.channels.indexOf(name)]!, 0);
      expect(sum).toBeCloseTo(0, 9);
    }
    close(beta, plainly(design, UNWEIGHTED(design)).channels);
  });

  it('a cell with one result tells nothing, and what weighs nothing changes nothing', () => {
    const results = drawn(9, 10, 4);
    const lone = { cell: 'alone', channel: 'channel 0', value: 10_000 };
    const parts = connectedParts(results);
    const design = new Design(results, parts);
    expect(new Design([...results, lone], parts).rows.length).toBe(design.rows.length);
    const wild = [...results, { ...results[0]!, value: 10_000 }];
    const withWild = new Design(wild, parts);
    const weights = withWild.rows.map(({ index }) => (index === results.length ? 0 : 1));
    close(solved(withWild, weights).beta, solved(design).beta);
  });

  it('of two results of one cell each has the root of a half of their difference', () => {
    const results = drawn(3, 6, 3);
    const design = new Design(results, connectedParts(results));
    const solution = solved(design);
    const sizes = standardised(design, solution);
    const pair = design.cells.find((own) => own.length === 2)!;
    const [a, b] = pair as [number, number];
    expect(sizes[a]).toBeCloseTo(-sizes[b]!, 12);
    expect(sizes[a]).toBeCloseTo(
      (solution.residuals[a]! - solution.residuals[b]!) / Math.SQRT2,
      12,
    );
  });
});

describe('weights that fall with the distance', () => {
  it('bisquare: all at none, half where it should be, nothing beyond its bound', () => {
    expect(bisquare(0)).toBe(1);
    expect(bisquare(4.685)).toBe(0);
    expect(bisquare(100)).toBe(0);
    // (1 − u²)² = ½ at u² = 1 − √½.
    expect(bisquare(4.685 * Math.sqrt(1 - Math.SQRT1_2))).toBeCloseTo(0.5, 12);
  });

  it('Huber: all near by, then as the bound over the distance', () => {
    expect(huber(1.345)).toBe(1);
    expect(huber(2.69)).toBeCloseTo(0.5, 12);
    expect(huber(1e6)).toBeGreaterThan(0);
  });
});

describe('what runs scatter about the fit', () => {
  const results = drawn(11, 12, 4);
  const design = new Design(results, connectedParts(results));
  const own = UNWEIGHTED(design);

  it('is what is left over the degrees of freedom, where there are six', () => {
    const solution = solved(design);
    const degrees = design.rows.length - design.cells.length - (design.channels.length - 1);
    expect(degrees).toBeGreaterThanOrEqual(6);
    const squares = solution.residuals.reduce((sum, r) => sum + r * r, 0);
    const { variance } = scatterOf(design, solution, own, { degrees, scale: null });
    expect(variance).toBeCloseTo(squares / degrees, 12);
    // The degrees are those the leverages leave.
    expect(solution.leverage.reduce((sum, h) => sum + 1 - h, 0)).toBeCloseTo(degrees, 9);
  });

  it('is drawn to the scatter of the house where few are left', () => {
    const few = drawn(2, 2, 2);
    const small = new Design(few, connectedParts(few));
    const solution = solved(small);
    const left = solution.leverage.reduce((sum, h) => sum + 1 - h, 0);
    const squares = solution.residuals.reduce((sum, r) => sum + r * r, 0);
    const found = scatterOf(small, solution, UNWEIGHTED(small), { degrees: 1, scale: null });
    expect(found.degrees).toBeCloseTo(left + 2, 9);
    expect(found.variance).toBeCloseTo((squares + 2 * HOUSE_SCATTER ** 2) / (left + 2), 12);
  });

  it('a robust fit’s is that of the quiet ones: one wild result hardly moves it', () => {
    const solution = solved(design);
    const scale = 0.02;
    const quiet = scatterOf(design, solution, own, { degrees: 9, scale }).variance;
    const residuals = [...solution.residuals];
    residuals[0] = residuals[0]! + 5;
    const wild = scatterOf(design, { ...solution, residuals }, own, { degrees: 9, scale }).variance;
    expect(wild / quiet).toBeGreaterThan(0.5);
    expect(wild / quiet).toBeLessThan(2);
  });
});
