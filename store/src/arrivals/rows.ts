import type {
  Gate,
  RecoveryOutcome,
  SampleStratum,
  Severity,
  TriageOutcome,
} from '@dusk-tally/core/arrivals';
import type { Chemistry, ChemistryProfile } from '@dusk-tally/core/chemistry';

/** A profile as a lead set it; the newest of a chemistry counts, none: the house default. */
export interface ChemistryProfileRow {
  id: number;
  chemistry: Chemistry;
  profile: ChemistryProfile;
  reason: string;
  personId: number;
  at: Date;
}
/** An offer's text as it was pasted. */
export interface OfferRow {
  id: number;
  lotId: number;
  text: string;
  personId: number;
  at: Date;
}
export type PhotoSubject = 'lot' | 'offer' | 'pack' | 'cell' | 'finding' | 'benchRun';
export interface PhotoRow {
  id: number;
  lotId: number;
  subjectType: PhotoSubject;
  subjectId: number;
  name: string;
  sha256: string;
  width: number;
  height: number;
  /** JPEG without position data. */
  image: Buffer;
  thumb: Buffer;
  personId: number;
  at: Date;
}
/** A photograph set aside, or taken back; the newest mark of it counts. */
export interface PhotoMarkRow {
  id: number;
  photoId: number;
  aside: boolean;
  reason: string;
  personId: number;
  at: Date;
}
/** A batch a browser sent, so that a repeated send does nothing twice. */
export interface ClientBatchRow {
  id: string;
  at: Date;
}
/** One thing entered while receiving a lot; the newest of a field counts, all stay visible. */
export interface ReceivingEntryRow {
  id: number;
  lotId: number;
  field: string;
  value: unknown;
  personId: number;
  at: Date;
}
export type InspectionAct = 'clear' | 'finding' | 'madeGood' | 'withdrawn';
export interface InspectionEntryRow {
  id: number;
  lotId: number;
  cellId: number;
  act: InspectionAct;
  /** Kind of finding, for `finding`. */
  code: string | null;
  /** The finding that was made good or withdrawn. */
  findingId: number | null;
  note: string | null;
  /** State before it was made good. */
  before: string | null;
  /** The reading it came of; null for what a person saw. */
  readingId?: number | null;
  personId: number;
  at: Date;
}
export interface CodeScanRow {
  id: number;
  lotId: number;
  cellId: number;
  code: string;
  outcome: 'assigned' | 'again' | 'copied';
  personId: number;
  at: Date;
}
export interface CodeTemplateRow {
  id: number;
  name: string;
  pattern: string;
  active: boolean;
  version: number;
}
export interface MakerCodeRow {
  id: number;
  code: string;
  name: string;
  version: number;
}
export interface RecoveryEntryRow {
  id: number;
  lotId: number;
  cellId: number;
  act: 'released' | 'heatCheck' | RecoveryOutcome;
  protocol: string;
  protocolVersion: number;
  mostA: number | null;
  minutes: number | null;
  temperatureC: number | null;
  note: string | null;
  personId: number;
  at: Date;
}
export interface PackRow {
  id: number;
  lotId: number;
  number: string;
  label: string | null;
  voltageV: number;
  capacityAh: number | null;
  energyWh: number | null;
  /** What the label was taken to mean; null until it is broken down. */
  chemistry: Chemistry | null;
  series: number | null;
  parallel: number | null;
  cellAh: number | null;
  /** Work spent on breaking it down. */
  minutes: number | null;
  openedAt: Date | null;
  openedBy: number | null;
  version: number;
}
export interface AcknowledgementRow {
  id: number;
  personId: number;
  kind: string;
  day: string;
  at: Date;
}
export interface SamplingPlanRow {
  id: number;
  lotId: number;
  method: 'all' | 'attributes' | 'risk' | 'sequential';
  parameters: Record<string, number | string>;
  lotSize: number;
  sampleSize: number;
  acceptance: number;
  seed: number;
  /** Drawn cells: in the order of the lot, those of a sequential plan in the order they are tested in. */
  cellIds: number[];
  strata: SampleStratum[];
  reason: string | null;
  personId: number;
  at: Date;
}
/** What a drawn cell came to first, what a plan was decided as (no cell), or that it was opened again. */
export interface SamplingResultRow {
  id: number;
  planId: number;
  cellId: number | null;
  state: 'good' | 'short' | 'tooClose' | 'accepted' | 'failed' | 'reopened';
  value: number | null;
  reason: string | null;
  personId: number | null;
  at: Date;
}
/** Where a cell stands between the box and the bench; derived and replaceable. */
export interface CellArrivalRow {
  cellId: number;
  lotId: number;
  inspected: boolean;
  /** Worst open finding. */
  worst: Severity | null;
  /** Codes of open findings, as JSON. */
  findings: string;
  /** Worst finding as grading sees it: made good counts as a note. */
  graded: 'none' | Severity | null;
  /** Codes of all findings that were not withdrawn, made good or not, as JSON. */
  found: string;
  /** Earliest production day its code can mean. */
  producedOn: string | null;
  /** Latest one. */
  producedUntil: string | null;
  firstV: number | null;
  lowestV: number | null;
  newestV: number | null;
  triage: TriageOutcome | null;
  triageReason: string | null;
  gate: Gate;
}

/** How many cells of a lot stand alike in what its arrival waits for. */
export interface CellStateCount extends Pick<
  CellArrivalRow,
  'lotId' | 'gate' | 'inspected' | 'triage'
> {
  /** A first voltage is known. */
  isRead: boolean;
  count: number;
}
