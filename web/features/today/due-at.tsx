'use client';

import { useClock } from '@/kit/use-clock';
import { useState } from 'react';

/** When something is due, as people say it. */
export function DueAt({ at }: { at: Date }) {
  const clock = useClock();
  const [now] = useState(() => new Date());
  return (
    <span className={at < now ? 'font-semibold' : ''}>
      {at < now ? 'since' : 'at'} {clock(at.toISOString(), now)}
    </span>
  );
}
