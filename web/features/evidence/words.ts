import type { Quantity } from '@dusk-tally/core/units';

/** Names of quantities as shown. */
export const QUANTITY_WORDS: Record<Quantity, string> = {
  capacity: 'Capacity',
  capacityAtClaim: 'Capacity at the claim’s conditions',
  energy: 'Energy',
  meanVoltage: 'Mean voltage',
  dcResistance1s: 'DC resistance at 1 s',
  dcResistance10s: 'DC resistance at 10 s',
  dcResistance30s: 'DC resistance at 30 s',
  dcResistanceTwoStep: 'DC resistance, two steps',
  acResistance: 'AC resistance at 1 kHz',
  openCircuitVoltage: 'Open-circuit voltage',
  mass: 'Mass',
  thickness: 'Thickness',
  stateOfHealth: 'State of health',
  energyDensity: 'Energy density',
};
