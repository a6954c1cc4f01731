import type { Chemistry } from '../chemistry';
import { CHEMISTRY_PROFILES } from '../chemistry';
import { median, medianAbsoluteDeviation } from '../statistics';

/** A cell’s loss over its rest, as it is compared with its lot. */
export interface CellLoss {
  cell: string;
  /** First counted reading less the last, V; above 0 where charge was lost. */
  lossV: number;
  /** Days since the charge of the first counted reading and of the last. */
  fromDays: number;
  toDays: number;
  /** When the last reading was taken, days on any one clock. */
  readOn: number;
  /** Coarsest step of its own readings, V. */
  resolutionV: number;
}

/** How a cell stands against its lot. */
export interface LossAgainstLot extends CellLoss {
  /** Robust z of the loss; null where the lot cannot tell. */
  z: number | null;
  isFastLoser: boolean;
}

/** A lot’s losses side by side, or why they cannot be compared. */
export interface LotLosses {
  /** Cells that are compared with one another, in the order given. */
  cells: LossAgainstLot[];
  /** Cells read at another time than most, or after another stand: they are not compared. */
  apart: CellLoss[];
  medianV: number | null;
  /** Scale most losses are told by, V: median absolute deviation, or half of a usual resolution. */
  spreadV: number | null;
  /** Why nothing is told; null where it is. */
  refused: string | null;
}

const LEAST_CELLS = 8;
/** Read within so many days of one another, and after like times (handbook, chapter 4). */
const WITHIN_DAYS = 3;
const MOST_Z = 3.5;
const TO_SIGMA = 0.6745;
const LFP_MV = 3;
/** For the 4.2 V class; other chemistries by their charge voltage. */
const OTHERS_MV = 8;
const CLASS_V = 4.2;

/** Least loss beyond the lot’s median that makes a fast loser, V (handbook, chapter 4). */
export function leastFastLossV(chemistry: Chemistry): number {
  if (chemistry === 'LFP') return LFP_MV / 1000;
  return ((OTHERS_MV / 1000) * CHEMISTRY_PROFILES[chemistry].chargeV) / CLASS_V;
}

const isLike = (a: CellLoss, b: CellLoss): boolean =>
  Math.abs(a.readOn - b.readOn) <= WITHIN_DAYS &&
  Math.abs(a.fromDays - b.fromDays) <= WITHIN_DAYS &&
  Math.abs(a.toDays - b.toDays) <= WITHIN_DAYS;

/** The largest group of cells that were all read like one of them. */
function likeMost(losses: readonly CellLoss[]): CellLoss[] {
  return losses.reduce<CellLoss[]>((most, one) => {
    const like = losses.filter((other) => isLike(one, other));
    return like.length > most.length ? like : most;
  }, []);
}

/**
 * Losses of cells that stood together, against the median of their lot: a fast loser lies beyond it by
 * a robust z above 3.5 and by more than 3 mV (LFP) or 8 mV (others, by their charge voltage). Needs 8
 * cells read within 3 days of one another and after like times; the spread is taken no smaller than
 * half the meter’s resolution (handbook, chapter 4). Each cell has its own: one coarse reading is no
 * scale of its lot.
 */
export function lossesAgainstLot(losses: readonly CellLoss[], chemistry: Chemistry): LotLosses {
  const like = likeMost(losses);
  const apart = losses.filter((one) => !like.includes(one));
  if (like.length < LEAST_CELLS)
    return {
      cells: like.map((one) => ({ ...one, z: null, isFastLoser: false })),
      apart,
      medianV: null,
      spreadV: null,
      refused: `${like.length} cells were read within ${WITHIN_DAYS} days of one another after like times; the lot can tell from ${LEAST_CELLS} on.`,
    };
  const values = like.map(({ lossV }) => lossV);
  const medianV = median(values);
  const usualV = median(like.map(({ resolutionV }) => resolutionV));
  const spreadV = Math.max(medianAbsoluteDeviation(values), usualV / 2);
  const leastV = leastFastLossV(chemistry);
  return {
    cells: like.map((one) => {
      const z = (TO_SIGMA * (one.lossV - medianV)) / Math.max(spreadV, one.resolutionV / 2);
      return { ...one, z, isFastLoser: z > MOST_Z && one.lossV - medianV > leastV };
    }),
    apart,
    medianV,
    spreadV,
    refused: null,
  };
}
