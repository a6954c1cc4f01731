'use client';

import type { PointField } from '@dusk-tally/core/evidence';
import type { RoundStop } from '@dusk-tally/lab/gathering';
import { Link } from '@/kit/link';
import { type KeyboardEvent, useRef } from 'react';
import { Button } from '@/kit/button';
import { OutboxLine } from '@/kit/outbox-line';
import { useScans } from '@/kit/scan-listener';
import { useClock } from '@/kit/use-clock';
import { PointFields, PointNoteLine } from './hand-log/point-fields';
import { type HandPoints, useHandPoints } from './hand-log/use-hand-points';

/** When a tester is to be read and when it ends. */
function StopTimes({ stop, now }: { stop: RoundStop; now: Date }) {
  const clock = useClock();
  const { nextAt, isLate, hasStopped, ends, endsUnattended, chargeAh } = stop;
  return (
    <p className="text-quiet">
      {hasStopped && (
        <Link href={`/bench/runs/${stop.benchRunId}`} className="font-semibold text-ink underline">
          stopped: end its log
        </Link>
      )}
      {nextAt && (
        <span className={isLate ? 'font-semibold text-missed' : 'font-medium text-ink'}>
          {isLate ? 'late: read it since ' : 'read it at '}
          {clock(nextAt, now)}
        </span>
      )}
      {chargeAh !== null && `, ${chargeAh.toPrecision(3)} Ah so far`}
      {ends && `, ends ${clock(ends.from, now)} to ${clock(ends.to, now)}`}
      {endsUnattended && <span className="text-doubt">, perhaps while nobody is there</span>}
    </p>
  );
}

const toneOf = (tone: RoundStop['says'][number]['tone'], isDanger: boolean): string =>
  tone === 'known' ? 'text-quiet' : tone === 'act' ? '' : isDanger ? 'text-missed' : 'text-doubt';

/** One tester: which cell is on it, what to read, and what its points say. */
function Stop({
  stop,
  now,
  points,
  onAnswer,
  onKeyDown,
}: {
  stop: RoundStop;
  now: Date;
  points: HandPoints;
  onAnswer: () => void;
  onKeyDown: (
    event: KeyboardEvent<HTMLInputElement>,
    stop: RoundStop,
    field: PointField | 'at',
  ) => void;
}) {
  const { benchRunId, cell, label, channel, lot, hasLog, reads, says, isDanger } = stop;
  return (
    <li
      data-stop={cell}
      className={`panel p-4 ${isDanger ? 'border-missed' : stop.isLate ? 'border-doubt' : ''}`}
    >
      <div className="flex flex-wrap items-start justify-between gap-x-6 gap-y-2">
        <div>
          <h2 className="text-lg font-semibold">
            {channel}{' '}
            <Link href={`/bench/runs/${benchRunId}`} className="underline">
              {cell}
            </Link>{' '}
            <span className="text-base font-normal text-quiet" title={label ?? undefined}>
              {lot}
            </span>
          </h2>
          <StopTimes stop={stop} now={now} />
        </div>
        {hasLog ? (
          <PointFields
            benchRunId={benchRunId}
            cell={cell}
            fields={reads}
            points={points}
            onKeyDown={(event, field) => onKeyDown(event, stop, field)}
          />
        ) : (
          <Link
            href={`/bench/runs/${benchRunId}`}
            className="inline-flex min-h-11 items-center underline"
          >
            Say when its load came on
          </Link>
        )}
      </div>
      <PointNoteLine note={points.notes[benchRunId]} onAnswer={onAnswer} />
      {says.map(({ tone, text }) => (
        <p key={text} className={`mt-1 max-w-[90ch] ${toneOf(tone, isDanger)}`}>
          {text}
        </p>
      ))}
    </li>
  );
}

/** Enter leads from field to field and from tester to tester; a scan leads to its cell. */
function useWay(stops: readonly RoundStop[], points: HandPoints) {
  const box = useRef<HTMLDivElement>(null);
  const open = stops.filter(({ hasLog, setting }) => hasLog && setting !== null);
  const focus = (stop: RoundStop | undefined, field?: PointField | 'at') =>
    stop &&
    box.current
      ?.querySelector<HTMLInputElement>(
        `[data-point="${stop.benchRunId} ${field ?? stop.reads[0]}"]`,
      )
      ?.focus();
  const take = (stop: RoundStop, by: PointField | 'at' | 'answer') =>
    points.take(
      {
        benchRunId: stop.benchRunId,
        loadOnAt: stop.loadOnAt!,
        setting: stop.setting!,
        points: stop.points,
      },
      by,
    );
  const onKeyDown = (
    event: KeyboardEvent<HTMLInputElement>,
    stop: RoundStop,
    field: PointField | 'at',
  ) => {
    const at = open.findIndex(({ benchRunId }) => benchRunId === stop.benchRunId);
    if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      event.preventDefault();
      focus(open[at + (event.key === 'ArrowDown' ? 1 : -1)]);
      return;
    }
    if (event.key !== 'Enter') return;
    event.preventDefault();
    const next = stop.reads[stop.reads.indexOf(field as PointField) + 1];
    const draft = points.drafts[stop.benchRunId] ?? {};
    const isEmpty = Object.values(draft).every((text) => !text?.trim());
    const asked = points.notes[stop.benchRunId];
    const isAnswer = asked?.isQuestion === true && asked.askedIn === field;
    if (!isEmpty && next && !isAnswer) {
      focus(stop, next);
      return;
    }
    // What is asked about stays in its fields: what is typed next is of the next tester.
    if (!isEmpty) take(stop, field);
    focus(open[at + 1]);
  };
  useScans((code) => {
    const found = open.find(({ cell, label }) => [cell, label].includes(code.toUpperCase()));
    if (!found) return null;
    focus(found);
    return `${found.cell} on ${found.channel}: what it shows, please.`;
  });
  const asked = stops.filter(({ benchRunId }) => points.notes[benchRunId]);
  return {
    box,
    onKeyDown,
    take,
    begin: () => focus(open.find(({ isLate }) => isLate) ?? open[0]),
    asked: asked.length,
    toAsked: () =>
      focus(asked[0], points.notes[asked[0]?.benchRunId ?? 0]?.askedIn ?? asked[0]?.reads[0]),
  };
}

/** Testers that only show a number, in the order one walks past them. */
export function RoundView({ stops, now }: { stops: readonly RoundStop[]; now: Date }) {
  const points = useHandPoints();
  const { box, onKeyDown, take, begin, asked, toAsked } = useWay(stops, points);
  const late = stops.filter(({ isLate }) => isLate).length;
  return (
    <div ref={box} className="space-y-3">
      <div className="flex flex-wrap items-center gap-3">
        <Button look="primary" className="min-h-11" onClick={begin}>
          Begin{' '}
          {late > 0 ? `with the ${late === 1 ? 'late one' : `${late} late ones`}` : 'the round'}
        </Button>
        <p className="text-quiet">
          Enter goes from field to field and on to the next tester; a scan goes to its cell.
        </p>
        <OutboxLine state={points.state} one="point" many="points" open={asked} toOpen={toAsked} />
      </div>
      <ol className="space-y-3">
        {stops.map((stop) => (
          <Stop
            key={stop.benchRunId}
            stop={stop}
            now={now}
            points={points}
            onAnswer={() => take(stop, 'answer')}
            onKeyDown={onKeyDown}
          />
        ))}
      </ol>
    </div>
  );
}
