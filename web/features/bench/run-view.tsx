'use client';

import type { BenchRunView } from '@dusk-tally/lab/bench';
import Link from 'next/link';
import { useMemo } from 'react';
import { Button } from '@/kit/button';
import { Crumbs } from '@/kit/crumbs';
import { Problem } from '@/kit/page';
import { useAct } from '@/kit/use-act';
import { BandChart } from './band-chart';
import { finishByHandAct } from './bench-acts';
import { HandMeter, RunAsks } from './run-asks';
import { RunChart } from './run-chart';
import { RunHead } from './run-head';
import { RunEvents, RunSteps, RunValues } from './run-story';
import { useLiveRun } from './use-live-run';

/** One run of the bench: its curve as it grows, what happened, and what a person can do. */
export function RunView({ view }: { view: BenchRunView }) {
  const { run: first } = view;
  const { points, events, isUp, isOn } = useLiveRun(view);
  const { run: act, busy, problem } = useAct();
  const kinds = useMemo(() => view.expected.map(({ kind }) => kind), [view.expected]);
  return (
    <div className="space-y-4">
      <Crumbs way={[{ href: '/bench', name: 'Now' }]} />
      <RunHead run={first} isOn={isOn} act={act} busy={busy} />
      {problem && <Problem>{problem}</Problem>}
      {!isUp && (
        <Problem>
          The line to the app is down. What is missed meanwhile comes when it is back.
        </Problem>
      )}
      {isOn && <RunAsks run={first} act={act} busy={busy} />}
      <div className="grid items-start gap-4 xl:grid-cols-[1fr_320px]">
        <section className="panel p-4" aria-label="Curve">
          <RunValues run={first} points={points} />
          {first.driven ? (
            <>
              <RunChart points={points} kinds={kinds} spots={view.spots} />
              <BandChart points={points} kinds={kinds} lotId={first.lotId} lot={first.lot} />
            </>
          ) : (
            <p className="text-quiet">
              No agent drives this run. When it is done, drop the tester’s file under{' '}
              <Link href={`/lots/${first.lot}/logs`} className="underline">
                Logs
              </Link>
              , or type what it shows under{' '}
              <Link href={`/lots/${first.lot}/readings`} className="underline">
                Readings
              </Link>
              ; then say here that it is done.
            </p>
          )}
        </section>
        <div className="space-y-4">
          {isOn && <HandMeter view={view} act={act} busy={busy} />}
          {isOn && !first.driven && (
            <section className="panel p-4">
              <Button
                look="primary"
                disabled={busy}
                onClick={() => act(() => finishByHandAct({ benchRunId: first.id }))}
              >
                It is done
              </Button>
            </section>
          )}
          <RunEvents events={events} />
          <RunSteps view={view} isOn={isOn} />
        </div>
      </div>
    </div>
  );
}
