import { deflateSync } from 'fflate';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cutSections, decodeColumn, meanCurrentOf } from '../src/evidence';
import { chargeBetween, chargeStepAh, energyStepWh } from '../src/evidence/charge-steps';
import { CounterWitness } from '../src/evidence/counter-witness';
import { loadEdge } from '../src/evidence/load-edge';
import type { Trace } from '../src/evidence/trace';
import { traceOf } from '../testing/trace-of';

/** When each row was written, s: every 10 s, but for one that came 0.2 s after the one before. */
const AT = Array.from({ length: 30 }, (_, i) => (i === 19 ? 180.2 : 10 * i));
/** Ten rows of rest, ten under 20 A, ten of rest. */
const loaded = (more: Partial<Trace> = {}): Trace => ({
  ...traceOf(
    AT.map((t, i) => ({
      t,
      v: i < 10 || i >= 20 ? 3.3 : 3.2 - i / 1000,
      i: i < 10 || i >= 20 ? 0 : -20,
    })),
  ),
  ...more,
});
/** A counter of 0.1 mAh that began so large a share of an interval before the first row under load. */
const counting = (share: number, sign: 1 | -1 = 1) =>
  Float64Array.from(AT, (t, i) => {
    const hours = (Math.min(Math.max(t, 100 - 10 * share), AT[19]!) - (100 - 10 * share)) / 3600;
    return (sign * Math.round((i < 10 ? 0 : hours) * 20 * 1e4)) / 1e4;
  });
const PART = [{ from: 10, to: 19 }];
const witnessOf = (trace: Trace) => CounterWitness.of(trace, PART, new Set());

describe('the time between no current and the first of it', () => {
  it('is half of the interval, give or take that half', () => {
    const edge = loadEdge(loaded(), 10, 9, null);
    expect(edge).toMatchObject({ by: 'half', intervalS: 10, currentA: 20 });
    expect(edge.ah).toBeCloseTo((20 * 5) / 3600, 12);
    expect(edge.limitAh).toBe(edge.ah);
    const end = loadEdge(loaded(), 19, 20, null);
    expect(end.ah).toBeCloseTo((20 * (190 + 10 - 180.2)) / 7200, 12);
    expect(end.limitAh).toBe(end.ah);
  });
  it('is what the instrument’s own counter says, where it counts finely enough', () => {
    const trace = loaded({ counterAh: counting(0.3) });
    const edge = loadEdge(trace, 10, 9, witnessOf(trace));
    expect(edge.by).toBe('counter');
    expect(edge.ah).toBeCloseTo((0.3 * 200) / 3600, 4);
    expect(edge.limitAh).toBeCloseTo(0.0011, 6);
    // A counter of tenths of an ampere-hour says no more than the half.
    const coarse = loaded({ counterAh: counting(0.3).map((ah) => Math.round(10 * ah) / 10) });
    expect(loadEdge(coarse, 10, 9, witnessOf(coarse)).by).toBe('half');
  });
  it('is nothing where a step of the program begins at that row, off the beat', () => {
    const step = Float64Array.from({ length: 30 }, (_, i) => (i < 10 ? 1 : i < 20 ? 2 : 3));
    const trace = loaded({ step });
    trace.timeS = trace.timeS.map((t, i) => (i >= 10 ? t - 6 : t));
    const edge = loadEdge(trace, 10, 9, null);
    expect(edge).toMatchObject({ by: 'marker', ah: 0, intervalS: 4 });
    expect(edge.limitAh).toBeCloseTo(20 / 3600, 12);
    // On the beat it may have begun anywhere in the interval.
    expect(loadEdge(loaded({ step }), 10, 9, null).by).toBe('half');
  });
  it('is all of it where the row before belongs to the step under load already', () => {
    const step = Float64Array.from({ length: 30 }, (_, i) => (i < 9 ? 1 : i < 20 ? 2 : 3));
    const edge = loadEdge(loaded({ step }), 10, 9, null);
    expect(edge).toMatchObject({ by: 'marker' });
    expect(edge.ah).toBeCloseTo((20 * 10) / 3600, 12);
    // One step through and through marks nothing.
    expect(loadEdge(loaded({ step: new Float64Array(30).fill(2) }), 10, 9, null).by).toBe('half');
  });
  it('is not known where the log begins or ends under load: a whole interval may be missing', () => {
    for (const [row, outer] of [
      [0, -1],
      [29, 30],
    ] as const) {
      const all = loaded();
      all.currentA!.fill(-20);
      const edge = loadEdge(all, row, outer, null);
      expect(edge).toMatchObject({ by: 'first row', ah: 0 });
      expect(edge.limitAh).toBeCloseTo((20 * 10) / 3600, 12);
    }
  });
  it('takes a first reading that was caught while the current rose for more than it shows', () => {
    const rising = loaded();
    rising.currentA![10] = -4;
    expect(loadEdge(rising, 10, 9, null).currentA).toBe(10);
    rising.currentA![10] = -15;
    expect(loadEdge(rising, 10, 9, null).currentA).toBe(15);
  });
  it('by counters alone is nothing: the row before stands where the counter began', () => {
    const trace = loaded({ currentA: null, counterAh: counting(0.5) });
    expect(loadEdge(trace, 10, 9, witnessOf(trace))).toMatchObject({
      by: 'counter',
      ah: 0,
      limitAh: 0,
    });
  });
});

