'use client';

import { UNPACKING_CAUTION } from '@dusk-tally/core/arrivals';
import type { InspectionMarked } from '@dusk-tally/lab/arrivals';
import { TriangleAlert } from 'lucide-react';
import { Button } from '@/kit/button';

/** What is dangerous from now on, found here or by somebody else on cells that were to be cleared. */
export function InspectionWarnings({
  stopped,
  beside,
  onUnderstood,
}: {
  stopped: readonly string[];
  beside: InspectionMarked['found'];
  onUnderstood: () => void;
}) {
  if (stopped.length === 0 && beside.length === 0) return null;
  const isStop = stopped.length > 0 || beside.some(({ severity }) => severity === 'stop');
  return (
    <div
      role="alert"
      className={`rounded-sm border-2 bg-wash p-4 ${isStop ? 'border-missed' : 'border-doubt'}`}
    >
      {stopped.length > 0 && (
        <p className="flex items-center gap-2 font-semibold text-missed">
          <TriangleAlert size={18} aria-hidden />
          {stopped.join(', ')} {stopped.length === 1 ? 'is' : 'are'} in quarantine from now on.
        </p>
      )}
      {beside.map(({ cellId, number, words, person }) => (
        <p
          key={`${cellId} ${words}`}
          className={`flex items-center gap-2 font-semibold ${isStop ? 'text-missed' : 'text-doubt'}`}
        >
          <TriangleAlert size={18} aria-hidden />
          {number} is not cleared: {person} found “{words}” on it meanwhile.
        </p>
      ))}
      {isStop && <p className="mt-1">{UNPACKING_CAUTION}</p>}
      <Button className="mt-2 min-h-11" onClick={onUnderstood}>
        Understood
      </Button>
    </div>
  );
}
