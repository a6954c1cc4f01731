/** A rise beyond this is no reading of a cell that stands, V. */
const MOST_RISE_V = 0.005;
/** A fall beyond this is asked about, V. */
const MOST_FALL_V = 0.2;
/** No cell stands so far above the voltage it is charged to, V. */
const MOST_ABOVE_V = 0.2;
const mv = (volts: number) => `${(1000 * volts).toFixed(0)} mV`;

/**
 * Why a voltage can be none of a cell of this chemistry that stands: refused, not asked about; null
 * where it can.
 * @param expectedV cut-off and charge voltage of its model, V.
 * @example impossibleRest(41.57, [2.8, 4.2]) // 'Expected 0 to 4.4 V for such a cell; found 41.57 V.'
 */
export function impossibleRest(
  valueV: number,
  [, chargeV]: readonly [number, number],
): string | null {
  const most = chargeV + MOST_ABOVE_V;
  return valueV >= 0 && valueV <= most
    ? null
    : `Expected 0 to ${Number(most.toFixed(2))} V for such a cell; found ${valueV} V.`;
}

/**
 * What is odd about a voltage of a cell that stands, as a question; null where nothing is (handbook,
 * chapter 4).
 * @param expectedV cut-off and charge voltage of its model, V. @param lastV read before, V.
 * @example restDoubt(3.1, [2.5, 3.65], 3.3) // null
 */
export function restDoubt(
  valueV: number,
  [cutoffV, chargeV]: readonly [number, number],
  lastV: number | null,
): string | null {
  if (valueV < cutoffV)
    return `${valueV} V is below the cut-off of ${cutoffV} V. Is it this cell? If it is, its rest is over, and it goes to triage at once.`;
  if (valueV > chargeV) return `${valueV} V is above the charge voltage of ${chargeV} V.`;
  if (lastV === null) return null;
  if (valueV > lastV + MOST_RISE_V)
    return `It rose by ${mv(valueV - lastV)}; nothing charges by standing.`;
  if (lastV - valueV > MOST_FALL_V)
    return `It fell by ${mv(lastV - valueV)} since it was read last.`;
  return null;
}
