'use client';

import type { MedianBand } from '@dusk-tally/core/evidence';
import { useRouter } from 'next/navigation';
import { type PointerEvent, useMemo, useState } from 'react';
import { usePlotArea, useXAxisScale, useYAxisScale } from 'recharts';

type Scale = (value: number) => number;

/** One curve, ready to draw. */
export interface Drawn {
  number: string;
  xs: ArrayLike<number>;
  ys: ArrayLike<number>;
}

/** An axis: its words, its unit, and digits of a reading at the pointer. */
export interface Axis {
  label: string;
  unit: string;
  digits: number;
}

/** A value marked across the chart. */
export interface Mark {
  value: number;
  label: string;
}

interface Pick {
  number: string;
  x: number;
  y: number;
}

function pathOf(curve: Drawn, toX: Scale, toY: Scale): string {
  let path = '';
  for (let i = 0; i < curve.xs.length; i++)
    path += `${i === 0 ? 'M' : 'L'}${toX(curve.xs[i]!).toFixed(1)} ${toY(curve.ys[i]!).toFixed(1)}`;
  return path;
}

/** The drawn point nearest to the pointer, within reach. */
function nearest(
  curves: Drawn[],
  toX: Scale,
  toY: Scale,
  at: { x: number; y: number },
): Pick | null {
  let best: Pick | null = null;
  let bestDistance = 30 ** 2;
  for (const curve of curves) {
    for (let i = 0; i < curve.xs.length; i++) {
      const distance = (toX(curve.xs[i]!) - at.x) ** 2 + (toY(curve.ys[i]!) - at.y) ** 2;
      if (distance < bestDistance) {
        bestDistance = distance;
        best = { number: curve.number, x: curve.xs[i]!, y: curve.ys[i]! };
      }
    }
  }
  return best;
}

/** Median of the lot and three spreads to each side. */
export function BandLayer({ band }: { band: MedianBand }) {
  const scaleX = useXAxisScale() as Scale | undefined;
  const scaleY = useYAxisScale() as Scale | undefined;
  const plot = usePlotArea();
  if (!scaleX || !scaleY || !plot) return null;
  const inside = (y: number) => Math.max(plot.y, Math.min(plot.y + plot.height, y));
  const line = (offset: (i: number) => number, order: number[]) =>
    order
      .map(
        (i) =>
          `${scaleX(band.x[i]!).toFixed(1)} ${inside(scaleY(band.median[i]! + offset(i))).toFixed(1)}`,
      )
      .join('L');
  const forth = band.x.map((_, i) => i);
  const back = [...forth].reverse();
  return (
    <g pointerEvents="none">
      <path
        d={`M${line((i) => 3 * band.spread[i]!, forth)}L${line((i) => -3 * band.spread[i]!, back)}Z`}
        fill="var(--ember)"
        opacity={0.13}
      />
      <path
        d={`M${line(() => 0, forth)}`}
        fill="none"
        stroke="var(--ember)"
        strokeWidth={1.4}
        strokeDasharray="7 3"
      />
    </g>
  );
}

/** All curves as plain paths inside the chart's own scales: 240 cells stay quick. */
export function CurveLayer({
  curves,
  chosen,
  x,
  y,
}: {
  curves: Drawn[];
  chosen: Set<string>;
  x: Axis;
  y: Axis;
}) {
  const router = useRouter();
  const plot = usePlotArea();
  const scaleX = useXAxisScale() as Scale | undefined;
  const scaleY = useYAxisScale() as Scale | undefined;
  const [pick, setPick] = useState<Pick | null>(null);
  const paths = useMemo(
    () =>
      scaleX && scaleY
        ? curves.map((curve) => ({ number: curve.number, d: pathOf(curve, scaleX, scaleY) }))
        : [],
    [curves, scaleX, scaleY],
  );
  if (!plot || !scaleX || !scaleY) return null;
  const faint = chosen.size > 0;
  const opacity = Math.max(0.12, Math.min(0.85, 10 / Math.sqrt(curves.length) / 3));
  const onMove = (event: PointerEvent<SVGRectElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    setPick(
      nearest(curves, scaleX, scaleY, {
        x: event.clientX - box.left + plot.x,
        y: event.clientY - box.top + plot.y,
      }),
    );
  };
  const left = pick ? Math.min(scaleX(pick.x) + 10, plot.x + plot.width - 175) : 0;
  const top = pick ? Math.max(plot.y, scaleY(pick.y) - 52) : 0;
  return (
    <g>
      <clipPath id="curves-plot">
        <rect x={plot.x} y={plot.y} width={plot.width} height={plot.height} />
      </clipPath>
      <g fill="none" clipPath="url(#curves-plot)">
        {paths.map(({ number, d }) => {
          const on = pick?.number === number || chosen.has(number);
          return (
            <path
              key={number}
              d={d}
              stroke={on ? 'var(--ember)' : 'var(--curve)'}
              strokeWidth={on ? 2 : 1}
              opacity={on ? 1 : faint ? opacity / 2 : opacity}
            />
          );
        })}
      </g>
      {pick && (
        <g pointerEvents="none">
          <circle
            cx={scaleX(pick.x)}
            cy={scaleY(pick.y)}
            r={4}
            fill="none"
            stroke="var(--ink)"
            strokeWidth={1.5}
          />
          <rect
            x={left}
            y={top}
            width={165}
            height={42}
            rx={3}
            fill="var(--raised)"
            stroke="var(--strong-rule)"
          />
          <text x={left + 10} y={top + 17} fill="var(--ink)" fontSize={13} fontWeight={600}>
            {pick.number}
          </text>
          <text x={left + 10} y={top + 34} fill="var(--quiet)" fontSize={12}>
            {pick.x.toFixed(x.digits)} {x.unit}, {pick.y.toFixed(y.digits)} {y.unit}
          </text>
        </g>
      )}
      <rect
        x={plot.x}
        y={plot.y}
        width={plot.width}
        height={plot.height}
        fill="transparent"
        style={{ cursor: pick ? 'pointer' : 'default' }}
        onPointerMove={onMove}
        onPointerLeave={() => setPick(null)}
        onClick={() => pick && router.push(`/cells/${pick.number}`)}
      />
    </g>
  );
}
