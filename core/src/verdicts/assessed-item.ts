import type { ClaimConditions, ClaimKind } from '../arrivals';
import type { Correction, SustainedCurrent } from '../evidence';
import type { Bound, Estimate } from '../units';
import type { CandidateResult } from './counting';
import type { Range } from './judge';
import type { ReadAt } from './resistance-conditions';

/** A claim item as it counts for a cell, with the conditions in effect. */
export interface ClaimedItem {
  kind: ClaimKind;
  value: number | null;
  text: string | null;
  conditions: ClaimConditions;
}

/** A capacity of a cell, as measured and at the claim’s conditions. */
export interface CapacityEvidence extends CandidateResult {
  raw: Estimate;
  /** Null where it cannot be carried to the claim’s conditions. */
  atClaim: Estimate | null;
  differences: string[];
  corrections: Correction[];
  /** Why it is held; empty for one that is free. */
  holds: { rule: string; text: string }[];
}

/** A DC resistance, mΩ, with how it was taken. */
export interface DcResistanceEvidence extends Estimate, ReadAt {
  figureId: number | null;
  /** After the step, s; null where the method names none. */
  afterS: number | null;
  /** Currents before and after the step, It; null where they are not known. */
  stepIt: [number, number] | null;
}

/** A measured number with the figure it is. */
export interface MeasuredEvidence extends Estimate, ReadAt {
  figureId: number | null;
}

/** Everything that bears on what a supplier claimed of one cell. */
export interface CellEvidence<C extends CapacityEvidence = CapacityEvidence> {
  capacities: readonly C[];
  acResistanceMohm: MeasuredEvidence | null;
  dcResistancesMohm: readonly DcResistanceEvidence[];
  massG: MeasuredEvidence | null;
  /** Thickness at its thickest, or diameter, mm. */
  thicknessMm: MeasuredEvidence | null;
  /** Days its code can mean, both included; null where none was read. */
  produced: { from: string; until: string } | null;
  /** Currents its logs show as kept. */
  currents: readonly SustainedCurrent[];
  /** It grew too warm on the bench, in words; null where it did not. */
  heatAlarm: string | null;
  isInspected: boolean;
  /** Codes of findings of its inspection that stand. */
  findings: readonly string[];
  /** The day it arrived; null where that is not known. */
  arrivedOn: string | null;
}

/** What is to be known of one claimed item, in every state. */
interface Common {
  item: ClaimKind;
  /** What was measured, at the claim’s conditions where it could be carried there. */
  estimate: Estimate | null;
  figureId: number | null;
  /** What is claimed, as limits; null for an item in words. */
  limits: Range | null;
  differences: string[];
  corrections: Correction[];
}

/** Where one claimed item of a cell stands (handbook, chapter 5, “Every claim item is judged”). */
export type ItemState =
  /** Of a bound there is no probability. */
  | { state: 'met' | 'notMet' | 'tooClose'; probability: number | null }
  /** Something is missing, named; one short clause each. */
  | { state: 'waitingFor'; what: string[] }
  | { state: 'held'; why: string[] }
  /** Measured under other conditions; `differences` says which. */
  | { state: 'notComparable' }
  /** Typical values are the lot’s to meet: of a cell they are only described. */
  | { state: 'described' }
  | { state: 'contradicted'; by: string[] }
  | { state: 'nothingAgainst' }
  | { state: 'notClaimed' };

/** One claimed item of one cell, judged. */
export type AssessedItem = Common & ItemState;

/** Names of the states. */
export type ItemStateName = ItemState['state'];

/** Words for a state, as shown. */
export const STATE_WORDS: Record<ItemStateName, string> = {
  met: 'met',
  notMet: 'not met',
  tooClose: 'too close to call',
  waitingFor: 'waiting',
  held: 'held',
  notComparable: 'not comparable',
  described: 'described',
  contradicted: 'contradicted',
  nothingAgainst: 'nothing speaks against it',
  notClaimed: 'not claimed',
};

/** Words for where a result stands: one that is only a bound, and decides nothing, is open. */
export const stateWords = (state: ItemStateName, bound: Bound | null | undefined): string =>
  state === 'tooClose' && bound && bound !== 'exact'
    ? `${bound === 'atLeast' ? 'at least' : 'at most'}; open`
    : STATE_WORDS[state];

/** All of a cell, and the capacity that counts. */
export interface AssessedCell<C extends CapacityEvidence = CapacityEvidence> {
  /** The capacity that counts; null where all are held or none is there. */
  counting: C | null;
  items: AssessedItem[];
}

/** An estimate without what else hangs on it. */
export const bare = ({
  value,
  standardUncertainty,
  bound,
}: {
  value: number;
  standardUncertainty: number | null;
  bound: Bound;
}): Estimate => ({ value, standardUncertainty, bound });
