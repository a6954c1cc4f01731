import type { DisputeEventRow, DisputeStage } from '@dusk-tally/store';

/** Where a dispute can go from where it stands; what has ended can be taken up again. */
export const NEXT_STAGES: Record<DisputeStage, readonly Exclude<DisputeStage, 'draft'>[]> = {
  draft: ['sent', 'dropped'],
  sent: ['answered', 'agreed', 'paid', 'lost', 'dropped'],
  answered: ['sent', 'agreed', 'paid', 'lost', 'dropped'],
  agreed: ['paid', 'answered', 'lost'],
  paid: ['answered'],
  lost: ['answered'],
  dropped: ['sent', 'answered'],
};

/** Stages nothing more is waited for in. */
export const ENDED: ReadonlySet<DisputeStage> = new Set(['paid', 'lost', 'dropped']);

/**
 * The step before the last one, where the last can be taken back: not the first, and not one that
 * takes another back itself.
 * @param steps in their order.
 */
export function stepBefore<Step extends Pick<DisputeEventRow, 'stage' | 'undoes'>>(
  steps: readonly Step[],
): Step | null {
  const last = steps.at(-1);
  return last && last.undoes === null && last.stage !== 'draft' ? (steps.at(-2) ?? null) : null;
}
