import { type Estimate, formatNumber } from '../units';

/** Scale readings of a box and what it should weigh, g. */
export interface BoxWeights {
  /** With and without the box, and of the box; g. Any two give the third. */
  grossG: number | null;
  tareG: number | null;
  netG: number | null;
  /** How far the scale may be off in one weighing, g. */
  scaleToleranceG: number;
  cells: number;
  /** Claimed mass of a cell, g, and its tolerance, %. */
  cellMassG: number | null;
  cellTolerancePct: number | null;
}

/** What the weight of a box says of the cells in it. */
export interface BoxJudgement {
  netG: number | null;
  perCellG: number | null;
  /** Net − claimed, g, and what of it could be the scale and the tolerance. */
  differenceG: number | null;
  toleranceG: number | null;
  verdict: 'agrees' | 'light' | 'heavy' | 'unknown';
  sentence: string;
}

/**
 * Weighs a box against its claim (handbook, chapter 1, "The order and the box"): a difference
 * within the scale's tolerance and the claimed one is noise and is said to be.
 * @throws RangeError for weights that cannot be: net below 0, gross below tare.
 */
export function weighBox(box: BoxWeights): BoxJudgement {
  const { grossG, tareG, scaleToleranceG, cells, cellMassG } = box;
  const byDifference = grossG !== null && tareG !== null;
  if (byDifference && grossG < tareG)
    throw new RangeError(`Expected a gross mass above the tare; found ${grossG} g and ${tareG} g.`);
  const netG = byDifference ? grossG - tareG : box.netG;
  if (netG !== null && netG < 0) throw new RangeError('Expected a net mass of 0 g or more.');
  const unknown = (sentence: string): BoxJudgement => ({
    netG,
    perCellG: netG !== null && cells > 0 ? netG / cells : null,
    differenceG: null,
    toleranceG: null,
    verdict: 'unknown',
    sentence,
  });
  if (netG === null) return unknown('Weigh the full box and the empty one, or the cells alone.');
  if (cells === 0) return unknown('Count the cells first; the mass is compared per cell.');
  if (cellMassG === null)
    return unknown(
      `${formatNumber(netG, 0)} g net for ${cells} cells is ${formatNumber(netG / cells, 1)} g each; no mass is claimed, so there is nothing to compare with.`,
    );
  const claimedG = cells * cellMassG;
  const scaleG = byDifference ? scaleToleranceG * Math.SQRT2 : scaleToleranceG;
  const toleranceG = Math.hypot(scaleG, (claimedG * (box.cellTolerancePct ?? 0)) / 100);
  const differenceG = netG - claimedG;
  const verdict =
    Math.abs(differenceG) <= toleranceG ? 'agrees' : differenceG < 0 ? 'light' : 'heavy';
  const pct = formatNumber(Math.abs((100 * differenceG) / claimedG), 1);
  const perCellG = netG / cells;
  const facts = `${formatNumber(netG, 0)} g net for ${cells} cells is ${formatNumber(perCellG, 1)} g each; ${formatNumber(cellMassG, 1)} g is claimed`;
  const sentence = {
    agrees: `${facts}: no difference beyond the tolerance of ${formatNumber(toleranceG, 0)} g.`,
    light: `${facts}: ${pct} % light, beyond the tolerance of ${formatNumber(toleranceG, 0)} g.`,
    heavy: `${facts}: ${pct} % heavy, beyond the tolerance of ${formatNumber(toleranceG, 0)} g.`,
  }[verdict];
  return { netG, perCellG, differenceG, toleranceG, verdict, sentence };
}

/**
 * Mass of one cell by its box: net over count, g. The scale’s limits make its uncertainty; how far
 * single cells differ is not in it.
 * @returns null where the box was not weighed or no cell is counted.
 * @example massFromBox({ grossG: 9900, tareG: 300, netG: null, scaleToleranceG: 5, cells: 96 })!.value // 100
 */
export function massFromBox(
  box: Pick<BoxWeights, 'grossG' | 'tareG' | 'netG' | 'scaleToleranceG' | 'cells'>,
): Estimate | null {
  const { grossG, tareG, netG, scaleToleranceG, cells } = box;
  const byDifference = grossG !== null && tareG !== null;
  const net = byDifference ? grossG - tareG : netG;
  if (net === null || net <= 0 || cells <= 0) return null;
  const limitG = byDifference ? scaleToleranceG * Math.SQRT2 : scaleToleranceG;
  return {
    value: net / cells,
    standardUncertainty: limitG / Math.sqrt(3) / cells,
    bound: 'exact',
  };
}
