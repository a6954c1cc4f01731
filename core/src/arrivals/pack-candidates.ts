import { CHEMISTRIES, CHEMISTRY_PROFILES, type Chemistry } from '../chemistry';
import type { CellFormat } from './inspection';

/** What a pack's label says: volts, and ampere-hours or watt-hours. */
export interface PackLabel {
  voltageV: number;
  /** One of both, or both. */
  capacityAh: number | null;
  energyWh: number | null;
}

/** One way the pack can be built: chemistry, S and P, Ah of one cell. */
export interface PackCandidate {
  chemistry: Chemistry;
  series: number;
  parallel: number;
  cellAh: number;
  groupAh: number;
  /** Label voltage over S, V, and how far the nominal cell voltage is from it, % of it. */
  perCellV: number;
  deviationPct: number;
  /** The label's voltage is not S times the usual one, though near it. */
  odd: boolean;
}

/** Capacities one cell of a format plausibly has, Ah (house defaults). */
const PLAUSIBLE_AH: Record<CellFormat, readonly [number, number]> = {
  cylinder: [0.5, 16],
  prism: [2, 330],
  pouch: [0.8, 120],
};
/** Largest distance from nominal that still counts, % (handbook, chapter 1). */
const WITHIN_PCT = 4;
const ODD_FROM_PCT = 1;
const MOST_PARALLEL = 24;

/**
 * What a pack's label can mean: whole S within 4 % of the nominal voltage over all chemistries,
 * and P that leave a plausible cell (handbook, chapter 1, "Packs to break down").
 * @returns best first: nearest nominal voltage, then fewest cells in parallel.
 * @throws RangeError when voltage or charge are not above 0.
 */
export function packCandidates(label: PackLabel, format: CellFormat): PackCandidate[] {
  const { voltageV } = label;
  if (!(voltageV > 0)) throw new RangeError('Expected a pack voltage above 0 V.');
  const groupAh = label.capacityAh ?? (label.energyWh === null ? null : label.energyWh / voltageV);
  if (groupAh === null || !(groupAh > 0))
    throw new RangeError('Expected the pack’s capacity in Ah or its energy in Wh, above 0.');
  const [least, most] = PLAUSIBLE_AH[format];
  const found: PackCandidate[] = [];
  for (const chemistry of CHEMISTRIES) {
    const { nominalV } = CHEMISTRY_PROFILES[chemistry];
    const series = Math.round(voltageV / nominalV);
    if (series < 1) continue;
    const perCellV = voltageV / series;
    const deviationPct = 100 * (1 - nominalV / perCellV);
    if (Math.abs(deviationPct) > WITHIN_PCT + 1e-9) continue;
    for (let parallel = 1; parallel <= MOST_PARALLEL; parallel++) {
      const cellAh = groupAh / parallel;
      if (cellAh < least || cellAh > most) continue;
      found.push({
        chemistry,
        series,
        parallel,
        cellAh,
        groupAh,
        perCellV,
        deviationPct,
        odd: Math.abs(deviationPct) > ODD_FROM_PCT,
      });
    }
  }
  return found.sort(
    (a, b) =>
      Math.abs(a.deviationPct) - Math.abs(b.deviationPct) ||
      a.parallel - b.parallel ||
      a.series - b.series,
  );
}

/** Shown before a pack is opened (handbook, Safety). */
export const BREAKDOWN_CAUTION =
  'Cut edges and strips are sharp; never pierce or bend a cell; a charged pack can weld. Gloves and glasses, one cell at a time, the rest covered. Packs are not meant to be opened: local codes and a licensed practitioner come first.';
