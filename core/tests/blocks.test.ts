import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  curveOf,
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
    expect(() => decodeColumn(Uint8Array.from(block, (byte, i) => (i === 4 ? 200 : byte)))).toThrow(
      /damaged/,
    );
    expect(() => encodeColumn(Float64Array.of(1e16), 3)).toThrow(/stored exactly/);
    expect(() => encodeColumn(new Float64Array(70000), 0)).toThrow(/at most 65536/);
  });
  it.each(['01-plain-seconds.csv', '02-quantity-slash-unit.csv', '06-milli-units.tsv'])(
    '%s: no digit lost, at most 2.2 bytes per sample',
    (name) => {
      const { trace } = sample(name);
      const blocks = encodeTrace(trace);
      const columns = decodeColumns(blocks);
      expect(columns.get('timeS')).toEqual(trace.timeS);
      expect(columns.get('voltageV')).toEqual(trace.voltageV);
      expect([...columns.get('currentA')!].map((value) => value + 0)).toEqual(
        [...trace.currentA!].map((value) => value + 0),
      );
      expect(columns.size).toBe(4);
      const bytes = blocks.reduce((sum, block) => sum + block.payload.length, 0);
      expect(bytes / trace.timeS.length).toBeLessThan(2.2);
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
