import { combineBudget, type Figure, type Finding, budgetKind, budgetPart } from '../units';
import type { Accuracy } from './accuracy';
import { type BudgetContext, capacityBudget } from './capacity-budget';
import { type End, findEnd, isOpenEnd } from './discharge-end';
import { isUncounted } from './holes';
import type { LoadEdge } from './load-edge';
import { leadOf } from './resistance';
import { RunningTotals } from './running-totals';
import { type Discharge, meanCurrentOf } from './sections';
import type { Trace } from './trace';

export { counterResolution } from './counter-witness';

/** Kept with every capacity, so that one made by an older way can be told. */
export const CAPACITY_METHOD = { name: 'capacity-to-cut-off', version: 5 };
/** Kept with every energy. */
export const ENERGY_METHOD = { name: 'energy-to-cut-off', version: 5 };
/** Kept with every mean voltage. */
export const MEAN_VOLTAGE_METHOD = { name: 'mean-voltage', version: 1 };

/** Cut-off, accuracy of the instrument and leads a capacity is read with. */
export interface CapacityOptions {
  cutoffV: number;
  accuracy: Accuracy;
  /** Resistance of the leads between cell and tester, mΩ, when voltage was read at the tester. */
  leadMohm?: number;
  /** Standard uncertainty of it, mΩ; a tenth as limits where nothing is said. */
  leadUncertaintyMohm?: number;
}

/** Capacity (Ah), energy (Wh) and mean voltage (V) of one discharge to one cut-off. */
export interface CapacityFigures {
  capacity: Figure;
  energy: Figure;
  meanVoltage: Figure;
}

