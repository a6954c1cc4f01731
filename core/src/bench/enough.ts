import { type Estimate, expandedUncertainty, rootSumOfSquares } from '../units';

/** A discharge under way against its claim, at the claim’s conditions. */
export interface ChargeSoFar {
  /** Charge given so far, Ah, with what is known of its uncertainty. */
  charge: Estimate;
  /** Voltage now, V. */
  voltageV: number;
  /** Current it is discharged at, A. */
  currentA: number;
  claimedAh: number;
  /** g of the guard band g·U; 1 by default of the lab. */
  guardFactor: number;
}

/** A discharge of the same model that went down to the claim’s cut-off: charge and voltage, in order. */
export interface WholeCurve {
  chargeAh: ArrayLike<number>;
  voltageV: ArrayLike<number>;
  /** Standard uncertainty of its whole charge, Ah; null where it is not known. */
  standardUncertaintyAh: number | null;
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

/** Charge a whole curve gave before it fell to a voltage for good, Ah; null where it began below. */
function chargeAtVoltage({ chargeAh, voltageV }: WholeCurve, voltage: number): number | null {
  for (let i = voltageV.length - 1; i >= 0; i--)
    if (voltageV[i]! >= voltage) {
      const [above, below] = [voltageV[i]!, voltageV[i + 1]];
      if (below === undefined) return chargeAh[i]!;
      const share = above === below ? 0 : (above - voltage) / (above - below);
      return chargeAh[i]! + share * (chargeAh[i + 1]! - chargeAh[i]!);
    }
  return null;
}

/** What a whole curve had left from a voltage on, Ah; null where it never stood there. */
function leftFrom(curve: WholeCurve, voltage: number): number | null {
  const at = chargeAtVoltage(curve, voltage);
  return at === null ? null : curve.chargeAh[curve.chargeAh.length - 1]! - at;
}

const ah = (value: number) => `${value.toPrecision(4)} Ah`;

/**
 * Whether a discharge under way says enough: its claim is *met already* as soon as the charge so far less
 * g·U reaches it; it *cannot be met any more* where even the best of the lot’s whole curves, from the
 * present voltage on, falls short by more than g times the combined U. The second is a forecast and never
 * a verdict (handbook, chapters 2 and 3).
 * @param curves whole discharges of the same model at like conditions.
 */
export function enoughIsKnown(
  { charge, voltageV, currentA, claimedAh, guardFactor }: ChargeSoFar,
  curves: readonly WholeCurve[],
): Enough {
  const U = expandedUncertainty(charge);
  if (U === null || charge.bound === 'atMost' || !(claimedAh > 0)) return { kind: 'open' };
  const left = curves.flatMap((curve) => {
    const ahLeft = leftFrom(curve, voltageV);
    return ahLeft === null ? [] : [{ ahLeft, u: curve.standardUncertaintyAh }];
  });
  if (charge.value - guardFactor * U >= claimedAh) {
    const middle = left.map(({ ahLeft }) => ahLeft).toSorted((a, b) => a - b)[left.length >> 1];
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
  const best = left.reduce<(typeof left)[number] | null>(
    (most, one) => (most === null || one.ahLeft > most.ahLeft ? one : most),
    null,
  );
  if (!best || best.u === null || charge.standardUncertainty === null) return { kind: 'open' };
  const mostAh = charge.value + best.ahLeft;
  const standardUncertainty = rootSumOfSquares([charge.standardUncertainty, best.u]);
  if (mostAh + 2 * Math.max(1, guardFactor) * standardUncertainty >= claimedAh)
    return { kind: 'open' };
  return {
    kind: 'cannotBeMet',
    mostAh,
    standardUncertainty,
    text: `Forecast: even with the best of ${left.length} curves from ${voltageV.toFixed(3)} V on it comes to ${ah(mostAh)} ± ${ah(2 * standardUncertainty)}, below the ${ah(claimedAh)} claimed. No verdict before it has ended.`,
  };
}
