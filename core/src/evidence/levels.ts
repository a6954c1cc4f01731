import type { Section } from './sections';

/** Rows of one current level inside a section, inclusive. */
export interface Level {
  from: number;
  to: number;
  /** Size of the current, A. */
  amps: number;
}

/** A current further from its level than this share begins a new one. */
const SAME_LEVEL = 0.1;

/** A section cut where its current steps to another level. */
export function currentLevels(
  currentA: Float64Array,
  { fromIndex, toIndex }: Pick<Section, 'fromIndex' | 'toIndex'>,
): Level[] {
  const levels: Level[] = [];
  let from = fromIndex;
  let level = Math.abs(currentA[from]!);
  for (let row = from + 1; row <= toIndex; row++) {
    const amps = Math.abs(currentA[row]!);
    if (Math.abs(amps - level) < SAME_LEVEL * level) continue;
    levels.push({ from, to: row - 1, amps: level });
    from = row;
    level = amps;
  }
  levels.push({ from, to: toIndex, amps: level });
  return levels;
}
