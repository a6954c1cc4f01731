import type { Alarm, WatchedReading } from './alarms';
import type { Measured, ProgramStep } from './recipe';

/** What the instruments of a channel are set to. */
export type SetPoint =
  | { kind: 'off' }
  | { kind: 'charge'; amps: number; volts: number }
  | { kind: 'discharge'; mode: 'current' | 'power' | 'resistor'; set: number; cutoffV: number };

/** Something that happened in a run, kept in its journal. */
export type RunEvent =
  | { event: 'started' }
  | { event: 'step'; step: number }
  | { event: 'stepEnded'; step: number; reason: string; ah: number }
  | { event: 'ask'; step: number; what: Measured }
  | { event: 'measured'; step: number; what: Measured; value: number }
  | ({ event: 'alarm' } & Alarm)
  | { event: 'paused'; reason: string }
  | { event: 'resumed' }
  | {
      event: 'ended';
      reason: string;
      completed: boolean;
      /** Clocks of instrument and agent apart over what both saw, as a share; absent where not compared. */
      clocksApart?: number | null;
    };

/** Where a run stands; plain data, kept in the journal so that it can be gone on with. */
export interface RunState {
  phase: 'waiting' | 'running' | 'paused' | 'ended';
  step: number;
  stepSinceS: number;
  /** Charge moved in this step, Ah, without direction. */
  stepAh: number;
  /** Charge and energy given since the start, Ah and Wh. */
  givenAh: number;
  givenWh: number;
  takenAh: number;
  last: WatchedReading | null;
  /** Readings of this step of the last minutes. */
  recent: WatchedReading[];
  /** Alarms said in this step already. */
  said: string[];
  /** Way a storage step goes; settled at its first reading. */
  storage: 'charge' | 'discharge' | null;
}

/** A run before its first step: nothing given, nothing taken. */
export const newRun = (): RunState => ({
  phase: 'waiting',
  step: 0,
  stepSinceS: 0,
  stepAh: 0,
  givenAh: 0,
  givenWh: 0,
  takenAh: 0,
  last: null,
  recent: [],
  said: [],
  storage: null,
});

/** What a reading or a word from outside leads to. */
export interface Advance {
  state: RunState;
  /** New setting of the instruments; null to leave them. */
  set: SetPoint | null;
  events: RunEvent[];
}

/**
 * Setting of a step’s instruments.
 * @param lowV cut-off of steps that state none: the lowest voltage of the model, V.
 */
export function setPointOf(step: ProgramStep, state: RunState, lowV: number): SetPoint {
  switch (step.kind) {
    case 'charge':
      return { kind: 'charge', amps: step.amps, volts: step.limitV };
    case 'discharge':
      return { kind: 'discharge', mode: step.mode, set: step.set, cutoffV: step.cutoffV };
    case 'pulse':
      return { kind: 'discharge', mode: 'current', set: step.firstA, cutoffV: lowV };
    case 'toStorage':
      return state.storage === 'charge'
        ? { kind: 'charge', amps: step.amps, volts: step.targetV }
        : state.storage === 'discharge'
          ? { kind: 'discharge', mode: 'current', set: step.amps, cutoffV: step.targetV }
          : { kind: 'off' };
    default:
      return { kind: 'off' };
  }
}
