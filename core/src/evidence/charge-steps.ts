import { trapezoid } from '../units';
import type { Trace } from './trace';

/** Charge moved between the row before and this one, Ah: trapezoid, row sums, or the counter. */
export function chargeStepAh({ timeS, currentA, counterAh, sums }: Trace, row: number): number {
  if (sums) return sums.ah[row]! - sums.ah[row - 1]!;
  if (!currentA) return counterAh ? Math.abs(counterAh[row]! - counterAh[row - 1]!) : 0;
  const hours = (timeS[row]! - timeS[row - 1]!) / 3600;
  return trapezoid(Math.abs(currentA[row - 1]!), Math.abs(currentA[row]!), hours);
}

/** Energy moved between the row before and this one at the logged voltage, Wh. */
export function energyStepWh(trace: Trace, row: number): number {
  const { timeS, voltageV, currentA, counterWh, sums } = trace;
  if (sums) return sums.wh[row]! - sums.wh[row - 1]!;
  if (!currentA)
    return counterWh
      ? Math.abs(counterWh[row]! - counterWh[row - 1]!)
      : (chargeStepAh(trace, row) * (voltageV[row]! + voltageV[row - 1]!)) / 2;
  const hours = (timeS[row]! - timeS[row - 1]!) / 3600;
  return trapezoid(
    Math.abs(currentA[row - 1]!) * voltageV[row - 1]!,
    Math.abs(currentA[row]!) * voltageV[row]!,
    hours,
  );
}

/** Charge moved over rows `from` to `to`, Ah, by the trapezoid rule or the counter; holes and all. */
export function chargeBetween(trace: Trace, from: number, to: number): number {
  const { sums } = trace;
  if (sums) return sums.ah[to]! - sums.ah[from]!;
  let sum = 0;
  for (let row = from + 1; row <= to; row++) sum += chargeStepAh(trace, row);
  return sum;
}
