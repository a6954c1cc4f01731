/** Chosen rows, and the one a press with Shift goes on from. */
export interface Selection {
  chosen: ReadonlySet<string>;
  anchor: string | null;
}

/** Nothing is chosen. */
export const NONE: Selection = { chosen: new Set(), anchor: null };

/**
 * A press on the box of one row: takes it or leaves it; with Shift all rows from the last one
 * pressed up to it become what that one is.
 * @param ids of the rows as they stand.
 */
export function pressed(
  { chosen, anchor }: Selection,
  ids: readonly string[],
  id: string,
  withShift: boolean,
): Selection {
  const next = new Set(chosen);
  const [from, to] = [anchor === null ? -1 : ids.indexOf(anchor), ids.indexOf(id)];
  if (withShift && from >= 0 && to >= 0) {
    const take = chosen.has(anchor!);
    for (const one of ids.slice(Math.min(from, to), Math.max(from, to) + 1))
      if (take) next.add(one);
      else next.delete(one);
    return { chosen: next, anchor };
  }
  if (!next.delete(id)) next.add(id);
  return { chosen: next, anchor: id };
}

/** All rows as they stand, or none where all were. */
export function pressedAll({ chosen }: Selection, ids: readonly string[]): Selection {
  return ids.every((id) => chosen.has(id)) ? NONE : { chosen: new Set(ids), anchor: null };
}

/** How many of the rows as they stand are chosen. */
export function share({ chosen }: Selection, ids: readonly string[]): boolean | 'some' {
  const count = ids.filter((id) => chosen.has(id)).length;
  return count === 0 ? false : count === ids.length ? true : 'some';
}
