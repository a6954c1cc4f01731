import { earlyRises } from '../../evidence';
import { median, robustScores } from '../../statistics';
import { scaledEstimate } from '../../units';
import type { GradeEvidence, KeptEvidence } from './figures';

/** Fewest cells of a lot another one is held against. */
export const FEWEST_IN_LOT = 5;

/** What a lot’s cells are held against, of the lot itself. */
export interface LotGrounds {
  /** Median AC resistance, mΩ; null below five readings. */
  acMohm: number | null;
  /** Median 10 s DC resistance, mΩ; null below five. */
  dcMohm: number | null;
  /** How far the charge tail of each cell rises above the lot’s, as robust z; by the cell’s id. */
  rises: Record<string, number>;
}

const middle = (values: readonly number[]): number | null =>
  values.length < FEWEST_IN_LOT ? null : median([...values]);

/**
 * Medians and early rises of a lot, from the newest values that count (handbook, chapters 3 and 4).
 * @param tails voltages at the end of the newest charge of each cell, V, at `TAIL_SHARES`.
 */
export function lotGrounds(
  acMohm: readonly number[],
  dcMohm: readonly number[],
  tails: ReadonlyMap<string, number[]>,
): LotGrounds {
  const rises = tails.size < FEWEST_IN_LOT ? new Map<string, number>() : earlyRises(tails);
  const score = robustScores([...rises.values()]);
  return {
    acMohm: middle(acMohm),
    dcMohm: middle(dcMohm),
    rises: Object.fromEntries(
      [...rises].flatMap(([cell, rise]) => {
        const z = score(rise);
        return z === null ? [] : [[cell, Number(z.toFixed(3))]];
      }),
    ),
  };
}

/**
 * A cell’s evidence with what it comes to beside the others of its lot. Without grounds it stands for
 * itself.
 * @param cell its id, as in the grounds.
 */
export function besideLot(
  { own, ...evidence }: KeptEvidence,
  grounds: LotGrounds | null,
  cell: string,
): GradeEvidence {
  if (!grounds) return evidence;
  const beside: GradeEvidence = { ...evidence };
  const { acMohm, dcMohm, rises } = grounds;
  if (own?.acMohm && acMohm) beside.acResistanceOfLot = scaledEstimate(own.acMohm, 1 / acMohm);
  if (own?.dcMohm && dcMohm) beside.dcResistanceOfLot = scaledEstimate(own.dcMohm, 1 / dcMohm);
  const rise = rises[cell];
  if (rise !== undefined)
    beside.earlyRise = { value: rise, standardUncertainty: 0, bound: 'exact' };
  return beside;
}
