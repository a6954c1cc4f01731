import { keep, type Place, readKept } from './browser-store';

/** Entries of one person that wait in this browser, and the page they were typed on. */
export interface Held {
  place: string;
  entries: readonly unknown[];
}

const PREFIX = 'dusk-held';
/** Told to every part of the page when what waits has changed. */
export const HELD_CHANGED = 'dusk-held-changed';

/** Where entries wait: they belong to a person, and nobody else’s page reads them. */
export const heldKey = (personId: number, what: string): string => `${PREFIX}:${personId}:${what}`;

/** What waits under a key; null for nothing, or for what cannot be read. */
export function readHeld(key: string, storage?: Pick<Place, 'getItem'>): Held | null {
  const held = readKept(key, storage);
  if (typeof held !== 'object' || held === null) return null;
  const { place, entries } = held as Partial<Held>;
  return typeof place === 'string' && Array.isArray(entries) ? { place, entries } : null;
}

const keyOf = (entry: unknown): unknown =>
  typeof entry === 'object' && entry !== null && 'clientKey' in entry ? entry.clientKey : null;

/**
 * Keeps what waits on one page, beside what the same person’s other pages keep under this key.
 * @param own keys of all entries this page ever had: of those, only `held.entries` wait still.
 * @returns whether the browser keeps them.
 */
export function keepHeld(
  key: string,
  { place, entries }: Held,
  own: ReadonlySet<unknown>,
  storage?: Place,
): boolean {
  const others = (readHeld(key, storage)?.entries ?? []).filter((entry) => !own.has(keyOf(entry)));
  const all = [...others, ...entries];
  return keep(key, all.length === 0 ? null : { place, entries: all }, storage);
}

/** All that waits for one person in this browser, by page. */
export function heldOf(personId: number, storage: Storage = localStorage): Held[] {
  const own = heldKey(personId, '');
  return Array.from({ length: storage.length }, (_, i) => storage.key(i))
    .filter((key): key is string => key !== null && key.startsWith(own))
    .sort()
    .flatMap((key) => readHeld(key, storage) ?? []);
}
