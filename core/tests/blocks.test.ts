import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { deflateSync } from 'fflate';
import { seededRandom } from '../src/statistics';
import {
  BLOCK_ROWS,
  BUCKET_ROWS,
  BUCKETS_IN_ONE,
  buildPyramid,
  curveOf,
  cutSections,
  decodeChunk,
  decodeView,
  dischargedAh,
  encodeView,
  mainDischarge,
  pyramidLevels,
  type Trace,
  viewBuckets,
  viewSamples,
  decodeColumn,
  decodeColumns,
  decodeCurve,
  encodeColumn,
  encodeCurve,
  encodeTrace,
  readLog,
} from '../src/evidence';

const sample = (name: string) =>
  readLog(
    new Uint8Array(readFileSync(join(import.meta.dirname, '..', 'fixtures', 'samples', name))),
  );

/** Least order-0 entropy of values, first or second differences, bytes in all. */
function entropyBound(values: Float64Array, decimals: number): number {
  let series = Array.from(values, (value) => Math.round(value * 10 ** decimals));
  let least = Infinity;
  for (let order = 0; order <= 2; order++) {
    const counts = new Map<number, number>();
    for (const value of series) counts.set(value, (counts.get(value) ?? 0) + 1);
    let bits = 0;
    for (const count of counts.values()) bits -= count * Math.log2(count / series.length);
    least = Math.min(least, bits / 8);
    series = series.slice(1).map((value, i) => value - series[i]!);
  }
  return least;
}

describe('column blocks', () => {
  it('round-trip any decimals, gaps and lengths', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.oneof(
            { weight: 9, arbitrary: fc.integer({ min: -1e9, max: 1e9 }) },
            { weight: 1, arbitrary: fc.constant(NaN) },
          ),
        ),
        fc.integer({ min: 0, max: 6 }),
        (integers, decimals) => {
          const values = Float64Array.from(integers, (value) => value / 10 ** decimals);
          expect(decodeColumn(encodeColumn(values, decimals))).toEqual(values);
        },
      ),
    );
  });
  it('refuses another version, a damaged block and values too large', () => {
    const block = encodeColumn(Float64Array.of(1, 2, 3), 0);
    expect(() => decodeColumn(Uint8Array.from(block, (byte, i) => (i === 0 ? 9 : byte)))).toThrow(
      /version 9/,
    );
    expect(() => decodeColumn(block.subarray(0, block.length - 1))).toThrow(/damaged/);
    expect(() => encodeColumn(Float64Array.of(1e16), 3)).toThrow(/stored exactly/);
    expect(() => encodeColumn(new Float64Array(70000), 0)).toThrow(/at most 65536/);
  });
  it.each(['01-plain-seconds.csv', '02-quantity-slash-unit.csv', '06-milli-units.tsv'])(
    '%s: no digit lost, within 1.3 of the entropy bound',
    (name) => {
      const { trace } = sample(name);
      const blocks = encodeTrace(trace);
      const columns = decodeColumns(blocks);
      expect(columns.get('timeS')).toEqual(trace.timeS);
      expect(columns.get('voltageV')).toEqual(trace.voltageV);
      expect([...columns.get('currentA')!].map((value) => value + 0)).toEqual(
        [...trace.currentA!].map((value) => value + 0),
      );
      expect(columns.size).toBe(blocks.length);
      const bytes = blocks.reduce((sum, block) => sum + block.payload.length, 0);
      const { decimals } = trace;
      const bound =
        entropyBound(trace.timeS, decimals.timeS) +
        entropyBound(trace.voltageV, decimals.voltageV) +
        entropyBound(trace.currentA!, decimals.currentA) +
        (trace.temperatureC ? entropyBound(trace.temperatureC, decimals.temperatureC) : 0);
      expect(bytes).toBeLessThan(1.3 * bound);
    },
  );
  it('a trace of several blocks comes back whole', () => {
    const { trace } = sample('01-plain-seconds.csv');
    const n = 150_000;
    const long = {
      ...trace,
      timeS: Float64Array.from({ length: n }, (_, i) => i),
      voltageV: Float64Array.from({ length: n }, (_, i) => 3 + (i % 100) / 1000),
      currentA: null,
      temperatureC: null,
    };
    const blocks = encodeTrace(long).reverse();
    expect(blocks).toHaveLength(6);
    expect(decodeColumns(blocks).get('voltageV')).toEqual(long.voltageV);
  });
});

