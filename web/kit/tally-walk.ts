/** Where one is on a tally: at a cell, with its stroke's cells opened or not. */
export interface TallyWalk {
  /** Index of the cell; of a gathered stroke the first one it was entered by. */
  cell: number;
  /** Whether the cells of the gathered stroke are drawn one by one. */
  opened: boolean;
  /** Whether a stroke is pointed out. */
  active: boolean;
}

export type TallyStep =
  /** By keys: so many strokes on. */
  | { go: 'by'; strokes: number }
  /** To the stroke of a place in the view. */
  | { go: 'to'; stroke: number }
  | { go: 'open' }
  | { go: 'back' };

/** Cells drawn one by one or gathered: the whole lot, or the cells of one stroke. */
export interface TallyView {
  from: number;
  to: number;
  /** Cells a stroke of this view stands for. */
  size: number;
}

/** What is drawn for a walk over `count` cells, gathered by `size`. */
export function tallyView(walk: TallyWalk, count: number, size: number): TallyView {
  if (!walk.opened || size === 1) return { from: 0, to: count, size };
  const from = Math.floor(walk.cell / size) * size;
  return { from, to: Math.min(count, from + size), size: 1 };
}

/** Index of the stroke one is at, within the view. */
export const strokeAt = (walk: TallyWalk, view: TallyView): number =>
  Math.floor((walk.cell - view.from) / view.size);

/** One step over a tally of `count` cells gathered by `size`: never off its ends. */
export function walkTally(
  walk: TallyWalk,
  step: TallyStep,
  count: number,
  size: number,
): TallyWalk {
  const view = tallyView(walk, count, size);
  const inside = (cell: number) => Math.max(0, Math.min(count - 1, cell));
  if (step.go === 'open') return { ...walk, opened: size > 1, active: true };
  if (step.go === 'back') return { ...walk, opened: false };
  if (step.go === 'to')
    return { ...walk, cell: inside(view.from + step.stroke * view.size), active: true };
  // Past the end of an opened stroke the next one opens.
  const last = Math.floor((count - 1) / view.size) * view.size;
  const stroke = Math.floor(walk.cell / view.size) + step.strokes;
  return { ...walk, cell: inside(Math.min(last, stroke * view.size)), active: true };
}
