import { Line, ReferenceArea, ReferenceLine, XAxis, YAxis } from 'recharts';
import { AXIS, CLAIM_LINE, type roundAxis } from '@/kit/chart-style';
import { holeWords, type timeScale, type TraceHole } from './trace-window';
import type { TimeRange } from './use-trace';

type Round = ReturnType<typeof roundAxis>;

// Functions, not components: a chart looks for its parts among its own children.

/** Time across, voltage and current up, temperature where it is asked for. */
export const traceAxes = (
  up: Round,
  across: Round,
  scale: ReturnType<typeof timeScale>,
  withC: boolean,
) => (
  <>
    <XAxis
      {...AXIS}
      type="number"
      dataKey="h"
      domain={across.domain}
      ticks={across.ticks}
      allowDataOverflow
      tickFormatter={(h: number) => scale.tick(h, across.decimals)}
    />
    <YAxis
      {...AXIS}
      yAxisId="v"
      domain={up.domain}
      ticks={up.ticks}
      width={56}
      tickFormatter={(v: number) => v.toFixed(Math.max(1, up.decimals))}
      label={{ value: 'V', position: 'insideTopLeft', fill: 'var(--quiet)', fontSize: 12 }}
    />
    <YAxis
      {...AXIS}
      yAxisId="a"
      orientation="right"
      width={52}
      label={{ value: 'A', position: 'insideTopRight', fill: 'var(--quiet)', fontSize: 12 }}
    />
    {withC && (
      <YAxis
        {...AXIS}
        yAxisId="c"
        orientation="right"
        width={44}
        domain={['auto', 'auto']}
        label={{
          value: '°C',
          position: 'insideTopRight',
          fill: 'var(--quiet)',
          fontSize: 12,
        }}
      />
    )}
  </>
);

/** The lines: current below, voltage on top; samples as dots where they are few. */
export const traceLines = (withC: boolean, hasDots: boolean) => (
  <>
    <Line
      yAxisId="a"
      dataKey="a"
      stroke="var(--strong-rule)"
      strokeWidth={1}
      strokeDasharray="3 2"
      dot={false}
      isAnimationActive={false}
      type="stepAfter"
    />
    {withC && (
      <Line
        yAxisId="c"
        dataKey="c"
        stroke="var(--doubt)"
        strokeWidth={1.2}
        strokeDasharray="1 3"
        dot={false}
        isAnimationActive={false}
      />
    )}
    <Line
      yAxisId="v"
      dataKey="v"
      stroke="var(--curve)"
      strokeWidth={1.8}
      dot={hasDots ? { r: 2.2, fill: 'var(--curve)' } : false}
      isAnimationActive={false}
    />
  </>
);

/** The cut-off, and stretches without readings. */
export const traceMarks = (
  cutoffV: number,
  up: Round,
  holes: readonly TraceHole[],
  shown: TimeRange,
) => (
  <>
    {cutoffV >= up.domain[0] && cutoffV <= up.domain[1] && (
      <ReferenceLine
        yAxisId="v"
        y={cutoffV}
        {...CLAIM_LINE}
        label={{
          value: `cut-off ${cutoffV} V`,
          fill: 'var(--ember)',
          fontSize: 12,
          position: 'insideBottomLeft',
        }}
      />
    )}
    {holes
      .filter(({ fromS, toS }) => toS > shown.fromS && fromS < shown.toS)
      .map((hole) => (
        <ReferenceArea
          key={hole.fromS}
          yAxisId="v"
          x1={Math.max(hole.fromS, shown.fromS) / 3600}
          x2={Math.min(hole.toS, shown.toS) / 3600}
          fill="var(--quiet)"
          fillOpacity={0.16}
          stroke="var(--quiet)"
          strokeDasharray="2 3"
          ifOverflow="hidden"
          label={{
            value: holeWords(hole, (hole.toS - hole.fromS) / (shown.toS - shown.fromS)),
            fill: 'var(--quiet)',
            fontSize: 12,
            position: 'insideTop',
          }}
        />
      ))}
  </>
);
