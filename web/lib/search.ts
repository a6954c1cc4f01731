import type { CellOfCode, SearchHit } from '@dusk-tally/lab/today';

/** The server was reached and would not answer; its message says why, in a person’s words. */
export class SearchRefused extends Error {
  override readonly name = 'SearchRefused';
}

/** @throws {SearchRefused} where the server refuses; another Error without a connection. */
async function ask<T>(query: Record<string, string>): Promise<T[]> {
  const response = await fetch(`/api/search?${new URLSearchParams(query)}`);
  const reply = (await response.json().catch(() => ({ ok: false }))) as {
    ok: boolean;
    data?: T[];
    message?: string;
  };
  if (!reply.ok || !reply.data)
    throw new SearchRefused(reply.message ?? 'The search did not answer. Try again.');
  return reply.data;
}

/** Cells, lots and reports that fit a text. */
export const searchFor = (text: string): Promise<SearchHit[]> => ask<SearchHit>({ q: text });
/** Cells that carry a scanned code. */
export const cellsOfCode = (code: string): Promise<CellOfCode[]> => ask<CellOfCode>({ code });
