'use client';

import { CloudOff } from 'lucide-react';
import { Link } from '@/kit/link';
import { useHeld } from '@/lib/use-held';

/** What was typed here and is not stored yet, each with the page it was typed on. */
export function HeldLine({ className = '' }: { className?: string }) {
  const held = useHeld();
  if (held.length === 0) return null;
  return (
    <div role="status" className={`rounded-sm border border-doubt bg-wash p-2 ${className}`}>
      <p className="flex items-center gap-1.5 text-doubt">
        <CloudOff size={15} aria-hidden /> Not stored yet
      </p>
      <ul className="text-[0.85rem]">
        {held.map(({ place, count }) => (
          <li key={place}>
            <Link href={place} className="underline">
              {count} {count === 1 ? 'entry' : 'entries'} of{' '}
              {/L-\d+/.exec(place)?.[0] ?? 'this browser'}
            </Link>
          </li>
        ))}
      </ul>
    </div>
  );
}
