import { trapezoid } from '../units';
import {
  type Alarm,
  ALARM_ACTIONS,
  alarm,
  alarmsOf,
  type RunLimits,
  warmthWindowS,
  type WatchedReading,
} from './alarms';
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

/** A current below this is none, A. */
const NO_CURRENT_A = 0.005;
/** The instrument switched off at its cut-off when no current flows this close to it, V. */
const RECOVERED_V = 0.25;
/** A storage step is done when its rest voltage is this close, V. */
const CLOSE_TO_STORAGE_V = 0.005;
/** Share of It at which a storage charge ends. */
const STORAGE_TAPER = 0.1;

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

interface Plan {
  program: readonly ProgramStep[];
  limits: RunLimits;
}

/** Begins step `index`, or ends the run when there is none. */
function enter(plan: Plan, state: RunState, index: number, atS: number): Advance {
  const step = plan.program[index];
  if (!step)
    return {
      state: { ...state, phase: 'ended', step: index },
      set: { kind: 'off' },
      events: [{ event: 'ended', reason: 'The recipe is done.', completed: true }],
    };
  const next: RunState = {
    ...state,
    phase: 'running',
    step: index,
    stepSinceS: atS,
    stepAh: 0,
    recent: [],
    said: [],
    storage: null,
  };
  const events: RunEvent[] = [{ event: 'step', step: index }];
  if (step.kind === 'measure') events.push({ event: 'ask', step: index, what: step.what });
  return { state: next, set: setPointOf(step, next, plan.limits.lowV), events };
}

/** Begins a run. */
export function startRun(plan: Plan, atS = 0): Advance {
  const begun = enter(plan, newRun(), 0, atS);
  return { ...begun, events: [{ event: 'started' }, ...begun.events] };
}

const timeEnd = (step: { maxS: number; endsByTime: boolean }, sinceS: number): string | null =>
  sinceS < step.maxS ? null : step.endsByTime ? 'time' : 'time limit';

