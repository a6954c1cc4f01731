'use client';

import type { ArrivalCell, ArrivalView, BoxView } from '@dusk-tally/lab/arrivals';
import { useFetched } from '@/lib/use-fetched';

export interface ArrivalNow {
  arrival: ArrivalView;
  cells: ArrivalCell[];
  box: BoxView;
}

const POLL_MS = 4000;

/** Where receiving stands, kept fresh, so that two people at one lot see each other. */
export function useArrival(lotId: number, initial: ArrivalNow) {
  return useFetched({
    queryKey: ['arrival', lotId],
    initialData: initial,
    refetchInterval: POLL_MS,
    queryFn: async (): Promise<ArrivalNow> => {
      const response = await fetch(`/api/lots/${lotId}/arrival`);
      if (!response.ok) throw new Error('not to be had now');
      return (await response.json()) as ArrivalNow;
    },
  });
}
