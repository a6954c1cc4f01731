import {
  mean,
  median,
  normalQuantile,
  robustZ,
  seededRandom,
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
  /** Which they are, as they were given. */
  cells: string[];
  n: number;
  mean: number;
  standardDeviation: number | null;
  minimum: number;
}

/** What tells the humps apart, and the parts it gives. */
export interface Parting {
  attribute: string;
  /** Share of cells that lie on their part’s side of the middle between the two, 0 to 1. */
  agreement: number;
  /** Chance of as clear a parting where the attribute says nothing: shuffled so many times. */
  p: number;
  /** Lower part first. */
  parts: [LotPart, LotPart];
}

/** So often the values are shuffled among the cells, of very long lots less often: none may part as clearly. */
const shufflesOf = (cells: number): number =>
  Math.min(400, Math.max(60, Math.floor(500_000 / cells)));
/** A parting is a gain of the information criterion like that of two humps over one. */
const LEAST_GAIN = 10;
/** Humps are named after so many groups; of more the rest is counted. */
const MOST_NAMED = 4;

const partOf = (
  groups: readonly string[],
  cells: readonly Pick<PlacedValue, 'cell' | 'value'>[],
): LotPart => {
  const values = cells.map(({ value }) => value);
  return {
    of:
      groups.length > MOST_NAMED
        ? `${groups.slice(0, MOST_NAMED).join(', ')} and ${groups.length - MOST_NAMED} more`
        : groups.join(', '),
    cells: cells.map(({ cell }) => cell),
    n: values.length,
    mean: mean(values),
    standardDeviation: values.length > 1 ? standardDeviation(values) : null,
    minimum: Math.min(...values),
  };
};

/** Values of one group of an attribute. */
interface Group {
  name: string;
  values: number[];
}

const logLikelihood = (n: number, sum: number, squares: number, least: number): number => {
  const variance = Math.max(least, squares / n - (sum / n) ** 2);
  return (-n / 2) * (Math.log(2 * Math.PI * variance) + 1);
};

/**
 * The clearest cut between groups in the order of their means: how much two normal parts gain on one, as
 * BIC, and after how many groups it is. The parts’ spread is no less than a hundredth of the whole.
 */
function bestCut(groups: readonly { n: number; sum: number; squares: number }[]): {
  gain: number;
  after: number;
} {
  const total = { n: 0, sum: 0, squares: 0 };
  for (const { n, sum, squares } of groups) {
    total.n += n;
    total.sum += sum;
    total.squares += squares;
  }
  const whole = Math.max(0, total.squares / total.n - (total.sum / total.n) ** 2);
  const least = Math.max(1e-4 * whole, Number.MIN_VALUE);
  const one = logLikelihood(total.n, total.sum, total.squares, least);
  let best = { gain: -Infinity, after: 0 };
  const low = { n: 0, sum: 0, squares: 0 };
  for (let after = 1; after < groups.length; after++) {
    const { n, sum, squares } = groups[after - 1]!;
    low.n += n;
    low.sum += sum;
    low.squares += squares;
    const two =
      logLikelihood(low.n, low.sum, low.squares, least) +
      logLikelihood(total.n - low.n, total.sum - low.sum, total.squares - low.squares, least);
    // Two means and two spreads instead of one of each.
    const gain = 2 * (two - one) - 2 * Math.log(total.n);
    if (low.n >= 2 && total.n - low.n >= 2 && gain > best.gain) best = { gain, after };
  }
  return best;
}

/** Groups in the order of their means, summed about a common zero so that nothing is lost in squares. */
function summed(groups: readonly Group[], zero: number) {
  return groups
    .map(({ name, values }) => ({
      name,
      values,
      n: values.length,
      sum: values.reduce((all, value) => all + value - zero, 0),
      squares: values.reduce((all, value) => all + (value - zero) ** 2, 0),
    }))
    .sort((a, b) => a.sum / a.n - b.sum / b.n);
}

function partingBy(
  attribute: string,
  cells: readonly PlacedValue[],
): (Parting & { gain: number }) | null {
  const known = cells.filter(({ attributes }) => attributes[attribute] !== undefined);
  if (known.length < 0.9 * cells.length) return null;
  const byName = new Map<string, number[]>();
  for (const { attributes, value } of known) {
    const own = byName.get(attributes[attribute]!);
    if (own) own.push(value);
    else byName.set(attributes[attribute]!, [value]);
  }
  // Groups of one say nothing of their kind.
  if (byName.size < 2 || byName.size > known.length / 2) return null;
  const values = known.map(({ value }) => value);
  const zero = mean(values);
  const groups = summed(
    [...byName].map(([name, own]) => ({ name, values: own })),
    zero,
  );
  const { gain, after } = bestCut(groups);
  if (!(gain > LEAST_GAIN)) return null;
  const random = seededRandom(20_260_105);
  const sizes = groups.map(({ n }) => n);
  const shuffles = shufflesOf(known.length);
  for (let i = 0; i < shuffles; i++) {
    const shuffled = shuffle(values, random.uniform);
    let at = 0;
    const by = sizes.map((n) => ({ name: '', values: shuffled.slice(at, (at += n)) }));
    if (bestCut(summed(by, zero)).gain >= gain) return null;
  }
  const sides = [groups.slice(0, after), groups.slice(after)];
  const [low, high] = sides.map((side) => {
    const names = new Set(side.map(({ name }) => name));
    return partOf(
      [...names].sort(),
      known.filter(({ attributes }) => names.has(attributes[attribute]!)),
    );
  });
  const middle = (low!.mean + high!.mean) / 2;
  const right =
    sides[0]!.flatMap((group) => group.values).filter((value) => value < middle).length +
    sides[1]!.flatMap((group) => group.values).filter((value) => value >= middle).length;
  return {
    attribute,
    gain,
    agreement: right / known.length,
    p: 1 / (shuffles + 1),
    parts: [low!, high!],
  };
}

/** A shuffled copy (Fisher–Yates). */
function shuffle(values: readonly number[], uniform: () => number): number[] {
  const copy = [...values];
  for (let i = copy.length - 1; i > 0; i--) {
    const j = Math.floor(uniform() * (i + 1));
    [copy[i], copy[j]] = [copy[j]!, copy[i]!];
  }
  return copy;
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
  const [best] = attributes
    .flatMap((attribute) => partingBy(attribute, cells) ?? [])
    .sort((a, b) => b.gain - a.gain);
  if (!best) return null;
  const { gain: _gain, ...parting } = best;
  return parting;
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
