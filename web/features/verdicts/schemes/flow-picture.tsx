'use client';

import { useWatch } from 'react-hook-form';
import { type Bar, type Flow, flowLayout } from './flow-layout';

const WIDTH = 440;
const HEIGHT = 190;
const SIDE = 118;
const PAD = 10;

const named = (grade: string | null): string => grade ?? 'waiting';

/** Whether a move goes up, down, or nowhere in the order of grades that is tried. */
function turnOf({ from, to }: Flow, order: readonly (string | null)[]): 'same' | 'up' | 'down' {
  if (from === to) return 'same';
  if (from === null) return 'up';
  if (to === null) return 'down';
  const [a, b] = [order.indexOf(from), order.indexOf(to)];
  // A grade that is no more is told by its place in the picture alone.
  return a < 0 ? 'same' : b < a ? 'up' : 'down';
}

const FILL = { same: 'var(--stroke)', up: 'var(--met)', down: 'var(--missed)' } as const;

function Side({ bars, x, anchor }: { bars: readonly Bar[]; x: number; anchor: 'start' | 'end' }) {
  const text = anchor === 'end' ? x - 6 : x + 14;
  return bars.map(({ grade, cells, y, height }) => (
    <g key={named(grade)}>
      <rect x={x} y={y} width={8} height={Math.max(1, height)} fill="var(--ink)" rx={1} />
      <text
        x={text}
        y={y + height / 2}
        textAnchor={anchor}
        dominantBaseline="central"
        fontSize={12}
        fill="var(--ink)"
      >
        {named(grade)} {cells}
      </text>
    </g>
  ));
}

/** From which grade to which grade cells go: as wide as there are cells. */
export function FlowPicture({ flows }: { flows: readonly Flow[] }) {
  const grades = (useWatch({ name: 'scheme.grades' }) as { name: string }[]).map((one) => one.name);
  const uses = (side: 'from' | 'to', grade: string | null) =>
    flows.some((flow) => flow[side] === grade);
  const right = [...grades, null].filter((grade) => uses('to', grade));
  const gone = [...new Set(flows.map(({ from }) => from))].filter(
    (grade) => grade !== null && !grades.includes(grade),
  );
  const left = [...grades, ...gone, null].filter((grade) => uses('from', grade));
  const { left: from, right: to, bands, height } = flowLayout(flows, { left, right }, HEIGHT);
  const [x1, x2] = [SIDE + 8, WIDTH - SIDE - 8];
  const middle = (x1 + x2) / 2;
  const said = flows
    .filter((flow) => flow.from !== flow.to)
    .map((flow) => `${flow.cells} from ${named(flow.from)} to ${named(flow.to)}`);
  return (
    <figure className="my-3">
      <svg
        viewBox={`0 ${-PAD} ${WIDTH} ${height + 2 * PAD}`}
        className="w-full"
        role="img"
        aria-label={said.length > 0 ? `Moves: ${said.join(', ')}.` : 'Nothing moves.'}
      >
        {bands.map((band) => {
          const { left: a, right: b, thickness } = band;
          const turn = turnOf(band, grades);
          return (
            <path
              key={`${named(band.from)} ${named(band.to)}`}
              d={`M${x1},${a} C${middle},${a} ${middle},${b} ${x2},${b} L${x2},${b + thickness} C${middle},${b + thickness} ${middle},${a + thickness} ${x1},${a + thickness} Z`}
              fill={FILL[turn]}
              opacity={turn === 'same' ? 0.22 : 0.65}
            >
              <title>{`${band.cells}: ${named(band.from)} to ${named(band.to)}`}</title>
            </path>
          );
        })}
        <Side bars={from} x={SIDE} anchor="end" />
        <Side bars={to} x={x2} anchor="start" />
      </svg>
      <figcaption className="flex justify-between text-[0.85rem] text-quiet">
        <span>today</span>
        <span>
          <span className="text-met">better</span>, <span className="text-missed">worse</span>
        </span>
        <span>by this scheme</span>
      </figcaption>
    </figure>
  );
}