describe('the instrument’s own counter as a witness', () => {
  it('is believed whichever way it counts, within 2 % of the current', () => {
    for (const sign of [1, -1] as const) {
      const trace = loaded({ counterAh: counting(0, sign) });
      expect(witnessOf(trace)!.between(10, 19, 1)).toBeCloseTo((20 * 80.2) / 3600, 3);
    }
    const off = (share: number) =>
      witnessOf(loaded({ counterAh: counting(0).map((ah) => ah * share) })) === null;
    expect([1.015, 0.985, 1.05, 0.95].map(off)).toEqual([false, false, true, true]);
  });
  it('is none where there is none, or where it stands still', () => {
    expect(witnessOf(loaded())).toBeNull();
    expect(witnessOf(loaded({ counterAh: new Float64Array(30) }))).toBeNull();
    expect(witnessOf(loaded({ counterAh: new Float64Array(30).fill(7) }))).toBeNull();
  });
  it('says nothing over rows in which it was reset, ran back or ran too fast', () => {
    const counterAh = counting(0);
    const trace = loaded({ counterAh });
    const witness = witnessOf(trace)!;
    const [from, to] = [12, 13];
    expect(witness.between(from, to, 0.06)).toBeCloseTo(200 / 3600, 3);
    expect(witness.between(from, to, 0.05)).toBeNull();
    counterAh[to] = 0;
    expect(witness.between(from, to, 1)).toBeNull();
    counterAh[to] = NaN;
    expect(witness.between(from, to, 1)).toBeNull();
  });
  it('that began from zero at load-on tells it by what it shows', () => {
    // Before the load it still showed the run before.
    const counterAh = counting(0.4).map((ah, i) => (i < 10 ? 5.2 : ah));
    const trace = loaded({ counterAh });
    expect(witnessOf(trace)!.sinceLoadOn(10, 0.06)).toBeCloseTo((0.4 * 200) / 3600, 4);
    counterAh.fill(1, 10);
    expect(
      CounterWitness.of(loaded({ counterAh: counting(0) }), PART, new Set())!.sinceLoadOn(0, 0.06),
    ).toBe(0);
  });
});

describe('charge and energy between two readings', () => {
  const two = traceOf([
    { t: 0, v: 3.2, i: -10 },
    { t: 1800, v: 3.0, i: -20 },
  ]);
  it('by the trapezoid of the current, and of the power', () => {
    expect(chargeStepAh(two, 1)).toBeCloseTo(7.5, 12);
    expect(energyStepWh(two, 1)).toBeCloseTo((32 + 60) / 4, 12);
  });
  it('by counters where there is no current; energy without its own by the mean voltage', () => {
    const counted = { ...two, currentA: null, counterAh: Float64Array.of(1, 8) };
    expect(chargeStepAh(counted, 1)).toBe(7);
    expect(energyStepWh(counted, 1)).toBeCloseTo(7 * 3.1, 12);
    expect(energyStepWh({ ...counted, counterWh: Float64Array.of(3, 25) }, 1)).toBe(22);
    expect(chargeStepAh({ ...two, currentA: null }, 1)).toBe(0);
  });
  it('adds up: any two parts are the whole', () => {
    const trace = loaded();
    fc.assert(
      fc.property(fc.nat(29), fc.nat(29), fc.nat(29), (...rows) => {
        const [a, b, c] = rows.sort((x, y) => x - y) as [number, number, number];
        expect(chargeBetween(trace, a, c)).toBeCloseTo(
          chargeBetween(trace, a, b) + chargeBetween(trace, b, c),
          12,
        );
      }),
    );
  });
});

