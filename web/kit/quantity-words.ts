import type { Quantity } from '@dusk-tally/core/units';
import type { ReadingKind } from '@dusk-tally/lab/evidence';

/** Names of quantities as shown. */
export const QUANTITY_WORDS: Record<Quantity | ReadingKind, string> = {
  energyShown: 'Energy as shown by a tester, Wh',
  currentShown: 'Current as shown by a tester, A',
  durationShown: 'Time as shown by a tester, h',
  capacity: 'Capacity',
  capacityAtClaim: 'Capacity at the claim’s conditions',
  windowCapacity: 'Charge between two voltages',
  capacityFromWindow: 'Full capacity, estimated from a window',
  energy: 'Energy',
  meanVoltage: 'Mean voltage',
  dcResistance1s: 'DC resistance at 1 s',
  dcResistance10s: 'DC resistance at 10 s',
  dcResistance30s: 'DC resistance at 30 s',
  dcResistanceTwoStep: 'DC resistance, two steps',
  dcResistanceString: 'Resistance in the string, ΔV / ΔI',
  acResistance: 'AC resistance at 1 kHz',
  openCircuitVoltage: 'Open-circuit voltage',
  mass: 'Mass',
  thickness: 'Thickness',
  stateOfHealth: 'State of health',
  energyDensity: 'Energy density',
  energyBehindInverter: 'Energy behind an inverter',
  inverterEfficiency: 'Efficiency of the inverter',
  inverterLosses: 'Lost in the inverter',
  selfDischargeSlope: 'Voltage lost a day at rest',
  selfDischargeMonth: 'Charge lost in a month',
  leakageCurrent: 'Leakage current',
};
