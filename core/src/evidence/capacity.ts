import { combineBudget, type BudgetComponent, type Figure, type Finding } from '../units';
import type { Accuracy } from './accuracy';
import { leadOf } from './resistance';
import { RunningTotals } from './running-totals';
import type { Discharge } from './sections';
import { intervalOf, type Trace } from './trace';

export const CAPACITY_METHOD = { name: 'capacity-to-cut-off', version: 3 };
export const ENERGY_METHOD = { name: 'energy-to-cut-off', version: 2 };
export const MEAN_VOLTAGE_METHOD = { name: 'mean-voltage', version: 1 };

/** Above the cut-off by no more than this, an end counts as reached (handbook, chapter 3), V. */
const END_TOLERANCE_V = 0.01;

export interface CapacityOptions {
  cutoffV: number;
  accuracy: Accuracy;
  /** Resistance of the leads between cell and tester, mΩ, when voltage was read at the tester. */
  leadMohm?: number;
  /** Standard uncertainty of it, mΩ; a tenth as limits where nothing is said. */
  leadUncertaintyMohm?: number;
}

export interface CapacityFigures {
  capacity: Figure;
  energy: Figure;
  meanVoltage: Figure;
}

interface End {
  /** Position in the totals up to which charge counts, and the share of the next interval. */
  at: number;
  share: number;
  ah: number;
  wh: number;
  atS: number;
  kind: 'crossed' | 'extrapolated' | 'close' | 'above' | 'broken';
  /** Time past the last row that was added by extrapolation, s. */
  beyondS: number;
}

function findEnd(trace: Trace, totals: RunningTotals, cutoffV: number): End {
  const last = totals.length - 1;
  const timeAt = (i: number) => trace.timeS[totals.rowAt(i)]!;
  const reached = totals.crossing(cutoffV);
  const plain = (at: number, kind: End['kind']): End => ({
    at,
    share: 0,
    ah: totals.ahAt(at),
    wh: totals.whAt(at),
    atS: timeAt(at),
    kind,
    beyondS: 0,
  });
  if (totals.brokenAt !== null && (reached === -1 || reached > totals.brokenAt))
    return plain(totals.brokenAt, 'broken');
  if (reached > 0) {
    const [high, low] = [totals.cellVAt(reached - 1), totals.cellVAt(reached)];
    const share = high > low ? Math.min(1, Math.max(0, (high - cutoffV) / (high - low))) : 1;
    const between = (before: number, after: number) => before + share * (after - before);
    return {
      at: reached - 1,
      share,
      ah: between(totals.ahAt(reached - 1), totals.ahAt(reached)),
      wh: between(totals.whAt(reached - 1), totals.whAt(reached)),
      atS: timeAt(reached - 1) + share * (timeAt(reached) - timeAt(reached - 1)),
      kind: 'crossed',
      beyondS: 0,
    };
  }
  const interval = intervalOf(trace);
  const above = totals.cellVAt(last) - cutoffV;
  const fall =
    last > 0
      ? (totals.cellVAt(last - 1) - totals.cellVAt(last)) / (timeAt(last) - timeAt(last - 1))
      : 0;
  const resolutionV = 10 ** -trace.decimals.voltageV;
  if (fall > 0 && above <= fall * interval + resolutionV / 2) {
    const nextRow = totals.rowAt(last) + 1;
    const untilNextS = (trace.timeS[nextRow] ?? Infinity) - timeAt(last);
    const beyondS = Math.min(above / fall, untilNextS);
    const gain = trace.currentA
      ? (totals.currentAt(totals.rowAt(last)) * beyondS) / 3600
      : ((totals.ahAt(last) - totals.ahAt(last - 1)) * beyondS) / (timeAt(last) - timeAt(last - 1));
    const end = plain(last, 'extrapolated');
    const meanV = (totals.cellVAt(last) + cutoffV) / 2;
    return {
      ...end,
      ah: end.ah + gain,
      wh: end.wh + gain * meanV,
      atS: end.atS + beyondS,
      beyondS,
    };
  }
  return plain(last, above <= END_TOLERANCE_V ? 'close' : 'above');
}

/** Charge when the voltage first falls to `cutoffV`, Ah; null when the trace does not reach it. */
function chargeAt(totals: RunningTotals, cutoffV: number): number | null {
  const reached = totals.crossing(cutoffV);
  if (reached < 1) return null;
  const [high, low] = [totals.cellVAt(reached - 1), totals.cellVAt(reached)];
  const share = high > low ? Math.min(1, Math.max(0, (high - cutoffV) / (high - low))) : 1;
  const before = totals.ahAt(reached - 1);
  return before + share * (totals.ahAt(reached) - before);
}

