import type { HandPoint, HandSetting } from '../src/evidence';
import { recordDischarge, typicalCell } from '../src/simulator';
import type { WholeCurve } from '../src/units';

/** 0.5 % of reading, as a display tester states it. */
const ACCURACY = {
  currentGainPct: 0.5,
  currentOffsetA: 0.01,
  voltageGainPct: 0,
  voltageOffsetV: 0.005,
  timePpm: 100,
  source: 'its manual',
};
export const SETTING: HandSetting = {
  cutoffV: 2.5,
  setCutoffV: 2.4,
  setA: 20.8,
  wires: 2,
  leadMohm: 0,
  countAtStartAh: 0,
  expectedAh: 104,
  ambientC: null,
  accuracy: ACCURACY,
};

export const point = (
  hours: number,
  values: HandPoint['values'],
  more: Partial<HandPoint> = {},
): HandPoint => ({
  atS: hours * 3600,
  values,
  decimals: Object.fromEntries(
    Object.entries(values).map(([field, value]) => [
      field,
      String(value).split('.')[1]?.length ?? 0,
    ]),
  ),
  isStop: false,
  ...more,
});

/** Charge and the cell's own voltage of a simulated discharge, well past its cut-off. */
export function trueCurve(holdsAh: number, seed: number): WholeCurve {
  const rows = recordDischarge(typicalCell('LFP', holdsAh), {
    currentA: 20.8,
    cutoffV: 2.2,
    intervalS: 60,
    restBeforeS: 0,
    restAfterS: 0,
    ambientC: 25,
    seed,
    channel: { voltageNoiseV: 0 },
  });
  return {
    chargeAh: rows.map(({ timeS }) => (20.8 * timeS) / 3600),
    voltageV: rows.map(({ voltageV }) => voltageV),
    standardUncertaintyAh: 0.3,
  };
}

/** As logs keep them: down to the claim's cut-off. */
function downTo(curve: WholeCurve, v: number): WholeCurve {
  const end = Array.from(curve.voltageV).findIndex((volts) => volts <= v) + 1;
  return {
    ...curve,
    chargeAh: Array.from(curve.chargeAh).slice(0, end),
    voltageV: Array.from(curve.voltageV).slice(0, end),
  };
}

export const LOT = [101, 103, 104, 105, 107].map((ah, i) => downTo(trueCurve(ah, 40 + i), 2.5));

export function interpolate(xs: ArrayLike<number>, ys: ArrayLike<number>, x: number): number {
  for (let i = 1; i < xs.length; i++)
    if (xs[i]! >= x)
      return ys[i - 1]! + ((ys[i]! - ys[i - 1]!) * (x - xs[i - 1]!)) / (xs[i]! - xs[i - 1]!);
  return ys[ys.length - 1]!;
}
