'use client';

import { type Curve, decodeCurve } from '@dusk-tally/core/evidence';
import type { Derivatives } from '@dusk-tally/lab/verdicts';
import { useFetched } from './use-fetched';

export interface CellCurve {
  number: string;
  curve: Curve;
}

async function fetchCurves(lotId: number): Promise<CellCurve[]> {
  const response = await fetch(`/api/lots/${lotId}/curves`);
  if (!response.ok) throw new Error('The curves could not be fetched. Reload to try again.');
  const numbers = (response.headers.get('X-Cells') ?? '').split(',').filter(Boolean);
  const bytes = new Uint8Array(await response.arrayBuffer());
  let offset = 0;
  return numbers.map((number) => {
    const { curve, next } = decodeCurve(bytes, offset);
    offset = next;
    return { number, curve };
  });
}

/** The thinned discharge of every tested cell of a lot. */
export function useCurves(lotId: number) {
  return useFetched({
    queryKey: ['curves', lotId],
    queryFn: () => fetchCurves(lotId),
    staleTime: 5 * 60_000,
  });
}

/** dQ/dV and dV/dQ of a lot’s cells; fetched once they are wanted. */
export function useDerivatives(lotId: number, wanted: boolean) {
  return useFetched({
    queryKey: ['derivatives', lotId],
    enabled: wanted,
    queryFn: async (): Promise<Derivatives[]> => {
      const response = await fetch(`/api/lots/${lotId}/derivatives`);
      if (!response.ok) throw new Error('dQ/dV could not be fetched. Reload to try again.');
      return (await response.json()) as Derivatives[];
    },
    staleTime: 5 * 60_000,
  });
}
