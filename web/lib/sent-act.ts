import type { SentAct } from '@dusk-tally/lab';

/** Longest an act that is under way at the server is waited for, ms, and between looks. */
const UNDER_WAY_MS = 150_000;
const UNREACHED_MS = 12_000;
const EVERY_MS = 1000;

/** What became of an act whose answer was lost; `unknown` where the server cannot be asked. */
export type LookedUp = Exclude<SentAct, { state: 'underWay' }> | { state: 'unknown' };

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** Asks the server what became of an act, until it says so. */
export async function lookUpAct(key: string): Promise<LookedUp> {
  const from = performance.now();
  let heardAt = from;
  for (;;) {
    const sent = await ask(key);
    const now = performance.now();
    if (sent !== null) heardAt = now;
    if (sent === 'refused') return { state: 'unknown' };
    if (sent && sent.state !== 'underWay') return sent;
    if (!navigator.onLine || now - heardAt > UNREACHED_MS || now - from > UNDER_WAY_MS)
      return { state: 'unknown' };
    await pause(EVERY_MS);
  }
}

/** @returns null where nothing was heard, `refused` where it will not be told. */
async function ask(key: string): Promise<SentAct | 'refused' | null> {
  try {
    const response = await fetch(`/api/acts/${key}`, {
      cache: 'no-store',
      signal: AbortSignal.timeout(UNREACHED_MS),
    });
    if (response.ok) return ((await response.json()) as { data: SentAct }).data;
    return response.status < 500 ? 'refused' : null;
  } catch {
    return null;
  }
}
