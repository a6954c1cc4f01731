/** A field both people changed: what is stored now, and what was typed here. */
export interface Clash {
  name: string;
  theirs: unknown;
  mine: unknown;
}

const same = (a: unknown, b: unknown): boolean =>
  JSON.stringify(a ?? null) === JSON.stringify(b ?? null);

/** Names of what was seen: theirs always holds. */
const SEEN: ReadonlySet<string> = new Set(['version', 'seen']);

type Fields = Record<string, unknown>;

/** A group of fields that are each typed on their own, such as prices by grade. */
const isGroup = (value: unknown): value is Fields =>
  typeof value === 'object' &&
  value !== null &&
  !Array.isArray(value) &&
  Object.values(value).every((one) => typeof one !== 'object' || one === null);

/**
 * What somebody else stored meanwhile, against what was typed here. What only they changed is taken
 * over, what only this person changed stays, and what both changed is asked, field by field.
 * @param first the fields as they stood when the form was opened.
 */
export function mergeConflict<Values extends Record<string, unknown>>(
  first: Values,
  mine: Values,
  theirs: Record<string, unknown>,
): { merged: Values; clashes: Clash[] } {
  const merged: Record<string, unknown> = { ...mine };
  const clashes: Clash[] = [];
  for (const name of Object.keys(first)) {
    if (!(name in theirs) || same(theirs[name], mine[name])) continue;
    const group = [first[name], mine[name], theirs[name]];
    if (group.every(isGroup)) {
      const [before, here, there] = group as [Fields, Fields, Fields];
      const all = Object.keys({ ...before, ...here, ...there });
      const filled = (from: Fields): Fields =>
        Object.fromEntries(all.map((key) => [key, from[key] ?? null]));
      const inside = mergeConflict(filled(before), filled(here), filled(there));
      merged[name] = inside.merged;
      clashes.push(...inside.clashes.map((one) => ({ ...one, name: `${name}.${one.name}` })));
      continue;
    }
    if (SEEN.has(name) || same(mine[name], first[name])) merged[name] = theirs[name];
    else if (!same(theirs[name], first[name]))
      clashes.push({ name, theirs: theirs[name], mine: mine[name] });
  }
  return { merged: merged as Values, clashes };
}
