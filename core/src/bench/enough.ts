import {
  type Estimate,
  expandedUncertainty,
  formatWithUncertainty,
  leftFromVoltage,
  rootSumOfSquares,
  type WholeCurve,
} from '../units';

/** A discharge under way against its claim, at the claim’s conditions. */
export interface ChargeSoFar {
  /** Charge given so far, Ah, with what is known of its uncertainty. */
  charge: Estimate;
  /** Voltage of the cell now, V, with its standard uncertainty. */
  voltageV: number;
  voltageUncertaintyV: number;
  /** Current it is discharged at, A. */
  currentA: number;
  claimedAh: number;
  /** g of the guard band g·U; 1 by default of the lab. */
  guardFactor: number;
}

/** What is known already. */
export type Enough =
  | {
      kind: 'metAlready';
      /** The result if it ended now: at least this. */
      atLeastAh: number;
      /** Time to the expected end, h, and charge that need not be put back, Ah; null where no curve tells. */
      savesH: number | null;
      savesAh: number | null;
      text: string;
    }
  | {
      kind: 'cannotBeMet';
      /** The most the lot’s best curve from here makes of it, Ah. */
      mostAh: number;
      standardUncertainty: number;
      text: string;
    }
  | { kind: 'open' };

/** Cells of one model at one charge and load differ by so much in voltage, V: a house default. */
const CELLS_DIFFER_V = 0.005;

const ah = (value: number) => `${value.toPrecision(4)} Ah`;

/**
 * Whether a discharge under way says enough: its claim is *met already* as soon as the charge so far less
 * g·U reaches it; it *cannot be met any more* where even the best of the lot’s whole curves, from the
 * present voltage on, falls short by more than g times the combined U. The second is a forecast and never
 * a verdict (handbook, chapters 2 and 3).
 * @param curves whole discharges of the same model at like conditions.
 */
export function enoughIsKnown(
  { charge, voltageV, voltageUncertaintyV, currentA, claimedAh, guardFactor }: ChargeSoFar,
  curves: readonly WholeCurve[],
): Enough {
  const U = expandedUncertainty(charge);
  if (U === null || charge.bound === 'atMost' || !(claimedAh > 0)) return { kind: 'open' };
  const leftAt = (v: number) =>
    curves.flatMap((curve) => {
      const ahLeft = leftFromVoltage(curve, v);
      return ahLeft === null ? [] : [{ ahLeft, u: curve.standardUncertaintyAh }];
    });
  if (charge.value - guardFactor * U >= claimedAh) {
    const left = leftAt(voltageV).map(({ ahLeft }) => ahLeft);
    const middle = left.toSorted((a, b) => a - b)[left.length >> 1];
    const savesAh = middle ?? null;
    const savesH = savesAh !== null && currentA > 0 ? savesAh / currentA : null;
    return {
      kind: 'metAlready',
      atLeastAh: charge.value,
      savesAh,
      savesH,
      text: `Met already: ${ah(charge.value)} less ${ah(guardFactor * U)} reaches the ${ah(claimedAh)} claimed. Ended now the result is at least that${savesH === null ? '' : `, and about ${savesH.toFixed(1)} h are saved`}.`,
    };
  }
  const wide = Math.max(1, guardFactor);
  // On a flat curve a few millivolts are half of the charge: the best is taken from the highest voltage
  // it may stand at, and a curve that never stood so high says nothing against it.
  const highestV = voltageV + 2 * wide * Math.hypot(voltageUncertaintyV, CELLS_DIFFER_V);
  const left = leftAt(highestV);
  if (left.length < curves.length) return { kind: 'open' };
  const best = left.reduce<(typeof left)[number] | null>(
    (most, one) => (most === null || one.ahLeft > most.ahLeft ? one : most),
    null,
  );
  if (!best || best.u === null || charge.standardUncertainty === null) return { kind: 'open' };
  const mostAh = charge.value + best.ahLeft;
  const standardUncertainty = rootSumOfSquares([charge.standardUncertainty, best.u]);
  if (mostAh + 2 * wide * standardUncertainty >= claimedAh) return { kind: 'open' };
  const { value, uncertainty } = formatWithUncertainty(mostAh, 2 * standardUncertainty);
  return {
    kind: 'cannotBeMet',
    mostAh,
    standardUncertainty,
    text: `Forecast: even with the best of ${left.length} curves from ${voltageV.toFixed(3)} V on it comes to ${value} ± ${uncertainty} Ah, below the ${ah(claimedAh)} claimed. No verdict before it has ended.`,
  };
}