describe('damaged blocks', () => {
  it('any changed byte is refused or gives as many samples; nothing hangs', () => {
    const { trace } = sample('02-quantity-slash-unit.csv');
    const block = encodeColumn(trace.currentA!, 3);
    fc.assert(
      fc.property(
        fc.nat(block.length - 1),
        fc.integer({ min: 0, max: 255 }),
        fc.option(fc.nat(block.length - 1)),
        (at, byte, cut) => {
          const damaged = Uint8Array.from(block);
          damaged[at] = byte;
          try {
            const values = decodeColumn(cut === null ? damaged : damaged.subarray(0, cut));
            expect(values.length).toBeLessThanOrEqual(BLOCK_ROWS);
          } catch (error) {
            expect(error).toBeInstanceOf(RangeError);
          }
        },
      ),
      { numRuns: 400 },
    );
  });

  it('a wide column keeps its low bits, outliers are kept apart', () => {
    const random = seededRandom(9);
    const wide = Float64Array.from({ length: 20_000 }, (_, i) =>
      Math.round(1e9 * random.uniform() + (i % 5000 === 7 ? 2 ** 45 : 0)),
    );
    const block = encodeColumn(wide, 0);
    expect(decodeColumn(block)).toEqual(wide);
    // log2(1e9) is 29.9 bits.
    expect(block.length / wide.length).toBeLessThan((29.9 / 8) * 1.05);
    const steps = Float64Array.from({ length: 5000 }, (_, i) => (i < 2500 ? 0 : -20.8));
    expect(encodeColumn(steps, 3).length).toBeLessThan(60);
  });

  it('blocks of version 1 are still read', () => {
    // Values 1, 2, 3 with no decimals as version 1 wrote them: raw DEFLATE of one byte plane.
    const planes = Uint8Array.of(1, 2, 4, 6);
    const body = deflateSync(planes);
    const block = new Uint8Array(8 + body.length);
    block.set([1, 0, 0, 0, 3, 0, 0, 0]);
    block.set(body, 8);
    expect([...decodeColumn(block)]).toEqual([1, 2, 3]);
  });
});

