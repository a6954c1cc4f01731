export const median = (values: number[]): number =>
  [...values].sort((a, b) => a - b)[values.length >> 1]!;

export const spread = (values: number[]): string =>
  `median ${median(values).toFixed(0)} ms (${Math.min(...values).toFixed(0)} to ${Math.max(...values).toFixed(0)}, n = ${values.length})`;

/** Times work, one run after the other, ms. */
export async function timed(runs: number, work: (run: number) => unknown): Promise<number[]> {
  const times: number[] = [];
  for (let run = 0; run < runs; run++) {
    const started = performance.now();
    await work(run);
    times.push(performance.now() - started);
  }
  return times;
}
