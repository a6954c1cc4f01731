import type { TimeRange } from './use-trace';

/** A stretch without readings; `ah` null where nothing says what flowed in it. */
export interface TraceHole {
  fromS: number;
  toS: number;
  ah?: number | null;
}

/** A sample as it is drawn. */
export interface TracePoint {
  /** Time, h. */
  h: number;
  v: number | null;
  a: number | null;
  c: number | null;
  /** Charge given so far, Ah. */
  ah: number;
}

/** Digits a log has, by column. */
export interface TraceDecimals {
  timeS: number;
  voltageV: number;
  currentA: number;
  temperatureC: number;
}

/** Name, unit and decimals of what a line shows, by its key. */
export const lineWords = (decimals: TraceDecimals) => ({
  v: ['voltage', 'V', decimals.voltageV] as const,
  a: ['current', 'A', decimals.currentA] as const,
  c: ['surface', '°C', decimals.temperatureC] as const,
});

/** Samples with a break in the lines where there are no readings. */
export function withHoles(
  points: readonly TracePoint[],
  holes: readonly TraceHole[],
): TracePoint[] {
  const broken: TracePoint[] = [];
  let next = 0;
  for (const point of points) {
    while (next < holes.length && holes[next]!.toS / 3600 <= point.h + 1e-9) {
      const { fromS, toS } = holes[next]!;
      broken.push({ h: (fromS + toS) / 7200, v: null, a: null, c: null, ah: point.ah });
      next++;
    }
    broken.push(point);
  }
  return broken;
}

/** What stands over a hole, as far as it is wide enough: a share of what is shown. */
export function holeWords({ ah }: TraceHole, share: number): string {
  if (share < 0.08) return '';
  if (share < 0.2 || ah === undefined) return 'no readings';
  return ah === null ? 'no readings, nothing counted' : `no readings, ${ah.toFixed(3)} Ah counted`;
}

/** What is shown of a run of a length; null is all of it. */
export interface TraceWindow {
  range: TimeRange | null;
  durationS: number;
}

/** The stretch that is shown. */
export const shownOf = ({ range, durationS }: TraceWindow): TimeRange =>
  range ?? { fromS: 0, toS: durationS };

/**
 * The window made wider or narrower about its middle, and moved by a share of its width; never off
 * the ends of the run, and all of it again where nothing is left out.
 */
export function zoomed(window: TraceWindow, factor: number, shift = 0): TimeRange | null {
  const { fromS, toS } = shownOf(window);
  const { durationS } = window;
  const width = toS - fromS;
  const middle = (fromS + toS) / 2 + shift * width;
  const half = Math.min(durationS, width * factor) / 2;
  const from = Math.max(0, Math.min(middle - half, durationS - 2 * half));
  const to = Math.min(durationS, from + 2 * half);
  return from <= 0 && to >= durationS ? null : { fromS: from, toS: to };
}

/** Dragged narrower than this share of what is shown, it was a press. */
const LEAST_SHARE = 1 / 200;

/** The window a drag over hours asks for; as it was where it was only a press. */
export function dragged(
  window: TraceWindow,
  { from, to }: { from: number; to: number },
): TimeRange | null {
  const { fromS, toS } = shownOf(window);
  const [start, end] = [Math.min(from, to) * 3600, Math.max(from, to) * 3600];
  return end - start > (toS - fromS) * LEAST_SHARE ? { fromS: start, toS: end } : window.range;
}

/** How time is told in a window: in seconds, minutes or hours. */
export function timeScale({ fromS, toS }: TimeRange, decimals: TraceDecimals) {
  const unit = toS - fromS < 600 ? 's' : toS < 3 * 3600 ? 'min' : 'h';
  return {
    unit,
    /** A moment in h, as it is read. */
    clock: (h: number): string =>
      unit === 's'
        ? `${(h * 3600).toFixed(Math.max(0, decimals.timeS))} s`
        : unit === 'min'
          ? `${(h * 60).toFixed(2)} min`
          : `${h.toFixed(4)} h`,
    /** A moment in h, as it stands on the axis. */
    tick: (h: number, digits: number): string =>
      unit === 's'
        ? (h * 3600).toFixed(0)
        : unit === 'min'
          ? (h * 60).toFixed(digits > 1 ? 1 : 0)
          : h.toFixed(digits),
  };
}

/** What is shown as a file of comma-separated values. */
export function traceCsv(points: readonly TracePoint[], decimals: TraceDecimals): string {
  const cell = (value: number | null, digits: number) => value?.toFixed(digits) ?? '';
  const rows = points.map(({ h, v, a, c, ah }) =>
    [
      (h * 3600).toFixed(decimals.timeS),
      cell(v, decimals.voltageV),
      cell(a, decimals.currentA),
      cell(c, decimals.temperatureC),
      ah.toFixed(4),
    ].join(','),
  );
  return `${['time_s,voltage_V,current_A,temperature_C,charge_given_Ah', ...rows].join('\n')}\n`;
}
