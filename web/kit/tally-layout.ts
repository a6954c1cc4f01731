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

export interface PlacedStroke {
  x: number;
  /** Foot of the stroke. */
  base: number;
  height: number;
}

export interface TallyLayout {
  placed: PlacedStroke[];
  pitch: number;
  rowHeight: number;
  rows: number;
  perRow: number;
  height: number;
  /** Height of each of the lanes below a foot: marks, then signs when there are any. */
  laneHeight: number;
  /** Height of the claim line above each row's foot; null without a claim. */
  claimHeight: number;
}

/** Shares below this stand as the shortest stroke, above `TOP` as the tallest. */
const BOTTOM = 0.7;
const TOP = 1.12;
/** Gap after each group of five, in strokes. */
const GROUP_GAP = 0.7;
const LEAST_PITCH = 3;

const heightOf = (share: number): number =>
  Math.max(0.08, Math.min(1, (share - BOTTOM) / (TOP - BOTTOM)));

/**
 * Places strokes in groups of five, wrapping into rows when they would stand closer than three
 * pixels. Room below each row's foot is kept for marks, and for signs when there are any.
 */
export function layoutTally(
  strokes: TallyStroke[],
  width: number,
  rowHeight: number,
  mostPitch = 22,
): TallyLayout {
  const unitsFor = (n: number) => n + Math.floor(Math.max(0, n - 1) / 5) * GROUP_GAP + 1;
  let perRow = Math.max(5, strokes.length);
  if (width / unitsFor(perRow) < LEAST_PITCH) {
    perRow = Math.max(5, Math.floor(width / LEAST_PITCH / (5 + GROUP_GAP)) * 5);
  }
  const rows = Math.max(1, Math.ceil(strokes.length / perRow));
  const pitch = Math.min(mostPitch, width / unitsFor(perRow));
  const lanes = strokes.some((stroke) => stroke.sign) ? 2 : 1;
  const laneHeight = Math.min(rowHeight / 3, Math.max(9, rowHeight * 0.2));
  const markRoom = laneHeight * lanes;
  const tall = rowHeight - markRoom - 3;
  const placed = strokes.map((stroke, i): PlacedStroke => {
    const column = i % perRow;
    return {
      x: (column + Math.floor(column / 5) * GROUP_GAP + 0.75) * pitch,
      base: Math.floor(i / perRow) * rowHeight + rowHeight - markRoom,
      height: stroke.share === null ? tall * 0.14 : tall * heightOf(stroke.share),
    };
  });
  return {
    placed,
    pitch,
    rowHeight,
    rows,
    perRow,
    height: rows * rowHeight,
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
export const againstClaim = (strokes: TallyStroke[]): boolean =>
  strokes.some((stroke) => stroke.share !== null && stroke.mark !== 'seen');

/** A lot of strokes thinned for a small strip: the worst of each bunch stands for it. */
export function bunchStrokes(strokes: TallyStroke[], most: number): TallyStroke[] {
  if (strokes.length <= most) return strokes;
  const severity = {
    notMet: 6,
    tooClose: 5,
    atLeast: 4,
    notComparable: 3,
    untested: 2,
    noClaim: 1,
    held: 7,
    met: 0,
    unseen: 1,
    seen: 0,
  };
  const rank = ({ mark, sign }: TallyStroke): number =>
    severity[mark] + (sign ? 10 * (SIGNS.length - SIGNS.indexOf(sign)) : 0);
  const size = Math.ceil(strokes.length / most);
  return Array.from({ length: Math.ceil(strokes.length / size) }, (_, i) => {
    const bunch = strokes.slice(i * size, (i + 1) * size);
    return bunch.reduce((worst, stroke) => (rank(stroke) > rank(worst) ? stroke : worst));
  });
}
