'use client';

import type { PointField } from '@dusk-tally/core/evidence';
import type { HandLogView } from '@dusk-tally/lab/gathering';
import { type KeyboardEvent, type ReactNode, useState } from 'react';
import { Button } from '@/kit/button';
import { Fold } from '@/kit/fold';
import { OutboxLine } from '@/kit/outbox-line';
import { Problem } from '@/kit/page';
import { useAct } from '@/kit/use-act';
import { BandChart } from '../band-chart';
import { endHandLogAct } from './hand-acts';
import { HandSaysView } from './hand-says';
import { LoadOnForm } from './load-on-form';
import { MORE_FIELDS, PointFields, PointNoteLine, USUAL_FIELDS } from './point-fields';
import { PointTable } from './point-table';
import { useHandPoints } from './use-hand-points';

/** Where one point is typed: Enter keeps it. */
function PointEntry({ view }: { view: HandLogView }) {
  const points = useHandPoints();
  const { log, setting, says, benchRunId, cell } = view;
  if (!log || !setting || !says) return null;
  const taker = { benchRunId, loadOnAt: log.loadOnAt, setting, points: says.points };
  const focusFirst = () =>
    document.querySelector<HTMLInputElement>(`[data-point="${benchRunId} shownV"]`)?.focus();
  const keep = (by: Parameters<typeof points.take>[1], isStop = false) => {
    if (points.take(taker, by, isStop)) focusFirst();
  };
  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>, field: PointField | 'at') => {
    if (event.key !== 'Enter') return;
    event.preventDefault();
    keep(field);
  };
  return (
    <section className="panel p-4" aria-label="Read a point">
      <div className="flex flex-wrap items-end gap-3">
        <PointFields
          benchRunId={benchRunId}
          cell={cell}
          fields={[...USUAL_FIELDS, 'at']}
          points={points}
          onKeyDown={onKeyDown}
        />
        <Button look="primary" className="min-h-11" onClick={() => keep('answer')}>
          Keep the point
        </Button>
        <Button className="min-h-11" onClick={() => keep('answer', true)}>
          The tester has stopped
        </Button>
      </div>
      <PointNoteLine note={points.notes[benchRunId]} onAnswer={() => keep('answer')} />
      <Fold title="More it shows, and probes" className="mt-1">
        <PointFields
          benchRunId={benchRunId}
          cell={cell}
          fields={MORE_FIELDS}
          points={points}
          onKeyDown={onKeyDown}
        />
      </Fold>
      <OutboxLine
        state={points.state}
        one="point"
        many="points"
        open={points.notes[benchRunId] ? 1 : 0}
      />
    </section>
  );
}

/** Ends the log: asked once more, because the run is over then. */
function EndIt({ view, act, busy }: { view: HandLogView } & Acting) {
  const [asked, setAsked] = useState(false);
  // One that was stopped with its points still gives what they say.
  if (!view.log || view.log.endedAt !== null || !view.says || view.says.soFar.ah === null)
    return null;
  const { bound, ah } = view.says.soFar;
  return asked ? (
    <p className="flex flex-wrap items-center gap-2">
      {bound === 'atLeast'
        ? `It was not brought down to the claim’s cut-off: the cell would stand with at least ${ah!.toPrecision(4)} Ah.`
        : `The cell would stand with ${ah!.toPrecision(4)} Ah.`}
      <Button
        look="primary"
        disabled={busy}
        onClick={() => act((key) => endHandLogAct({ benchRunId: view.benchRunId }, key))}
      >
        End the run with this
      </Button>
      <Button onClick={() => setAsked(false)}>Not yet</Button>
    </p>
  ) : (
    <Button onClick={() => setAsked(true)}>It has ended …</Button>
  );
}

interface Acting {
  act: ReturnType<typeof useAct>['run'];
  busy: boolean;
}

/** The hand log of a run whose tester only shows a number. */
export function HandLog({ view, photos }: { view: HandLogView; photos: ReactNode }) {
  const { run: act, busy, problem } = useAct();
  const { log, says } = view;
  return (
    <div className="space-y-4">
      {problem && <Problem>{problem}</Problem>}
      {!log ? (
        <section className="panel space-y-2 p-4" aria-label="Hand log">
          <p className="max-w-[70ch]">
            No agent drives this run. Say when the load of its discharge came on; then read a point
            whenever you walk past, and the result comes with its limits.
          </p>
          <LoadOnForm view={view} />
        </section>
      ) : (
        <>
          <PointEntry view={view} />
          <section className="panel space-y-3 p-4" aria-label="Hand log">
            {says && <HandSaysView view={view} says={says} />}
            <BandChart line={says?.line ?? []} lotId={view.lotId} lot={view.lot} isDotted />
            <PointTable view={view} act={act} busy={busy} />
            <div className="flex flex-wrap items-start justify-between gap-3">
              <EndIt view={view} act={act} busy={busy} />
              <Fold title="How the tester is set" className="min-w-64 flex-1">
                <LoadOnForm key={log.version} view={view} />
              </Fold>
            </div>
          </section>
        </>
      )}
      {photos}
    </div>
  );
}
