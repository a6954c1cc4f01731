import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  currentDeadBandA,
  cutSections,
  encodeColumn,
  decodeColumn,
  gaugeStudy,
  readLog,
} from '../src/evidence';
import { parseClearQuantity, parseQuantity } from '../src/units';
import { bareTrace } from '../testing/trace-of';

describe('figures as they are typed', () => {
  it.each([
    ['4.2 mΩ', 'resistanceMohm', 4.2],
    ['4.2 mohm', 'resistanceMohm', 4.2],
    ['420 uΩ', 'resistanceMohm', 0.42],
    ['420 µΩ', 'resistanceMohm', 0.42],
    ['420 μohm', 'resistanceMohm', 0.42],
    ['0,42 OHM', 'resistanceMohm', 420],
    ['1.5 kΩ', 'resistanceMohm', 1.5e6],
    ['1.5 Ω', 'resistanceMohm', 1500],
    ['３．３０４ V', 'voltageV', 3.304],
    ['３３０４ｍV', 'voltageV', 3.304],
    ['105 WH', 'energyWh', 105],
    ['105 mWh', 'energyWh', 0.105],
    ['3120 MAH'.replace('MAH', 'mah'), 'capacityAh', 3.12],
    ['−0', 'voltageV', 0],
    ['90 MIN', 'durationH', 1.5],
  ] as const)('%s', (text, quantity, value) => {
    const parsed = parseQuantity(text, quantity);
    expect(parsed).toMatchObject({ ok: true });
    expect(parsed.ok && parsed.value).toBeCloseTo(value, 12);
    expect(Object.is(parsed.ok && parsed.value, -0)).toBe(false);
  });

  it.each([
    ['4.2 MΩ', 'resistanceMohm'],
    ['4.2 Mohm', 'resistanceMohm'],
    ['105 MWh', 'energyWh'],
    ['3 MV', 'voltageV'],
    ['3 MAh', 'capacityAh'],
    ['1e999 V', 'voltageV'],
  ] as const)('refuses %s in words', (text, quantity) => {
    expect(parseQuantity(text, quantity)).toMatchObject({
      ok: false,
      message: expect.stringMatching(/^Expected a number in/),
    });
  });

  it('asks whether 3.120 mAh are thousands', () => {
    expect(parseQuantity('3.120 mAh', 'capacityAh')).toMatchObject({
      ok: true,
      doubt: expect.stringContaining('or 3120 mAh?'),
    });
    expect(parseQuantity('3,304 mV', 'voltageV')).toMatchObject({
      ok: true,
      doubt: expect.any(String),
    });
    expect(parseQuantity('3.12 mAh', 'capacityAh')).not.toHaveProperty('doubt');
    expect(parseQuantity('3.120 Ah', 'capacityAh')).not.toHaveProperty('doubt');
    expect(parseQuantity('0.420 mΩ', 'resistanceMohm')).not.toHaveProperty('doubt');
    expect(parseClearQuantity('3.120 mAh', 'capacityAh')).toMatchObject({
      ok: false,
      message: expect.stringMatching(/without the point or comma, or in Ah\.$/),
    });
  });
});

describe('limits of what is stored and computed', () => {
  it('keeps integers up to 2^50 and refuses what is larger or without end in words', () => {
    const large = Float64Array.of(2 ** 50, -(2 ** 50), 0, 2 ** 50);
    expect([...decodeColumn(encodeColumn(large, 0))]).toEqual([...large]);
    expect(() => encodeColumn(Float64Array.of(2 ** 51), 0)).toThrow(/Row 1: .* too large/);
    expect(() => encodeColumn(Float64Array.of(1, Infinity), 2)).toThrow(
      /Row 2: expected a finite number/,
    );
  });
  it('whatever lies within comes back to the bit', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: -(2 ** 50), max: 2 ** 50 }), { maxLength: 40 }),
        (values) => {
          const column = Float64Array.from(values, (v) => v + 0);
          expect([...decodeColumn(encodeColumn(column, 0))]).toEqual([...column]);
        },
      ),
    );
  });
  it('no zero has a sign', () => {
    const { trace } = readLog(
      new TextEncoder().encode('time_s,voltage_V,current_A\n0,3.3,-0.000\n1,3.3,-0\n2,3.3, -0.0\n'),
    );
    for (const value of trace.currentA!) expect(Object.is(value, -0)).toBe(false);
  });
  it('13 mA shown at rest are no load on a 6 Ah cell', () => {
    const current = Float64Array.from({ length: 400 }, (_, i) =>
      i < 100 || i >= 350 ? -0.013 + 0.001 * Math.sin(i) : -1.2,
    );
    expect(currentDeadBandA(current, 6)).toBeGreaterThan(0.014);
    expect(currentDeadBandA(current)).toBeGreaterThan(0.014);
    expect(currentDeadBandA(current, 6)).toBeLessThan(0.04);
    const timeS = Float64Array.from({ length: 400 }, (_, i) => 10 * i);
    const kinds = cutSections(
      bareTrace(
        { timeS, voltageV: timeS.map((t) => 3.4 - t / 20_000), currentA: current },
        { timeS: 0, voltageV: 3, temperatureC: 0 },
      ),
      6,
    ).map(({ kind }) => kind);
    expect(kinds).toEqual(['rest', 'discharge', 'rest']);
  });
  it('a taper is a load, and a gauge study without scatter says so', () => {
    const taper = Float64Array.from({ length: 300 }, (_, i) =>
      i < 20 ? 0 : 6 * Math.exp(-i / 60),
    );
    expect(currentDeadBandA(taper, 6)).toBeLessThan(0.04);
    const equal = ['a', 'b'].flatMap((cell, i) =>
      ['k', 'l'].flatMap((channel) => [1, 2].map(() => ({ cell, channel, value: 100 + i }))),
    );
    expect(gaugeStudy(equal)).toMatchObject({
      study: null,
      reason: expect.stringContaining('all of them are equal'),
    });
  });
});
