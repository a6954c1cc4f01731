import {
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
export function signPaths(strokes: TallyStroke[], layout: TallyLayout): [TallySign, string][] {
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

/** All strokes of one kind as two paths: ten thousand cells stay a dozen elements. */
export function strokePaths(
  strokes: TallyStroke[],
  layout: TallyLayout,
): { mark: TallyStroke['mark']; lines: string; marks: string }[] {
  const size = Math.max(2.2, Math.min(6, layout.pitch * 0.75));
  const byMark = new Map<TallyStroke['mark'], { lines: string[]; marks: string[] }>();
  strokes.forEach((stroke, i) => {
    const at = layout.placed[i]!;
    const entry = byMark.get(stroke.mark) ?? { lines: [], marks: [] };
    entry.lines.push(`M${at.x.toFixed(1)} ${at.base.toFixed(1)}v${(-at.height).toFixed(1)}`);
    entry.marks.push(markPath(stroke.mark, at, size));
    byMark.set(stroke.mark, entry);
  });
  return [...byMark].map(([mark, { lines, marks }]) => ({
    mark,
    lines: lines.join(''),
    marks: marks.join(''),
  }));
}

/** How many strokes of each kind, as read aloud. */
export function countsInWords(strokes: TallyStroke[]): string {
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

/** One cell, as read aloud. */
export const describe = (stroke: TallyStroke): string =>
  `${stroke.number}: ${stroke.share === null ? '' : `${(100 * stroke.share).toFixed(1)} % of claim, `}${MARK_WORDS[stroke.mark]}${stroke.sign ? `, ${SIGN_WORDS[stroke.sign]}` : ''}`;

/** Frames around the picked strokes, as one path. */
export function chosenPath(
  strokes: TallyStroke[],
  chosen: ReadonlySet<string>,
  layout: TallyLayout,
): string {
  return strokes
    .flatMap(({ number }, i) => {
      if (!chosen.has(number)) return [];
      const { x, base } = layout.placed[i]!;
      const half = Math.max(1.5, layout.pitch / 2);
      return `M${x - half} ${base - layout.rowHeight * 0.7}h${2 * half}V${base + layout.laneHeight * 0.9}h${-2 * half}z`;
    })
    .join('');
}
