import { describe, expect, it } from 'vitest';
import { enoughIsKnown } from '../src/bench';
import { recordDischarge, typicalCell } from '../src/simulator';
import type { WholeCurve } from '../src/units';

/** A whole discharge of a simulated cell of so many Ah. */
function curveOf(holdsAh: number, seed: number): WholeCurve {
  const rows = recordDischarge(typicalCell('LFP', holdsAh), {
    currentA: 20.8,
    cutoffV: 2.5,
    intervalS: 60,
    restBeforeS: 0,
    restAfterS: 0,
    ambientC: 25,
    seed,
  });
  let ah = 0;
  const chargeAh = rows.map((row, i) => {
    if (i > 0) ah += (Math.abs(row.currentA) * (row.timeS - rows[i - 1]!.timeS)) / 3600;
    return ah;
  });
  return { chargeAh, voltageV: rows.map(({ voltageV }) => voltageV), standardUncertaintyAh: 0.2 };
}

const LOT = [104, 105, 106, 107].map((ah, i) => curveOf(ah, 20 + i));
const at = (chargeAh: number, voltageV: number, more: object = {}) => ({
  charge: { value: chargeAh, standardUncertainty: 0.25, bound: 'exact' as const },
  voltageV,
  voltageUncertaintyV: 0.001,
  currentA: 20.8,
  claimedAh: 104,
  guardFactor: 1,
  ...more,
});

describe('enough is known', () => {
  it('met already as soon as the charge less g·U reaches the claim, not before', () => {
    expect(enoughIsKnown(at(104.49, 2.95), LOT).kind).toBe('open');
    const met = enoughIsKnown(at(104.51, 2.95), LOT);
    expect(met).toMatchObject({ kind: 'metAlready', atLeastAh: 104.51 });
    expect(enoughIsKnown(at(104.3, 2.95, { guardFactor: 0.5 }), LOT).kind).toBe('metAlready');
    expect(enoughIsKnown(at(104, 2.95, { guardFactor: 0 }), LOT).kind).toBe('metAlready');
  });

  it('says what ending now saves by the curves of the lot', () => {
    const met = enoughIsKnown(at(104.6, 3.0), LOT);
    if (met.kind !== 'metAlready') throw new Error(met.kind);
    expect(met.savesH!).toBeCloseTo(met.savesAh! / 20.8, 9);
    expect(met.savesAh!).toBeGreaterThan(0);
    expect(met.text).toContain('at least');
    expect(enoughIsKnown(at(104.6, 3.0), [])).toMatchObject({ savesH: null, savesAh: null });
  });

  it('cannot be met any more where even the best curve from here falls short by its uncertainty', () => {
    const weak = enoughIsKnown(at(80, 2.9), LOT);
    expect(weak.kind).toBe('cannotBeMet');
    if (weak.kind === 'cannotBeMet') {
      expect(weak.mostAh).toBeLessThan(104);
      expect(weak.text).toMatch(/^Forecast/);
    }
    expect(enoughIsKnown(at(80, 3.25), LOT).kind, 'much may come').toBe('open');
  });

  it('never says so of a cell like those of the lot, at any point of its discharge', () => {
    const own = curveOf(104.5, 91);
    for (let i = 5; i < own.voltageV.length; i += 5) {
      const now = at(own.chargeAh[i]!, own.voltageV[i]!);
      expect(enoughIsKnown(now, LOT).kind).not.toBe('cannotBeMet');
    }
  });

  it('nor by a voltage that is known within 30 mV only: on a flat curve that is half of the charge', () => {
    for (const [seed, doubtV] of [
      [92, 0.015],
      [93, 0.03],
    ] as const) {
      const own = curveOf(104.5, seed);
      for (let i = 5; i < own.voltageV.length; i += 5) {
        const now = at(own.chargeAh[i]!, own.voltageV[i]! - 2 * doubtV, {
          voltageUncertaintyV: doubtV,
        });
        expect(enoughIsKnown(now, LOT).kind).not.toBe('cannotBeMet');
      }
    }
  });

  it('says nothing without an uncertainty, of an upper bound, without a curve', () => {
    const unknown = { value: 120, standardUncertainty: null, bound: 'exact' as const };
    expect(enoughIsKnown(at(0, 3, { charge: unknown }), LOT).kind).toBe('open');
    const most = { value: 120, standardUncertainty: 0.1, bound: 'atMost' as const };
    expect(enoughIsKnown(at(0, 3, { charge: most }), LOT).kind).toBe('open');
    expect(enoughIsKnown(at(50, 2.6), []).kind).toBe('open');
    const unsure = LOT.map((curve) => ({ ...curve, standardUncertaintyAh: null }));
    expect(enoughIsKnown(at(50, 2.6), unsure).kind).toBe('open');
  });
});
