/** The part of the browser’s own storage that is used here. */
export type Place = Pick<Storage, 'getItem' | 'setItem' | 'removeItem'>;

/** What a kept text says; null for none, and for what is no JSON. */
export function parsed(text: string | null): unknown {
  try {
    return JSON.parse(text ?? 'null');
  } catch {
    return null;
  }
}

/** What was kept under a key; null for nothing, for what is no JSON, and where no browser is. */
export function readKept(key: string, storage?: Pick<Place, 'getItem'>): unknown {
  try {
    return parsed((storage ?? localStorage).getItem(key));
  } catch {
    return null;
  }
}

/**
 * Keeps a value in the browser past a reload; null keeps nothing.
 * @returns whether it is kept: a browser without room, or that keeps nothing at all, goes on without.
 */
export function keep(key: string, value: unknown, storage?: Place): boolean {
  try {
    const place = storage ?? localStorage;
    if (value === null) place.removeItem(key);
    else place.setItem(key, JSON.stringify(value));
    return true;
  } catch {
    return false;
  }
}
