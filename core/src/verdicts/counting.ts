import type { Bound } from '../units';

/** One capacity of a cell among which the counting one is chosen. */
export interface CandidateResult {
  /** Order of taking in: later is larger. */
  order: number;
  value: number;
  bound: Bound;
  /** A person or a rule holds it. */
  held: boolean;
  /** Carried to the claim’s conditions, or measured under them. */
  comparable: boolean;
  /** Typed in without a trace. */
  typed: boolean;
}

/** Which of two of one rank: of bounds in one direction the one that says more, else the newer. */
function goesBefore(result: CandidateResult, other: CandidateResult): boolean {
  if (result.bound === other.bound && result.value !== other.value) {
    if (result.bound === 'atLeast') return result.value > other.value;
    if (result.bound === 'atMost') return result.value < other.value;
  }
  return result.order > other.order;
}

/**
 * Which of a cell’s results counts: one rule, for everybody. Nothing that is held; of the rest the
 * newest exact and comparable one with a trace; else, where only bounds are there, the one that
 * says most; else what cannot be compared; else what was typed. Bounds never push aside an exact
 * result, and a typed figure never one with a trace.
 * @returns its place; null where nothing is free.
 */
export function countingResult(results: readonly CandidateResult[]): number | null {
  const rank = ({ bound, comparable, typed }: CandidateResult): number =>
    (typed ? 0 : 4) + (comparable ? 2 : 0) + (bound === 'exact' ? 1 : 0);
  let best: number | null = null;
  results.forEach((result, i) => {
    if (result.held) return;
    if (best === null) {
      best = i;
      return;
    }
    const other = results[best]!;
    const difference = rank(result) - rank(other);
    if (difference > 0 || (difference === 0 && goesBefore(result, other))) best = i;
  });
  return best;
}
