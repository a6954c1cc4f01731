/** Which word stands for a cell against the capacity claim. */
export function verdictOf(line: {
  capacityAh: number | null;
  comparable: boolean | null;
  verdict: 'met' | 'notMet' | 'tooClose' | null;
  held?: string | null;
}): 'met' | 'notMet' | 'tooClose' | 'notComparable' | 'held' | 'open' {
  if (line.capacityAh === null) return 'open';
  if (line.held) return 'held';
  if (line.comparable === false) return 'notComparable';
  return line.verdict ?? 'open';
}