describe('parts of a log that has only counters', () => {
  const still = (counterAh: Float64Array, voltageV?: Float64Array): Trace =>
    loaded({ currentA: null, counterAh, ...(voltageV && { voltageV }) });
  it('are where the counter moves; which way, the voltage says', () => {
    const kinds = (trace: Trace) =>
      cutSections(trace).map(({ kind, fromIndex, toIndex }) => [kind, fromIndex, toIndex]);
    expect(kinds(still(counting(0)))).toEqual([
      ['rest', 0, 9],
      ['discharge', 10, 19],
      ['rest', 20, 29],
    ]);
    const rising = Float64Array.from({ length: 30 }, (_, i) =>
      i < 10 ? 3.2 : i < 20 ? 3.3 + i / 100 : 3.4,
    );
    expect(kinds(still(counting(0), rising))[1]).toEqual(['charge', 10, 19]);
  });
  it('a counter that never moves is a rest', () => {
    expect(cutSections(still(new Float64Array(30).fill(4)))).toMatchObject([
      { kind: 'rest', fromIndex: 0, toIndex: 29, ah: 0 },
    ]);
  });
  it('a pause of more than five times the usual wait parts two discharges', () => {
    const twice = (pause: number) => {
      const n = 20 + pause;
      let ah = 0;
      const counterAh = Float64Array.from({ length: n }, (_, i) =>
        i > 0 && (i < 10 || i >= 10 + pause) ? (ah += 0.1) : ah,
      );
      const trace = traceOf(
        Array.from({ length: n }, (_, i) => ({ t: 10 * i, v: 3.3 - i / 1000, i: 0 })),
      );
      return cutSections({ ...trace, currentA: null, counterAh }).filter(
        ({ kind }) => kind === 'discharge',
      ).length;
    };
    expect([3, 9].map(twice)).toEqual([1, 2]);
  });
  it('the current outside holes is their charge over their time', () => {
    const section = {
      kind: 'discharge' as const,
      fromIndex: 0,
      toIndex: 1,
      fromS: 0,
      toS: 3600,
      ah: 20,
    };
    expect(meanCurrentOf([section])).toBe(20);
    expect(
      meanCurrentOf([{ ...section, holes: [{ fromS: 0, toS: 1800, ah: 12 }] }, section]),
    ).toBeCloseTo(28 / 1.5, 12);
    expect(meanCurrentOf([])).toBeNull();
    expect(meanCurrentOf([{ ...section, toS: 0 }])).toBeNull();
  });
});

describe('columns as version 1 wrote them', () => {
  /** Written from the description of the format alone: byte planes of zigzag differences. */
  function written(
    integers: number[],
    { order = 0, decimals = 0, missing = [] as number[] } = {},
  ): Uint8Array {
    let series = integers;
    for (let pass = 0; pass < order; pass++)
      series = series.map((value, i) => (i === 0 ? value : value - series[i - 1]!));
    const codes = series.map((value) => (value >= 0 ? 2 * value : -2 * value - 1));
    let planes = 0;
    while (codes.some((code) => code >= 256 ** planes)) planes++;
    const n = integers.length;
    const flagged = missing.length > 0;
    const body = new Uint8Array(1 + planes * n + (flagged ? Math.ceil(n / 8) : 0));
    body[0] = planes;
    codes.forEach((code, i) => {
      for (let plane = 0; plane < planes; plane++)
        body[1 + plane * n + i] = Math.floor(code / 256 ** plane) % 256;
    });
    for (const i of missing) body[1 + planes * n + (i >> 3)]! |= 1 << (i & 7);
    const packed = deflateSync(body);
    const block = new Uint8Array(8 + packed.length);
    block.set([1, order, decimals, flagged ? 1 : 0]);
    new DataView(block.buffer).setUint32(4, n, true);
    block.set(packed, 8);
    return block;
  }
  it('are read as they were, of any width, order and number of digits', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: -(2 ** 40), max: 2 ** 40 }), { minLength: 1, maxLength: 60 }),
        fc.integer({ min: 0, max: 2 }),
        fc.integer({ min: 0, max: 6 }),
        (integers, order, decimals) => {
          expect([...decodeColumn(written(integers, { order, decimals }))]).toEqual(
            integers.map((value) => value / 10 ** decimals),
          );
        },
      ),
      { seed: 6 },
    );
  });
  it('samples that were missing are missing', () => {
    const read = decodeColumn(written([5, 6, 7, 8, 9, 10, 11, 12, 13, 14], { missing: [0, 7, 9] }));
    expect([...read].map((value) => (Number.isNaN(value) ? null : value))).toEqual([
      null,
      6,
      7,
      8,
      9,
      10,
      11,
      null,
      13,
      null,
    ]);
  });
  it('what is cut short or says another length is refused', () => {
    const block = written([1, 300, 70_000], { order: 1 });
    expect(() => decodeColumn(block.subarray(0, 8))).toThrow(RangeError);
    const longer = Uint8Array.from(block);
    longer[4] = 4;
    expect(() => decodeColumn(longer)).toThrow(/expected 13 bytes inside, found 10/);
  });
});
