import type { CellOfCode, SearchHit } from '@dusk-tally/lab/today';

/** @throws Error without a connection, or where the server refuses. */
async function ask<T>(query: Record<string, string>): Promise<T[]> {
  const response = await fetch(`/api/search?${new URLSearchParams(query)}`);
  const reply = (await response.json()) as { ok: boolean; data?: T[]; message?: string };
  if (!reply.ok || !reply.data) throw new Error(reply.message ?? 'The search did not answer.');
  return reply.data;
}

/** Cells, lots and reports that fit a text. */
export const searchFor = (text: string): Promise<SearchHit[]> => ask<SearchHit>({ q: text });
/** Cells that carry a scanned code. */
export const cellsOfCode = (code: string): Promise<CellOfCode[]> => ask<CellOfCode>({ code });
