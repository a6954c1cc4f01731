import type {
  BenchRunState,
  ChannelLimits,
  ChannelWiring,
  CommandKind,
  JobState,
  ProgramStep,
  RecipePurpose,
  RecipeStep,
  RunEvent,
  RunLimits,
} from '@dusk-tally/core/bench';
import type { Chemistry, Clamping } from '@dusk-tally/core/chemistry';

export interface RecipeRow {
  id: number;
  name: string;
  purpose: RecipePurpose;
  /** Number of the version in use. */
  current: number;
  shipped: boolean;
  retiredAt: Date | null;
  version: number;
}

/** A recipe as it was written once; a run keeps the one it used. */
export interface RecipeVersionRow {
  id: number;
  recipeId: number;
  number: number;
  steps: RecipeStep[];
  attendedOnly: boolean;
  /** Protocol its cell is laid to rest by when a run of it is done; null for none. */
  thenRest?: string | null;
  /** How its cells are held; null for as the data sheet says. */
  clamping?: Clamping | null;
  note: string | null;
  personId: number | null;
  at: Date;
}

/** What a channel can do and where its instruments answer. */
export interface ChannelBenchRow {
  channelId: number;
  limits: ChannelLimits;
  wiring: ChannelWiring | null;
  /** Agent that looks after it; null for none. */
  agent: string | null;
  updatedAt: Date;
  version: number;
}

/** Hours somebody is there, and what the lab decided for its bench. */
export interface BenchSettingsRow {
  id: number;
  /** Minutes of the day in the lab’s time zone. */
  attendedFromMin: number;
  attendedToMin: number;
  /** Days of the week, 1 for Monday to 7. */
  attendedDays: number[];
  /** Longest an agent carries on without the app, s. */
  silenceLimitS: number;
  ambientC: number | null;
  ambientAt: Date | null;
  plannedAt: Date | null;
  /** What the last planning found. */
  planSummary: PlanSummary | null;
  version: number;
}

export interface PlanSummary {
  finishAt: string;
  boundAt: string;
  boundFrom: string;
  gap: number;
  lateJobs: number;
  tried: number;
  oneMore: { channelId: number; savedS: number } | null;
  impossible: { job: number; reason: string }[];
}

/** Where and when a part of a job is planned. */
export interface JobPart {
  channelId: number;
  from: string;
  to: string;
}

export interface BenchJobRow {
  id: number;
  cellId: number;
  lotId: number;
  recipeVersionId: number;
  priority: number;
  dueOn: string | null;
  state: JobState;
  parts: JobPart[];
  /** Its parts were put where they are by hand. */
  pinned: boolean;
  endedReason: string | null;
  personId: number;
  createdAt: Date;
  version: number;
}

export interface BenchRunRow {
  id: number;
  jobId: number | null;
  cellId: number;
  lotId: number;
  channelId: number | null;
  recipeVersionId: number;
  program: ProgramStep[];
  limits: RunLimits;
  startList: { question: string; answeredFor: 'cell' | 'set' }[];
  /** By an agent; else by hand or by an instrument without wires. */
  driven: boolean;
  state: BenchRunState;
  agent: string | null;
  speed: number;
  chemistry: Chemistry;
  /** Charge expected of the cell, Ah. */
  expectedAh: number;
  startSoc: number;
  counterAh: number;
  ambientC: number | null;
  /** How its cell is held; null for a round cell. */
  clamping: Clamping | null;
  startedAt: Date | null;
  endedAt: Date | null;
  endReason: string | null;
  completed: boolean | null;
  /** Evidence it became, first of them. */
  runId: number | null;
  personId: number;
  createdAt: Date;
  version: number;
}

/** Why a run that ended could not be taken in as evidence. */
export interface FoldTroubleRow {
  benchRunId: number;
  reason: string;
  /** How often it was tried. */
  tries: number;
  at: Date;
  /** When it is tried again. */
  nextAt: Date;
  /** Who left it without evidence, and why; null while it is open. */
  leftBy: number | null;
  leftReason: string | null;
}

/** Where a run stands by the last record that came. */
export interface BenchLiveRow {
  benchRunId: number;
  lastSeq: number;
  phase: string;
  step: number;
  stepSinceS: number;
  stepAh: number;
  givenAh: number;
  takenAh: number;
  timeS: number;
  voltageV: number | null;
  currentA: number | null;
  temperatureC: number | null;
  receivedAt: Date;
}

export interface BenchRecordRow {
  benchRunId: number;
  seq: number;
  timeS: number;
  step: number;
  voltageV: number | null;
  currentA: number | null;
  temperatureC: number | null;
  counterAh: number | null;
  /** Of what happened; null for a reading. */
  event: RunEvent | null;
}

export interface BenchAlarmRow {
  id: number;
  benchRunId: number;
  seq: number;
  cellId: number;
  code: string;
  action: string;
  text: string;
  at: Date;
  acknowledgedAt: Date | null;
  acknowledgedBy: number | null;
}

/** A record an agent handed in that could not be taken. */
export interface BenchRefusalRow {
  id: number;
  agent: string;
  /** Null where the record does not say. */
  benchRunId: number | null;
  seq: number | null;
  reason: string;
  /** The record as it came, cut where it is long. */
  body: string;
  bodyHash: string;
  at: Date;
  seenAt: Date | null;
  seenBy: number | null;
}

/** A plan that was begun; one without an end is under way, or its process was killed. */
export interface PlanningRow {
  id: number;
  startedAt: Date;
  personId: number;
  /** Somebody asked it to stop with the best it has. */
  stoppedAt: Date | null;
  stoppedBy: number | null;
  endedAt: Date | null;
}

export interface BenchCommandRow {
  id: number;
  benchRunId: number;
  kind: CommandKind;
  value: number | null;
  personId: number;
  personName: string;
  at: Date;
  doneAt: Date | null;
}

export interface SpotReadingRow {
  id: number;
  benchRunId: number;
  quantity: 'voltage' | 'temperature';
  value: number;
  /** Time of the run, s, and what its instrument showed then. */
  timeS: number;
  shownV: number | null;
  shownA: number | null;
  instrumentId: number | null;
  personId: number;
  at: Date;
}

export interface AgentRow {
  name: string;
  instance: string;
  speed: number;
  seenAt: Date;
}

export const TOKEN_SCOPES = ['read', 'write', 'bench'] as const;

export type TokenScope = (typeof TOKEN_SCOPES)[number];

export interface ApiTokenRow {
  id: number;
  name: string;
  scopes: TokenScope[];
  /** SHA-256 of the token; the token itself is shown once and not kept. */
  hash: string;
  personId: number;
  createdAt: Date;
  revokedAt: Date | null;
  lastUsedAt: Date | null;
  windowAt: Date | null;
  windowCount: number;
}
