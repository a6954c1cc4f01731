import { median, medianAbsoluteDeviation } from '../statistics';
import { chargeAtVoltage, rootSumOfSquares, wholeCharge, type WholeCurve } from '../units';
import type { ChargeSlope } from './self-discharge';

/** dSoC/dV at a voltage, or why the curves do not tell it. */
export type ChargeSlopeFound =
  { slope: ChargeSlope; curves: number; refused: null } | { slope: null; refused: string };

/** Fewer curves of a model tell no slope. */
const LEAST_CURVES = 3;
/** Half the width a slope is taken over, V. */
const HALF_V = 0.01;
/** The drop of a discharge against rest is known within this, V: a house default. */
const DROP_KNOWN_V = 0.01;
/** A discharge’s slope is the one at rest within this share: a house default. */
const AS_AT_REST = 0.1;
const ROOT_3 = Math.sqrt(3);

/** dSoC/dV of one curve at a voltage, 1/V; null where it does not stand there, or ends within the width. */
function slopeOf(curve: WholeCurve, v: number): number | null {
  // Below its end a curve has no slope: that nothing more came out of it is the tester’s doing.
  if (v - HALF_V < curve.voltageV[curve.voltageV.length - 1]!) return null;
  const [above, below] = [chargeAtVoltage(curve, v + HALF_V), chargeAtVoltage(curve, v - HALF_V)];
  return above === null || below === null
    ? null
    : (below - above) / (2 * HALF_V) / wholeCharge(curve);
}

/**
 * How much charge a volt is at a resting voltage, by slow discharge curves of the model (handbook,
 * chapter 4). The curves were taken under load: they are read lower by the drop at their current.
 * @param restV of the cell that stands, V. @param dropV of the curves against rest, V.
 */
export function chargeSlopeAt(
  curves: readonly WholeCurve[],
  restV: number,
  dropV: number,
): ChargeSlopeFound {
  const at = (v: number) => curves.flatMap((curve) => slopeOf(curve, v) ?? []);
  const here = at(restV - dropV);
  if (here.length < LEAST_CURVES)
    return {
      slope: null,
      refused:
        curves.length < LEAST_CURVES
          ? `${curves.length} slow discharges of this model are known; it takes ${LEAST_CURVES}.`
          : `The model’s slow discharges do not reach ${restV.toFixed(3)} V at rest.`,
    };
  const perVolt = median(here);
  const beside = [at(restV - dropV - DROP_KNOWN_V), at(restV - dropV + DROP_KNOWN_V)]
    .filter((slopes) => slopes.length > 0)
    .map((slopes) => Math.abs(median(slopes) - perVolt));
  return {
    slope: {
      perVolt,
      standardUncertainty: rootSumOfSquares([
        1.4826 * medianAbsoluteDeviation(here),
        Math.max(0, ...beside) / ROOT_3,
        (AS_AT_REST * perVolt) / ROOT_3,
      ]),
    },
    curves: here.length,
    refused: null,
  };
}
