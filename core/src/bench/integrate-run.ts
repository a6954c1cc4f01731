import { trapezoid } from '../units';
import type { WatchedReading } from './alarms';
import type { RunState } from './run-state';

/** A stretch without readings that is longer than this, in intervals and s, is a hole. */
const HOLE_INTERVALS = 10;

const HOLE_S = 120;

/**
 * Charge over a hole by the load’s own counter, Ah; null where there is none, or it ran back. A
 * load that stood still counted nothing, however long nobody looked.
 */
export function countedOver(
  last: Pick<WatchedReading, 'timeS' | 'counterAh'>,
  reading: Pick<WatchedReading, 'timeS' | 'counterAh'>,
  intervalS: number,
): number | null {
  if (reading.timeS - last.timeS <= Math.max(HOLE_INTERVALS * intervalS, HOLE_S)) return null;
  const [before, after] = [last.counterAh ?? null, reading.counterAh ?? null];
  return before === null || after === null || after < before - 1e-6
    ? null
    : Math.max(0, after - before);
}

/** Adds a reading’s charge and energy by the trapezoid rule; over a hole by the load’s counter. */
export function integrate(state: RunState, reading: WatchedReading, intervalS: number): RunState {
  const { last } = state;
  if (!last || reading.timeS <= last.timeS) return state;
  const hours = (reading.timeS - last.timeS) / 3600;
  const counted = last.currentA < 0 ? countedOver(last, reading, intervalS) : null;
  if (counted !== null) {
    const amps = Math.max(Math.abs(last.currentA), Math.abs(reading.currentA));
    const worked = Math.min(1, counted / (amps * hours));
    return {
      ...state,
      // Where the load stood still the time did not count for the step.
      stepSinceS: state.stepSinceS + (1 - worked) * hours * 3600,
      stepAh: state.stepAh + counted,
      givenAh: state.givenAh + counted,
      givenWh: state.givenWh + (counted * (last.voltageV + reading.voltageV)) / 2,
    };
  }
  const ah = trapezoid(last.currentA, reading.currentA, hours);
  const wh = trapezoid(last.currentA * last.voltageV, reading.currentA * reading.voltageV, hours);
  return {
    ...state,
    stepAh: state.stepAh + Math.abs(ah),
    givenAh: state.givenAh + Math.max(0, -ah),
    givenWh: state.givenWh + Math.max(0, -wh),
    takenAh: state.takenAh + Math.max(0, ah),
  };
}
