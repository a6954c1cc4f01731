'use client';

import { decodeCurve } from '@dusk-tally/core/evidence';
import { useMemo } from 'react';

/** A thumbnail of a whole log: voltage as a line, current as a shaded band below. */
export function Sketch({
  bytes,
  width = 120,
  height = 48,
}: {
  bytes: Uint8Array;
  width?: number;
  height?: number;
}) {
  const drawn = useMemo(() => {
    const { curve } = decodeCurve(bytes);
    const n = curve.timeS.length;
    const lowest = Math.min(...curve.voltageV);
    const highest = Math.max(...curve.voltageV);
    const most = Math.max(...curve.currentA.map(Math.abs), 1e-9);
    const end = Math.max(curve.timeS[n - 1]!, 1e-9);
    const x = (i: number) => (curve.timeS[i]! / end) * width;
    const points = Array.from({ length: n }, (_, i) => i);
    const line = points
      .map(
        (i) =>
          `${i === 0 ? 'M' : 'L'}${x(i).toFixed(1)} ${(height - 13 - ((curve.voltageV[i]! - lowest) / Math.max(highest - lowest, 1e-6)) * (height - 15)).toFixed(1)}`,
      )
      .join('');
    const band = points
      .map(
        (i) =>
          `L${x(i).toFixed(1)} ${(height - (Math.abs(curve.currentA[i]!) / most) * 9).toFixed(1)}`,
      )
      .join('');
    return {
      line,
      band: `M0 ${height}${band}L${width} ${height}Z`,
      words: `from ${curve.voltageV[0]!.toFixed(2)} V to ${curve.voltageV[n - 1]!.toFixed(2)} V over ${Math.round(end)} s`,
    };
  }, [bytes, width, height]);
  return (
    <svg width={width} height={height} role="img" aria-label={`Voltage ${drawn.words}`}>
      <path d={drawn.band} fill="var(--rule)" />
      <path d={drawn.line} fill="none" stroke="var(--curve)" strokeWidth={1.5} />
    </svg>
  );
}
