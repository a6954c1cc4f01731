import { trapezoid } from '../units';

/** A reading of a run with the step it was taken in. */
export interface SteppedReading {
  step: number;
  timeS: number;
  voltageV: number;
  currentA: number;
}

/**
 * Charge given since the load came on, Ah, and voltage, V, over the last discharge of a run.
 * @param kinds of the program’s steps, by index.
 */
export function dischargeLine(
  readings: readonly SteppedReading[],
  kinds: readonly string[],
): { ah: number; v: number }[] {
  const step = readings.findLast(({ step: at }) => kinds[at] === 'discharge')?.step;
  const line: { ah: number; v: number }[] = [];
  let [ah, before] = [0, null as SteppedReading | null];
  for (const reading of readings) {
    if (reading.step !== step) continue;
    if (before)
      ah += trapezoid(
        Math.abs(before.currentA),
        Math.abs(reading.currentA),
        (reading.timeS - before.timeS) / 3600,
      );
    line.push({ ah, v: reading.voltageV });
    before = reading;
  }
  return line;
}
