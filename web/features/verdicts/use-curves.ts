'use client';

import { type Curve, decodeCurve } from '@dusk-tally/core/evidence';
import { useQuery } from '@tanstack/react-query';

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
  return useQuery({
    queryKey: ['curves', lotId],
    queryFn: () => fetchCurves(lotId),
    staleTime: 5 * 60_000,
  });
}
