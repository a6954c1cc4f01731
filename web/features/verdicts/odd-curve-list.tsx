'use client';

import type { OddCurve } from '@dusk-tally/core/evidence';
import { Link } from '@/kit/link';
import { Button } from '@/kit/button';

const KIND: Record<OddCurve['kind'], string> = {
  risesEarly: 'rises early on charge',
  earlyKnee: 'bends down early',
  steepEnd: 'falls steeply at the end',
  slowRelaxation: 'recovers much after load',
  missingPeak: 'lacks a peak of dQ/dV',
  shiftedPeak: 'has a peak of dQ/dV elsewhere',
};
const DIGITS = { V: 4, Ah: 3, 'V/Ah': 3 };

/** Cells whose curve stands out from the lot, with what to do about each. */
export function OddCurveList({
  odd,
  onPick,
}: {
  odd: OddCurve[];
  /** Picks a cell out of the chart; null where there is none. */
  onPick: ((number: string) => void) | null;
}) {
  if (odd.length === 0)
    return (
      <p className="text-quiet">
        No curve stands out from the others by a robust z beyond 3.5: not on charge before full, not
        at the knee, at the end, after load, or in a peak of dQ/dV.
      </p>
    );
  return (
    <section className="panel p-4" aria-label="Odd curves">
      <h2 className="font-semibold">Odd curves</h2>
      <ul className="mt-1 divide-y divide-rule">
        {odd.slice(0, 40).map((line) => (
          <li
            key={`${line.cell}${line.kind}`}
            className="flex flex-wrap items-baseline gap-x-4 py-1.5"
          >
            <Link href={`/cells/${line.cell}`} className="w-20 font-medium hover:underline">
              {line.cell}
            </Link>
            <span className="w-56">{KIND[line.kind]}</span>
            <span className="tabular-nums text-quiet">
              {line.z === null
                ? `at ${line.lotMedian.toFixed(DIGITS[line.unit])} ${line.unit} in the lot`
                : `z = ${line.z.toFixed(1)}; ${line.value.toFixed(DIGITS[line.unit])} ${line.unit}, the lot ${line.lotMedian.toFixed(DIGITS[line.unit])}`}
            </span>
            <span className="min-w-64 flex-1 text-[0.87rem]">{line.advice}</span>
            {onPick && (
              <Button look="bare" onClick={() => onPick(line.cell)}>
                Pick out
              </Button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
