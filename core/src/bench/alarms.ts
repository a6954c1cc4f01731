import { formatNumber } from '../units';
import type { ProgramStep } from './recipe';

/** What an alarm does by itself, the worst first. */
export const ALARM_ACTIONS = ['block', 'stop', 'pause', 'tell'] as const;
/** What an alarm does: end the run and block the cell, end it, pause it, or only say so. */
export type AlarmAction = (typeof ALARM_ACTIONS)[number];

/** Every alarm with its title, what it does and what a person does about it (handbook, chapter 3 and Safety). */
export const ALARMS = {
  heatOnCharge: {
    title: 'Hot on charge',
    action: 'block',
    advice:
      'Charging was stopped. Do not touch it bare-handed. Move it with tongs to a safe place outdoors or in sand. It is finished and stays blocked.',
  },
  hotOnDischarge: {
    title: 'Hot on discharge',
    action: 'pause',
    advice:
      'The run is paused. Where the connector is much hotter than the cell, suspect the contact. Let it cool below 40 °C before you go on.',
  },
  voltageHigh: {
    title: 'Voltage above the model’s limit',
    action: 'stop',
    advice:
      'The run was stopped. Check the supply’s voltage setting and the sense leads with a hand meter.',
  },
  voltageLow: {
    title: 'Voltage below the model’s limit',
    action: 'stop',
    advice:
      'The run was stopped. Measure at the terminals; recharge gently and with someone there, if it is not below the chemistry’s limit.',
  },
  cutoffPassed: {
    title: 'Cut-off passed',
    action: 'stop',
    advice:
      'The instrument did not end the discharge at the cut-off. The run was stopped. Set the cut-off on the instrument itself before the next run, and recharge the cell now.',
  },
  tooMuchCharge: {
    title: 'More charge than the cell can hold',
    action: 'stop',
    advice:
      'The run was stopped. A short inside the cell, a wrong rating of its model, or two cells on one channel: measure its voltage and temperature, and keep it apart until you know.',
  },
  ownLimitMissing: {
    title: 'Instrument holds no limit of its own',
    action: 'tell',
    advice:
      'Should the bench computer fail, this instrument stays on. Set the limit on the instrument by hand, or stay with it.',
  },
  agentFailed: {
    title: 'Agent failed',
    action: 'stop',
    advice:
      'Outputs were switched off first, then the run was ended. Look at the instruments, keep what the agent wrote last, and start it again.',
  },
  noReadings: {
    title: 'No readings',
    action: 'stop',
    advice:
      'The instrument says nothing. Look whether it is on and connected; the cell may still be under load.',
  },
  clockJump: {
    title: 'Time does not fit',
    action: 'tell',
    advice:
      'Nothing was read for a stretch, or a clock was moved. Charge in a stretch without readings is drawn from those at its ends: look at the curve before its figures are used.',
  },
  currentOff: {
    title: 'Current off its set value',
    action: 'tell',
    advice:
      'Check for a loose lead, a limit of the instrument, or a channel that needs calibration.',
  },
  stepTooLong: {
    title: 'Step ended by its time limit',
    action: 'tell',
    advice: 'The step did not reach its end in time; its result is not what the recipe wanted.',
  },
  rechargeOverdue: {
    title: 'Recharge overdue',
    action: 'tell',
    advice: 'A cell left at its cut-off ages. Charge it to storage voltage now.',
  },
  instrumentError: {
    title: 'Instrument reports an error',
    action: 'pause',
    advice: 'Read the message, clear it at the instrument, then go on or stop.',
  },
  appSilent: {
    title: 'App out of reach',
    action: 'stop',
    advice:
      'The agent could not reach the app for longer than its limit and ended the run safely. Its readings are kept and were handed in.',
  },
  journalFull: {
    title: 'Journal cannot be written',
    action: 'stop',
    advice:
      'The disk of the bench computer is full or failing. The run was ended safely. Make room before the next.',
  },
} as const satisfies Record<string, { title: string; action: AlarmAction; advice: string }>;
/** Code of an alarm. */
export type AlarmCode = keyof typeof ALARMS;

/** An alarm of a run. */
export interface Alarm {
  code: AlarmCode;
  action: AlarmAction;
  /** What was seen, with its number. */
  text: string;
}

/** An alarm with the action its code stands for. */
export const alarm = (code: AlarmCode, text: string): Alarm => ({
  code,
  action: ALARMS[code].action,
  text,
});

/** Hottest a cell may get on charge, °C, and above the air around it, K (handbook, chapter 2). */
export const HOT_ON_CHARGE_C = 45;
/** A cell this much above the room is told, K (handbook, chapter 3). */
export const ABOVE_AMBIENT_K = 10;
/** Fastest it may warm while the current is steady, K/min. */
export const FASTEST_K_PER_MIN = 1;
/** A discharge ends at this temperature of the cell, °C (handbook, chapter 3). */
export const HOT_ON_DISCHARGE_C = 60;
/** A cut-off passed by this much was not enforced, V. */
export const CUTOFF_PASSED_V = 0.05;
/** A current this share off its set value is said. */
export const CURRENT_OFF = 0.02;
/** Voltage may lie this much above the limit of charge, V. */
const ABOVE_LIMIT_V = 0.05;
/** Warmth is watched over this long, s, where readings come often enough. */
export const WARMTH_WINDOW_S = 120;
/** Readings a rise of temperature is drawn from, least. */
const WARMTH_READINGS = 4;

/** Over how long warmth is watched, s: `WARMTH_WINDOW_S`, or long enough for its readings. */
export const warmthWindowS = (intervalS: number): number =>
  Math.max(WARMTH_WINDOW_S, 1.25 * WARMTH_READINGS * intervalS);

