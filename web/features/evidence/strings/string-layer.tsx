'use client';

import { type PointerEvent, useId, useMemo } from 'react';
import { usePlotArea, useXAxisScale, useYAxisScale } from 'recharts';
import type { LinePiece } from './string-lines';

type Scale = (value: number) => number;

/** A line that is drawn, and how. */
export interface StringLine {
  name: string;
  pieces: LinePiece[];
  look: 'plain' | 'faint' | 'chosen';
}

const LOOKS = {
  plain: { stroke: 'var(--curve)', strokeWidth: 1, opacity: 0.75 },
  faint: { stroke: 'var(--curve)', strokeWidth: 1, opacity: 0.22 },
  chosen: { stroke: 'var(--ember)', strokeWidth: 1.8, opacity: 1 },
} as const;

const pathOf = (pieces: readonly LinePiece[], toX: Scale, toY: Scale): string =>
  pieces
    .map(({ h, y }) =>
      h
        .map((at, i) => `${i === 0 ? 'M' : 'L'}${toX(at).toFixed(1)} ${toY(y[i]!).toFixed(1)}`)
        .join(''),
    )
    .join('');

/** Lines as plain paths inside the chart’s own scales, the pointer’s moment, and a drag across. */
export function StringLayer({
  lines,
  at,
  drag,
  onMoment,
  onDrag,
}: {
  lines: readonly StringLine[];
  /** Moment of the pointer, h. */
  at: number | null;
  drag: { from: number; to: number } | null;
  onMoment: (h: number | null) => void;
  onDrag: (kind: 'begin' | 'move' | 'end' | 'leave', h: number) => void;
}) {
  const clip = useId();
  const plot = usePlotArea();
  const toX = useXAxisScale() as Scale | undefined;
  const toY = useYAxisScale() as Scale | undefined;
  const paths = useMemo(
    () =>
      toX && toY
        ? lines.map(({ name, pieces, look }) => ({ name, look, d: pathOf(pieces, toX, toY) }))
        : [],
    [lines, toX, toY],
  );
  if (!plot || !toX || !toY) return null;
  const [left, right] = [toX(0), toX(1)];
  /** Moment under the pointer, h: the scale is a straight line. */
  const momentOf = (event: PointerEvent<SVGRectElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    const x = event.clientX - box.left + plot.x;
    return (x - left) / (right - left);
  };
  return (
    <g>
      <clipPath id={clip}>
        <rect x={plot.x} y={plot.y} width={plot.width} height={plot.height} />
      </clipPath>
      <g fill="none" clipPath={`url(#${clip})`}>
        {paths.map(({ name, d, look }) => (
          <path key={name} d={d} {...LOOKS[look]} />
        ))}
        {drag && (
          <rect
            x={toX(Math.min(drag.from, drag.to))}
            y={plot.y}
            width={Math.abs(toX(drag.to) - toX(drag.from))}
            height={plot.height}
            fill="var(--curve)"
            opacity={0.18}
          />
        )}
        {at !== null && (
          <line
            x1={toX(at)}
            x2={toX(at)}
            y1={plot.y}
            y2={plot.y + plot.height}
            stroke="var(--quiet)"
          />
        )}
      </g>
      <rect
        x={plot.x}
        y={plot.y}
        width={plot.width}
        height={plot.height}
        fill="transparent"
        style={{ cursor: 'crosshair', touchAction: 'pan-y' }}
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          onDrag('begin', momentOf(event));
        }}
        onPointerMove={(event) => {
          const h = momentOf(event);
          onMoment(h);
          onDrag('move', h);
        }}
        onPointerUp={(event) => onDrag('end', momentOf(event))}
        onPointerLeave={() => {
          onMoment(null);
          onDrag('leave', 0);
        }}
      />
    </g>
  );
}
