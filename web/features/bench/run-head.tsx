'use client';

import type { LiveRun } from '@dusk-tally/lab/bench';
import { Link } from '@/kit/link';
import { useState } from 'react';
import { Button, ButtonLink } from '@/kit/button';
import { useClock } from '@/kit/use-clock';
import type { useAct } from '@/kit/use-act';
import { commandRunAct } from './bench-acts';
import { doing } from './words';

/** What a run is and is doing, and what may be done with it as a whole. */
export function RunHead({
  run: first,
  isOn,
  act,
  busy,
}: {
  run: LiveRun;
  isOn: boolean;
  act: ReturnType<typeof useAct>['run'];
  busy: boolean;
}) {
  const clock = useClock();
  const [now] = useState(() => new Date());
  const [confirming, setConfirming] = useState(false);
  return (
    <header className="flex flex-wrap items-start justify-between gap-3">
      <div>
        <h2 className="text-xl font-semibold">
          <Link href={`/cells/${first.cell}`} className="hover:underline">
            {first.cell}
          </Link>{' '}
          <span className="font-normal text-quiet">
            {first.recipe}, step {first.step + 1} of {first.steps}: {doing(first)}
          </span>
        </h2>
        <p className="text-quiet">
          Lot{' '}
          <Link href={`/lots/${first.lot}`} className="underline">
            {first.lot}
          </Link>
          {first.driven && first.finishAt && `, done at about ${clock(first.finishAt, now)}`}
          {first.endReason && `. ${first.endReason}`}
          {first.speed > 1 && `. Simulated bench, ${first.speed} times as fast as real`}
        </p>
      </div>
      <div className="flex flex-wrap gap-2">
        {first.runId && (
          <ButtonLink href={`/runs/${first.runId}`} look="primary">
            Figures of this run
          </ButtonLink>
        )}
        {isOn && first.driven && first.phase === 'running' && (
          <Button
            disabled={busy}
            onClick={() =>
              act((key) => commandRunAct({ benchRunId: first.id, kind: 'pause' }, key))
            }
          >
            Pause
          </Button>
        )}
        {isOn && first.phase === 'paused' && (
          <Button
            look="primary"
            disabled={busy}
            onClick={() =>
              act((key) => commandRunAct({ benchRunId: first.id, kind: 'resume' }, key))
            }
          >
            Go on
          </Button>
        )}
        {isOn &&
          (confirming ? (
            <Button
              disabled={busy}
              className="border-missed"
              onClick={() =>
                act(
                  (key) => commandRunAct({ benchRunId: first.id, kind: 'stop' }, key),
                  () => setConfirming(false),
                )
              }
            >
              Stop it for good
            </Button>
          ) : (
            <Button onClick={() => setConfirming(true)}>Stop</Button>
          ))}
      </div>
    </header>
  );
}
