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
