'use client';

import { useRouter } from 'next/navigation';
import { useSoloKeys } from '@/lib/solo-key';

/** J and K walk through the cells of a lot. */
export function CellKeys({ previous, next }: { previous: string | null; next: string | null }) {
  const router = useRouter();
  useSoloKeys((key) => {
    if (key === 'j' && next) router.push(`/cells/${next}`);
    if (key === 'k' && previous) router.push(`/cells/${previous}`);
  });
  return null;
}
