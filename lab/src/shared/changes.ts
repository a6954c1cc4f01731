import type { Chemistry } from '@dusk-tally/core/chemistry';

/** Kinds of thing that can change; what is derived says which of them it reads. */
export const CHANGE_KINDS = [
  // What people and instruments say.
  'cells',
  'readings',
  'inspection',
  'recoveries',
  'codes',
  'codeRules',
  'arrivalRules',
  'arrivalDay',
  'boxMass',
  'claim',
  'cellModel',
  'chemistryProfile',
  'runs',
  'holds',
  'holdLimits',
  'guardFactor',
  'room',
  'channelCalibration',
  'channelLooks',
  'controlCells',
  'rests',
  'handPoints',
  'gradeScheme',
  'gradeDecision',
  // What is derived itself, and read by more.
  'arrivals',
  'figures',
  'ruleHolds',
  'channelFit',
  'restOutcomes',
] as const;
export type ChangeKind = (typeof CHANGE_KINDS)[number];

/** Which lots and cells a change touches; without any of these all lots. */
export interface ChangeScope {
  lotId?: number;
  /** Cells of that lot; absent for all of them. */
  cellIds?: readonly number[];
  /** Lots of a cell model, of a chemistry, or with runs on a channel. */
  modelId?: number;
  chemistry?: Chemistry;
  channelId?: number;
  /** Lots with runs or readings of an instrument. */
  instrumentId?: number;
}

/** Something that changed, said by the act that changed it. */
export interface Change extends ChangeScope {
  what: ChangeKind;
}
