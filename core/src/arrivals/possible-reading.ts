/** What a reading of each kind can be at all, ends included; anything else is a slip and never stored. */
export const POSSIBLE_READINGS = {
  acResistance: { low: 0.001, high: 1e6, unit: 'mΩ' },
  openCircuitVoltage: { low: -6, high: 60, unit: 'V' },
  capacity: { low: 0.0001, high: 1e5, unit: 'Ah' },
  mass: { low: 0.1, high: 1e6, unit: 'g' },
  thickness: { low: 0.1, high: 1e4, unit: 'mm' },
  energyBehindInverter: { low: 0.001, high: 1e7, unit: 'Wh' },
  energyShown: { low: 0.0001, high: 1e7, unit: 'Wh' },
  currentShown: { low: 0.0001, high: 1e5, unit: 'A' },
  durationShown: { low: 0.0001, high: 1e5, unit: 'h' },
} as const;

/** Kind of a typed reading. */
export type TypedKind = keyof typeof POSSIBLE_READINGS;

/**
 * Why a value can be no reading of its kind, null where it can: such a one is not asked about but
 * refused, on the screen and by the server in the same words.
 * @param value in the unit of the kind.
 * @example impossibleReading('acResistance', -0.5) // 'Expected 0.001 to 1000000 mΩ; found -0.5 mΩ.'
 */
export function impossibleReading(kind: TypedKind, value: number): string | null {
  const { low, high, unit } = POSSIBLE_READINGS[kind];
  return value >= low && value <= high
    ? null
    : `Expected ${low} to ${high} ${unit}; found ${value} ${unit}.`;
}