/**
 * |dQ/dV| in Ah/V at the end, from this very trace: over the voltmeter’s own limits of error
 * where they reach beyond the rows beside the end, else from the slope of those rows.
 * @param limitV limits of error of the voltage at the cut-off, V.
 */
function chargePerVolt(totals: RunningTotals, end: End, cutoffV: number, limitV: number): number {
  const from = Math.max(0, end.at - 5);
  const to = Math.min(totals.length - 1, end.at + 2);
  if (end.kind === 'crossed' && 2 * limitV > totals.cellVAt(from) - totals.cellVAt(to)) {
    const early = chargeAt(totals, cutoffV + limitV);
    const late = chargeAt(totals, cutoffV - limitV);
    if (early !== null && late !== null) return (late - early) / (2 * limitV);
    if (early !== null) return (end.ah - early) / limitV;
  }
  return slopeBeside(totals, end);
}

/** |dQ/dV| in Ah/V from the slope of the voltage over the rows beside the end. */
function slopeBeside(totals: RunningTotals, end: End): number {
  const from = Math.max(0, end.at - 5);
  const to = Math.min(totals.length - 1, end.at + 2);
  const n = to - from + 1;
  if (n < 2) return 0;
  let [sumV, sumQ, sumQQ, sumVQ] = [0, 0, 0, 0];
  for (let i = from; i <= to; i++) {
    const [v, q] = [totals.cellVAt(i), totals.ahAt(i)];
    sumV += v;
    sumQ += q;
    sumQQ += q * q;
    sumVQ += v * q;
  }
  const slope = (n * sumVQ - sumV * sumQ) / (n * sumQQ - sumQ * sumQ);
  return slope < 0 ? -1 / slope : 0;
}

interface BudgetContext {
  trace: Trace;
  discharge: Discharge;
  totals: RunningTotals;
  end: End;
  options: CapacityOptions;
  meanCurrentA: number;
}

/** Uncertainty of a discharge capacity, component by component (handbook, chapter 3). */
function capacityBudget(context: BudgetContext): BudgetComponent[] {
  const { trace, discharge, totals, end, options, meanCurrentA } = context;
  const { accuracy, cutoffV } = options;
  const root3 = Math.sqrt(3);
  const hours = (end.atS - discharge.loadOnS) / 3600;
  const first = discharge.sections[0]!;
  const beforeS =
    first.fromIndex > 0 ? first.fromS - trace.timeS[first.fromIndex - 1]! : intervalOf(trace);
  const voltageErrorV = (accuracy.voltageGainPct / 100) * cutoffV + accuracy.voltageOffsetV;
  const perVolt = chargePerVolt(totals, end, cutoffV, voltageErrorV);
  const intervalS = intervalOf(trace);
  const components: BudgetComponent[] = [
    {
      name: 'current gain',
      standardUncertainty: ((accuracy.currentGainPct / 100) * end.ah) / root3,
      basis: `${accuracy.currentGainPct} % of ${end.ah.toPrecision(5)} Ah, rectangular (${accuracy.source})`,
    },
    {
      name: 'current offset',
      standardUncertainty: (accuracy.currentOffsetA * hours) / root3,
      basis: `${(accuracy.currentOffsetA * 1000).toPrecision(3)} mA over ${hours.toPrecision(4)} h, rectangular`,
    },
    {
      name: 'time base',
      standardUncertainty: (accuracy.timePpm * 1e-6 * end.ah) / root3,
      basis: `${accuracy.timePpm} ppm of ${end.ah.toPrecision(5)} Ah, rectangular`,
    },
    {
      name: 'load-on instant',
      standardUncertainty: (meanCurrentA * beforeS) / 2 / root3 / 3600,
      basis: `half of the ${beforeS.toPrecision(3)} s before the first loaded reading at ${meanCurrentA.toPrecision(4)} A, rectangular`,
    },
  ];
  if (end.kind !== 'above' && end.kind !== 'broken') {
    components.push({
      name: 'cut-off voltage',
      standardUncertainty: (voltageErrorV / root3) * perVolt,
      basis: `${(voltageErrorV * 1000).toPrecision(3)} mV at |dQ/dV| = ${perVolt.toPrecision(3)} Ah/V, rectangular`,
    });
  }
  if (end.kind === 'extrapolated' || end.kind === 'close') {
    components.push({
      name: 'end between samples',
      standardUncertainty: (meanCurrentA * intervalS) / root3 / 3600,
      basis: `one interval of ${intervalS.toPrecision(3)} s at ${meanCurrentA.toPrecision(4)} A, rectangular`,
    });
  }
  const lead = leadOf(options.leadMohm, options.leadUncertaintyMohm);
  if (lead.mohm > 0 && end.kind !== 'above' && end.kind !== 'broken') {
    components.push({
      name: 'lead resistance',
      standardUncertainty: (lead.standardUncertaintyMohm / 1000) * meanCurrentA * perVolt,
      basis: `${lead.standardUncertaintyMohm.toPrecision(2)} mΩ of ${lead.mohm.toPrecision(4)} mΩ at ${meanCurrentA.toPrecision(4)} A, through |dQ/dV|`,
    });
  }
  for (const hole of totals.bridged) {
    if (hole.toS > end.atS) continue;
    const halfDisagreed = (hole.ah / 2) * hole.disagreement + (hole.currentA * intervalS) / 3600;
    components.push({
      name: 'hole bridged',
      standardUncertainty: halfDisagreed / root3,
      basis: `${Math.round(hole.toS - hole.fromS)} s without readings, edges agree within ${(hole.disagreement * 100).toPrecision(2)} %`,
    });
  }
  if (!trace.currentA && trace.counterAh) {
    const resolution = counterResolution(trace.counterAh);
    components.push({
      name: 'counter resolution',
      standardUncertainty: resolution / Math.sqrt(6),
      basis: `two readings at ${resolution.toPrecision(2)} Ah, rectangular`,
    });
    if (end.kind === 'crossed') {
      components.push({
        name: 'counter interval',
        standardUncertainty: (meanCurrentA * intervalS) / 2 / root3 / 3600,
        basis: `half an interval of ${intervalS.toPrecision(3)} s at the final current, rectangular`,
      });
    }
  }
  return components;
}

