import { median, medianAbsoluteDeviation, robustScores, robustZ } from '../statistics';
import { type CurveShape, TAIL_SHARES } from './curve-shape';

/** Beyond this robust z a cell stands out (handbook, chapter 3). */
export const STANDS_OUT_Z = 3.5;

/** A cell’s curve against those of its lot. */
export interface OddCurve {
  cell: string;
  kind: 'risesEarly' | 'earlyKnee' | 'steepEnd' | 'slowRelaxation' | 'missingPeak' | 'shiftedPeak';
  /** Robust z against the lot; null where something is missing rather than far off. */
  z: number | null;
  value: number;
  lotMedian: number;
  unit: 'V' | 'Ah' | 'V/Ah';
  advice: string;
}

const ADVICE: Record<OddCurve['kind'], string> = {
  risesEarly:
    'Condition it two or three cycles and test again before any verdict: a cell that never cycled does this and then stops.',
  earlyKnee: 'Its curve bends down before the others’: look at its capacity and its resistance.',
  steepEnd: 'Its voltage falls faster at the end than the others’: it may be short of capacity.',
  slowRelaxation:
    'It recovers more after load than the others: its resistance is high or it is not at rest.',
  missingPeak:
    'A peak of dQ/dV the others have is not there: another chemistry, other contents, or lithium that is gone.',
  shiftedPeak:
    'Its peak of dQ/dV lies at another voltage: resistance moves all of them, lost lithium moves them against each other.',
};

/** Mean voltage above the lot’s median over the charge tail, for each cell that has one, V. */
export function earlyRises(tails: ReadonlyMap<string, number[]>): Map<string, number> {
  const list = [...tails.values()];
  const medians = TAIL_SHARES.map((_, i) => median(list.map((tail) => tail[i]!)));
  return new Map(
    [...tails].map(([cell, tail]) => [
      cell,
      tail.reduce((sum, v, i) => sum + v - medians[i]!, 0) / tail.length,
    ]),
  );
}

/**
 * How far a charge tail rises above those of other cells, as a robust z; null with fewer than four others
 * or without a spread.
 * @param tail and `others` in V, at `TAIL_SHARES`.
 */
export function earlyRiseZ(tail: number[], others: readonly number[][]): number | null {
  const rises = earlyRises(
    new Map([
      ...others.map((one, i): [string, number[]] => [String(i), one]),
      ['own', tail] as [string, number[]],
    ]),
  );
  return robustZ(rises.get('own')!, [...rises.values()]);
}

/** Cells whose curve stands out from their lot by robust z beyond 3.5, worst first. */
export function oddCurves(shapes: ReadonlyMap<string, CurveShape>): OddCurve[] {
  const collect = (pick: (shape: CurveShape) => number | null) =>
    new Map(
      [...shapes].flatMap(([cell, shape]): [string, number][] => {
        const value = pick(shape);
        return value === null ? [] : [[cell, value]];
      }),
    );
  const tails = new Map(
    [...shapes].flatMap(([cell, { chargeTailV }]): [string, number[]][] =>
      chargeTailV ? [[cell, chargeTailV]] : [],
    ),
  );
  const found: OddCurve[] = [];
  const judge = (
    kind: OddCurve['kind'],
    unit: OddCurve['unit'],
    /** Which side is odd, and what is too little to speak of. */
    { side, least }: { side: 1 | -1; least: number },
    values: Map<string, number>,
  ) => {
    const all = [...values.values()];
    const centre = median(all);
    const score = robustScores(all);
    for (const [cell, value] of values) {
      const z = score(value);
      if (z === null || side * z <= STANDS_OUT_Z || Math.abs(value - centre) < least) continue;
      found.push({ cell, kind, z, value, lotMedian: centre, unit, advice: ADVICE[kind] });
    }
  };
  judge('risesEarly', 'V', { side: 1, least: 0.002 }, earlyRises(tails));
  const knees = collect(({ knee }) => knee?.ah ?? null);
  judge('earlyKnee', 'Ah', { side: -1, least: 0.01 * median([...knees.values()]) }, knees);
  judge(
    'steepEnd',
    'V/Ah',
    { side: -1, least: 0 },
    collect(({ endSlopeVPerAh }) => endSlopeVPerAh),
  );
  judge(
    'slowRelaxation',
    'V',
    { side: 1, least: 0.002 },
    collect(({ relaxationV }) => relaxationV.after10min),
  );
  found.push(...oddPeaks(shapes));
  const weight = ({ z }: OddCurve) => (z === null ? STANDS_OUT_Z : Math.abs(z));
  return found.sort((a, b) => weight(b) - weight(a));
}

/** Peaks nearer than this belong together, V, and a lot’s peak is one that most cells have. */
const ONE_PEAK_V = 0.03;

const MOST_CELLS = 0.7;

const LEAST_SHIFT_V = 0.008;

const LEAST_CELLS = 5;

/** Peaks stand on a grid, so their deviation is never less than half a step of it, V. */
const GRID_SPREAD_V = 0.0025;

/** Peaks of dQ/dV against the lot’s: missing, or at another voltage. */
function oddPeaks(shapes: ReadonlyMap<string, CurveShape>): OddCurve[] {
  const all = [...shapes].flatMap(([cell, { incremental }]) =>
    incremental ? [{ cell, peaks: incremental.peaks }] : [],
  );
  if (all.length < LEAST_CELLS) return [];
  const volts = all
    .flatMap(({ cell, peaks }) => peaks.map(({ voltageV }) => ({ cell, voltageV })))
    .sort((a, b) => a.voltageV - b.voltageV);
  const groups: (typeof volts)[] = [];
  for (const peak of volts) {
    const last = groups[groups.length - 1];
    if (last && peak.voltageV - last[last.length - 1]!.voltageV <= ONE_PEAK_V) last.push(peak);
    else groups.push([peak]);
  }
  return groups.flatMap((group): OddCurve[] => {
    const having = new Map(group.map(({ cell, voltageV }) => [cell, voltageV]));
    if (having.size < MOST_CELLS * all.length) return [];
    const values = [...having.values()];
    const centre = median(values);
    return all.flatMap(({ cell }): OddCurve[] => {
      const value = having.get(cell);
      const base = { cell, lotMedian: centre, unit: 'V' as const };
      if (value === undefined)
        return [
          { ...base, kind: 'missingPeak', z: null, value: centre, advice: ADVICE.missingPeak },
        ];
      const spread = Math.max(medianAbsoluteDeviation(values), GRID_SPREAD_V);
      const z = (0.6745 * (value - centre)) / spread;
      if (Math.abs(z) <= STANDS_OUT_Z || Math.abs(value - centre) < LEAST_SHIFT_V) return [];
      return [{ ...base, kind: 'shiftedPeak', z, value, advice: ADVICE.shiftedPeak }];
    });
  });
}
