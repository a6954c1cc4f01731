import { formatNumber } from '../units';
import {
  type Alarm,
  alarm,
  ALARM_ACTIONS,
  alarmsOf,
  type RunLimits,
  warmthWindowS,
  type WatchedReading,
} from './alarms';
import type { ProgramStep } from './recipe';
import { type Advance, newRun, type RunEvent, type RunState, setPointOf } from './run-state';
import { integrate } from './integrate-run';

/** A current below this is none, A. */
const NO_CURRENT_A = 0.005;

/** The instrument switched off at its cut-off when no current flows this close to it, V. */
const RECOVERED_V = 0.25;

/** A storage step is done when its rest voltage is this close, V. */
const CLOSE_TO_STORAGE_V = 0.005;

/** Share of It at which a storage charge ends. */
const STORAGE_TAPER = 0.1;

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
  const alarms = [
    ...(jump ? [jump] : []),
    ...alarmsOf(step, recent, plan.limits),
    ...tooMuch(plan, state),
  ].filter(({ code }) => !state.said.includes(code));
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

/** A step that moved more charge than a cell can hold. */
function tooMuch({ limits: { mostAh } }: Plan, { stepAh }: RunState): Alarm[] {
  if (mostAh === null || mostAh === undefined || stepAh <= mostAh) return [];
  return [
    alarm(
      'tooMuchCharge',
      `${formatNumber(stepAh, 2)} Ah in one step; the cell can hold ${formatNumber(mostAh, 2)} Ah at most.`,
    ),
  ];
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
