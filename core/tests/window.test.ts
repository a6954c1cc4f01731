import { describe, expect, it } from 'vitest';
import {
  capacityFromWindow,
  cutSections,
  curveOf,
  differentialVoltage,
  dischargedAh,
  type CurveShape,
  type FullCurve,
  mainDischarge,
  oddCurves,
  readLog,
  shapeOf,
  unknownTesterAccuracy,
  windowCapacity,
} from '../src/evidence';
import { recordDischarge, rowsAsCsv, typicalCell } from '../src/simulator';

const discharged = (capacityAh: number, seed: number, cutoffV = 2.8, r0 = 1) => {
  const usual = typicalCell('NMC', 5);
  const rows = recordDischarge(
    { ...usual, capacityAh, r0Mohm: usual.r0Mohm * r0 },
    {
      currentA: 1,
      cutoffV,
      intervalS: 10,
      restBeforeS: 600,
      restAfterS: 600,
      ambientC: 25,
      seed,
    },
  );
  const { trace } = readLog(new TextEncoder().encode(rowsAsCsv(rows)));
  const sections = cutSections(trace, 5);
  const discharge = mainDischarge(sections)!;
  return { trace, sections, discharge };
};
const accuracy = unknownTesterAccuracy(1);
const fullCurve = (capacityAh: number, seed: number): FullCurve => {
  const { trace, discharge } = discharged(capacityAh, seed);
  const last = discharge.sections[0]!.toIndex;
  const curve = curveOf(trace, dischargedAh(trace, discharge), {
    from: discharge.sections[0]!.fromIndex,
    to: last,
    points: 220,
  });
  return {
    cell: `c${seed}`,
    ah: curve.chargeAh,
    voltageV: curve.voltageV,
    fullAh: curve.chargeAh[curve.chargeAh.length - 1]!,
  };
};

describe('between two voltages', () => {
  const { trace, discharge } = discharged(5, 3);
  const between = (fromV: number, toV: number) =>
    windowCapacity(trace, discharge, { fromV, toV }, { accuracy });
  it('is the difference of two cut-offs, and adds up over windows that join', () => {
    const [upper, lower, whole] = [between(3.9, 3.6), between(3.6, 3.2), between(3.9, 3.2)];
    expect(upper.figure!.value + lower.figure!.value).toBeCloseTo(whole.figure!.value, 9);
    expect(whole.figure!.quantity).toBe('windowCapacity');
    expect(whole.figure!.value).toBeLessThan(5);
    expect(whole.figure!.span!.fromS).toBeLessThan(whole.figure!.span!.toS);
  });
  it('is refused outside what the log passed through', () => {
    expect(between(3.2, 3.6).reason).toContain('upper voltage first');
    expect(between(4.3, 3.6).reason).toContain('not inside the log');
    expect(between(3.6, 2.5).reason).toContain('did not reach 2.5 V');
    expect(windowCapacity(trace, null, { fromV: 3.9, toV: 3.2 }, { accuracy }).reason).toContain(
      'no discharge',
    );
  });
  it('a full capacity is estimated from full curves of the model, within its uncertainty', () => {
    const partial = discharged(4.6, 40);
    const window = windowCapacity(
      partial.trace,
      partial.discharge,
      { fromV: 3.9, toV: 3.5 },
      { accuracy },
    ).figure!;
    const curves = [4.9, 5, 5.05, 4.8, 5.1].map((ah, i) => fullCurve(ah, 50 + i));
    const { figure } = capacityFromWindow(window, curves);
    const truth = partial.discharge.ah;
    expect(Math.abs(figure!.value - truth)).toBeLessThan(2 * figure!.standardUncertainty!);
    // The window is not half of the charge though it is well over half of the voltage: a share of
    // the voltage would be wrong by far.
    const proportional = (window.value * (4.2 - 2.8)) / (3.9 - 3.5);
    expect(Math.abs(proportional - truth)).toBeGreaterThan(0.3);
    expect(figure!.budget.some(({ name }) => name === 'spread of the model')).toBe(true);
  });
  it('between the rows of a full curve the charge lies on a straight line', () => {
    // 4 Ah evenly from 4 V to 3 V in eleven rows: 3.95 to 3.55 V is two fifths of it.
    const rows = Array.from({ length: 11 }, (_, k) => k / 10);
    const even = (cell: string, fullAh: number): FullCurve => ({
      cell,
      ah: rows.map((share) => fullAh * share),
      voltageV: rows.map((share) => 4 - share),
      fullAh,
    });
    const window = between(3.95, 3.55).figure!;
    const { figure } = capacityFromWindow(window, [even('a', 4), even('b', 5), even('c', 6)]);
    expect(figure!.value).toBeCloseTo(window.value / 0.4, 9);
    // All three say the same: what is left is the window’s own doubt.
    expect(figure!.standardUncertainty).toBeCloseTo(window.standardUncertainty! / 0.4, 9);
  });
  it('one curve allows it with a wider uncertainty; none does not allow it', () => {
    const window = between(3.9, 3.5).figure!;
    const one = capacityFromWindow(window, [fullCurve(5, 60)]).figure!;
    const many = capacityFromWindow(
      window,
      [61, 62, 63, 64].map((seed) => fullCurve(5, seed)),
    ).figure!;
    expect(one.standardUncertainty!).toBeGreaterThan(many.standardUncertainty!);
    expect(capacityFromWindow(window, []).reason).toContain('No full discharge of this model');
  });
});

