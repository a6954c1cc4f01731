import { useMemo } from 'react';
import {
  againstClaim,
  cellsPerStroke,
  type Gathered,
  gatherStrokes,
  layoutTally,
  type TallyLayout,
  type TallyStroke,
} from './tally-layout';
import {
  COLOUR,
  countsInWords,
  FULL_SIGNS,
  SIGN_COLOUR,
  signPaths,
  strokePaths,
  whiskerPath,
} from './tally-marks';

/** The strokes of a tally with their marks, whiskers, signs and the claim line. */
export function Strokes({
  strokes,
  layout,
  claimed,
}: {
  strokes: readonly Gathered[];
  layout: TallyLayout;
  /** Whether the strokes stand against a claim. */
  claimed: boolean;
}) {
  const drawn = useMemo(() => strokePaths(strokes, layout), [strokes, layout]);
  const signs = useMemo(() => signPaths(strokes, layout), [strokes, layout]);
  const whiskers = useMemo(() => whiskerPath(layout), [layout]);
  const { placed, pitch, claimHeight } = layout;
  const thickness = Math.max(1.2, Math.min(4, pitch * 0.42));
  const foot = placed[0]?.base ?? 0;
  return (
    <>
      {claimed && (
        <path
          d={`M0 ${foot - claimHeight}H${(placed.at(-1)?.x ?? 0) + pitch * 0.6}`}
          stroke="var(--ember)"
          strokeWidth={1}
          strokeDasharray="4 3"
          opacity={0.75}
        />
      )}
      {drawn.map(({ mark, lines, marks }) => (
        <g key={mark} stroke={COLOUR[mark]} fill="none">
          <path
            d={lines}
            strokeWidth={thickness}
            strokeDasharray={mark === 'notComparable' ? '3 2' : undefined}
            strokeLinecap="round"
          />
          {marks !== '' && <path d={marks} strokeWidth={1.3} />}
        </g>
      ))}
      {whiskers !== '' && (
        <path d={whiskers} stroke="var(--ink)" strokeWidth={0.9} fill="none" data-whiskers />
      )}
      {signs.map(([sign, d]) => (
        <path
          key={sign}
          d={d}
          stroke={SIGN_COLOUR[sign]}
          strokeWidth={1.2}
          fill={FULL_SIGNS.has(sign) ? SIGN_COLOUR[sign] : 'none'}
        />
      ))}
    </>
  );
}

/** A lot’s picture for a list: what a small strip needs, however long the lot. */
export interface Thumb {
  gathered: Gathered[];
  words: string;
  claimed: boolean;
}

/** Width of the pictures in rows of lots, px. */
export const ROW_TALLY = 380;

/** Gathers a lot for a strip of a width in px. */
export const thumbOf = (strokes: readonly TallyStroke[], width: number): Thumb => ({
  gathered: gatherStrokes(strokes, cellsPerStroke(strokes.length, width)),
  words: `${strokes.length} cells: ${countsInWords(strokes)}`,
  claimed: againstClaim(strokes),
});

/** The strip in a list, gathered before: fixed size, read as one picture. */
export function ThumbPicture({
  thumb: { gathered, words, claimed },
  width,
  height = 26,
}: {
  thumb: Thumb;
  width: number;
  height?: number;
}) {
  return (
    <svg
      role="img"
      aria-label={words}
      width={width}
      height={height}
      viewBox={`0 0 ${width} ${height}`}
      className="max-w-full"
    >
      <Strokes
        strokes={gathered}
        layout={layoutTally(gathered, width, height, 8)}
        claimed={claimed}
      />
    </svg>
  );
}

/** The strip in a list. */
export const TallyThumb = ({
  strokes,
  width = 300,
  height,
}: {
  strokes: readonly TallyStroke[];
  width?: number;
  height?: number;
}) => <ThumbPicture thumb={thumbOf(strokes, width)} width={width} height={height} />;
