/** Which word stands for a cell against the capacity claim. */
export function verdictOf(line: {
  capacityAh: number | null;
  comparable: boolean | null;
  verdict: 'met' | 'notMet' | 'tooClose' | null;
}): 'met' | 'notMet' | 'tooClose' | 'notComparable' | 'open' {
  if (line.capacityAh === null) return 'open';
  if (line.comparable === false) return 'notComparable';
  return line.verdict ?? 'open';
}
