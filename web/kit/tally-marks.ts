import {
  type Gathered,
  MARK_WORDS,
  type PlacedStroke,
  SIGN_WORDS,
  SIGNS,
  type TallyLayout,
  type TallySign,
  type TallyStroke,
} from './tally-layout';

export const COLOUR: Record<TallyStroke['mark'], string> = {
  met: 'var(--stroke)',
  noClaim: 'var(--stroke)',
  held: 'var(--doubt)',
  untested: 'var(--quiet)',
  seen: 'var(--stroke)',
  unseen: 'var(--quiet)',
  notMet: 'var(--missed)',
  tooClose: 'var(--doubt)',
  atLeast: 'var(--doubt)',
  notComparable: 'var(--quiet)',
};

/** The shape that stands under (or on) a stroke, so that nothing hangs on colour alone. */
export function markPath(
  mark: TallyStroke['mark'],
  { x, base, height }: PlacedStroke,
  size: number,
): string {
  const y = base + 2 + size / 2;
  if (mark === 'notMet')
    return `M${x - size / 2} ${y - size / 2}l${size} ${size}m0 ${-size}l${-size} ${size}`;
  if (mark === 'tooClose')
    return `M${x - size / 2} ${y}a${size / 2} ${size / 2} 0 1 0 ${size} 0a${size / 2} ${size / 2} 0 1 0 ${-size} 0`;
  if (mark === 'atLeast')
    return `M${x - size * 0.7} ${base - height + size * 0.6}L${x} ${base - height - size * 0.3}l${size * 0.7} ${size * 0.9}`;
  // Two short bars: it stands still.
  if (mark === 'held') {
    const [top, gap] = [y - size / 2, size / 3];
    return `M${x - gap} ${top}v${size}M${x + gap} ${top}v${size}`;
  }
  if (mark === 'notComparable') return `M${x - size / 2} ${y + size / 2}l${size} ${-size}`;
  return '';
}

export const SIGN_COLOUR: Record<TallySign, string> = {
  stop: 'var(--missed)',
  discard: 'var(--missed)',
  serious: 'var(--doubt)',
  lead: 'var(--doubt)',
  recovering: 'var(--curve)',
  note: 'var(--quiet)',
};
/** Drawn full rather than as an outline. */
export const FULL_SIGNS = new Set<TallySign>(['stop', 'discard', 'recovering', 'note']);

/** The shape of a sign around a middle: square, wedge, roof, lozenge or dot. */
export function signPath(sign: TallySign, x: number, y: number, size: number): string {
  const h = size / 2;
  if (sign === 'stop') return `M${x - h} ${y - h}h${size}v${size}h${-size}z`;
  if (sign === 'discard') return `M${x - h} ${y - h}h${size}l${-h} ${size}z`;
  if (sign === 'serious') return `M${x - h} ${y + h}h${size}l${-h} ${-size}z`;
  if (sign === 'note')
    return `M${x - h / 2} ${y}a${h / 2} ${h / 2} 0 1 0 ${h} 0a${h / 2} ${h / 2} 0 1 0 ${-h} 0`;
  return `M${x} ${y - h}l${h} ${h}l${-h} ${h}l${-h} ${-h}z`;
}

/** All signs of one kind as one path, in the lane below the marks. */
export function signPaths(
  strokes: readonly Gathered[],
  layout: TallyLayout,
): [TallySign, string][] {
  const size = Math.max(2.4, Math.min(7, layout.pitch * 0.8));
  const bySign = new Map<TallySign, string[]>();
  strokes.forEach(({ sign }, i) => {
    if (!sign) return;
    const { x, base } = layout.placed[i]!;
    const path = signPath(sign, x, base + layout.laneHeight * 1.5, size);
    bySign.set(sign, [...(bySign.get(sign) ?? []), path]);
  });
  return [...bySign].map(([sign, list]) => [sign, list.join('')]);
}

/** Paths of all strokes of one kind. */
export interface DrawnStrokes {
  mark: TallyStroke['mark'];
  /** Strokes most of whose cells are of this kind. */
  lines: string;
  /** Marks of strokes whose worst cell is of this kind. */
  marks: string;
}

