import type { Kind } from './entry-columns';
import type { Place } from './grid-state';

/** Where Enter goes: down the column, over the pair a meter shows at once, or across. */
export type Walk = 'down' | 'pair' | 'all';

/** Read together off a meter that shows both. */
const PAIR: readonly Kind[] = ['openCircuitVoltage', 'acResistance'];

const MOVES: Readonly<Record<string, readonly [number, number]>> = {
  Enter: [1, 0],
  ArrowDown: [1, 0],
  ArrowUp: [-1, 0],
  ArrowRight: [0, 1],
  ArrowLeft: [0, -1],
};

/**
 * Where a key leads from a place; null where it belongs to the field itself.
 * @param caret where the caret stands in the text: arrows to the side leave only at its end.
 */
export function nextPlace(
  key: string,
  { row, column }: Place,
  caret: { atStart: boolean; atEnd: boolean },
  columns: readonly { kind: Kind }[],
  walk: Walk,
): Place | null {
  const move = MOVES[key];
  if (!move) return null;
  if ((key === 'ArrowRight' && !caret.atEnd) || (key === 'ArrowLeft' && !caret.atStart))
    return null;
  if (key !== 'Enter' || walk === 'down') return { row: row + move[0], column: column + move[1] };
  const way = columns.flatMap(({ kind }, i) => (walk === 'all' || PAIR.includes(kind) ? [i] : []));
  const next = way.find((i) => i > column);
  return { row: next === undefined ? row + 1 : row, column: next ?? way[0]! };
}
