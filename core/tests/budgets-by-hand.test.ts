import { describe, expect, it } from 'vitest';
import { type Accuracy, capacityToCutoff, cutSections, mainDischarge } from '../src/evidence';
import { seededRandom, studentFactor } from '../src/statistics';
import type { Figure } from '../src/units';
import { medianOf, typedFigure, type TypedReading } from '../src/verdicts';
import { traceOf } from '../testing/trace-of';

const ROOT3 = Math.sqrt(3);
const partOf = (figure: Figure, kind: string) =>
  figure.budget.find((part) => part.kind === kind)?.standardUncertainty ?? null;
const sumOf = (figure: Figure) =>
  Math.sqrt(figure.budget.reduce((sum, part) => sum + part.standardUncertainty ** 2, 0));

describe('a reading typed off a meter', () => {
  const reading: TypedReading = {
    value: 0.4,
    gainPct: 0.5,
    offset: 0.003,
    decimals: 3,
    source: 'its data sheet',
  };
  it('carries the gain of what was read, the offset and half of the last digit, all rectangular', () => {
    const figure = typedFigure('acResistance', reading);
    expect(partOf(figure, 'gain')).toBeCloseTo(0.002 / ROOT3, 12);
    expect(partOf(figure, 'offset')).toBeCloseTo(0.003 / ROOT3, 12);
    expect(partOf(figure, 'resolution')).toBeCloseTo(0.0005 / ROOT3, 12);
    expect(partOf(figure, 'probeContact')).toBeNull();
    expect(figure.standardUncertainty).toBeCloseTo(sumOf(figure), 12);
    expect(figure).toMatchObject({ bound: 'exact', unit: 'mΩ', value: 0.4 });
  });
  it('a negative reading has the gain of its size; digits of 10 are digits, too', () => {
    const figure = typedFigure('openCircuitVoltage', { ...reading, value: -2, decimals: 0 });
    expect(partOf(figure, 'gain')).toBeCloseTo(0.01 / ROOT3, 12);
    expect(partOf(figure, 'resolution')).toBeCloseTo(0.5 / ROOT3, 12);
  });
  it('over a joint it says at most; behind an inverter at least; a mere number says what it lacks', () => {
    expect(typedFigure('acResistance', { ...reading, probe: 'bolt' })).toMatchObject({
      bound: 'atMost',
      findings: [{ code: 'probe-over-joint' }],
    });
    expect(typedFigure('acResistance', { ...reading, probe: 'bar' }).bound).toBe('atMost');
    expect(typedFigure('acResistance', { ...reading, probe: 'terminal' }).bound).toBe('exact');
    expect(typedFigure('energyBehindInverter', { ...reading, value: 300 }).bound).toBe('atLeast');
    expect(typedFigure('capacity', { ...reading, value: 100 }).findings).toMatchObject([
      { code: 'typed-without-points' },
    ]);
  });
  it.each([2, 3, 4, 5, 6, 7, 8, 9])(
    '%d readings carry what their median scatters by, as throwing dice says',
    (count) => {
      const repeats = [0.39, ...Array.from({ length: count - 2 }, () => 0.4), 0.42];
      const figure = typedFigure('acResistance', { ...reading, repeats });
      const part = partOf(figure, 'probeContact')!;
      // Of three normal values the median scatters by 0.67 σ, and their range is 1.69 σ on average.
      const middle = count >> 1;
      const random = seededRandom(3);
      let [squares, ranges] = [0, 0];
      const n = 20_000;
      for (let i = 0; i < n; i++) {
        const drawn = Array.from({ length: count }, () => random.normal()).sort((a, b) => a - b);
        const median = count % 2 === 1 ? drawn[middle]! : (drawn[middle - 1]! + drawn[middle]!) / 2;
        squares += median ** 2;
        ranges += drawn[count - 1]! - drawn[0]!;
      }
      // A range is worth so many degrees of freedom: ±2u takes Student’s factor for them.
      const degrees = [1, 2, 2.9, 3.8, 4.7, 5.5, 6.3, 7][count - 2]!;
      const share = (Math.sqrt(squares / n) / (ranges / n)) * studentFactor(degrees);
      expect(part / 0.03).toBeGreaterThan(0.9 * share);
      expect(part / 0.03).toBeLessThan(1.04 * share);
    },
  );
  it('one reading, or none beside the value, has no scatter', () => {
    for (const repeats of [null, [], [0.4]])
      expect(
        partOf(typedFigure('acResistance', { ...reading, repeats }), 'probeContact'),
      ).toBeNull();
  });
  it('readings far apart are told, with what to do', () => {
    const codes = (repeats: number[]) =>
      typedFigure('acResistance', { ...reading, repeats }).findings.map(({ code }) => code);
    expect(codes([0.39, 0.4, 0.409])).toEqual([]);
    expect(codes([0.38, 0.4, 0.43])).toEqual(['readings-spread']);
  });
  it('the middle of readings', () => {
    expect(medianOf([4.3, 4.1, 4.2])).toBe(4.2);
    expect(medianOf([4, 1, 3, 2])).toBe(2.5);
    expect(medianOf([7])).toBe(7);
    expect(medianOf([9, 1])).toBe(5);
    expect(() => medianOf([])).toThrow(RangeError);
  });
});

