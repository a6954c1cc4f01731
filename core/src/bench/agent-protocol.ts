import type { Chemistry } from '../chemistry';
import type { Alarm, RunLimits } from './alarms';
import type { ProgramStep } from './recipe';
import type { RunEvent } from './run-state';
import type { CommandKind } from './run-lists';

/** Where the instruments of a channel answer: `host:port`; null for none. */
export interface ChannelWiring {
  load: string | null;
  supply: string | null;
  /** Thermometer and its input, from 1. */
  thermometer: { address: string; input: number } | null;
  /** AC resistance meter and its input, from 1. */
  resistanceMeter: { address: string; input: number } | null;
}

/** A channel an agent looks after. */
export interface AgentChannel {
  id: number;
  title: string;
  wiring: ChannelWiring;
}

/** A run an agent is to start or to go on with. */
export interface Assignment {
  run: number;
  channel: AgentChannel;
  cell: string;
  program: ProgramStep[];
  limits: RunLimits;
  /** Real time between readings, ms. */
  everyMs: number;
  /** Counter of the instrument at the start that is to be subtracted, Ah. */
  counterAh: number;
  /** What is known of the cell before the run. */
  expected: {
    chemistry: Chemistry;
    ratedAh: number;
    /** 0 to 1, from the voltage it was read at. */
    stateOfCharge: number;
    /** As it was measured before, Ah; null for a cell nobody measured. */
    capacityAh: number | null;
  };
}

/** A line of a run’s journal, numbered from 1 within the run. */
export type RunRecord =
  | {
      run: number;
      seq: number;
      kind: 'reading';
      /** Since the start of the run, s of the bench’s time. */
      timeS: number;
      voltageV: number;
      /** Discharge negative, A. */
      currentA: number;
      temperatureC: number | null;
      /** Charge counter of the instrument, Ah. */
      counterAh: number | null;
      step: number;
    }
  | { run: number; seq: number; kind: 'event'; timeS: number; step: number; event: RunEvent };

/** What a person asks of a run. */
export interface RunCommand {
  id: number;
  run: number;
  kind: CommandKind;
  value: number | null;
  by: string;
}

/** What an agent says when it asks for orders. */
export interface AgentPoll {
  agent: string;
  /** Drawn anew at every start of the agent. */
  instance: string;
  /** Seconds its clock counts for each real one. */
  speed: number;
  /** Runs it has, with the last number it gave. */
  runs: { run: number; lastSeq: number; phase: string }[];
  /** Commands it has carried out. */
  done: number[];
}

/** What an agent is told to do. */
export interface AgentOrders {
  start: Assignment[];
  commands: RunCommand[];
  /** Runs the app wants no more of: ended there, or another agent’s. */
  drop: { run: number; reason: string }[];
  /** Longest the agent carries on without the app, s. */
  silenceLimitS: number;
}

/** Records of runs as an agent hands them in, in the order of their numbers. */
export interface RecordBatch {
  agent: string;
  instance: string;
  /** Counts up by one with each batch of an instance. */
  batch: number;
  records: RunRecord[];
}

/** What the app has of a batch; a record is dropped from the agent's journal only after it. */
export interface BatchAnswer {
  /** Per run: every number up to this one is stored. */
  acked: { run: number; seq: number }[];
  /** Records that were set aside because they cannot be taken, with the reason of each. */
  refused: { run: number | null; seq: number | null; reason: string }[];
}

export type { Alarm };
