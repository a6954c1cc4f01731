'use client';

import { decodeView, type TraceView } from '@dusk-tally/core/evidence';
import { useFetched } from '@/lib/use-fetched';

export interface TimeRange {
  fromS: number;
  toS: number;
}

async function fetchTrace(runId: number, range: TimeRange | null): Promise<TraceView> {
  const query = new URLSearchParams({ points: '1200' });
  if (range) {
    query.set('from', String(range.fromS));
    query.set('to', String(range.toS));
  }
  const response = await fetch(`/api/runs/${runId}/trace?${query}`);
  if (!response.ok) throw new Error('The trace could not be fetched. Reload to try again.');
  return decodeView(new Uint8Array(await response.arrayBuffer()));
}

/** A part of a stored trace, as finely as a screen shows it. */
export function useTrace(runId: number, range: TimeRange | null) {
  return useFetched({
    queryKey: ['trace', runId, range],
    queryFn: () => fetchTrace(runId, range),
    placeholderData: (old) => old,
  });
}
