import {
  mean,
  median,
  normalQuantile,
  regularisedGammaP,
  robustZ,
  standardDeviation,
  type TwoHumps,
} from '../statistics';

/** Beyond this robust z a value of a lot stands out (handbook, chapter 5). */
export const OUTLIER_Z = 3.5;

/** One cell’s value, with what could tell the humps of a mixed lot apart. */
export interface PlacedValue {
  cell: string;
  value: number;
  /** By name of the attribute, such as `production date`; absent where it is not known. */
  attributes: Readonly<Record<string, string>>;
}

/** A part of a mixed lot. */
export interface LotPart {
  /** What its cells have in common: `2026-01, 2026-02`. */
  of: string;
  n: number;
  mean: number;
  standardDeviation: number | null;
  minimum: number;
}

/** What tells the humps apart, and the parts it gives. */
export interface Parting {
  attribute: string;
  /** Share of cells that stand where their group says, 0 to 1. */
  agreement: number;
  /** Chance of such a link where there is none (χ² test of independence). */
  p: number;
  /** Lower hump first. */
  parts: [LotPart, LotPart];
}

/** An attribute parts a lot where it does so for so many of its cells, and hardly by chance. */
const LEAST_AGREEMENT = 0.9;
const LEAST_SURE = 0.001;
/** Humps are named after so many groups; of more the rest is counted. */
const MOST_NAMED = 4;

/** Which hump a value stands in: the one it is likelier of. */
function humpOf(value: number, { humps: [low, high] }: TwoHumps): 0 | 1 {
  const density = ({ share, mean: centre, sd }: typeof low) =>
    Math.log(share) - Math.log(sd) - ((value - centre) / sd) ** 2 / 2;
  return density(high) > density(low) ? 1 : 0;
}

const partOf = (groups: readonly string[], values: readonly number[]): LotPart => ({
  of:
    groups.length > MOST_NAMED
      ? `${groups.slice(0, MOST_NAMED).join(', ')} and ${groups.length - MOST_NAMED} more`
      : groups.join(', '),
  n: values.length,
  mean: mean([...values]),
  standardDeviation: values.length > 1 ? standardDeviation([...values]) : null,
  minimum: Math.min(...values),
});

function partingBy(
  attribute: string,
  cells: readonly (PlacedValue & { hump: 0 | 1 })[],
): Parting | null {
  const known = cells.filter(({ attributes }) => attributes[attribute] !== undefined);
  if (known.length < LEAST_AGREEMENT * cells.length) return null;
  const groups = new Map<string, [number, number]>();
  for (const { attributes, hump } of known) {
    const own = groups.get(attributes[attribute]!) ?? [0, 0];
    own[hump]++;
    groups.set(attributes[attribute]!, own);
  }
  // Groups of one say nothing of their kind.
  if (groups.size < 2 || groups.size > known.length / 2) return null;
  const right = [...groups.values()].reduce((sum, counts) => sum + Math.max(...counts), 0);
  const agreement = right / known.length;
  const totals = [0, 1].map((hump) => known.filter((cell) => cell.hump === hump).length);
  let chi2 = 0;
  for (const counts of groups.values())
    for (const hump of [0, 1] as const) {
      const expected = ((counts[0] + counts[1]) * totals[hump]!) / known.length;
      if (expected > 0) chi2 += (counts[hump] - expected) ** 2 / expected;
    }
  const p = regularisedGammaP((groups.size - 1) / 2, chi2 / 2).upper;
  const sides = ([0, 1] as const).map((hump) =>
    [...groups]
      .filter(([, counts]) => (counts[1] > counts[0] ? 1 : 0) === hump)
      .map(([group]) => group)
      .sort(),
  );
  if (agreement < LEAST_AGREEMENT || p > LEAST_SURE || sides.some((side) => side.length === 0))
    return null;
  const valuesOf = (side: readonly string[]) =>
    known.flatMap(({ attributes, value }) =>
      side.includes(attributes[attribute]!) ? [value] : [],
    );
  const [low, high] = sides.map((side) => partOf(side, valuesOf(side)));
  return { attribute, agreement, p, parts: [low!, high!] };
}

/**
 * What tells the two humps of a mixed lot apart: production date, pack, box or channel, whichever does so
 * best; null where the lot is not mixed, or nothing does (handbook, chapter 5, "Mixed lot").
 */