/** Smallest step a counter takes, Ah. */
export function counterResolution(counterAh: Float64Array): number {
  let smallest = Infinity;
  for (let i = 1; i < counterAh.length; i++) {
    const step = Math.abs(counterAh[i]! - counterAh[i - 1]!);
    if (step > 1e-9 && step < smallest) smallest = step;
  }
  return Number.isFinite(smallest) ? Number(smallest.toPrecision(2)) : 0;
}

function findingsOf(context: BudgetContext): Finding[] {
  const { totals, end, options } = context;
  const findings: Finding[] = [];
  const note = (code: string, text: string, severity: Finding['severity'] = 'warning') =>
    findings.push({ code, text, severity });
  const lastV = totals.cellVAt(totals.length - 1);
  if (end.kind === 'above') {
    note(
      'ended-above-cut-off',
      `The discharge ended at ${lastV.toFixed(3)} V, above the cut-off of ${options.cutoffV} V: the cell holds at least this much.`,
    );
  } else if (end.kind === 'extrapolated') {
    note(
      'stopped-between-samples',
      `The last reading is ${lastV.toFixed(3)} V; at its slope the cut-off was reached ${end.beyondS.toFixed(1)} s later, within one interval.`,
      'note',
    );
  } else if (end.kind === 'close') {
    note(
      'ended-close-to-cut-off',
      `The discharge ended at ${lastV.toFixed(3)} V, within 10 mV of the cut-off.`,
      'note',
    );
  } else if (end.kind === 'broken') {
    note(
      'run-incomplete',
      'Current differs by more than 2 % on the two sides of a hole in the log; charge is counted only up to it.',
    );
  }
  if (context.discharge.sections.length > 1) {
    note(
      'interrupted',
      `The discharge was interrupted ${context.discharge.sections.length - 1} time(s); the parts were added.`,
    );
  }
  return findings;
}

/** Capacity, energy and mean voltage to several cut-offs, the trace integrated once. */
export function capacitiesToCutoffs(
  trace: Trace,
  discharge: Discharge,
  cutoffsV: readonly number[],
  options: Omit<CapacityOptions, 'cutoffV'>,
): CapacityFigures[] {
  const totals = new RunningTotals(trace, discharge, (options.leadMohm ?? 0) / 1000);
  return cutoffsV.map((cutoffV) => figuresTo(trace, discharge, totals, { ...options, cutoffV }));
}

/**
 * Capacity, energy and mean voltage from load-on to a cut-off (handbook, chapter 3).
 * From one trace any cut-off above the lowest voltage reached can be read; below it the
 * result is a lower bound.
 * @param discharge from `mainDischarge`. @param options.cutoffV V, above 0.
 */
export function capacityToCutoff(
  trace: Trace,
  discharge: Discharge,
  options: CapacityOptions,
): CapacityFigures {
  return capacitiesToCutoffs(trace, discharge, [options.cutoffV], options)[0]!;
}

