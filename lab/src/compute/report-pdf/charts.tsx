import { niceStep } from '@dusk-tally/core/statistics';
import { Line, Path, Rect, Svg, Text as SvgText } from '@react-pdf/renderer';
import type { ReportSnapshot } from '../report-snapshot';
import type { ReportWords } from '../report-words';
import { FONT_STACK } from './fonts';
import { INK } from './styles';

const WIDTH = 500;
const HEIGHT = 190;
const PLOT = { left: 42, right: 490, top: 10, bottom: 156 };

interface Axis {
  from: number;
  to: number;
  step: number;
}

/** Round ticks; the ends stay where they are when `snug`, else they move out to a tick. */
function axisFor(low: number, high: number, snug = false): Axis {
  const step = niceStep(Math.max(high - low, 1e-6) / 6);
  if (snug) return { from: low, to: high, step };
  return { from: Math.floor(low / step) * step, to: Math.ceil(high / step) * step, step };
}

const ticks = ({ from, to, step }: Axis): number[] => {
  const first = Math.ceil(from / step - 1e-9);
  const last = Math.floor(to / step + 1e-9);
  return Array.from({ length: last - first + 1 }, (_, i) =>
    Number(((first + i) * step).toPrecision(10)),
  );
};

const scale = (axis: Axis, low: number, high: number) => (value: number) =>
  low + ((value - axis.from) / (axis.to - axis.from)) * (high - low);

function Label({
  x,
  y,
  children,
  anchor = 'middle',
}: {
  x: number;
  y: number;
  children: string;
  anchor?: 'start' | 'middle' | 'end';
}) {
  return (
    <SvgText
      x={x}
      y={y}
      fill={INK.quiet}
      textAnchor={anchor}
      style={{ fontSize: 7.5, fontFamily: FONT_STACK }}
    >
      {children}
    </SvgText>
  );
}

function Frame({
  x,
  y,
  xName,
  yName,
  words: { say, number },
}: {
  x: Axis;
  y: Axis;
  xName: string;
  yName: string;
  words: ReportWords;
}) {
  const toX = scale(x, PLOT.left, PLOT.right);
  const toY = scale(y, PLOT.bottom, PLOT.top);
  return (
    <>
      {ticks(x).map((tick) => (
        <Label key={`x${tick}`} x={toX(tick)} y={PLOT.bottom + 12}>
          {number(String(tick))}
        </Label>
      ))}
      {ticks(y).map((tick) => (
        <Line
          key={`g${tick}`}
          x1={PLOT.left}
          x2={PLOT.right}
          y1={toY(tick)}
          y2={toY(tick)}
          stroke={INK.rule}
          strokeWidth={0.5}
        />
      ))}
      {ticks(y).map((tick) => (
        <Label key={`y${tick}`} x={PLOT.left - 5} y={toY(tick) + 2.5} anchor="end">
          {number(String(tick))}
        </Label>
      ))}
      <Label x={(PLOT.left + PLOT.right) / 2} y={PLOT.bottom + 26}>
        {say(xName)}
      </Label>
      <Label x={4} y={PLOT.top + 2} anchor="start">
        {say(yName)}
      </Label>
    </>
  );
}