/** What a run must never leave. */
export interface RunLimits {
  /** Voltage limit of charge, V. */
  highV: number;
  /** Lowest voltage of the model or chemistry, V. */
  lowV: number;
  /** Of the room at the start, °C. */
  ambientC: number;
  /** Time between readings, bench s. */
  intervalS: number;
  /** Most charge a step may move, Ah; absent or null where nothing is known of the cell. */
  mostAh?: number | null;
}

/** A reading as the rules look at it. */
export interface WatchedReading {
  timeS: number;
  voltageV: number;
  /** Discharge negative, A. */
  currentA: number;
  temperatureC: number | null;
  /** What the load’s own counter shows, Ah; absent or null where it has none. */
  counterAh?: number | null;
}

/**
 * Rise of temperature over the last stretch of readings, K/min, by least squares; null while the
 * stretch is shorter than half of its window or the current was not steady in it.
 * @param intervalS time between readings, s.
 */
export function warmingKPerMin(
  readings: readonly WatchedReading[],
  intervalS: number,
): number | null {
  const windowS = warmthWindowS(intervalS);
  const last = readings[readings.length - 1];
  if (!last) return null;
  const recent = readings.filter(
    ({ timeS, temperatureC }) => temperatureC !== null && last.timeS - timeS <= windowS,
  );
  if (recent.length < WARMTH_READINGS || last.timeS - recent[0]!.timeS < windowS / 2) return null;
  if (
    recent.some(
      ({ currentA }) => Math.abs(currentA - last.currentA) > 0.05 * Math.abs(last.currentA) + 1e-3,
    )
  )
    return null;
  const meanT = recent.reduce((sum, r) => sum + r.timeS, 0) / recent.length;
  const meanC = recent.reduce((sum, r) => sum + r.temperatureC!, 0) / recent.length;
  let [top, bottom] = [0, 0];
  for (const { timeS, temperatureC } of recent) {
    top += (timeS - meanT) * (temperatureC! - meanC);
    bottom += (timeS - meanT) ** 2;
  }
  return bottom > 0 ? (top / bottom) * 60 : null;
}

/**
 * Alarms of a reading in its step; worst first (handbook, chapter 2, "Watching").
 * @param recent readings up to and with this one, of this step.
 */
export function alarmsOf(
  step: ProgramStep,
  recent: readonly WatchedReading[],
  limits: RunLimits,
): Alarm[] {
  const reading = recent[recent.length - 1]!;
  const { voltageV, currentA, temperatureC } = reading;
  const found: Alarm[] = [];
  const isCharging = currentA > 0.01 && (step.kind === 'charge' || step.kind === 'toStorage');
  if (temperatureC !== null) {
    const shown = `${formatNumber(temperatureC, 1)} °C`;
    const warming = isCharging ? warmingKPerMin(recent, limits.intervalS) : null;
    if (isCharging && temperatureC > HOT_ON_CHARGE_C)
      found.push(alarm('heatOnCharge', `${shown} on charge; at most ${HOT_ON_CHARGE_C} °C.`));
    else if (isCharging && temperatureC > limits.ambientC + ABOVE_AMBIENT_K)
      found.push(
        alarm(
          'heatOnCharge',
          `${shown} on charge, ${formatNumber(temperatureC - limits.ambientC, 1)} K above the room; at most ${ABOVE_AMBIENT_K} K.`,
        ),
      );
    else if (warming !== null && warming > FASTEST_K_PER_MIN && temperatureC > limits.ambientC + 1)
      found.push(
        alarm(
          'heatOnCharge',
          `Warming by ${formatNumber(warming, 1)} K/min at a steady current; at most ${FASTEST_K_PER_MIN} K/min.`,
        ),
      );
    if (!isCharging && temperatureC > HOT_ON_DISCHARGE_C)
      found.push(alarm('hotOnDischarge', `${shown}; at most ${HOT_ON_DISCHARGE_C} °C.`));
  }
  if (voltageV > limits.highV + ABOVE_LIMIT_V)
    found.push(
      alarm(
        'voltageHigh',
        `${formatNumber(voltageV, 3)} V; at most ${formatNumber(limits.highV, 2)} V.`,
      ),
    );
  if (step.kind === 'discharge' && voltageV < step.cutoffV - CUTOFF_PASSED_V && currentA < -0.01)
    found.push(
      alarm(
        'cutoffPassed',
        `${formatNumber(voltageV, 3)} V under load; the cut-off is ${formatNumber(step.cutoffV, 2)} V.`,
      ),
    );
  else if (voltageV < limits.lowV - CUTOFF_PASSED_V && currentA < -0.01)
    found.push(
      alarm(
        'voltageLow',
        `${formatNumber(voltageV, 3)} V; at least ${formatNumber(limits.lowV, 2)} V.`,
      ),
    );
  const setA = setCurrentOf(step);
  if (setA !== null && recent.length > 3 && Math.abs(currentA) > 1e-3) {
    const off = Math.abs(Math.abs(currentA) - setA) / setA;
    // Below its set value a charge is in its taper, as it should be.
    const tapers = step.kind === 'charge' && Math.abs(currentA) < setA;
    if (off > CURRENT_OFF && !tapers)
      found.push(
        alarm(
          'currentOff',
          `${formatNumber(Math.abs(currentA), 3)} A where ${formatNumber(setA, 3)} A was set.`,
        ),
      );
  }
  return found;
}

/** Current a step holds, A; null where it holds none. */
function setCurrentOf(step: ProgramStep): number | null {
  if (step.kind === 'charge') return step.amps;
  return step.kind === 'discharge' && step.mode === 'current' ? step.set : null;
}
