import { median, normalQuantile, robustScores } from '../statistics';

/** Beyond this robust z a value of a lot stands out (handbook, chapter 5). */
export const OUTLIER_Z = 3.5;

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
  const score = robustScores(all);
  const withZ = values.map((one) => ({ ...one, z: score(one.value) }));
  const onChannel = new Map<string, number[]>();
  for (const { channel, z } of withZ)
    if (channel !== null && z !== null) {
      if (onChannel.has(channel)) onChannel.get(channel)!.push(z);
      else onChannel.set(channel, [z]);
    }
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
