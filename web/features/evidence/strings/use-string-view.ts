'use client';

import { decodeThinned, type StringWatch, type ThinnedString } from '@dusk-tally/core/evidence';
import { useFetched } from '@/lib/use-fetched';
import type { TimeRange } from '../use-trace';

/** Stretches asked for: about one for each pixel across. */
const POINTS = 900;

const queryOf = ({ fromS, toS }: TimeRange) => ({ from: String(fromS), to: String(toS) });

async function fetchView(stringId: number, range: TimeRange): Promise<ThinnedString> {
  const query = new URLSearchParams({ ...queryOf(range), points: String(POINTS) });
  const response = await fetch(`/api/strings/${stringId}/view?${query}`);
  if (!response.ok) throw new Error('The curves could not be fetched. Reload to try again.');
  return decodeThinned(new Uint8Array(await response.arrayBuffer()));
}

async function fetchWatch(stringId: number, range: TimeRange): Promise<StringWatch> {
  const query = new URLSearchParams(queryOf(range));
  const response = await fetch(`/api/strings/${stringId}/watch?${query}`);
  const body = (await response.json()) as { data?: StringWatch; message?: string };
  if (!body.data) throw new Error(body.message ?? 'This stretch could not be watched.');
  return body.data;
}

/** A stretch of a string, as finely as a screen shows it. */
export const useStringView = (stringId: number, range: TimeRange) =>
  useFetched({
    queryKey: ['string', stringId, range],
    queryFn: () => fetchView(stringId, range),
    placeholderData: (old) => old,
  });

/** What a stretch tells; null asks for none. */
export const useStretchWatch = (stringId: number, range: TimeRange | null) =>
  useFetched({
    queryKey: ['string-watch', stringId, range],
    queryFn: () => fetchWatch(stringId, range!),
    enabled: range !== null,
    retry: false,
    placeholderData: (old) => old,
  });