function findingsOf(context: BudgetContext, discharge: Discharge): Finding[] {
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
    const hole = totals.holes.find(({ position }) => position === end.at + 1)!;
    const seconds = Math.round(hole.toS - hole.fromS);
    if (hole.witness === 'charged')
      note(
        'run-incomplete',
        'After a stretch without readings the voltage stood higher than before it: the cell may have been charged meanwhile. Charge is counted only up to there.',
      );
    else
      note(
        'hole-not-counted',
        `${seconds} s without readings from ${Math.round(hole.fromS)} s on: neither a counter nor the voltage says what flowed, and the cell may have been charged meanwhile. Charge is counted only up to there, and the cell holds at least this much.`,
      );
  } else if (end.kind === 'inHole') {
    const hole = totals.holes.find(({ position }) => position === end.at + 1)!;
    note(
      hole.witness === 'counter' ? 'cut-off-in-hole' : 'cut-off-in-hole-uncounted',
      hole.witness === 'counter'
        ? `The voltage fell through ${options.cutoffV} V while there were no readings; by its counter at most ${hole.ah.toPrecision(3)} Ah more had flowed.`
        : `The voltage fell through ${options.cutoffV} V while there were no readings, and no counter says where.`,
    );
  }
  for (const hole of totals.holes) {
    if (hole.position > end.at || hole.witness !== 'off') continue;
    note(
      'hole-not-counted',
      `${Math.round(hole.toS - hole.fromS)} s without readings from ${Math.round(hole.fromS)} s on: neither a counter nor the voltage says what flowed, so nothing is counted there and the cell holds at least this much; it cannot have been charged meanwhile.`,
    );
  }
  if (openEdges(context).length > 0)
    note(
      'load-in-hole',
      'Load came on or went off while there were no readings: what flowed there is not counted.',
    );
  if (discharge.sections.length > 1) {
    note(
      'interrupted',
      `The discharge was interrupted ${discharge.sections.length - 1} time(s); the parts were added.`,
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
  const meanCurrentA = meanCurrentOf(discharge.sections) ?? 0;
  const context: BudgetContext = { trace, totals, end, options, meanCurrentA };
  const { budget, standardUncertainty } = combineBudget(capacityBudget(context));
  const isOpen =
    isOpenEnd(end) ||
    totals.holes.some(({ position, witness }) => position <= end.at && isUncounted(witness)) ||
    openEdges(context).length > 0;
  const bound = isOpen ? 'atLeast' : 'exact';
  const source = trace.currentA
    ? '∫|I| dt by the trapezoid rule on the logged times'
    : 'differences of the instrument’s charge counter';
  const steps = [
    loadOnWords(discharge, totals.edges[0]!),
    ...(leadOhm > 0
      ? [
          `Voltage at the cell taken as the logged voltage plus |I| × ${options.leadMohm} mΩ of leads.`,
        ]
      : []),
    `End at ${end.atS.toFixed(1)} s: ${end.lineRows > 0 && end.kind === 'crossed' ? `where a line over ${end.lineRows} rows falls to` : END_WORDS[end.kind]} ${options.cutoffV} V.`,
    ...totals.holes
      .filter(({ position }) => position <= end.at)
      .map(
        ({ fromS, toS, ah, basis }) =>
          `Hole from ${fromS.toFixed(0)} s to ${toS.toFixed(0)} s: ${ah.toPrecision(4)} Ah counted; ${basis}.`,
      ),
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
    findings: findingsOf(context, discharge),
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

/** Holes at load-on or at a pause that nobody bears witness for. */
const openEdges = ({ totals, end }: Pick<BudgetContext, 'totals' | 'end'>) =>
  totals.edges.filter(({ by, position }) => by === 'hole' && position <= end.at);

/** What was taken for the instant of load-on. */
function loadOnWords({ loadOnS }: Discharge, { by, intervalS, ah }: LoadEdge): string {
  const first = `First row with current at ${loadOnS.toFixed(1)} s`;
  switch (by) {
    case 'half':
      return `${first}, the last one without ${intervalS.toFixed(1)} s before it: half of that interval is counted, ${ah.toPrecision(3)} Ah.`;
    case 'counter':
      return `${first}; what the counter gained before it is counted, ${ah.toPrecision(3)} Ah.`;
    case 'marker':
      return `${first}; the log marks where the step began, ${ah.toPrecision(3)} Ah before it.`;
    case 'hole':
      return `${first}, after a stretch without readings of which nothing is counted.`;
    case 'first row':
      return `${first}, the first of the log.`;
  }
}

const END_WORDS: Record<End['kind'], string> = {
  crossed: 'interpolated where the voltage falls to',
  extrapolated: 'extended by less than one interval to',
  close: 'the last loaded row, within 10 mV of',
  above: 'the last loaded row, still above',
  broken: 'the row before a hole of which nobody says what flowed, above',
  inHole: 'the row before a hole in which the voltage fell through',
};

function energyFigure(capacity: Figure, wh: number, options: CapacityOptions): Figure {
  const { accuracy } = options;
  const meanV = wh / capacity.value;
  const lead = leadOf(options.leadMohm, options.leadUncertaintyMohm);
  const meanCurrentA = capacity.inputs.find(({ name }) => name === 'mean current')!.value as number;
  const leadWh = (lead.standardUncertaintyMohm / 1000) * meanCurrentA * capacity.value;
  // One voltmeter’s error acts twice, through V and through where the cut-off is: alike, so added.
  const throughEnd = capacity.budget
    .filter(({ kind }) => kind === 'cutoffVoltage')
    .reduce((sum, { standardUncertainty }) => sum + standardUncertainty * options.cutoffV, 0);
  const others = capacity.budget.filter(({ kind }) => kind !== 'cutoffVoltage');
  const parts = others.map((part) => ({
    ...part,
    standardUncertainty:
      part.standardUncertainty * (budgetKind(part.kind).atEnd ? options.cutoffV : meanV) +
      (part.kind === 'leadResistance' ? leadWh : 0),
    basis: `${part.basis}; times the voltage`,
  }));
  if (leadWh > 0 && !parts.some(({ kind }) => kind === 'leadResistance'))
    parts.push(budgetPart('leadResistance', leadWh, 'what the leads took at this current'));
  parts.push(
    budgetPart(
      'voltage',
      ((accuracy.voltageGainPct / 100) * wh + accuracy.voltageOffsetV * capacity.value) /
        Math.sqrt(3) +
        throughEnd,
      `${accuracy.voltageGainPct} % of reading and ${(accuracy.voltageOffsetV * 1000).toPrecision(3)} mV over ${capacity.value.toPrecision(4)} Ah, rectangular${throughEnd > 0 ? `, and ${throughEnd.toPrecision(2)} Wh through where the cut-off is, added` : ''}`,
    ),
  );
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
    budgetPart(
      'voltage',
      ((accuracy.voltageGainPct / 100) * value + accuracy.voltageOffsetV) / Math.sqrt(3),
      `${accuracy.voltageGainPct} % of reading and ${(accuracy.voltageOffsetV * 1000).toPrecision(3)} mV, rectangular`,
    ),
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
