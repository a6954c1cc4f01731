import type { Leg, Span } from './problem';

/** Busy stretches of one channel, ascending. */
export class Timeline {
  private readonly from: number[] = [];
  private readonly to: number[] = [];

  constructor(taken: readonly Span[]) {
    for (const { fromS, toS } of taken) this.take(fromS, toS);
  }

  /** Marks a stretch as busy. */
  take(fromS: number, toS: number): void {
    let at = this.from.length;
    while (at > 0 && this.from[at - 1]! > fromS) at--;
    this.from.splice(at, 0, fromS);
    this.to.splice(at, 0, toS);
  }

  /**
   * Earliest start at or after `readyS` where a leg fits between what is busy, in attended hours.
   * @returns Infinity where there is none, or none before `givenUpS`.
   */
  earliest(
    leg: Leg,
    durationS: number,
    readyS: number,
    { attended, givenUpS }: { attended: readonly Span[]; givenUpS: number },
  ): number {
    const { from, to } = this;
    const watchedS = leg.attendedShare * durationS;
    let start = readyS;
    // The first busy stretch that ends after the start.
    let next = 0;
    while (next < to.length && to[next]! <= start) next++;
    let window = firstWindow(attended, start);
    for (;;) {
      if (start >= givenUpS) return Infinity;
      while (window < attended.length && attended[window]!.toS < start) window++;
      const open = attended[window];
      if (!open) return Infinity;
      if (start < open.fromS) start = open.fromS;
      if (start + watchedS > open.toS) {
        const following = attended[window + 1];
        if (!following) return Infinity;
        start = following.fromS;
        window++;
        continue;
      }
      while (next < to.length && to[next]! <= start) next++;
      if (next < from.length && from[next]! < start + durationS) {
        start = to[next]!;
        next++;
        continue;
      }
      return start < givenUpS ? start : Infinity;
    }
  }
}

/** Index of the first window that ends at or after a time. */
function firstWindow(windows: readonly Span[], atS: number): number {
  let [low, high] = [0, windows.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (windows[middle]!.toS < atS) low = middle + 1;
    else high = middle;
  }
  return low;
}
