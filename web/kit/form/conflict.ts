/** A field both people changed: what is stored now, and what was typed here. */
export interface Clash {
  name: string;
  theirs: unknown;
  mine: unknown;
}

const same = (a: unknown, b: unknown): boolean =>
  JSON.stringify(a ?? null) === JSON.stringify(b ?? null);

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
    if (name === 'version' || same(mine[name], first[name])) merged[name] = theirs[name];
    else if (!same(theirs[name], first[name]))
      clashes.push({ name, theirs: theirs[name], mine: mine[name] });
  }
  return { merged: merged as Values, clashes };
}