/** All strokes of one kind as two paths: a long lot stays a dozen elements. */
export function strokePaths(strokes: readonly Gathered[], layout: TallyLayout): DrawnStrokes[] {
  const size = Math.max(2.2, Math.min(6, layout.pitch * 0.75));
  const byMark = new Map<TallyStroke['mark'], { lines: string[]; marks: string[] }>();
  const entry = (mark: TallyStroke['mark']) => {
    const now = byMark.get(mark) ?? { lines: [], marks: [] };
    byMark.set(mark, now);
    return now;
  };
  strokes.forEach((stroke, i) => {
    const at = layout.placed[i]!;
    entry(stroke.most).lines.push(
      `M${at.x.toFixed(1)} ${at.base.toFixed(1)}v${(-at.height).toFixed(1)}`,
    );
    entry(stroke.worst).marks.push(markPath(stroke.worst, at, size));
  });
  return [...byMark].map(([mark, { lines, marks }]) => ({
    mark,
    lines: lines.join(''),
    marks: marks.join(''),
  }));
}

/** From the least to the most of each gathered stroke, with a bar at both ends, as one path. */
export function whiskerPath({ placed, pitch }: TallyLayout): string {
  const half = Math.max(1.2, Math.min(4, pitch * 0.32));
  return placed
    .flatMap(({ x, base, height, whisker }) => {
      if (!whisker) return [];
      const bar = (at: number) => `M${(x - half).toFixed(1)} ${(base - at).toFixed(1)}h${2 * half}`;
      return [
        `${bar(whisker.low)}M${x.toFixed(1)} ${(base - height).toFixed(1)}V${(base - whisker.high).toFixed(1)}${bar(whisker.high)}`,
      ];
    })
    .join('');
}

/** How many strokes of each kind, as read aloud. */
export function countsInWords(strokes: readonly TallyStroke[]): string {
  const counts = new Map<TallyStroke['mark'], number>();
  for (const { mark } of strokes) counts.set(mark, (counts.get(mark) ?? 0) + 1);
  const signs = SIGNS.flatMap((sign) => {
    const count = strokes.filter((stroke) => stroke.sign === sign).length;
    return count > 0 ? [`${SIGN_WORDS[sign]} ${count}`] : [];
  });
  return [...[...counts].map(([mark, count]) => `${MARK_WORDS[mark]} ${count}`), ...signs].join(
    ', ',
  );
}

const percent = (share: number): string => `${(100 * share).toFixed(1)} %`;

/** One cell, as read aloud. */
export const describe = (stroke: TallyStroke): string =>
  `${stroke.number}: ${stroke.share === null ? '' : `${percent(stroke.share)} of claim, `}${MARK_WORDS[stroke.mark]}${stroke.sign ? `, ${SIGN_WORDS[stroke.sign]}` : ''}`;

/** A stroke, as read aloud: one cell, or how many and how they spread. */
export function describeGathered(
  strokes: readonly TallyStroke[],
  { from, to, low, median, high }: Gathered,
): string {
  const own = strokes.slice(from, to);
  if (own.length === 1) return describe(own[0]!);
  const spread =
    median === null
      ? ''
      : `median ${percent(median)} of claim, ${percent(low!)} to ${percent(high!)}; `;
  return `${own[0]!.number} to ${own.at(-1)!.number}, ${own.length} cells: ${spread}${countsInWords(own)}`;
}

/** Frames around the picked strokes, as one path; where some of a stroke's cells are picked, as much of a frame. */
export function chosenPath(
  strokes: readonly TallyStroke[],
  gathered: readonly Gathered[],
  chosen: ReadonlySet<string>,
  layout: TallyLayout,
): string {
  const half = Math.max(1.5, layout.pitch / 2);
  return gathered
    .flatMap(({ from, to }, i) => {
      let picked = 0;
      for (let at = from; at < to; at++) if (chosen.has(strokes[at]!.number)) picked++;
      if (picked === 0) return [];
      const { x, base } = layout.placed[i]!;
      const foot = base + layout.laneHeight * 0.9;
      const top = foot - (picked / (to - from)) * (foot - base + layout.height * 0.7);
      return `M${x - half} ${top}h${2 * half}V${foot}h${-2 * half}z`;
    })
    .join('');
}
