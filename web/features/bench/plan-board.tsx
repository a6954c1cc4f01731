'use client';

import {
  DndContext,
  type DragEndEvent,
  PointerSensor,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
} from '@dnd-kit/core';
import type { BoardChannel, BoardJob, PlanBoard as Board } from '@dusk-tally/lab/bench';
import { Pin } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { midnights, movedBy, type PlanScale, xOf } from './plan-scale';
import { clockOf } from '@/kit/use-clock';

/** Height of a channel’s row, px. */
const ROW = 46;

export interface Place {
  job: BoardJob;
  part: number;
  channelId: number;
  from: Date;
}

function Block({
  job,
  part,
  scale,
  chosen,
  choose,
  timeZone,
}: {
  job: BoardJob;
  part: number;
  scale: PlanScale;
  chosen: boolean;
  choose: () => void;
  timeZone: string;
}) {
  const { from, to } = job.parts[part]!;
  const { attributes, listeners, setNodeRef, transform, isDragging } = useDraggable({
    id: `${job.id}:${part}`,
    data: { job, part },
  });
  const left = xOf(scale, Date.parse(from));
  const width = Math.max(6, xOf(scale, Date.parse(to)) - left);
  const late = job.dueOn !== null && to.slice(0, 10) > job.dueOn;
  return (
    <button
      ref={setNodeRef}
      type="button"
      {...listeners}
      {...attributes}
      aria-label={`${job.cell}, ${job.recipe}, ${clockOf(from, new Date(from), timeZone)} to ${clockOf(to, new Date(from), timeZone)}${job.pinned ? ', put by hand' : ''}${late ? ', late' : ''}`}
      aria-pressed={chosen}
      onClick={choose}
      className={`absolute top-1.5 flex h-[34px] touch-none items-center gap-1 overflow-hidden rounded-sm border px-1.5 text-left text-[0.8rem] whitespace-nowrap ${chosen ? 'z-20 border-2 border-ember' : 'border-strong-rule'} ${late ? 'bg-ember-wash' : 'bg-raised'} ${isDragging ? 'z-30 opacity-80' : ''}`}
      style={{
        left,
        width,
        transform: transform ? `translate3d(${transform.x}px, ${transform.y}px, 0)` : undefined,
      }}
      title={`${job.cell}: ${job.recipe}`}
    >
      {(job.firstCharge || job.attendedOnly) && part === 0 && (
        <span aria-hidden className="absolute inset-y-0 left-0 w-1 bg-doubt" />
      )}
      {job.pinned && <Pin size={12} aria-hidden className="shrink-0" />}
      <span className="truncate">
        {job.cell}
        {width > 130 && <span className="text-quiet"> {job.recipe}</span>}
        {late && ' late'}
      </span>
    </button>
  );
}

function Row({
  channel,
  children,
  scale,
  attended,
  now,
  timeZone,
}: {
  channel: BoardChannel;
  children: React.ReactNode;
  scale: PlanScale;
  attended: readonly { fromS: number; toS: number }[];
  now: number;
  timeZone: string;
}) {
  const { setNodeRef, isOver } = useDroppable({
    id: `channel-${channel.id}`,
    data: { channelId: channel.id },
  });
  return (
    <div className="flex border-b border-rule">
      <div className="sticky left-0 z-10 w-40 shrink-0 border-r border-rule bg-sheet px-2 py-1.5">
        <p className="truncate leading-tight font-medium">{channel.title}</p>
        <p className="truncate text-[0.75rem] text-quiet">
          {channel.limits.maxA} A, {channel.limits.maxW} W
          {channel.limits.canCharge ? '' : ', load only'}
          {channel.isAssumed ? ', assumed' : ''}
        </p>
      </div>
      <div
        ref={setNodeRef}
        data-channel={channel.id}
        className={`relative ${isOver ? 'bg-ember-wash' : 'bg-wash'}`}
        style={{ width: scale.width, minHeight: ROW }}
      >
        {attended.map(({ fromS, toS }) => {
          const left = Math.max(0, xOf(scale, now + fromS * 1000));
          const right = Math.min(scale.width, xOf(scale, now + toS * 1000));
          return right > left ? (
            <span
              key={fromS}
              aria-hidden
              className="absolute inset-y-0 bg-sheet"
              style={{ left, width: right - left }}
            />
          ) : null;
        })}
        <span
          aria-hidden
          className="absolute inset-y-0 z-10 w-px bg-ember"
          style={{ left: xOf(scale, now) }}
        />
        {channel.busy.map(({ benchRunId, cell, until }) => (
          <a
            key={benchRunId}
            href={`/bench/runs/${benchRunId}`}
            className="absolute top-1.5 flex h-[34px] items-center overflow-hidden rounded-sm bg-curve px-1.5 text-[0.8rem] whitespace-nowrap text-sheet"
            style={{
              left: xOf(scale, now),
              width: Math.max(10, xOf(scale, Date.parse(until)) - xOf(scale, now)),
            }}
            title={`${cell} runs until ${clockOf(until, new Date(now), timeZone)}`}
          >
            {cell}
          </a>
        ))}
        {children}
      </div>
    </div>
  );
}

