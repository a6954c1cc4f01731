import type { PackCandidate } from '@dusk-tally/core/arrivals';

/** So many numbers in parallel are shown of each build before the rest is asked for. */
const FEW_PARALLEL = 4;
/** A cell’s capacity this near to the claimed one is the claimed one. */
const AS_CLAIMED = 0.05;

/** Whether a build’s cells are what the lot is said to be of. */
export const isAsClaimed = ({ cellAh, chemistry }: PackCandidate, lot: LotCell): boolean =>
  chemistry === lot.chemistry &&
  lot.claimedAh !== null &&
  Math.abs(cellAh / lot.claimedAh - 1) <= AS_CLAIMED;

/** The cell a lot is said to be of. */
export interface LotCell {
  chemistry: string;
  claimedAh: number | null;
}

/** What fits the lot’s claim first, else as the label ranks them; few of each build unless all are asked for. */
export function ranked(
  candidates: readonly PackCandidate[],
  lot: LotCell,
  all: boolean,
): PackCandidate[] {
  const order = [...candidates].sort(
    (a, b) => Number(isAsClaimed(b, lot)) - Number(isAsClaimed(a, lot)),
  );
  if (all) return order;
  const seen = new Map<string, number>();
  return order.filter((candidate) => {
    const build = `${candidate.chemistry} ${candidate.series}`;
    const count = (seen.get(build) ?? 0) + 1;
    seen.set(build, count);
    return count <= FEW_PARALLEL;
  });
}
