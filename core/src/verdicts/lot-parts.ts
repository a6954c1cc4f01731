import { mean, seededRandom, standardDeviation, type TwoHumps } from '../statistics';

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
  const shuffled = values.map((value) => value - zero);
  for (let i = 0; i < shuffles; i++) {
    shuffle(shuffled, random.uniform);
    if (bestCut(summedInTurn(shuffled, sizes)).gain >= gain) return null;
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

/** Shuffles values in their place (Fisher–Yates). */
function shuffle(values: number[], uniform: () => number): void {
  for (let i = values.length - 1; i > 0; i--) {
    const j = Math.floor(uniform() * (i + 1));
    const value = values[i]!;
    values[i] = values[j]!;
    values[j] = value;
  }
}

/** Values taken in turn as groups of those sizes, as `summed` has them. */
function summedInTurn(values: readonly number[], sizes: readonly number[]) {
  let at = 0;
  return sizes
    .map((n) => {
      let [sum, squares] = [0, 0];
      for (const end = at + n; at < end; at++) {
        sum += values[at]!;
        squares += values[at]! ** 2;
      }
      return { n, sum, squares };
    })
    .sort((a, b) => a.sum / a.n - b.sum / b.n);
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