/** Voltage against charge of every item, with the claimed capacity and the cut-off. */
export function CurveChart({ snapshot, words }: { snapshot: ReportSnapshot; words: ReportWords }) {
  const curves = snapshot.items.flatMap((item) =>
    item.curve && item.curve.ah.length > 1 ? [item.curve] : [],
  );
  const claimed = snapshot.claimedCapacityAh ?? 0;
  const most = Math.max(claimed, ...curves.map((curve) => curve.ah[curve.ah.length - 1]!));
  const lowest = Math.min(snapshot.cutoffV, ...curves.map((curve) => Math.min(...curve.v)));
  const highest = Math.max(...curves.map((curve) => Math.max(...curve.v)));
  const x = axisFor(0, most * 1.02, true);
  const y = axisFor(lowest, highest);
  const toX = scale(x, PLOT.left, PLOT.right);
  const toY = scale(y, PLOT.bottom, PLOT.top);
  const opacity = Math.max(0.15, Math.min(0.9, 12 / curves.length));
  return (
    <Svg width={WIDTH} height={HEIGHT} viewBox={`0 0 ${WIDTH} ${HEIGHT}`}>
      <Frame x={x} y={y} xName="charge given / Ah" yName="V" words={words} />
      {curves.map((curve, i) => (
        <Path
          key={i}
          d={curve.ah
            .map(
              (ah, k) =>
                `${k === 0 ? 'M' : 'L'}${toX(ah).toFixed(1)} ${toY(curve.v[k]!).toFixed(1)}`,
            )
            .join(' ')}
          stroke={INK.curve}
          strokeWidth={0.8}
          strokeOpacity={opacity}
          fill="none"
        />
      ))}
      <Line
        x1={PLOT.left}
        x2={PLOT.right}
        y1={toY(snapshot.cutoffV)}
        y2={toY(snapshot.cutoffV)}
        stroke={INK.quiet}
        strokeWidth={0.6}
        strokeDasharray="2 2"
      />
      {claimed > 0 ? (
        <Line
          x1={toX(claimed)}
          x2={toX(claimed)}
          y1={PLOT.top}
          y2={PLOT.bottom}
          stroke={INK.claim}
          strokeWidth={1}
          strokeDasharray="5 3"
        />
      ) : null}
      {claimed > 0 ? (
        <Label x={toX(claimed) - 3} y={PLOT.top + 8} anchor="end">
          {words.say(`claim ${claimed} Ah`)}
        </Label>
      ) : null}
      <Label x={PLOT.left + 4} y={toY(snapshot.cutoffV) - 3} anchor="start">
        {words.say(`cut-off ${snapshot.cutoffV} V`)}
      </Label>
    </Svg>
  );
}

/** How the lot's capacities spread, with the claim and this report's items marked. */
export function LotChart({ snapshot, words }: { snapshot: ReportSnapshot; words: ReportWords }) {
  const { bins } = snapshot.lotPosition;
  const claimed = snapshot.claimedCapacityAh;
  const first = bins[0]!;
  const last = bins[bins.length - 1]!;
  const x = axisFor(
    Math.min(first.from, claimed ?? first.from),
    Math.max(last.to, claimed ?? last.to),
  );
  const y = axisFor(0, Math.max(...bins.map((bin) => bin.count)));
  const toX = scale(x, PLOT.left, PLOT.right);
  const toY = scale(y, PLOT.bottom, PLOT.top);
  // Its words stand on the other side where there is no room for them.
  const isAtEdge = claimed !== null && toX(claimed) > PLOT.right - 70;
  const own = snapshot.items.flatMap((item) =>
    item.capacity?.bound === 'exact' && item.rank !== null ? [item.capacity.value] : [],
  );
  return (
    <Svg width={WIDTH} height={HEIGHT} viewBox={`0 0 ${WIDTH} ${HEIGHT}`}>
      <Frame x={x} y={y} xName="capacity / Ah" yName="cells" words={words} />
      {bins.map((bin) => (
        <Rect
          key={bin.from}
          x={toX(bin.from) + 0.5}
          y={toY(bin.count)}
          width={Math.max(1, toX(bin.to) - toX(bin.from) - 1)}
          height={PLOT.bottom - toY(bin.count)}
          fill={INK.bar}
        />
      ))}
      {own.map((value, i) => (
        <Line
          key={i}
          x1={toX(value)}
          x2={toX(value)}
          y1={PLOT.bottom}
          y2={PLOT.bottom + 4}
          stroke={INK.text}
          strokeWidth={0.8}
        />
      ))}
      {claimed ? (
        <Line
          x1={toX(claimed)}
          x2={toX(claimed)}
          y1={PLOT.top}
          y2={PLOT.bottom}
          stroke={INK.claim}
          strokeWidth={1}
          strokeDasharray="5 3"
        />
      ) : null}
      {claimed ? (
        <Label
          x={toX(claimed) + (isAtEdge ? -3 : 3)}
          y={PLOT.top + 8}
          anchor={isAtEdge ? 'end' : 'start'}
        >
          {words.say(`claim ${claimed} Ah`)}
        </Label>
      ) : null}
    </Svg>
  );
}
