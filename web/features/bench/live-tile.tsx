import type { LiveChannel, LiveRun } from '@dusk-tally/lab/bench';
import { BellRing, TriangleAlert } from 'lucide-react';
import { Link } from '@/kit/link';
import type { TileSize } from './tile-size';
import { doing } from './words';
import { useClock } from '@/kit/use-clock';

const amps = (value: number) => Math.abs(value).toFixed(Math.abs(value) < 10 ? 3 : 2);

/** Points of the little curve, as a path. */
function pathOf(
  points: readonly { x: number; v: number }[],
  width: number,
  height: number,
): string {
  if (points.length < 2) return '';
  const [low, high] = [
    Math.min(...points.map(({ v }) => v)),
    Math.max(...points.map(({ v }) => v)),
  ];
  const [from, to] = [points[0]!.x, points[points.length - 1]!.x];
  return points
    .map(
      ({ x, v }, i) =>
        `${i === 0 ? 'M' : 'L'}${(((x - from) / Math.max(to - from, 1e-9)) * width).toFixed(1)} ${(height - 2 - ((v - low) / Math.max(high - low, 0.01)) * (height - 4)).toFixed(1)}`,
    )
    .join('');
}

const graveOf = (run: LiveRun) => run.worst === 'block' || run.worst === 'stop';
const edgeOf = (run: LiveRun) =>
  graveOf(run) ? 'border-missed border-2' : run.worst ? 'border-doubt border-2' : 'border-rule';
const nameOf = ({ title }: LiveChannel, run: LiveRun) =>
  `${title}, ${run.cell}, ${doing(run)}${run.openAlarms > 0 ? `, ${run.openAlarms} alarms` : ''}`;

/** How far a run is through its recipe. */
function Progress({ run }: { run: LiveRun }) {
  const over = run.phase === 'ended';
  return (
    <span
      aria-hidden
      className="absolute inset-x-0 bottom-0 h-1 origin-left bg-ember"
      style={{
        transform: `scaleX(${over ? 1 : (run.step + (run.share ?? 0)) / run.steps})`,
        opacity: over ? 0.4 : 1,
      }}
    />
  );
}

/** A channel among very many: number, voltage and what it does; the rest is on its run's page. */
function TinyTile({ channel, run }: { channel: LiveChannel; run: LiveRun }) {
  return (
    <Link
      href={`/bench/runs/${run.id}`}
      aria-label={nameOf(channel, run)}
      title={nameOf(channel, run)}
      className={`relative flex flex-col overflow-hidden rounded-md border bg-sheet px-2 pt-0.5 pb-1 leading-tight hover:bg-raised ${edgeOf(run)}`}
    >
      <span className="flex items-center justify-between gap-1 text-[0.8rem]">
        <span className="truncate font-semibold">{run.cell}</span>
        {run.worst &&
          (graveOf(run) ? (
            <TriangleAlert size={14} className="shrink-0 text-missed" aria-hidden />
          ) : (
            <BellRing size={14} className="shrink-0 text-doubt" aria-hidden />
          ))}
      </span>
      <span
        className={`text-xl font-semibold tracking-tight tabular-nums ${run.isSilent ? 'text-quiet' : ''}`}
      >
        {run.voltageV === null ? '–' : run.voltageV.toFixed(3)}
        <span className="ml-0.5 text-[0.75rem] font-normal text-quiet">V</span>
      </span>
      <span className="truncate text-[0.75rem] text-quiet tabular-nums">
        {run.isSilent ? 'nothing heard' : doing(run)}
        {run.temperatureC !== null && `, ${run.temperatureC.toFixed(0)} °C`}
      </span>
      <Progress run={run} />
    </Link>
  );
}

/** One channel of the bench: big enough to read from two metres. */
export function LiveTile({
  channel,
  run,
  points,
  now,
  size,
}: {
  channel: LiveChannel;
  run: LiveRun;
  /** Voltages seen so far, by time of the run. */
  points: readonly { x: number; v: number }[];
  now: Date;
  size: TileSize;
}) {
  const clock = useClock();
  if (size === 'tiny') return <TinyTile channel={channel} run={run} />;
  const isGrave = graveOf(run);
  const dense = size === 'small';
  const picture = dense ? { width: 60, height: 26 } : { width: 92, height: 34 };
  return (
    <Link
      href={`/bench/runs/${run.id}`}
      aria-label={nameOf(channel, run)}
      className={`relative flex flex-col overflow-hidden rounded-md border bg-sheet px-3 pt-2 pb-2.5 hover:bg-raised ${edgeOf(run)}`}
    >
      <span className="flex items-baseline justify-between gap-2">
        <span className="truncate font-semibold">{run.cell}</span>
        <span className="truncate text-[0.82rem] text-quiet">{channel.title}</span>
      </span>
      <span className="flex items-end justify-between gap-2">
        <span
          className={`font-semibold tracking-tight tabular-nums ${dense ? 'text-2xl' : 'text-4xl'} ${run.isSilent ? 'text-quiet' : ''}`}
        >
          {run.voltageV === null ? '–' : run.voltageV.toFixed(3)}
          <span className="ml-1 text-base font-normal text-quiet">V</span>
        </span>
        {points.length > 2 && (
          <svg width={picture.width} height={picture.height} aria-hidden className="mb-1 shrink-0">
            <path
              d={pathOf(points, picture.width, picture.height)}
              fill="none"
              stroke="var(--curve)"
              strokeWidth={1.8}
            />
          </svg>
        )}
      </span>
      <span className={`flex flex-wrap gap-x-3 tabular-nums ${dense ? 'text-[0.82rem]' : ''}`}>
        {run.currentA !== null && <span>{amps(run.currentA)} A</span>}
        {run.temperatureC !== null && <span>{run.temperatureC.toFixed(1)} °C</span>}
        {run.expectedAh > 0 && (
          <span className="text-quiet">
            {run.stepAh.toFixed(2)} of {run.expectedAh.toFixed(1)} Ah
          </span>
        )}
      </span>
      <span className="mt-0.5 flex items-center justify-between gap-2 text-[0.88rem]">
        <span className="flex items-center gap-1 truncate font-medium">
          {run.worst &&
            (isGrave ? (
              <TriangleAlert size={15} className="text-missed" aria-hidden />
            ) : (
              <BellRing size={15} className="text-doubt" aria-hidden />
            ))}
          {run.isSilent ? 'nothing heard' : doing(run)}
        </span>
        {run.finishAt && (
          <span className="shrink-0 text-quiet">till {clock(run.finishAt, now)}</span>
        )}
      </span>
      <Progress run={run} />
    </Link>
  );
}
