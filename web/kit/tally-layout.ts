/** One stroke of the tally strip. */
export interface TallyStroke {
  number: string;
  /** Capacity over claim; null before a test. */
  share: number | null;
  mark:
    | 'untested'
    | 'met'
    | 'notMet'
    | 'tooClose'
    | 'atLeast'
    | 'notComparable'
    | 'noClaim'
    | 'held'
    /** On an inspection: looked at, or not yet. */
    | 'seen'
    | 'unseen';
  /** What its arrival found; absent or null where nothing was. */
  sign?: 'stop' | 'discard' | 'serious' | 'lead' | 'recovering' | 'note' | null;
}
export type TallySign = NonNullable<TallyStroke['sign']>;

/** Cells gathered into one stroke, in order of arrival; a single cell is a stroke of one. */
export interface Gathered {
  /** Index of the first of its cells. */
  from: number;
  /** Index behind the last of them. */
  to: number;
  /** Capacity over claim of the tested ones: least, median, most; null before any is tested. */
  low: number | null;
  median: number | null;
  high: number | null;
  /** What most of its cells are: the stroke is drawn as that. */
  most: TallyStroke['mark'];
  /** The worst mark among them: drawn on top, so that none hides. */
  worst: TallyStroke['mark'];
  sign: TallySign | null;
}

export interface PlacedStroke {
  x: number;
  /** Foot of the stroke. */
  base: number;
  height: number;
  /** Heights of the least and the most above the foot; null where one cell stands alone. */
  whisker: { low: number; high: number } | null;
}

export interface TallyLayout {
  placed: PlacedStroke[];
  pitch: number;
  height: number;
  /** Height of each of the lanes below a foot: marks, then signs when there are any. */
  laneHeight: number;
  /** Height of the claim line above the foot; null without a claim. */
  claimHeight: number;
}

/** Shares below this stand as the shortest stroke, above `TOP` as the tallest. */
const BOTTOM = 0.7;
const TOP = 1.12;
/** Gap after each group of five, in strokes. */
const GROUP_GAP = 0.7;
/** Strokes of one cell stand no closer than this, those with whiskers no closer than `LEAST_SPREAD`, px. */
const LEAST_PITCH = 3;
const LEAST_SPREAD = 4.5;
/** Round numbers of cells a stroke may gather. */
const SIZES = [2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000, 5000];

const unitsFor = (n: number): number => n + Math.floor(Math.max(0, n - 1) / 5) * GROUP_GAP + 1;

/** How many cells a stroke stands for, so that all of a lot fit one row of a width. */
export function cellsPerStroke(count: number, width: number): number {
  const fits = (strokes: number, pitch: number) => unitsFor(Math.max(5, strokes)) * pitch <= width;
  if (fits(count, LEAST_PITCH)) return 1;
  return SIZES.find((size) => fits(Math.ceil(count / size), LEAST_SPREAD)) ?? count;
}

const SEVERITY: Record<TallyStroke['mark'], number> = {
  held: 7,
  notMet: 6,
  tooClose: 5,
  atLeast: 4,
  notComparable: 3,
  untested: 2,
  noClaim: 1,
  unseen: 1,
  met: 0,
  seen: 0,
};

function middle(sorted: readonly number[]): number | null {
  if (sorted.length === 0) return null;
  const half = sorted.length >> 1;
  return sorted.length % 2 === 1 ? sorted[half]! : (sorted[half - 1]! + sorted[half]!) / 2;
}

function gatherOne(strokes: readonly TallyStroke[], from: number, to: number): Gathered {
  const own = strokes.slice(from, to);
  const shares = own.flatMap(({ share }) => share ?? []).sort((a, b) => a - b);
  const counts = new Map<TallyStroke['mark'], number>();
  for (const { mark } of own) counts.set(mark, (counts.get(mark) ?? 0) + 1);
  // Of as many, the worse one is shown.
  const [most] = [...counts].sort(([a, n], [b, m]) => m - n || SEVERITY[b] - SEVERITY[a])[0]!;
  return {
    from,
    to,
    low: shares[0] ?? null,
    median: middle(shares),
    high: shares.at(-1) ?? null,
    most,
    worst: own.reduce((worst, { mark }) => (SEVERITY[mark] > SEVERITY[worst] ? mark : worst), most),
    sign: SIGNS.find((sign) => own.some((stroke) => stroke.sign === sign)) ?? null,
  };
}

/** Gathers cells, in order of arrival, into strokes of `size`; the last may hold fewer. */
export const gatherStrokes = (strokes: readonly TallyStroke[], size: number): Gathered[] =>
  Array.from({ length: Math.ceil(strokes.length / size) }, (_, i) =>
    gatherOne(strokes, i * size, Math.min(strokes.length, (i + 1) * size)),
  );

const heightOf = (share: number): number =>
  Math.max(0.08, Math.min(1, (share - BOTTOM) / (TOP - BOTTOM)));

/**
 * Places strokes in one row, in groups of five. Room below the foot is kept for marks, and for
 * signs when there are any.
 */
export function layoutTally(
  strokes: readonly Gathered[],
  width: number,
  height: number,
  mostPitch = 22,
): TallyLayout {
  const pitch = Math.min(mostPitch, width / unitsFor(Math.max(5, strokes.length)));
  const lanes = strokes.some((stroke) => stroke.sign) ? 2 : 1;
  const laneHeight = Math.min(height / 3, Math.max(9, height * 0.2));
  const tall = height - laneHeight * lanes - 3;
  const base = height - laneHeight * lanes;
  return {
    placed: strokes.map(({ from, to, low, median, high }, i) => ({
      x: (i + Math.floor(i / 5) * GROUP_GAP + 0.75) * pitch,
      base,
      height: median === null ? tall * 0.14 : tall * heightOf(median),
      whisker:
        to - from === 1 || low === null
          ? null
          : { low: tall * heightOf(low), high: tall * heightOf(high!) },
    })),
    pitch,
    height,
    laneHeight,
    claimHeight: tall * heightOf(1),
  };
}

/** Words for a mark, as read aloud and shown in the key. */
export const MARK_WORDS: Record<TallyStroke['mark'], string> = {
  met: 'claim met',
  notMet: 'claim missed',
  tooClose: 'too close to call',
  atLeast: 'at least this much',
  notComparable: 'not comparable',
  noClaim: 'no claim to compare',
  held: 'held: the evidence waits for a look',
  untested: 'not tested',
  seen: 'looked at',
  unseen: 'not looked at',
};

/** Words for a sign of its arrival. */
export const SIGN_WORDS: Record<TallySign, string> = {
  stop: 'in quarantine',
  discard: 'to discard',
  serious: 'to be made good',
  lead: 'waits for a lead',
  recovering: 'in slow recovery',
  note: 'noted',
};
export const SIGNS = Object.keys(SIGN_WORDS) as TallySign[];

/** Whether strokes stand against a claim, which is then drawn. */
export const againstClaim = (strokes: readonly TallyStroke[]): boolean =>
  strokes.some((stroke) => stroke.share !== null && stroke.mark !== 'seen');
