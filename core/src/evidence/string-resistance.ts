import { median, robustScores } from '../statistics';
import { combineBudget, type Figure, budgetPart } from '../units';
import type { Accuracy } from './accuracy';
import { currentLevels, type Level } from './levels';
import type { Section } from './sections';
import type { Trace } from './trace';

/** Kept with every resistance from a string's load step. */
export const STRING_METHOD = { name: 'string-resistance', version: 1 };

/** One cell of a string between two loads. */
export interface StringCell {
  /** Place in the string, from 1. */
  position: number;
  figure: Figure;
  /** Robust z against the other cells of the string; null with too few. */
  z: number | null;
  standsOut: boolean;
}

/** Resistances of a string's cells from one step of its load. */
export interface StringResistances {
  lowA: number;
  highA: number;
  atS: number;
  cells: StringCell[];
  medianMohm: number;
}

const STANDS_OUT_Z = 3.5;
/** Shortest time at a load that settles the voltages, s, and least step between the two loads. */
const SETTLED_S = 2;
const LEAST_STEP = 0.25;

/** The largest step between two steady loads that follow each other; null without one. */
function largestStep(
  currentA: Float64Array,
  timeS: Float64Array,
  sections: readonly Section[],
): { low: Level; high: Level; step: number } | null {
  let best: { low: Level; high: Level; step: number } | null = null;
  for (const section of sections) {
    if (section.kind !== 'discharge') continue;
    const levels = currentLevels(currentA, section).filter(
      ({ from, to }) => timeS[to]! - timeS[from]! >= SETTLED_S,
    );
    for (let i = 1; i < levels.length; i++) {
      const [a, b] = [levels[i - 1]!, levels[i]!];
      const adjoining = b.from - a.to <= 3;
      const step = Math.abs(b.amps - a.amps);
      if (!adjoining || step < LEAST_STEP * Math.max(a.amps, b.amps)) continue;
      if (!best || step > best.step) best = { low: a, high: b, step };
    }
  }
  return best;
}

/**
 * ΔV / ΔI of every cell between two loads of a string (handbook, chapters 3 and 4): the largest
 * step between two steady loads that follow each other. Null without cell voltages or such a step.
 */
export function stringResistances(
  trace: Trace,
  sections: readonly Section[],
  accuracy: Accuracy,
): StringResistances | null {
  const { currentA, cellVoltagesV, timeS } = trace;
  if (!currentA || cellVoltagesV.length < 2) return null;
  const best = largestStep(currentA, timeS, sections);
  if (!best) return null;
  const { low, high, step } = best;
  const before = rowsOf(low.to, low.from, -1);
  const after = rowsOf(high.from + 1, high.to, 1);
  const mean = (values: Float64Array, rows: number[]) =>
    rows.reduce((sum, row) => sum + values[row]!, 0) / rows.length;
  const rising = high.amps > low.amps;
  const mohms = cellVoltagesV.map((cell) => {
    const drop = mean(cell, before) - mean(cell, after);
    return ((rising ? drop : -drop) / step) * 1000;
  });
  const resolutionV = 10 ** -trace.decimals.voltageV / Math.sqrt(12);
  const spanS = {
    fromS: timeS[before[before.length - 1]!]!,
    toS: timeS[after[after.length - 1]!]!,
  };
  const score = robustScores(mohms);
  const middle = median(mohms);
  return {
    lowA: Math.min(low.amps, high.amps),
    highA: Math.max(low.amps, high.amps),
    atS: timeS[high.from]!,
    medianMohm: middle,
    cells: mohms.map((mohm, i) => {
      const z = score(mohm);
      return {
        position: i + 1,
        z,
        standsOut: z !== null && z > STANDS_OUT_Z && mohm > 1.1 * middle,
        figure: {
          quantity: 'dcResistanceString',
          value: mohm,
          unit: 'mΩ',
          bound: 'exact',
          method: STRING_METHOD,
          inputs: [
            { name: 'cell of the string', value: i + 1 },
            { name: 'lower load', value: Math.min(low.amps, high.amps), unit: 'A' },
            { name: 'higher load', value: Math.max(low.amps, high.amps), unit: 'A' },
          ],
          steps: [
            `Mean of up to ${AVERAGED_ROWS} readings on each side of the change of load at ${timeS[high.from]!.toFixed(1)} s.`,
            'R = ΔV / ΔI; it holds the joint unless voltage was read on the terminals.',
          ],
          findings: [],
          span: spanS,
          ...combineBudget([
            budgetPart(
              'voltageResolution',
              ((resolutionV * Math.sqrt(1 / before.length + 1 / after.length)) / step) * 1000,
              `${trace.decimals.voltageV} decimals, rectangular`,
            ),
            budgetPart(
              'current',
              ((accuracy.currentGainPct / 100) * Math.abs(mohm)) / Math.sqrt(3),
              `${accuracy.currentGainPct} % of the step, rectangular (${accuracy.source})`,
            ),
            budgetPart(
              'voltageGain',
              ((accuracy.voltageGainPct / 100) * Math.abs(mohm)) / Math.sqrt(3),
              `${accuracy.voltageGainPct} % of the difference, rectangular`,
            ),
          ]),
        },
      };
    }),
  };
}

const AVERAGED_ROWS = 5;

/** Up to five rows from one row on towards another. */
function rowsOf(from: number, to: number, direction: 1 | -1): number[] {
  const rows: number[] = [];
  for (let row = from; rows.length < AVERAGED_ROWS && (to - row) * direction >= 0; row += direction)
    rows.push(row);
  return rows.length > 0 ? rows : [to];
}

/** Cells beside one that stand out too: each shares a bar with it. */
export function badNeighboursOf(
  cells: readonly Pick<StringCell, 'position' | 'standsOut'>[],
  position: number,
): string[] {
  return cells
    .filter((cell) => cell.standsOut && Math.abs(cell.position - position) === 1)
    .map((cell) => `cell ${cell.position}`);
}
