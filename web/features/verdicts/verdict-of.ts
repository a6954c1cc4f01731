/** Which word stands for a cell against the capacity claim. */
export function verdictOf(line: {
  capacityAh: number | null;
  comparable: boolean | null;
  verdict: 'met' | 'notMet' | 'tooClose' | null;
  held?: string | null;
  bound?: 'exact' | 'atLeast' | 'atMost' | null;
}): 'met' | 'notMet' | 'tooClose' | 'notComparable' | 'held' | 'open' | 'atLeast' | 'atMost' {
  if (line.capacityAh === null) return 'open';
  if (line.held) return 'held';
  if (line.comparable === false) return 'notComparable';
  // A bound that decides nothing is open: it is not too close, it says too little.
  if (line.verdict === 'tooClose' && line.bound && line.bound !== 'exact') return line.bound;
  return line.verdict ?? 'open';
}