describe('dV/dQ', () => {
  it('is the slope of a straight line, and zero on a flat one', () => {
    const ah = Array.from({ length: 1000 }, (_, i) => 0.005 * i);
    const slope = differentialVoltage(
      ah,
      ah.map((q) => 4 - 0.2 * q),
    )!;
    for (const value of slope.voltPerAh) expect(value).toBeCloseTo(0.2, 9);
    const flat = differentialVoltage(
      ah,
      ah.map(() => 3.3),
    )!;
    for (const value of flat.voltPerAh) expect(value).toBeCloseTo(0, 9);
    expect(differentialVoltage([0, 1], [4, 3])).toBeNull();
  });
  it('follows a curve: V = 4 − 0.01·q² has the slope 0.02·q', () => {
    const ah = Array.from({ length: 4000 }, (_, i) => 0.001 * i);
    const found = differentialVoltage(
      ah,
      ah.map((q) => 4 - 0.01 * q * q),
    )!;
    found.ah.forEach((q, i) => expect(found.voltPerAh[i]!).toBeCloseTo(0.02 * q, 3));
  });
});

describe('peaks of dQ/dV against the lot', () => {
  const withPeaks = (...volts: number[]): CurveShape => ({
    chargeTailV: null,
    knee: null,
    endSlopeVPerAh: null,
    relaxationV: { after1min: null, after10min: null, after1h: null },
    incremental: {
      voltageV: [],
      ahPerV: [],
      peaks: volts.map((voltageV) => ({ voltageV, ahPerV: 10 })),
    },
  });
  const lot = (odd: CurveShape) => {
    const shapes = new Map<string, CurveShape>();
    for (let i = 0; i < 12; i++)
      shapes.set(`c${i}`, withPeaks(3.3 + 0.001 * (i % 3), 3.6 + 0.001 * (i % 4)));
    shapes.set('odd', odd);
    return oddCurves(shapes).map(({ cell, kind }) => `${cell} ${kind}`);
  };
  it('names a missing and a shifted one, and only those', () => {
    expect(lot(withPeaks(3.301, 3.601))).toEqual([]);
    expect(lot(withPeaks(3.601))).toEqual(['odd missingPeak']);
    expect(lot(withPeaks(3.301, 3.625))).toEqual(['odd shiftedPeak']);
  });
  it('the shape of a log carries both derivatives, short enough to keep', () => {
    const { trace, sections, discharge } = discharged(5, 9);
    const shape = shapeOf(trace, sections, discharge, 5);
    expect(shape.incremental!.peaks.length).toBeGreaterThan(0);
    const charge = shape.incremental!.ahPerV.reduce((sum, q) => sum + q * 0.005, 0);
    expect(charge).toBeGreaterThan(0.85 * discharge.ah);
    expect(charge).toBeLessThan(1.05 * discharge.ah);
    expect(JSON.stringify(shape).length).toBeLessThan(12_000);
  });
});
