import type { ShelfLine } from '@dusk-tally/lab/resting';

/** Groups of the shelf, the most pressing first. */
export const SHELF_GROUPS = ['late', 'due', 'early', 'done'] as const;
export type ShelfGroup = (typeof SHELF_GROUPS)[number];

export const GROUP_WORDS: Readonly<Record<ShelfGroup, string>> = {
  late: 'Late',
  due: 'To be read now',
  early: 'Not due yet',
  done: 'Over in the last days',
};

/** Which group a cell on the shelf is in. */
export const groupOf = ({ endedAt, state }: Pick<ShelfLine, 'endedAt' | 'state'>): ShelfGroup =>
  endedAt !== null ? 'done' : state;

/** Lines by group, each in the order of its due days; groups without any are left out. */
export const grouped = (lines: readonly ShelfLine[]): [ShelfGroup, ShelfLine[]][] =>
  SHELF_GROUPS.map((group): [ShelfGroup, ShelfLine[]] => [
    group,
    lines.filter((line) => groupOf(line) === group),
  ]).filter(([, own]) => own.length > 0);

const DAY_MS = 86_400_000;

/** Days from one moment to another, as they are spoken of: `3.2 d`. */
export const daysWords = (from: Date, to: Date): string =>
  `${((to.getTime() - from.getTime()) / DAY_MS).toFixed(1)} d`;
