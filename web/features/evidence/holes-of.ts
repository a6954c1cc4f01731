import type { Section } from '@dusk-tally/core/evidence';
import type { TraceHole } from './trace-chart';

/** Holes of a run to be drawn: those under load with what was counted, and the others. */
export function holesOf(summary: {
  sections: readonly Section[];
  holes?: readonly { fromS: number; toS: number }[];
}): TraceHole[] {
  const loaded = summary.sections.flatMap(({ holes }) => holes ?? []);
  const others = (summary.holes ?? []).filter(
    ({ fromS }) => !loaded.some((hole) => hole.fromS === fromS),
  );
  return [...loaded, ...others].sort((a, b) => a.fromS - b.fromS);
}
