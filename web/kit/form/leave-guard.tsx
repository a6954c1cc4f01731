'use client';

import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import { Sure } from '../panel-over';

/** Where a press on a link of the app leads; null for anything else. */
export function placeOfPress(event: MouseEvent, here: string): string | null {
  if (event.defaultPrevented || event.button !== 0) return null;
  if (event.metaKey || event.ctrlKey || event.shiftKey || event.altKey) return null;
  const link = event.target instanceof Element ? event.target.closest('a') : null;
  if (!link?.href || link.target === '_blank' || link.hasAttribute('download')) return null;
  const to = new URL(link.href, here);
  const from = new URL(here);
  if (to.origin !== from.origin) return null;
  // Another part of the same page is no leaving.
  return to.pathname === from.pathname ? null : to.pathname + to.search + to.hash;
}

/** Asks before a page is left on which something is typed and not stored. */
export function LeaveGuard({ when }: { when: boolean }) {
  const router = useRouter();
  const [place, setPlace] = useState<string | null>(null);
  useEffect(() => {
    if (!when) return;
    const onClick = (event: MouseEvent) => {
      const to = placeOfPress(event, window.location.href);
      if (to === null) return;
      event.preventDefault();
      event.stopPropagation();
      setPlace(to);
    };
    document.addEventListener('click', onClick, true);
    return () => document.removeEventListener('click', onClick, true);
  }, [when]);
  return (
    <Sure
      open={place !== null}
      onOpen={(open) => !open && setPlace(null)}
      title="Leave without storing it?"
      says="What you typed is not stored. It stays in this browser and is here again when you come back."
      act="Leave"
      stay="Stay here"
      onSure={() => place !== null && router.push(place)}
    />
  );
}