describe('pyramid', () => {
  const n = 1_300_000;
  const random = seededRandom(4);
  const currentA = new Float64Array(n);
  const voltageV = new Float64Array(n);
  const temperatureC = new Float64Array(n);
  for (let i = 0; i < n; i++) {
    currentA[i] = i < 600 ? 0 : -20 - 0.01 * random.normal();
    voltageV[i] = 3.3 - (0.5 * i) / n + 0.001 * random.normal();
    temperatureC[i] = i % 9 === 0 ? NaN : 25 + 0.1 * random.normal();
  }
  const trace: Trace = {
    ...sample('14-stopped-early.csv').trace,
    timeS: Float64Array.from({ length: n }, (_, i) => i / 2),
    voltageV,
    currentA,
    temperatureC,
    holes: [],
  };
  const discharge = mainDischarge(cutSections(trace))!;
  const levels = pyramidLevels(trace, discharge);

  it('every level holds the extremes of the rows below it', () => {
    expect(levels.map((level) => level.timeS.length)).toEqual([5079, 318]);
    for (const [l, level] of levels.entries()) {
      const rows = BUCKET_ROWS * BUCKETS_IN_ONE ** l;
      for (const bucket of [0, 3, level.timeS.length - 1]) {
        const part = voltageV.subarray(bucket * rows, (bucket + 1) * rows);
        expect(level.leastV[bucket]).toBeCloseTo(
          part.reduce((a, b) => Math.min(a, b)),
          6,
        );
        expect(level.mostV[bucket]).toBeCloseTo(
          part.reduce((a, b) => Math.max(a, b)),
          6,
        );
        expect(level.mostFirst[bucket]).toBe(
          part.indexOf(part.reduce((a, b) => Math.max(a, b))) <
            part.indexOf(part.reduce((a, b) => Math.min(a, b)))
            ? 1
            : 0,
        );
        expect(level.timeS[bucket]).toBe(trace.timeS[bucket * rows]);
      }
    }
    const charge = dischargedAh(trace, discharge);
    expect(levels[0]!.chargeAh[4000]).toBeCloseTo(charge[4000 * BUCKET_ROWS]!, 3);
    expect(levels[1]!.chargeAh[300]).toBeCloseTo(charge[300 * 16 * BUCKET_ROWS]!, 3);
  });

  it('chunks come back as they went, damaged ones are refused', () => {
    const chunks = buildPyramid(trace, discharge);
    expect(chunks.map(({ level, index }) => `${level}/${index}`)).toEqual(['0/0', '0/1', '1/0']);
    const back = decodeChunk(chunks[1]!.payload);
    expect(back.mostV).toEqual(levels[0]!.mostV.slice(4096));
    expect(back.timeS).toEqual(levels[0]!.timeS.slice(4096));
    expect(() => decodeChunk(chunks[2]!.payload.subarray(1))).toThrow(/damaged/);
    expect(buildPyramid(sample('14-stopped-early.csv').trace, null)).toEqual([]);
  });

  it('a view from buckets spans what the samples span, in as many points', () => {
    const level = levels[0]!;
    const view = viewBuckets(level, { from: 100, to: 4100, points: 1000 });
    expect(view.timeS.length).toBe(1000);
    const rows = voltageV.subarray(100 * BUCKET_ROWS, 4101 * BUCKET_ROWS);
    expect(Math.min(...view.voltageV)).toBeCloseTo(
      rows.reduce((a, b) => Math.min(a, b)),
      6,
    );
    expect(Math.max(...view.voltageV)).toBeCloseTo(
      rows.reduce((a, b) => Math.max(a, b)),
      6,
    );
    for (let i = 1; i < view.timeS.length; i++)
      expect(view.timeS[i]!).toBeGreaterThan(view.timeS[i - 1]!);
    const back = decodeView(encodeView(view));
    expect(back).toEqual(view);
  });

  it('a view from samples says when it has every one of them', () => {
    const part = { ...trace, chargeAh: new Float64Array(n) };
    const all = viewSamples(part, { from: 5000, to: 5200, points: 400 });
    expect(all.isWhole).toBe(true);
    expect(all.timeS.length).toBe(201);
    expect(all.timeS[0]).toBe(2500);
    expect(viewSamples(part, { from: 5000, to: 9000, points: 400 }).isWhole).toBe(false);
    expect(viewSamples(part, { from: 9, to: 8, points: 400 }).timeS.length).toBe(0);
  });
});

describe('curves', () => {
  it('keep ends and extremes and come back from bytes', () => {
    const { trace } = sample('14-stopped-early.csv');
    const last = trace.timeS.length - 1;
    const curve = curveOf(trace, new Float64Array(last + 1), { from: 0, to: last, points: 200 });
    expect(curve.timeS.length).toBeLessThanOrEqual(202);
    expect(Math.max(...curve.voltageV)).toBeCloseTo(Math.max(...trace.voltageV), 6);
    expect(Math.min(...curve.voltageV)).toBeCloseTo(Math.min(...trace.voltageV), 6);
    const { curve: back, next } = decodeCurve(encodeCurve(curve));
    expect(back).toEqual(curve);
    expect(next).toBe(4 + 16 * curve.timeS.length);
  });
});
