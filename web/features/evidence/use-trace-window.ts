'use client';

import { useMemo, useState } from 'react';
import { roundAxis } from '@/kit/chart-style';
import {
  dragged,
  shownOf,
  timeScale,
  type TraceDecimals,
  type TraceHole,
  type TracePoint,
  withHoles,
  zoomed,
} from './trace-window';
import { type TimeRange, useTrace } from './use-trace';

const orNull = (value: number) => (Number.isNaN(value) ? null : value);

/** What is shown of a run, its samples, its axes, and every way to another window. */
export function useTraceWindow({
  runId,
  durationS,
  cutoffV,
  holes,
  decimals,
}: {
  runId: number;
  durationS: number;
  cutoffV: number;
  holes: readonly TraceHole[];
  decimals: TraceDecimals;
}) {
  const [range, setRange] = useState<TimeRange | null>(null);
  const [drag, setDrag] = useState<{ from: number; to: number } | null>(null);
  const { data, error } = useTrace(runId, range);
  const points = useMemo(
    (): TracePoint[] =>
      data
        ? withHoles(
            Array.from(data.timeS, (t, i) => ({
              h: t / 3600,
              v: data.voltageV[i]!,
              a: orNull(data.currentA[i]!),
              c: orNull(data.temperatureC[i]!),
              ah: data.chargeAh[i]!,
            })),
            holes,
          )
        : [],
    [data, holes],
  );
  const window = { range, durationS };
  const shown = shownOf(window);
  const lowest = points.reduce((low, { v }) => Math.min(low, v ?? low), range ? Infinity : cutoffV);
  const highest = points.reduce(
    (high, { v }) => Math.max(high, v ?? high),
    range ? -Infinity : cutoffV,
  );
  const zoom = (factor: number, shift = 0) => setRange(zoomed(window, factor, shift));
  const keys: Record<string, () => void> = {
    '+': () => zoom(0.5),
    '=': () => zoom(0.5),
    '-': () => zoom(2),
    ArrowLeft: () => zoom(1, -0.25),
    ArrowRight: () => zoom(1, 0.25),
    Escape: () => setRange(null),
  };
  return {
    points,
    error,
    isWhole: data?.isWhole,
    range,
    shown,
    drag,
    up: roundAxis(lowest, highest, 6),
    across: roundAxis(shown.fromS / 3600, shown.toS / 3600, 9, true),
    scale: timeScale(shown, decimals),
    keys,
    wider: () => zoom(2),
    whole: () => setRange(null),
    /** A drag from one moment in h to another; null lets go of it. */
    dragTo: (h: number | null, begins = false) =>
      setDrag(h === null ? null : { from: begins || !drag ? h : drag.from, to: h }),
    settleDrag: () => {
      if (drag) setRange(dragged(window, drag));
      setDrag(null);
    },
  };
}