/** Channels against hours; a job can be dragged to another hour or channel. */
export function PlanBoard({
  board,
  days,
  chosen,
  choose,
  drop,
}: {
  board: Board;
  days: number;
  chosen: string | null;
  choose: (id: string) => void;
  drop: (place: Place) => void;
}) {
  const frame = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(900);
  useEffect(() => {
    const measure = () => setWidth(Math.max(700, (frame.current?.clientWidth ?? 1060) - 162));
    measure();
    window.addEventListener('resize', measure);
    return () => window.removeEventListener('resize', measure);
  }, []);
  const now = Date.parse(board.now);
  const scale: PlanScale = { fromMs: now - 2 * 3_600_000, toMs: now + days * 86_400_000, width };
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 5 } }));
  const marks = midnights(scale, board.timeZone);
  const onDragEnd = ({ active, over, delta }: DragEndEvent) => {
    const data = active.data.current as { job: BoardJob; part: number } | undefined;
    const to = over?.data.current as { channelId: number } | undefined;
    if (!data || !to) return;
    const from = movedBy(scale, Date.parse(data.job.parts[data.part]!.from), delta.x);
    drop({ job: data.job, part: data.part, channelId: to.channelId, from: new Date(from) });
  };
  return (
    <DndContext sensors={sensors} onDragEnd={onDragEnd} id="plan-board">
      <div
        ref={frame}
        className="panel overflow-x-auto"
        role="region"
        aria-label="Channels against hours"
        tabIndex={0}
      >
        <div className="flex border-b border-strong-rule text-[0.82rem] text-quiet">
          <div className="sticky left-0 z-10 w-40 shrink-0 border-r border-rule bg-sheet px-2 py-1">
            Channel
          </div>
          <div className="relative h-7" style={{ width }}>
            {marks.map(({ atMs, words }) => (
              <span
                key={atMs}
                className="absolute top-1 border-l border-strong-rule pl-1 whitespace-nowrap"
                style={{ left: xOf(scale, atMs) }}
              >
                {days <= 7 ? words : words.slice(4)}
              </span>
            ))}
          </div>
        </div>
        {board.channels.map((channel) => (
          <Row
            key={channel.id}
            channel={channel}
            scale={scale}
            attended={board.attended}
            now={now}
            timeZone={board.timeZone}
          >
            {board.jobs.flatMap((job) =>
              job.parts.map((part, i) =>
                part.channelId === channel.id && Date.parse(part.from) < scale.toMs ? (
                  <Block
                    key={`${job.id}:${i}`}
                    job={job}
                    part={i}
                    scale={scale}
                    chosen={chosen === `${job.id}:${i}`}
                    choose={() => choose(`${job.id}:${i}`)}
                    timeZone={board.timeZone}
                  />
                ) : null,
              ),
            )}
          </Row>
        ))}
      </div>
    </DndContext>
  );
}