function figuresTo(
  trace: Trace,
  discharge: Discharge,
  totals: RunningTotals,
  options: CapacityOptions,
): CapacityFigures {
  const leadOhm = (options.leadMohm ?? 0) / 1000;
  const end = findEnd(trace, totals, options.cutoffV);
  const hours = (end.atS - discharge.loadOnS) / 3600;
  const meanCurrentA = hours > 0 ? end.ah / hours : 0;
  const context: BudgetContext = { trace, discharge, totals, end, options, meanCurrentA };
  const { budget, standardUncertainty } = combineBudget(capacityBudget(context));
  const bound = end.kind === 'above' || end.kind === 'broken' ? 'atLeast' : 'exact';
  const source = trace.currentA
    ? '∫|I| dt by the trapezoid rule on the logged times'
    : 'differences of the instrument’s charge counter';
  const steps = [
    `Load-on at ${discharge.loadOnS.toFixed(1)} s, the first row with current.`,
    ...(leadOhm > 0
      ? [
          `Voltage at the cell taken as the logged voltage plus |I| × ${options.leadMohm} mΩ of leads.`,
        ]
      : []),
    `End at ${end.atS.toFixed(1)} s: ${END_WORDS[end.kind]} ${options.cutoffV} V.`,
    `Charge by ${source}.`,
  ];
  const shared = {
    bound,
    inputs: [
      { name: 'cut-off', value: options.cutoffV, unit: 'V' as const },
      { name: 'mean current', value: meanCurrentA, unit: 'A' as const },
      { name: 'rows used', value: end.at + 1 },
      ...(leadOhm > 0
        ? [{ name: 'lead resistance', value: options.leadMohm!, unit: 'mΩ' as const }]
        : []),
    ],
    steps,
    findings: findingsOf(context),
    span: { fromS: discharge.loadOnS, toS: end.atS },
  } satisfies Partial<Figure>;
  const capacity: Figure = {
    ...shared,
    quantity: 'capacity',
    value: end.ah,
    unit: 'Ah',
    standardUncertainty,
    budget,
    method: CAPACITY_METHOD,
  };
  return {
    capacity,
    energy: energyFigure(capacity, end.wh, options),
    meanVoltage: meanVoltageFigure(capacity, end.wh, options),
  };
}

const END_WORDS: Record<End['kind'], string> = {
  crossed: 'interpolated where the voltage falls to',
  extrapolated: 'extended by less than one interval to',
  close: 'the last loaded row, within 10 mV of',
  above: 'the last loaded row, still above',
  broken: 'the row before a hole that cannot be bridged, above',
};

/** Components that act at the end of the discharge, where the voltage is the cut-off. */
const AT_CUTOFF = new Set(['cut-off voltage', 'lead resistance']);

function energyFigure(capacity: Figure, wh: number, options: CapacityOptions): Figure {
  const { accuracy } = options;
  const meanV = wh / capacity.value;
  const lead = leadOf(options.leadMohm, options.leadUncertaintyMohm);
  const meanCurrentA = capacity.inputs.find(({ name }) => name === 'mean current')!.value as number;
  const leadWh = (lead.standardUncertaintyMohm / 1000) * meanCurrentA * capacity.value;
  const parts = capacity.budget.map((part) => ({
    ...part,
    standardUncertainty:
      part.standardUncertainty * (AT_CUTOFF.has(part.name) ? options.cutoffV : meanV) +
      (part.name === 'lead resistance' ? leadWh : 0),
    basis: `${part.basis}; times the voltage`,
  }));
  if (leadWh > 0 && !parts.some(({ name }) => name === 'lead resistance'))
    parts.push({
      name: 'lead resistance',
      standardUncertainty: leadWh,
      basis: 'what the leads took at this current',
    });
  parts.push({
    name: 'voltage',
    standardUncertainty:
      ((accuracy.voltageGainPct / 100) * wh + accuracy.voltageOffsetV * capacity.value) /
      Math.sqrt(3),
    basis: `${accuracy.voltageGainPct} % of reading and ${(accuracy.voltageOffsetV * 1000).toPrecision(3)} mV over ${capacity.value.toPrecision(4)} Ah, rectangular`,
  });
  return {
    ...capacity,
    quantity: 'energy',
    value: wh,
    unit: 'Wh',
    method: ENERGY_METHOD,
    steps: [...capacity.steps, 'Energy by ∫V·|I| dt over the same rows.'],
    ...combineBudget(parts),
  };
}

function meanVoltageFigure(capacity: Figure, wh: number, options: CapacityOptions): Figure {
  const { accuracy } = options;
  const value = capacity.value > 0 ? wh / capacity.value : 0;
  const parts = [
    {
      name: 'voltage',
      standardUncertainty:
        ((accuracy.voltageGainPct / 100) * value + accuracy.voltageOffsetV) / Math.sqrt(3),
      basis: `${accuracy.voltageGainPct} % of reading and ${(accuracy.voltageOffsetV * 1000).toPrecision(3)} mV, rectangular`,
    },
  ];
  return {
    ...capacity,
    quantity: 'meanVoltage',
    value,
    unit: 'V',
    bound: 'exact',
    method: MEAN_VOLTAGE_METHOD,
    steps: [...capacity.steps, 'Mean voltage is energy over charge.'],
    ...combineBudget(parts),
  };
}
