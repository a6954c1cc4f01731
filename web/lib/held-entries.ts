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
export function readHeld(
  key: string,
  storage: Pick<Storage, 'getItem'> = localStorage,
): Held | null {
  try {
    const held: unknown = JSON.parse(storage.getItem(key) ?? 'null');
    if (typeof held !== 'object' || held === null) return null;
    const { place, entries } = held as Partial<Held>;
    return typeof place === 'string' && Array.isArray(entries) ? { place, entries } : null;
  } catch {
    return null;
  }
}

/** Keeps what waits; nothing waits where there are no entries. */
export function keepHeld(key: string, held: Held): void {
  if (held.entries.length === 0) localStorage.removeItem(key);
  else localStorage.setItem(key, JSON.stringify(held));
  window.dispatchEvent(new Event(HELD_CHANGED));
}

/** All that waits for one person in this browser, by page. */
export function heldOf(personId: number, storage: Storage = localStorage): Held[] {
  const own = heldKey(personId, '');
  return Array.from({ length: storage.length }, (_, i) => storage.key(i))
    .filter((key): key is string => key !== null && key.startsWith(own))
    .sort()
    .flatMap((key) => readHeld(key, storage) ?? []);
}
