import { describe, expect, it } from 'vitest';
import { chargeSlopeAt, monthlyLoss, selfDischargeSlope } from '../src/resting';
import { recordDischarge, openCircuitVoltage, typicalCell } from '../src/simulator';
import type { WholeCurve } from '../src/units';

/** Slow discharges of simulated cells, and their drop against rest. */
const curvesOf = (chemistry: 'NMC' | 'LFP', amps: number): WholeCurve[] =>
  [19.6, 20, 20.3, 20.1].map((ah, i) => {
    const rows = recordDischarge(typicalCell(chemistry, ah), {
      currentA: amps,
      cutoffV: chemistry === 'NMC' ? 2.8 : 2.5,
      intervalS: 60,
      restBeforeS: 0,
      restAfterS: 0,
      ambientC: 25,
      seed: 30 + i,
      channel: { voltageNoiseV: 0 },
    });
    return {
      chargeAh: rows.map(({ timeS }) => (amps * timeS) / 3600),
      voltageV: rows.map(({ voltageV }) => voltageV),
      standardUncertaintyAh: 0.05,
    };
  });

/** Drop of a 20 Ah cell at 2 A once its slow parts have settled, V. */
const DROP_V = (2 * (8 + 4 + 9) * (6 / 20)) / 1000;

describe('charge against voltage at rest, by slow discharges', () => {
  it('is that of the open-circuit curve within its uncertainty', () => {
    for (const soc of [0.9, 0.8, 0.6]) {
      const v = openCircuitVoltage('NMC', soc);
      const truth =
        0.02 / (openCircuitVoltage('NMC', soc + 0.01) - openCircuitVoltage('NMC', soc - 0.01));
      const { slope } = chargeSlopeAt(curvesOf('NMC', 2), v, DROP_V);
      expect(Math.abs(slope!.perVolt - truth)).toBeLessThan(2 * slope!.standardUncertainty);
      expect(slope!.standardUncertainty / slope!.perVolt).toBeLessThan(0.4);
    }
  });

  /** A curve straight between corners, full at the first: share of the charge taken out, V. */
  const straight = (...corners: readonly (readonly [share: number, v: number])[]): WholeCurve => ({
    chargeAh: corners.map(([share]) => 10 * share),
    voltageV: corners.map(([, v]) => v),
    standardUncertaintyAh: 0.05,
  });
  const between = (fullV: number, emptyV: number) => straight([0, fullV], [1, emptyV]);

  it('of three straight curves it is the middle one, and how they scatter is in its doubt', () => {
    // 1/V, 1/1.1 V and 1/1.25 V: deviations from the middle 0.0909, 0 and 0.1091.
    const found = chargeSlopeAt([between(4, 3), between(4.1, 3), between(4.25, 3)], 3.6, 0.1);
    expect(found).toMatchObject({ curves: 3 });
    const { slope } = found;
    expect(slope!.perVolt).toBeCloseTo(1 / 1.1, 9);
    expect(slope!.standardUncertainty).toBeCloseTo(
      Math.hypot(1.4826 * (1 - 1 / 1.1), 0.1 / 1.1 / Math.sqrt(3)),
      9,
    );
  });

  it.each([
    ['above', 3.51],
    ['below', 3.49],
  ])('a bend 10 mV %s where it stands is in its doubt', (_, bendV) => {
    // 0.5 of the charge in the upper half volt, the rest in 0.25 V below it: 1/V and 2/V.
    const bent = straight([0, bendV + 0.5], [0.5, bendV], [1, bendV - 0.25]);
    const { slope } = chargeSlopeAt([bent, bent, bent], 3.5, 0);
    const here = bendV < 3.5 ? 1 : 2;
    expect(slope!.perVolt).toBeCloseTo(here, 9);
    // Read 10 mV off, half of the width lies beyond the bend.
    expect(slope!.standardUncertainty).toBeCloseTo(
      Math.hypot(0.5 / Math.sqrt(3), (0.1 * here) / Math.sqrt(3)),
      9,
    );
  });

  it('a curve that ends within the width it is taken over does not stand there', () => {
    const whole = between(4, 3);
    const ends = between(4, 3.495);
    const begins = between(3.505, 3);
    for (const short of [ends, begins]) {
      expect(chargeSlopeAt([whole, whole, short], 3.5, 0).refused).toMatch(/do not reach 3.500 V/);
      expect(chargeSlopeAt([whole, whole, whole, short], 3.5, 0)).toMatchObject({ curves: 3 });
    }
  });

  it('is refused with too few curves, and where none of them stands', () => {
    expect(chargeSlopeAt(curvesOf('NMC', 2).slice(0, 2), 3.9, DROP_V).refused).toMatch(
      /2 slow discharges .* takes 3/,
    );
    expect(chargeSlopeAt(curvesOf('NMC', 2), 4.4, DROP_V).refused).toMatch(/do not reach 4.400 V/);
  });

  it('on a flat curve a month’s loss is refused, not guessed', () => {
    const v = openCircuitVoltage('LFP', 0.6);
    const found = chargeSlopeAt(curvesOf('LFP', 2), v, DROP_V);
    const reading = (days: number, voltageV: number) => ({
      days,
      voltageV,
      temperatureC: 22,
      limitV: 0.001,
    });
    const slope = selfDischargeSlope([reading(1, v), reading(15, v - 0.0004)])!;
    expect(found.slope === null || monthlyLoss(slope, found.slope).refused !== null).toBe(true);
  });

  it('a known leak is found again: 1 mV a day at 0.9 of a volt-per-charge is so many per cent a month', () => {
    const v = openCircuitVoltage('NMC', 0.85);
    const { slope: curve } = chargeSlopeAt(curvesOf('NMC', 2), v, DROP_V);
    const reading = (days: number, voltageV: number) => ({
      days,
      voltageV,
      temperatureC: 22,
      limitV: 0.0002,
    });
    const slope = selfDischargeSlope([1, 4, 8, 14].map((day) => reading(day, v - 0.001 * day)))!;
    const { figure } = monthlyLoss(slope, curve!);
    expect(figure!.value).toBeCloseTo(100 * 30 * 0.001 * curve!.perVolt, 6);
    expect(figure!.budget.map(({ kind }) => kind)).toContain('chargeCurve');
  });
});
