'use client';

import type { DueStage } from '@dusk-tally/lab';
import type { DueCount } from '@dusk-tally/lab/today';
import { useQuery } from '@tanstack/react-query';
import { usePathname } from 'next/navigation';
import { useEffect } from 'react';

export type DueCounts = Partial<Record<DueStage, DueCount>>;

/** Asked again so often while a page stands still, ms. */
const EVERY_MS = 60_000;

/** How much is due at each stage; asked again when the page changes. */
export function useDueCounts(): DueCounts | undefined {
  const path = usePathname();
  const { data, refetch } = useQuery({
    queryKey: ['due counts'],
    queryFn: async (): Promise<DueCounts> => {
      const response = await fetch('/api/due/counts');
      if (!response.ok) throw new Error('The counts did not come.');
      return (await response.json()) as DueCounts;
    },
    refetchInterval: EVERY_MS,
    staleTime: 5000,
  });
  useEffect(() => void refetch(), [path, refetch]);
  return data;
}
