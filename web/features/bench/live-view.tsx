'use client';

import type { LiveBoard, Reminder } from '@dusk-tally/lab/bench';
import { Link } from '@/kit/link';
import { useRef, useState } from 'react';
import { Empty } from '@/kit/page';
import { AlarmList } from './alarm-list';
import { AmbientForm } from './ambient-form';
import { LiveTile } from './live-tile';
import { TILE_SIZES, useTileSize } from './tile-size';
import { useStream } from './use-stream';
import { useClock } from '@/kit/use-clock';

/** Points of a tile’s curve, most; older ones are thinned. */
const MOST_POINTS = 160;

type Points = Map<number, { x: number; v: number }[]>;

function remember(points: Points, board: LiveBoard): void {
  for (const { run } of board.channels) {
    if (!run || run.voltageV === null) continue;
    const list = points.get(run.id) ?? [];
    points.set(run.id, list);
    if (list[list.length - 1]?.x === run.timeS) continue;
    list.push({ x: run.timeS, v: run.voltageV });
    if (list.length > MOST_POINTS)
      points.set(
        run.id,
        list.filter((_, i) => i % 2 === 0 || i > MOST_POINTS - 20),
      );
  }
}

/** The bench as it is now, renewed every second. */
export function LiveView({
  first,
  curves,
  due,
}: {
  first: LiveBoard;
  /** What was seen of each run before this page came. */
  curves: Record<number, { x: number; v: number }[]>;
  due: readonly Reminder[];
}) {
  const clock = useClock();
  const [board, setBoard] = useState(first);
  const points = useRef<Points>(
    new Map(Object.entries(curves).map(([id, list]) => [Number(id), [...list]])),
  );
  const isUp = useStream<LiveBoard>('/api/bench/live', (next) => {
    remember(points.current, next);
    setBoard(next);
  });
  const now = new Date(board.at);
  const tiles = useRef<HTMLDivElement>(null);
  const busy = board.channels.flatMap((channel) =>
    channel.run ? [{ ...channel, run: channel.run }] : [],
  );
  const free = board.channels.filter(({ run }) => !run);
  const size = useTileSize(busy.length, free.length, tiles);
  const speed = Math.max(
    1,
    ...board.agents.filter(({ isSilent }) => !isSilent).map((agent) => agent.speed),
  );
  const silent = board.agents.filter(({ isSilent }) => isSilent);
  const on = board.channels.filter(({ run }) => run && run.phase !== 'ended').length;
  return (
    <>
      <p className="mb-3 flex flex-wrap items-center gap-x-4 gap-y-1 text-quiet" role="status">
        <span>
          {on} of {board.channels.length} channels at work
        </span>
        {speed > 1 && <span>the bench’s clock runs {speed} times as fast as real</span>}
        <AmbientForm celsius={board.ambientC} at={board.ambientAt} now={now} />
        {!isUp && (
          <strong className="text-missed">
            The line to the app is down; this is {clock(board.at, now)}’s picture.
          </strong>
        )}
        {silent.map(({ name, seenAt }) => (
          <strong key={name} className="text-missed">
            Agent {name} was last heard at {clock(seenAt, now)}.
          </strong>
        ))}
      </p>
      <AlarmList alarms={board.alarms} now={now} />
      {board.channels.length === 0 && (
        <Empty title="No channel yet">
          Describe a tester under <Link href="/lab">Lab</Link> first, then its limits under
          Channels.
        </Empty>
      )}
      <div
        ref={tiles}
        className="grid gap-2"
        style={{
          gridTemplateColumns: `repeat(auto-fill, minmax(${TILE_SIZES[size].width}px, 1fr))`,
        }}
      >
        {busy.map((channel) => (
          <LiveTile
            key={channel.id}
            channel={channel}
            run={channel.run}
            now={now}
            size={size}
            // The list behind it changes with each picture that comes, never between two.
            points={pointsOf(points, channel.run.id)}
          />
        ))}
      </div>
      {free.length > 0 && (
        <section className="mt-3" aria-label="Free channels">
          <ul className="flex flex-wrap gap-1.5">
            {free.map(({ id, title, driven }) => (
              <li
                key={id}
                className="rounded-sm border border-dashed border-rule px-2.5 py-1 text-quiet"
              >
                {title}: free{driven ? '' : ', by hand'}
              </li>
            ))}
          </ul>
        </section>
      )}
      {due.length > 0 && (
        <section className="panel mt-5 p-4" aria-label="To look after">
          <h2 className="font-semibold">To look after</h2>
          <ul className="mt-1 space-y-1">
            {due.slice(0, 12).map((one) => (
              <li
                key={`${one.benchRunId}-${one.at}-${one.kind}`}
                className={one.isOverdue ? 'font-semibold' : ''}
              >
                <Link href={`/bench/runs/${one.benchRunId}`} className="hover:underline">
                  {one.text}
                </Link>{' '}
                {one.isOverdue ? 'since' : 'at'} {clock(one.at, now)}
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  );
}

const pointsOf = (points: { current: Points }, run: number | undefined) =>
  run === undefined ? [] : (points.current.get(run) ?? []);
