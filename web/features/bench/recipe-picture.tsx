import { coursePoints, expectedCourse, type ProgramStep } from '@dusk-tally/core/bench';
import type { Chemistry } from '@dusk-tally/core/chemistry';
import { lengthOf } from './words';

const [WIDTH, HEIGHT, GAP] = [420, 190, 14];

/** Expected voltage (line) and current (band) of a program against time. */
export function RecipePicture({
  program,
  chemistry,
  capacityAh,
}: {
  program: readonly ProgramStep[];
  chemistry: Chemistry;
  capacityAh: number;
}) {
  const conditions = { chemistry, capacityAh, stateOfCharge: 0.33, tauS: null };
  const course = expectedCourse(program, conditions);
  const points = coursePoints(course, program, conditions);
  const end = course[course.length - 1]?.toS ?? 0;
  if (points.length < 2 || end === 0) return null;
  // Long rests would leave no room for the rest of it: they are drawn shorter, and said.
  const longest = Math.max(6 * 3600, end / 6);
  let atS = 0;
  const drawnAt = course.map((part) => {
    const length = part.toS - part.fromS;
    const drawn = part.kind === 'rest' ? Math.min(length, longest) : length;
    const place = { ...part, from: atS, length: drawn, scale: length > 0 ? drawn / length : 1 };
    atS += drawn;
    return place;
  });
  const place = (timeS: number) => {
    const part = drawnAt.find(({ toS }) => timeS <= toS) ?? drawnAt[drawnAt.length - 1]!;
    return ((part.from + (timeS - part.fromS) * part.scale) / atS) * WIDTH;
  };
  const volts = points.map(({ voltageV }) => voltageV);
  const [low, high] = [Math.min(...volts) - 0.05, Math.max(...volts) + 0.05];
  const most = Math.max(...points.map(({ currentA }) => Math.abs(currentA)), 1e-9);
  const upper = (HEIGHT - GAP) * 0.62;
  const middle = upper + GAP + (HEIGHT - upper - GAP) / 2;
  const y = (v: number) => upper - ((v - low) / (high - low)) * upper;
  const yA = (a: number) => middle - (a / most) * ((HEIGHT - upper - GAP) / 2);
  const line = points
    .map(
      ({ timeS, voltageV }, i) =>
        `${i === 0 ? 'M' : 'L'}${place(timeS).toFixed(1)} ${y(voltageV).toFixed(1)}`,
    )
    .join('');
  const band = `M0 ${middle}${points.map(({ timeS, currentA }) => `L${place(timeS).toFixed(1)} ${yA(currentA).toFixed(1)}`).join('')}L${WIDTH} ${middle}Z`;
  return (
    <figure>
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT + 18}`}
        className="w-full"
        role="img"
        aria-label={`Expected course over ${lengthOf(end)}: voltage from ${low.toFixed(2)} to ${high.toFixed(2)} V, current up to ${most.toFixed(1)} A`}
      >
        {drawnAt.slice(1).map((part) => (
          <line
            key={part.step}
            x1={(part.from / atS) * WIDTH}
            x2={(part.from / atS) * WIDTH}
            y1={0}
            y2={HEIGHT}
            stroke="var(--rule)"
          />
        ))}
        {drawnAt.map((part) =>
          part.scale < 1 ? (
            <text
              key={part.step}
              x={((part.from + part.length / 2) / atS) * WIDTH}
              y={12}
              textAnchor="middle"
              fontSize={11}
              fill="var(--quiet)"
            >
              {lengthOf(part.toS - part.fromS)}
            </text>
          ) : null,
        )}
        <line
          x1={0}
          x2={WIDTH}
          y1={middle}
          y2={middle}
          stroke="var(--strong-rule)"
          strokeWidth={0.7}
        />
        <path
          d={band}
          fill="var(--ember)"
          fillOpacity={0.35}
          stroke="var(--ember)"
          strokeWidth={1}
        />
        <path d={line} fill="none" stroke="var(--curve)" strokeWidth={2} />
        <text x={2} y={11} fontSize={11} fill="var(--quiet)">
          {high.toFixed(2)} V
        </text>
        <text x={2} y={upper - 2} fontSize={11} fill="var(--quiet)">
          {low.toFixed(2)} V
        </text>
        <text x={2} y={HEIGHT + 14} fontSize={11} fill="var(--quiet)">
          ± {most.toFixed(1)} A
        </text>
        <text x={WIDTH - 2} y={HEIGHT + 14} textAnchor="end" fontSize={11} fill="var(--quiet)">
          {lengthOf(end)}
        </text>
      </svg>
      <figcaption className="text-[0.82rem] text-quiet">
        Expected voltage above, current below (charge upwards), for a cell that comes a third full.
      </figcaption>
    </figure>
  );
}