export function partingOf(
  cells: readonly PlacedValue[],
  humps: TwoHumps | null,
  attributes: readonly string[],
): Parting | null {
  if (!humps?.isMixed) return null;
  const stood = cells.map((cell) => ({ ...cell, hump: humpOf(cell.value, humps) }));
  return attributes
    .flatMap((attribute) => partingBy(attribute, stood) ?? [])
    .reduce<Parting | null>(
      (best, one) => (best === null || one.agreement > best.agreement ? one : best),
      null,
    );
}

/** Who is suspected where a value stands out. */
export type Suspect = 'typing' | 'channel' | 'connection' | 'cell';

/** A value of a lot that is measured, with what bears on how it came about. */
export interface SuspectValue {
  cell: string;
  value: number;
  isTyped: boolean;
  channel: string | null;
  /** Robust z of its DC resistance over its AC resistance within the lot; null where not known. */
  connectionZ: number | null;
}

/** A cell that stands out of its lot. */
export interface LotOutlier {
  cell: string;
  value: number;
  z: number;
  suspect: Suspect;
  why: string;
}

/** A typed value is a slip of the hand where it is about so many times the median. */
const SLIPS = [10, 100, 1000, 0.1, 0.01, 0.001];

function suspectOf(
  one: SuspectValue,
  middle: number,
  onChannel: ReadonlyMap<string, readonly number[]>,
): Pick<LotOutlier, 'suspect' | 'why'> {
  const ratio = one.value / middle;
  if (one.isTyped && SLIPS.some((slip) => Math.abs(ratio / slip - 1) < 0.2))
    return {
      suspect: 'typing',
      why: `typed, and ${ratio > 1 ? 'ten or more times' : 'a tenth or less of'} the usual value`,
    };
  const mates = one.channel === null ? [] : (onChannel.get(one.channel) ?? []);
  const sameSide = mates.filter(
    (z) => Math.sign(z) === Math.sign(one.value - middle) && Math.abs(z) > 2,
  );
  if (mates.length >= 3 && sameSide.length >= 0.6 * mates.length)
    return {
      suspect: 'channel',
      why: `${sameSide.length} of ${mates.length} results of ${one.channel} lie on this side`,
    };
  if (one.connectionZ !== null && one.connectionZ > OUTLIER_Z)
    return {
      suspect: 'connection',
      why: 'its resistance under load is high for its AC resistance',
    };
  return {
    suspect: 'cell',
    why: one.isTyped ? 'typed, and no slip that shows' : 'nothing else stands out',
  };
}

/**
 * Cells that stand out of their lot by robust z beyond 3.5, each with who is suspected (handbook, chapter
 * 5): a slip of the hand, the channel, the connection, and last the cell itself. Worst first.
 */
export function lotOutliers(values: readonly SuspectValue[]): LotOutlier[] {
  const all = values.map(({ value }) => value);
  if (all.length < 5) return [];
  const middle = median(all);
  const withZ = values.map((one) => ({ ...one, z: robustZ(one.value, all) }));
  const onChannel = new Map<string, number[]>();
  for (const { channel, z } of withZ)
    if (channel !== null && z !== null)
      onChannel.set(channel, [...(onChannel.get(channel) ?? []), z]);
  return withZ
    .flatMap(({ z, ...one }): LotOutlier[] =>
      z === null || Math.abs(z) <= OUTLIER_Z
        ? []
        : [{ cell: one.cell, value: one.value, z, ...suspectOf(one, middle, onChannel) }],
    )
    .sort((a, b) => Math.abs(b.z) - Math.abs(a.z));
}

/**
 * Points of a normal-scores plot: each value at the quantile a normal distribution would have it at
 * (Blom’s positions); a straight line where the values are normal.
 * @example normalScores([2, 1, 3]).map(({ score }) => Number(score.toFixed(3))) // [-0.869, 0, 0.869]
 */
export function normalScores(values: readonly number[]): { value: number; score: number }[] {
  const n = values.length;
  return [...values]
    .sort((a, b) => a - b)
    .map((value, i) => ({ value, score: normalQuantile((i + 1 - 0.375) / (n + 0.25)) }));
}