/** Why a step is at its end with this reading; null while it goes on. */
function endOf(step: ProgramStep, state: RunState, reading: WatchedReading): string | null {
  const { timeS, voltageV, currentA } = reading;
  const sinceS = timeS - state.stepSinceS;
  const settled = state.recent.length > 2;
  switch (step.kind) {
    case 'rest':
      return sinceS >= step.seconds ? 'time' : null;
    case 'pulse':
      return sinceS >= step.firstS + step.secondS ? 'time' : null;
    case 'charge':
      if (step.limitAh !== null && state.stepAh >= step.limitAh) return 'charge limit';
      if (settled && currentA <= step.taperA && voltageV > step.limitV - 0.03) return 'taper';
      return timeEnd(step, sinceS);
    case 'discharge':
      if (voltageV <= step.cutoffV) return 'cut-off';
      if (step.limitAh !== null && state.stepAh >= step.limitAh) return 'charge limit';
      if (
        settled &&
        state.stepAh > 0 &&
        Math.abs(currentA) < NO_CURRENT_A &&
        voltageV < step.cutoffV + RECOVERED_V + 0.15 * step.cutoffV
      )
        return 'cut-off at the instrument';
      return timeEnd(step, sinceS);
    case 'toStorage': {
      if (state.storage === null) return null;
      const amps = Math.abs(currentA);
      if (state.storage === 'charge' && settled && amps <= STORAGE_TAPER * step.amps)
        return 'storage voltage';
      if (
        state.storage === 'discharge' &&
        (voltageV <= step.targetV || (settled && amps < NO_CURRENT_A))
      )
        return 'storage voltage';
      return sinceS >= step.maxS ? 'time limit' : null;
    }
    case 'measure':
      return null;
  }
}

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
function integrate(state: RunState, reading: WatchedReading, intervalS: number): RunState {
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

/** Goes on with a reading. Pure: the same state and reading give the same again. */
export function readingCame(plan: Plan, before: RunState, reading: WatchedReading): Advance {
  const jump = jumpOf(plan, before, reading);
  let state = integrate(before, reading, plan.limits.intervalS);
  const recent = [...state.recent, reading].filter(
    ({ timeS }) =>
      reading.timeS - timeS <=
      Math.max(warmthWindowS(plan.limits.intervalS), 6 * plan.limits.intervalS),
  );
  state = { ...state, last: reading, recent };
  if (state.phase !== 'running') return { state, set: null, events: [] };
  const step = plan.program[state.step]!;
  const alarms = [...(jump ? [jump] : []), ...alarmsOf(step, recent, plan.limits)].filter(
    ({ code }) => !state.said.includes(code),
  );
  state = { ...state, said: [...state.said, ...alarms.map(({ code }) => code)] };
  const events: RunEvent[] = alarms.map((one) => ({ event: 'alarm', ...one }));
  const worst = ALARM_ACTIONS.find((action) => alarms.some((one) => one.action === action));
  const grave = alarms.find((one) => one.action === worst);
  if (grave && (worst === 'block' || worst === 'stop')) return stopped(state, events, grave.text);
  if (grave && worst === 'pause') return pausedBy(state, events, grave.text);
  return carryOn(plan, step, state, { reading, events });
}

function carryOn(
  plan: Plan,
  step: ProgramStep,
  before: RunState,
  { reading, events }: { reading: WatchedReading; events: RunEvent[] },
): Advance {
  let state = before;
  if (step.kind === 'toStorage' && state.storage === null) {
    const away = reading.voltageV - step.targetV;
    if (Math.abs(away) <= CLOSE_TO_STORAGE_V)
      return next(plan, state, { reading, events, reason: 'storage voltage' });
    state = { ...state, storage: away < 0 ? 'charge' : 'discharge' };
    return { state, set: setPointOf(step, state, plan.limits.lowV), events };
  }
  const reason = endOf(step, state, reading);
  if (reason) {
    if (reason === 'time limit' && !state.said.includes('stepTooLong'))
      events.push({
        event: 'alarm',
        ...alarm('stepTooLong', `Step ${state.step + 1} ended after its time limit.`),
      });
    return next(plan, state, { reading, events, reason });
  }
  if (step.kind === 'pulse') {
    const second =
      reading.timeS - state.stepSinceS >= step.firstS && !state.said.includes('secondPulse');
    if (second)
      return {
        state: { ...state, said: [...state.said, 'secondPulse'] },
        set: { kind: 'discharge', mode: 'current', set: step.secondA, cutoffV: plan.limits.lowV },
        events,
      };
  }
  return { state, set: null, events };
}

function next(
  plan: Plan,
  state: RunState,
  { reading, events, reason }: { reading: WatchedReading; events: RunEvent[]; reason: string },
): Advance {
  const ended: RunEvent = { event: 'stepEnded', step: state.step, reason, ah: state.stepAh };
  const entered = enter(plan, state, state.step + 1, reading.timeS);
  return { ...entered, events: [...events, ended, ...entered.events] };
}

function jumpOf(
  { limits }: Plan,
  { last, phase }: RunState,
  { timeS }: WatchedReading,
): Alarm | null {
  if (!last || phase !== 'running') return null;
  const gap = timeS - last.timeS;
  if (gap < 0) return alarm('clockJump', `The clock went back by ${(-gap).toFixed(0)} s.`);
  return gap > 20 * limits.intervalS && gap > 60
    ? alarm(
        'clockJump',
        `Nothing was read for ${gap.toFixed(0)} s where a reading comes every ${limits.intervalS.toFixed(0)} s: the agent stood still, or its clock was moved.`,
      )
    : null;
}

function stopped(state: RunState, events: RunEvent[], reason: string): Advance {
  return {
    state: { ...state, phase: 'ended' },
    set: { kind: 'off' },
    events: [...events, { event: 'ended', reason, completed: false }],
  };
}

function pausedBy(state: RunState, events: RunEvent[], reason: string): Advance {
  return {
    state: { ...state, phase: 'paused' },
    set: { kind: 'off' },
    events: [...events, { event: 'paused', reason }],
  };
}

/** Ends a run because of something outside its readings, or because a person says so. */
export function endRun(state: RunState, reason: string, cause: Alarm | null = null): Advance {
  if (state.phase === 'ended') return { state, set: { kind: 'off' }, events: [] };
  return stopped(state, cause ? [{ event: 'alarm', ...cause }] : [], reason);
}

/** Pauses a run: instruments off, its place kept. */
export function pauseRun(state: RunState, reason: string, cause: Alarm | null = null): Advance {
  if (state.phase !== 'running') return { state, set: null, events: [] };
  return pausedBy(state, cause ? [{ event: 'alarm', ...cause }] : [], reason);
}

/** Goes on with a paused run where it was. */
export function resumeRun({ program, limits }: Plan, state: RunState, atS: number): Advance {
  if (state.phase !== 'paused') return { state, set: null, events: [] };
  const step = program[state.step]!;
  const pausedS = state.last ? Math.max(0, atS - state.last.timeS) : 0;
  const resumed: RunState = {
    ...state,
    phase: 'running',
    stepSinceS: state.stepSinceS + pausedS,
    recent: [],
    said: [],
    last: state.last && { ...state.last, timeS: atS, currentA: 0 },
  };
  return {
    state: resumed,
    set: setPointOf(step, resumed, limits.lowV),
    events: [{ event: 'resumed' }],
  };
}

/** Takes in what a measuring step asked for and goes on. */
export function answerCame(plan: Plan, state: RunState, value: number, atS: number): Advance {
  const step = plan.program[state.step];
  if (state.phase !== 'running' || step?.kind !== 'measure')
    return { state, set: null, events: [] };
  const entered = enter(plan, state, state.step + 1, atS);
  return {
    ...entered,
    events: [{ event: 'measured', step: state.step, what: step.what, value }, ...entered.events],
  };
}