describe('the budget of a capacity, part by part', () => {
  /** 20 A for two hours, 1 mV in a minute at the end: 0.333 Ah a millivolt. */
  const trace = traceOf(
    Array.from({ length: 723 }, (_, k) => ({
      t: 10 * k,
      v: k < 3 ? 3.4 : 3.3 - (k * 10) / 60_000,
      i: k < 3 ? 0 : -20,
    })),
  );
  const cutoffV = 3.2;
  const of = (accuracy: Partial<Accuracy>) =>
    capacityToCutoff(trace, mainDischarge(cutSections(trace))!, {
      cutoffV,
      accuracy: {
        currentGainPct: 0,
        currentOffsetA: 0,
        voltageGainPct: 0,
        voltageOffsetV: 0,
        timePpm: 0,
        source: 'test',
        ...accuracy,
      },
    }).capacity;
  const value = of({}).value;

  it('gain and clock by their share of the charge', () => {
    expect(partOf(of({ currentGainPct: 0.5 }), 'currentGain')).toBeCloseTo(
      (0.005 * value) / ROOT3,
      9,
    );
    expect(partOf(of({ timePpm: 200 }), 'timeBase')).toBeCloseTo((200e-6 * value) / ROOT3, 12);
  });
  it('an offset by the hours it lasted', () => {
    expect(partOf(of({ currentOffsetA: 0.02 }), 'currentOffset')).toBeCloseTo(
      (0.02 * (value / 20)) / ROOT3,
      6,
    );
  });
  it('the cut-off by the charge a millivolt is worth there', () => {
    // 20 A a minute are 0.3333 Ah; 3 mV of offset are 1 Ah.
    expect(partOf(of({ voltageOffsetV: 0.003 }), 'cutoffVoltage')).toBeCloseTo(1 / ROOT3, 2);
    // 0.1 % of 3.2 V are 3.2 mV.
    expect(partOf(of({ voltageGainPct: 0.1 }), 'cutoffVoltage')).toBeCloseTo(1.0667 / ROOT3, 2);
  });
  it('what is exact adds nothing; all together are their root sum of squares', () => {
    const all = of({
      currentGainPct: 0.5,
      currentOffsetA: 0.02,
      voltageOffsetV: 0.003,
      timePpm: 100,
    });
    expect(all.standardUncertainty).toBeCloseTo(sumOf(all), 12);
    expect(all.value).toBe(value);
    const perfect = of({});
    for (const kind of ['currentGain', 'currentOffset', 'timeBase', 'cutoffVoltage'])
      expect(partOf(perfect, kind) ?? 0, kind).toBe(0);
    // What is left: when the load came on, and how runs of one cell scatter.
    expect(perfect.standardUncertainty).toBeGreaterThan(0);
  });
  it('a twice as uncertain meter is never surer', () => {
    for (const name of [
      'currentGainPct',
      'currentOffsetA',
      'voltageGainPct',
      'voltageOffsetV',
      'timePpm',
    ] as const) {
      const u = (size: number) => of({ [name]: size }).standardUncertainty!;
      expect(u(0.02), name).toBeGreaterThan(u(0.01));
      expect(u(0.01), name).toBeGreaterThanOrEqual(u(0));
    }
  });
});
