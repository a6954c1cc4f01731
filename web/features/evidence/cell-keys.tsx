'use client';

import { useRouter } from 'next/navigation';
import { useEffect } from 'react';

/** J and K walk through the cells of a lot. */
export function CellKeys({ previous, next }: { previous: string | null; next: string | null }) {
  const router = useRouter();
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const typing =
        event.target instanceof HTMLElement &&
        /^(INPUT|TEXTAREA|SELECT)$/.test(event.target.tagName);
      if (typing || event.ctrlKey || event.metaKey || event.altKey) return;
      if (event.key === 'j' && next) router.push(`/cells/${next}`);
      if (event.key === 'k' && previous) router.push(`/cells/${previous}`);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [router, previous, next]);
  return null;
}
