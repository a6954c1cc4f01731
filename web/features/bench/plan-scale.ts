import { dayIn, momentIn } from '@dusk-tally/core/units';

/** The stretch of time a planning board shows. */
export interface PlanScale {
  fromMs: number;
  toMs: number;
  /** Width of the rows, px. */
  width: number;
}

/** Starts are put on quarters of an hour. */
export const QUARTER_MS = 900_000;
const DAY_MS = 86_400_000;

export const xOf = ({ fromMs, toMs, width }: PlanScale, atMs: number): number =>
  ((atMs - fromMs) / (toMs - fromMs)) * width;

/** Moment some pixels further on, on a quarter of an hour. */
export function movedBy({ fromMs, toMs, width }: PlanScale, atMs: number, pixels: number): number {
  const moved = atMs + (pixels / width) * (toMs - fromMs);
  return Math.round(moved / QUARTER_MS) * QUARTER_MS;
}

/** Midnights within the scale, in a time zone. */
export function midnights(
  { fromMs, toMs }: PlanScale,
  timeZone: string,
): { atMs: number; words: string }[] {
  const days: { atMs: number; words: string }[] = [];
  const first = Date.parse(`${dayIn(timeZone, new Date(fromMs))}T00:00:00Z`);
  for (let day = first; ; day += DAY_MS) {
    const atMs = momentIn(timeZone, new Date(day).toISOString().slice(0, 10), 0);
    if (atMs >= toMs) return days;
    if (atMs < fromMs) continue;
    days.push({
      atMs,
      words: new Date(day).toLocaleDateString('en-GB', {
        weekday: 'short',
        day: 'numeric',
        month: 'short',
        timeZone: 'UTC',
      }),
    });
  }
}
