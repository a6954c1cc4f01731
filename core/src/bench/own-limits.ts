import type { RunLimits } from './alarms';
import type { ProgramStep } from './recipe';

/** What the instruments of a channel end by themselves, should nobody speak to them any more. */
export interface OwnLimits {
  /** A supply switches off above this voltage, V. */
  aboveV: number;
  /** Charge since the limit was given, Ah; null where nothing is known of the cell. */
  ah: number | null;
  /** Time since the limit was given, s. */
  seconds: number;
}

/** No step moves more than this share of what a cell may hold (handbook, chapter 2, “Watching”). */
const MOST_SHARE = 1.5;
/** Instruments end behind the agent, never before it: by this share, and by this much, V and s. */
const BEHIND = 1.05;
const BEHIND_V = 0.1;
const BEHIND_S = 60;

/**
 * The most charge a step may move, Ah: more tells of a short inside, or of a wrong rating.
 * @param ratedAh as claimed and as its model says, Ah.
 */
export const mostChargeAh = (...ratedAh: readonly number[]): number =>
  MOST_SHARE * Math.max(...ratedAh);

/** How long a step may last, s. */
function longestS(step: ProgramStep): number {
  switch (step.kind) {
    case 'charge':
    case 'discharge':
    case 'toStorage':
      return step.maxS;
    case 'pulse':
      return step.firstS + step.secondS;
    case 'rest':
      return step.seconds;
    case 'measure':
      return 0;
  }
}

/**
 * What the instruments are told to hold by themselves in a step, a little behind what the agent
 * holds: an agent that died leaves no cell above them (handbook, chapter 2, “The bench agent”).
 */
export function ownLimits(step: ProgramStep, limits: RunLimits): OwnLimits {
  const limitAh = 'limitAh' in step ? step.limitAh : null;
  const mostAh = limits.mostAh ?? null;
  const ah = limitAh === null ? mostAh : Math.min(limitAh, mostAh ?? Infinity);
  return {
    aboveV: limits.highV + BEHIND_V,
    ah: ah === null ? null : ah * BEHIND,
    seconds: longestS(step) * BEHIND + Math.max(BEHIND_S, 3 * limits.intervalS),
  };
}
