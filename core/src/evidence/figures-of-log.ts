import type { Figure, Finding } from '../units';
import { type Accuracy, unknownTesterAccuracy } from './accuracy';
import {
  CAPACITY_METHOD,
  type CapacityFigures,
  capacitiesToCutoffs,
  ENERGY_METHOD,
  MEAN_VOLTAGE_METHOD,
} from './capacity';
import { type CalibrationPoint, correctReading } from './meters/calibration';
import { chargeBetween } from './charge-steps';
import { checkCounter, type CounterCheck } from './counter-check';
import { type Efficiency, efficiencyOf } from './efficiency';
import { leaderShare } from './leader-share';
import type { ReadLog } from './reading/read-log';
import {
  type FigureOrReason,
  leadOf,
  LOAD_ON_DELAYS_S,
  LOAD_ON_METHOD,
  loadOnResistance,
} from './resistance';
import { type LogSanity, sanityOf } from './sanity';
import {
  cutSections,
  type Discharge,
  mainDischarge,
  meanCurrentOf,
  type Section,
} from './sections';
import { STRING_METHOD, type StringResistances, stringResistances } from './string-resistance';
import { type TemperatureSummary, temperatureSummary } from './temperature';
import type { Trace } from './trace';
import { TWO_STEP_METHOD, twoStepResistance } from './two-step';

/** What the figures of a log are computed with. */
export interface LogFigureOptions {
  /** Cut-offs to read capacity and energy at, V. */
  cutoffsV: number[];
  /** Null: the house default for an unknown tester. */
  accuracy: Accuracy | null;
  leadMohm?: number;
  /** Standard uncertainty of it, mΩ. */
  leadUncertaintyMohm?: number;
  ratedAh?: number;
  /** Voltages of the channel against a reference meter; the trace is read through them. */
  voltageTable?: readonly CalibrationPoint[];
  /** Its channel can only load: in a hole nothing can have been charged. */
  loadOnly?: boolean;
}

/** Everything one log gives. */
export interface LogFigures {
  sections: Section[];
  discharge: Discharge | null;
  /** One per cut-off, in the order asked; null when the log holds no discharge. */
  capacities: ({ cutoffV: number } & CapacityFigures)[] | null;
  resistance: {
    r1s: FigureOrReason;
    r10s: FigureOrReason;
    r30s: FigureOrReason;
    twoStep: FigureOrReason;
  };
  counter: CounterCheck | null;
  leaderShare: number[] | null;
  efficiency: Efficiency | null;
  /** ΔV / ΔI of each cell of a string between two loads. */
  stringCells: StringResistances | null;
  temperature: TemperatureSummary | null;
  /** Rest just before load-on, s; null without a discharge. */
  restBeforeS: number | null;
  meanCurrentA: number | null;
  sanity: LogSanity;
  findings: Finding[];
}

/** Methods a run’s figures are made by: one of a later version makes them new. */
export const LOG_METHODS = [
  CAPACITY_METHOD,
  ENERGY_METHOD,
  MEAN_VOLTAGE_METHOD,
  LOAD_ON_METHOD,
  TWO_STEP_METHOD,
  STRING_METHOD,
] as const;

/** Computes all figures of a log that has been read. Pure: the same log gives the same bits. */
export function figuresOfLog(log: ReadLog, options: LogFigureOptions): LogFigures {
  const trace = {
    ...throughTable(log.trace, options.voltageTable ?? []),
    ...(options.loadOnly ? { loadOnly: true } : {}),
  };
  const largestA = largestOf(trace.currentA);
  const accuracy =
    options.accuracy ?? unknownTesterAccuracy(largestA || (options.ratedAh ?? 0) * 0.2);
  const sections = cutSections(trace, options.ratedAh);
  const discharge = mainDischarge(sections);
  const lead = leadOf(options.leadMohm, options.leadUncertaintyMohm);
  const capacities = discharge
    ? capacitiesToCutoffs(trace, discharge, options.cutoffsV, {
        accuracy,
        leadMohm: options.leadMohm,
        leadUncertaintyMohm: options.leadUncertaintyMohm,
      }).map((figures, i) => ({ cutoffV: options.cutoffsV[i]!, ...figures }))
    : null;
  const [r1s, r10s, r30s] = LOAD_ON_DELAYS_S.map((delay) =>
    loadOnResistance(trace, discharge, delay, accuracy, lead),
  );
  const counter = discharge
    ? checkCounter(trace, discharge, trace.currentA ? discharge.ah : null)
    : null;
  const computed = [
    ...holeFindings(trace),
    ...(counter?.findings ?? []),
    ...sharedFindings(capacities),
  ];
  const restart = earlyRestart(log, trace, options.ratedAh);
  if (restart) computed.push(restart);
  if (options.voltageTable?.length)
    computed.push({
      code: 'voltage-corrected',
      text: `Voltages were read through the channel’s correction table of ${options.voltageTable.length} points.`,
      severity: 'note',
    });
  if (!trace.currentA && !trace.counterAh) {
    computed.push({
      code: 'no-current',
      text: 'The log has neither current nor a charge counter: no charge can be computed.',
      severity: 'warning',
    });
  }
  const last = discharge?.sections[discharge.sections.length - 1];
  const firstIndex = discharge?.sections[0]?.fromIndex ?? 0;
  return {
    sections,
    discharge,
    capacities,
    resistance: {
      r1s: r1s!,
      r10s: r10s!,
      r30s: r30s!,
      twoStep: twoStepResistance(trace, sections, accuracy, lead),
    },
    counter,
    leaderShare: leaderShare(trace.timeS, trace.cellVoltagesV),
    stringCells: stringResistances(trace, sections, accuracy),
    efficiency: efficiencyOf(trace, sections, discharge, { accuracy, lead }),
    temperature: temperatureSummary(trace, firstIndex, last?.toIndex ?? trace.timeS.length - 1),
    restBeforeS: discharge ? restBefore(sections, discharge) : null,
    meanCurrentA: discharge ? meanCurrentOf(discharge.sections) : null,
    sanity: sanityOf(trace, sections, discharge, {
      cutoffV: options.cutoffsV[0] ?? 0,
      leadOhm: lead.mohm / 1000,
    }),
    findings: [
      ...log.findings.map((finding) => ({ ...finding, from: finding.from ?? ('file' as const) })),
      ...computed.map((finding) => ({ ...finding, from: 'computed' as const })),
    ],
  };
}

