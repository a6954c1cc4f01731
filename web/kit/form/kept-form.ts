import { type Clash, mergeConflict } from './conflict';

type Values = Record<string, unknown>;

/** What is kept of a form: the fields as they are typed, and as they stood under that. */
export interface KeptForm {
  typed: Values;
  over: Values;
}

const isRecord = (value: unknown): value is Values =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** What was kept of a form; null for nothing, and for what is none. */
export function keptForm(kept: unknown): KeptForm | null {
  return isRecord(kept) && isRecord(kept.typed) && isRecord(kept.over)
    ? { typed: kept.typed, over: kept.over }
    : null;
}

/**
 * What was typed, over the fields as they stand now: what only others changed meanwhile is theirs, what
 * both changed is asked. `isOld` where nothing of it is left to store.
 */
export function retyped(
  { typed, over }: KeptForm,
  now: Values,
): { values: Values; clashes: Clash[]; isOld: boolean } {
  const { merged, clashes } = mergeConflict({ ...now, ...over }, { ...now, ...typed }, now);
  const values = { ...now, ...merged };
  return { values, clashes, isOld: JSON.stringify(values) === JSON.stringify(now) };
}
