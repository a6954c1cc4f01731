import { type BudgetComponent, type BudgetKind, budgetPart } from '../units';
import type { Accuracy } from './accuracy';
import { counterResolution } from './counter-witness';
import { type End, isOpenEnd } from './discharge-end';
import { leadOf } from './resistance';
import type { RunningTotals } from './running-totals';
import { intervalOf, type Trace } from './trace';

/** What a budget of a capacity needs beside the accuracy of the tester. */
export interface BudgetContext {
  trace: Trace;
  totals: RunningTotals;
  end: End;
  options: {
    cutoffV: number;
    accuracy: Accuracy;
    leadMohm?: number;
    leadUncertaintyMohm?: number;
  };
  meanCurrentA: number;
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
  if (end.perVolt !== null) return end.perVolt;
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

/** What the end of the discharge adds: the cut-off’s voltage, samples apart, noise, a bend. */
function endComponents(
  end: End,
  {
    voltageErrorV,
    perVolt,
    intervalS,
  }: { voltageErrorV: number; perVolt: number; intervalS: number },
): BudgetComponent[] {
  const root3 = Math.sqrt(3);
  const components: BudgetComponent[] = [];
  if (!isOpenEnd(end)) {
    components.push(
      budgetPart(
        'cutoffVoltage',
        (voltageErrorV / root3) * perVolt,
        `${(voltageErrorV * 1000).toPrecision(3)} mV at |dQ/dV| = ${perVolt.toPrecision(3)} Ah/V, rectangular`,
      ),
    );
  }
  if (end.kind === 'extrapolated' || end.kind === 'close') {
    components.push(
      budgetPart(
        'endBetweenSamples',
        end.beyondAh / root3,
        `limits of ${end.beyondAh.toPrecision(3)} Ah, one interval of ${intervalS.toPrecision(3)} s or all that was drawn out, rectangular`,
      ),
    );
  }
  if (end.noiseAh > 0)
    components.push(
      budgetPart(
        'voltageNoise',
        end.noiseAh,
        end.lineRows > 0
          ? `standard error of the line over ${end.lineRows} rows where it meets the cut-off`
          : 'scatter of the two rows the cut-off lies between',
      ),
    );
  if (end.bendAh > 0)
    components.push(
      budgetPart(
        'bendAtCutoff',
        end.bendAh / root3,
        `the curve bends by ${end.bendAh.toPrecision(2)} Ah where the cut-off was read off, rectangular`,
      ),
    );
  return components;
}

/** What a charge counted by the instrument alone adds. */
function counterComponents(
  trace: Trace,
  end: End,
  { meanCurrentA, intervalS }: { meanCurrentA: number; intervalS: number },
): BudgetComponent[] {
  const root3 = Math.sqrt(3);
  const components: BudgetComponent[] = [];
  if (!trace.currentA && trace.counterAh) {
    const resolution = counterResolution(trace.counterAh);
    components.push(
      budgetPart(
        'counterResolution',
        resolution / Math.sqrt(6),
        `two readings at ${resolution.toPrecision(2)} Ah, rectangular`,
      ),
    );
    if (end.kind === 'crossed') {
      components.push(
        budgetPart(
          'counterInterval',
          (meanCurrentA * intervalS) / 2 / root3 / 3600,
          `half an interval of ${intervalS.toPrecision(3)} s at the final current, rectangular`,
        ),
      );
    }
  }
  return components;
}

/** Uncertainty of a discharge capacity, component by component (handbook, chapter 3). */
export function capacityBudget(context: BudgetContext): BudgetComponent[] {
  const { trace, totals, end, options, meanCurrentA } = context;
  const { accuracy, cutoffV } = options;
  const root3 = Math.sqrt(3);
  // Time under load: pauses, and holes in which everything stood still, do not count.
  const hours = meanCurrentA > 0 ? end.ah / meanCurrentA : 0;
  const voltageErrorV = (accuracy.voltageGainPct / 100) * cutoffV + accuracy.voltageOffsetV;
  const perVolt = chargePerVolt(totals, end, cutoffV, voltageErrorV);
  const intervalS = intervalOf(trace);
  const components: BudgetComponent[] = [
    budgetPart(
      'currentGain',
      ((accuracy.currentGainPct / 100) * end.ah) / root3,
      `${accuracy.currentGainPct} % of ${end.ah.toPrecision(5)} Ah, rectangular (${accuracy.source})`,
    ),
    budgetPart(
      'currentOffset',
      (accuracy.currentOffsetA * hours) / root3,
      `${(accuracy.currentOffsetA * 1000).toPrecision(3)} mA over ${hours.toPrecision(4)} h, rectangular`,
    ),
    budgetPart(
      'timeBase',
      (accuracy.timePpm * 1e-6 * end.ah) / root3,
      `${accuracy.timePpm} ppm of ${end.ah.toPrecision(5)} Ah, rectangular`,
    ),
  ];
  components.push(
    ...edgeComponents(totals, end),
    ...endComponents(end, { voltageErrorV, perVolt, intervalS }),
  );
  const lead = leadOf(options.leadMohm, options.leadUncertaintyMohm);
  if (lead.mohm > 0 && !isOpenEnd(end)) {
    components.push(
      budgetPart(
        'leadResistance',
        (lead.standardUncertaintyMohm / 1000) * meanCurrentA * perVolt,
        `${lead.standardUncertaintyMohm.toPrecision(2)} mΩ of ${lead.mohm.toPrecision(4)} mΩ at ${meanCurrentA.toPrecision(4)} A, through |dQ/dV|`,
      ),
    );
  }
  components.push(
    ...holeComponents(totals, end),
    ...counterComponents(trace, end, { meanCurrentA, intervalS }),
  );
  return components;
}

/** Several alike as one: their root sum of squares, and what the largest of them says. */
function together(parts: readonly BudgetComponent[]): BudgetComponent[] {
  const [largest] = [...parts].sort((a, b) => b.standardUncertainty - a.standardUncertainty);
  if (!largest || parts.length === 1) return largest ? [largest] : [];
  return [
    {
      ...largest,
      standardUncertainty: Math.hypot(...parts.map((part) => part.standardUncertainty)),
      basis: `${parts.length} of them, the largest: ${largest.basis}`,
    },
  ];
}

/** Charge that was counted for stretches without readings. */
function holeComponents(totals: RunningTotals, end: End): BudgetComponent[] {
  const of = (kind: BudgetKind, isOwn: (byCounter: boolean) => boolean) =>
    together(
      totals.holes
        .filter(
          ({ position, standardUncertaintyAh, witness }) =>
            position <= end.at && standardUncertaintyAh > 0 && isOwn(witness === 'counter'),
        )
        .map(({ standardUncertaintyAh, basis }) => budgetPart(kind, standardUncertaintyAh, basis)),
    );
  const gaps = totals.gapsUpTo(end.at);
  return [
    ...of('holeCounted', (byCounter) => byCounter),
    ...of('holeBridged', (byCounter) => !byCounter),
    ...(gaps.ah > 0
      ? [
          budgetPart(
            'longInterval',
            gaps.ah / Math.sqrt(3),
            `${Number.isNaN(gaps.count) ? 'intervals' : `${gaps.count} interval(s)`} longer than 1.5 usual ones, limits of what flowed beyond the usual one in each, rectangular`,
          ),
        ]
      : []),
  ];
}

/** Load-on, and both ends of every pause before the end. */
function edgeComponents(totals: RunningTotals, end: End): BudgetComponent[] {
  const edges = totals.edges
    .filter(({ position, limitAh }) => position <= end.at && limitAh > 0)
    .map(({ position, limitAh, intervalS, currentA, by }) =>
      budgetPart(
        position === 0 ? 'loadOn' : 'pause',
        // Testers log on the beat: the truth is as often at one end as anywhere between.
        by === 'half' ? limitAh : limitAh / Math.sqrt(3),
        by === 'counter'
          ? `by the counter, in steps of ${limitAh.toPrecision(2)} Ah, rectangular`
          : `${by === 'half' ? 'half of ' : ''}the ${intervalS.toPrecision(3)} s between a reading with and one without current, at ${currentA.toPrecision(4)} A${by === 'half' ? ', at one end of it or the other' : ', rectangular'}`,
      ),
    );
  const isLoadOn = ({ kind }: BudgetComponent) => kind === 'loadOn';
  return [...together(edges.filter(isLoadOn)), ...together(edges.filter((e) => !isLoadOn(e)))];
}