function largestOf(currentA: Float64Array | null): number {
  let most = 0;
  if (currentA)
    for (let i = 0; i < currentA.length; i++) {
      const size = Math.abs(currentA[i]!);
      if (size > most) most = size;
    }
  return most;
}

/** The trace with its voltages corrected; the stored one stays as logged. */
export function throughTable(trace: Trace, table: readonly CalibrationPoint[]): Trace {
  if (table.length === 0) return trace;
  const correct = (values: Float64Array) => values.map((shown) => correctReading(table, shown));
  return {
    ...trace,
    voltageV: correct(trace.voltageV),
    cellVoltagesV: trace.cellVoltagesV.map(correct),
  };
}

/** Holes told one by one; of more the rest is told together. */
const MOST_TOLD = 5;

/** Where a trace has stretches without readings. */
function holeFindings({ holes }: Trace): Finding[] {
  const seconds = ({ fromS, toS }: Trace['holes'][number]) => Math.round(toS - fromS);
  const told = holes.slice(0, MOST_TOLD).map((hole): Finding => ({
    code: 'hole',
    text: `No readings for ${seconds(hole)} s, from ${Math.round(hole.fromS)} s to ${Math.round(hole.toS)} s.`,
    severity: 'warning',
  }));
  const rest = holes.slice(MOST_TOLD);
  if (rest.length > 0)
    told.push({
      code: 'hole',
      text: `${rest.length} more stretch(es) without readings, the longest ${Math.max(...rest.map(seconds))} s.`,
      severity: 'warning',
    });
  return told;
}

/** A clock that began again before a tenth of the claim could have flowed is a question. */
const EARLY_SHARE = 0.1;

function earlyRestart(
  { restartsS = [] }: ReadLog,
  trace: Trace,
  ratedAh: number | undefined,
): Finding | null {
  const first = restartsS[0];
  if (first === undefined || !ratedAh || trace.sums) return null;
  let row = 0;
  while (row + 1 < trace.timeS.length && trace.timeS[row + 1]! < first) row++;
  const ah = chargeBetween(trace, 0, row);
  if (!(ah < EARLY_SHARE * ratedAh)) return null;
  return {
    code: 'time-guessed',
    text: `The clock began again after ${ah.toPrecision(3)} Ah, less than a tenth of the claim: was it a new run, or are digits of the time missing? Say how the time is to be read.`,
    severity: 'warning',
  };
}

function restBefore(sections: Section[], discharge: Discharge): number {
  const before = sections[sections.indexOf(discharge.sections[0]!) - 1];
  return before?.kind === 'rest' ? before.toS - before.fromS : 0;
}

/** Findings of the capacities, each text once. */
function sharedFindings(capacities: LogFigures['capacities']): Finding[] {
  const seen = new Map<string, Finding>();
  for (const { capacity } of capacities ?? [])
    for (const finding of capacity.findings) seen.set(finding.text, finding);
  return [...seen.values()];
}

/** The figures of a log as a flat list, for storing. */
export function listFigures(figures: LogFigures): { figure: Figure; cutoffV: number | null }[] {
  const listed: { figure: Figure; cutoffV: number | null }[] = [];
  for (const { cutoffV, capacity, energy, meanVoltage } of figures.capacities ?? []) {
    for (const figure of [capacity, energy, meanVoltage]) listed.push({ figure, cutoffV });
  }
  for (const { figure } of Object.values(figures.resistance))
    if (figure) listed.push({ figure, cutoffV: null });
  return listed;
}
