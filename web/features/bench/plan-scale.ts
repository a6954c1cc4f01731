/** The stretch of time a planning board shows. */
export interface PlanScale {
  fromMs: number;
  toMs: number;
  /** Width of the rows, px. */
  width: number;
}

/** Starts are put on quarters of an hour. */
export const QUARTER_MS = 900_000;

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
  const hourOf = (ms: number) =>
    Number(
      new Intl.DateTimeFormat('en-GB', { hour: '2-digit', hourCycle: 'h23', timeZone }).format(ms),
    );
  for (let at = Math.ceil(fromMs / QUARTER_MS) * QUARTER_MS; at < toMs; at += QUARTER_MS) {
    if (hourOf(at) !== 0 || (days.length > 0 && at - days[days.length - 1]!.atMs < 20 * 3_600_000))
      continue;
    days.push({
      atMs: at,
      words: new Date(at).toLocaleDateString('en-GB', {
        weekday: 'short',
        day: 'numeric',
        month: 'short',
        timeZone,
      }),
    });
  }
  return days;
}
