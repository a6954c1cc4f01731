import type { Plausibility } from '@dusk-tally/core/chemistry';
import { Ban, Check, CircleDashed } from 'lucide-react';

/** Whether the claim fits the size and mass of the cell, in one sentence. */
export function PlausibilityNote({ plausibility }: { plausibility: Plausibility }) {
  const { possible, largestAh, sentence } = plausibility;
  const Icon = !possible ? Ban : largestAh === null ? CircleDashed : Check;
  const tone = !possible ? 'border-missed text-missed' : 'border-rule text-quiet';
  return (
    <p
      className={`flex items-start gap-2 border-l-4 pl-3 ${tone}`}
      role={possible ? undefined : 'alert'}
      data-testid="plausibility"
    >
      <Icon size={16} className="mt-0.5 shrink-0" aria-hidden />
      <span>{sentence}</span>
    </p>
  );
}
