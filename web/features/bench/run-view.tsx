'use client';

import { dischargeLine, type Enough } from '@dusk-tally/core/bench';
import type { BenchRunView } from '@dusk-tally/lab/bench';
import { Link } from '@/kit/link';
import { type ReactNode, useMemo } from 'react';
import { Button } from '@/kit/button';
import { Crumbs } from '@/kit/crumbs';
import { Problem } from '@/kit/page';
import { useAct } from '@/kit/use-act';
import { BandChart } from './band-chart';
import { finishByHandAct } from './bench-acts';
import { EnoughLine } from './enough-line';
import { HandMeter, RunAsks } from './run-asks';
import { RunChart } from './run-chart';
import { RunHead } from './run-head';
import { RunEvents, RunSteps, RunValues } from './run-story';
import { useLiveRun } from './use-live-run';

/** One run of the bench: its curve as it grows, what happened, and what a person can do. */
export function RunView({
  view,
  enough,
  hand,
  trouble,
}: {
  view: BenchRunView;
  enough: Enough;
  hand: ReactNode;
  /** Why it is no evidence yet; null where nothing stands in the way. */
  trouble: ReactNode;
}) {
  const { run: first } = view;
  const { points, events, isUp, isOn } = useLiveRun(view);
  const { run: act, busy, problem } = useAct();
  const kinds = useMemo(() => view.expected.map(({ kind }) => kind), [view.expected]);
  const line = useMemo(() => dischargeLine(points, kinds), [points, kinds]);
  return (
    <div className="space-y-4">
      <Crumbs way={[{ href: '/bench', name: 'Now' }]} />
      <RunHead run={first} isOn={isOn} act={act} busy={busy} />
      {trouble}
      {problem && <Problem>{problem}</Problem>}
      {!isUp && (
        <Problem>
          The line to the app is down. What is missed meanwhile comes when it is back.
        </Problem>
      )}
      {isOn && <RunAsks run={first} act={act} busy={busy} />}
      <div className="grid items-start gap-4 xl:grid-cols-[1fr_320px]">
        {first.driven ? (
          <section className="panel p-4" aria-label="Curve">
            <RunValues run={first} points={points} />
            <EnoughLine enough={enough} />
            <RunChart points={points} kinds={kinds} spots={view.spots} />
            <BandChart line={line} lotId={first.lotId} lot={first.lot} />
          </section>
        ) : (
          hand
        )}
        <div className="space-y-4">
          {isOn && first.driven && <HandMeter view={view} act={act} busy={busy} />}
          {isOn && !first.driven && <ByFile run={first} act={act} busy={busy} />}
          <RunEvents events={events} />
          <RunSteps view={view} isOn={isOn} />
        </div>
      </div>
    </div>
  );
}

/** The other way out of a run by hand: its tester leaves a file, or only a total was noted. */
function ByFile({
  run,
  act,
  busy,
}: {
  run: BenchRunView['run'];
  act: ReturnType<typeof useAct>['run'];
  busy: boolean;
}) {
  return (
    <section className="panel space-y-2 p-4" aria-label="Without points">
      <h3 className="font-semibold">Its tester leaves a file?</h3>
      <p className="text-quiet">
        Drop that under{' '}
        <Link href={`/lots/${run.lot}/logs`} className="underline">
          Logs
        </Link>
        . A total alone can be typed under{' '}
        <Link href={`/lots/${run.lot}/readings`} className="underline">
          Readings
        </Link>
        ; it is worth less, because nothing shows where the cell’s own voltage stood at its end.
      </p>
      <Button
        disabled={busy}
        onClick={() => act((key) => finishByHandAct({ benchRunId: run.id }, key))}
      >
        It is done without points
      </Button>
    </section>
  );
}
