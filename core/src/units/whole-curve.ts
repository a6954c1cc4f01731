/** A discharge that went down to its cut-off: charge given and voltage, in order. */
export interface WholeCurve {
  /** Ah, ascending from 0. */
  chargeAh: ArrayLike<number>;
  /** V. */
  voltageV: ArrayLike<number>;
  /** Standard uncertainty of its whole charge, Ah; null where it is not known. */
  standardUncertaintyAh: number | null;
}

/**
 * Charge a whole curve gave before it fell to a voltage for good, Ah; null where it began below.
 * A curve that never fell so low gives all it has.
 * @param voltage V.
 */
export function chargeAtVoltage(
  { chargeAh, voltageV }: Pick<WholeCurve, 'chargeAh' | 'voltageV'>,
  voltage: number,
): number | null {
  for (let i = voltageV.length - 1; i >= 0; i--)
    if (voltageV[i]! >= voltage) {
      const [above, below] = [voltageV[i]!, voltageV[i + 1]];
      if (below === undefined) return chargeAh[i]!;
      const share = above === below ? 0 : (above - voltage) / (above - below);
      return chargeAh[i]! + share * (chargeAh[i + 1]! - chargeAh[i]!);
    }
  return null;
}

/** All the charge a whole curve gave, Ah. */
export const wholeCharge = ({ chargeAh }: Pick<WholeCurve, 'chargeAh'>): number =>
  chargeAh[chargeAh.length - 1]!;

/** What a whole curve had left from a voltage on, Ah; null where it never stood there. */
export function leftFromVoltage(curve: WholeCurve, voltage: number): number | null {
  const at = chargeAtVoltage(curve, voltage);
  return at === null ? null : wholeCharge(curve) - at;
}
