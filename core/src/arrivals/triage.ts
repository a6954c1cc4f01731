import { CHEMISTRY_PROFILES, type Chemistry } from '../chemistry';

/** The two ways labs treat a cell below its cut-off (handbook, chapter 1). */
export type TriageSchool = 'careful' | 'recovery';

/** A named, versioned way to sort cells by their first voltage (handbook, chapter 1). */
export interface TriageProtocol {
  school: TriageSchool;
  name: string;
  version: number;
  /** Voltage from which a cell goes to test, V. */
  goV: (chemistry: Chemistry) => number;
  /** Below this a cell is discarded, V; null when only a failed recovery discards. */
  discardBelowV: number | null;
  /** Where slow recovery ends, V. */
  recoverToV: (chemistry: Chemistry) => number;
  /** Highest recovery current: share of It, and A. */
  mostIt: number | null;
  mostA: number;
  /** Minutes after which heat is checked. */
  heatChecksMin: readonly number[];
  /** What is done after, in words. */
  rules: readonly string[];
}

const CAREFUL_GO: Record<Chemistry, number> = {
  NMC: 2.5,
  LCO: 2.5,
  LMO: 2.5,
  LFP: 2.0,
  LTO: 1.5,
  'sodium-ion': 1.5,
};

/** Both schools, as the chapter gives them. The careful one is the default. */
export const TRIAGE_PROTOCOLS: Record<TriageSchool, TriageProtocol> = {
  careful: {
    school: 'careful',
    name: 'Careful triage',
    version: 1,
    goV: (chemistry) => CAREFUL_GO[chemistry],
    discardBelowV: 1.5,
    recoverToV: (chemistry) => CAREFUL_GO[chemistry],
    mostIt: 0.1,
    mostA: 0.2,
    heatChecksMin: [5, 15, 30],
    rules: [
      'Slow recovery at no more than 0.1 It and 200 mA, watched all the time, up to the voltage from which cells go to test.',
      'Feel for heat, with a thermometer, after 5, 15 and 30 minutes.',
      'After the capacity test a cell below 50 % of its rated capacity is discarded.',
    ],
  },
  recovery: {
    school: 'recovery',
    name: 'Recovery triage',
    version: 1,
    goV: () => 1.0,
    discardBelowV: null,
    // 3.0 V is above a full LTO cell: such a cell stops at its storage voltage.
    recoverToV: (chemistry) => Math.min(3.0, CHEMISTRY_PROFILES[chemistry].storageV[0]),
    mostIt: null,
    mostA: 0.2,
    heatChecksMin: [5, 15, 30, 60],
    rules: [
      'Slow recovery at no more than 200 mA, watched all the time.',
      'No rise within an hour, or any heat: discard.',
      'A first test below 80 % of the wanted capacity is repeated once: a cell stored for long may wake up. Below 40 %: discard.',
    ],
  },
};

/** Below this a cell carries a mark for life, V (handbook, chapter 1). */
export const DEEP_DISCHARGE_V = 1.0;

/** How a watched recovery charge ended. */
export type RecoveryOutcome = 'recovered' | 'noRise' | 'heat';

/** What a cell's voltage on arrival leads to. */
export type TriageOutcome = 'test' | 'waitsForLead' | 'recovering' | 'discard';

/** What triage says of a cell, with its reason in a sentence. */
export interface TriageResult {
  outcome: TriageOutcome;
  reason: string;
}

const volts = (value: number): string => `${value.toFixed(value < 2 ? 2 : 3)} V`;

/**
 * Where a cell goes by its voltage at arrival.
 * @param cell lowest and newest open-circuit voltage, V; whether a lead released it for slow
 *   recovery, and how that ended, null while it has not.
 */
export function triageCell(
  protocol: TriageProtocol,
  chemistry: Chemistry,
  cell: {
    lowestV: number;
    newestV: number;
    released: boolean;
    recovery: RecoveryOutcome | null;
  },
): TriageResult {
  const { lowestV, newestV, released, recovery } = cell;
  const goV = protocol.goV(chemistry);
  if (recovery === 'heat')
    return { outcome: 'discard', reason: 'It grew warm in slow recovery: discard.' };
  if (recovery === 'noRise')
    return { outcome: 'discard', reason: 'Its voltage did not rise in slow recovery: discard.' };
  if (lowestV >= goV)
    return { outcome: 'test', reason: `${volts(newestV)}, at or above ${volts(goV)}: go to test.` };
  if (protocol.discardBelowV !== null && lowestV < protocol.discardBelowV)
    return {
      outcome: 'discard',
      reason: `${volts(lowestV)} is below ${volts(protocol.discardBelowV)}: discard.`,
    };
  if (!released)
    return {
      outcome: 'waitsForLead',
      reason: `${volts(lowestV)} is below ${volts(goV)}: slow recovery, once a lead releases it.`,
    };
  if (recovery === 'recovered')
    return { outcome: 'test', reason: `Recovered from ${volts(lowestV)}: go to test.` };
  return {
    outcome: 'recovering',
    reason: `Released for slow recovery from ${volts(lowestV)} to ${volts(protocol.recoverToV(chemistry))}.`,
  };
}

/**
 * Highest current of slow recovery, A. @param ratedAh null when no capacity is claimed.
 * @example recoveryCurrentA(TRIAGE_PROTOCOLS.careful, 1.5) // 0.15
 */
export function recoveryCurrentA(protocol: TriageProtocol, ratedAh: number | null): number {
  if (protocol.mostIt === null || ratedAh === null) return protocol.mostA;
  return Math.min(protocol.mostA, protocol.mostIt * ratedAh);
}

/** Said wherever a deeply discharged cell is released (handbook, Safety). */
export const RECOVERY_CAUTION =
  'A deeply discharged cell can have plated or dissolved copper inside and can short when charged. Release it only if somebody stays with it all the time, the current is limited, and the cell stands apart from anything that burns. Local codes and the maker’s data sheet come first.';
