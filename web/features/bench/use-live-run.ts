'use client';

import type { BenchRunView } from '@dusk-tally/lab/bench';
import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import { type RunState, type StreamedRecord, withRecords } from './run-state';
import { useStream } from './use-stream';

/** Time between looks whether the evidence of an ended run is there, ms. */
const RENEW_MS = 2500;
/** Time between questions whether enough is known, ms. */
const ASK_AGAIN_MS = 60_000;

/** A run as it goes, and whether the line to the app is up. */
export function useLiveRun(view: BenchRunView): RunState & { isUp: boolean; isOn: boolean } {
  const router = useRouter();
  const { run } = view;
  const [state, setState] = useState<RunState>({ points: view.points, events: view.events });
  const isOn = run.state === 'ready' || run.state === 'running';
  const isUp = useStream<StreamedRecord[]>(
    isOn && run.driven ? `/api/bench/runs/${run.id}/live?after=${run.lastSeq}` : null,
    (records) => {
      setState((before) => withRecords(before, records));
      if (records.some(({ event }) => event !== null)) router.refresh();
    },
  );
  useEffect(() => {
    if (!isOn || !run.driven) return;
    // What is known already is asked again as it goes on.
    const timer = setInterval(() => router.refresh(), ASK_AGAIN_MS);
    return () => clearInterval(timer);
  }, [isOn, run.driven, router]);
  useEffect(() => {
    if (run.state !== 'ended') return;
    // Its evidence is being taken in: the page is made new until that is done.
    const timer = setInterval(() => router.refresh(), RENEW_MS);
    return () => clearInterval(timer);
  }, [run.state, router]);
  return { ...state, isUp, isOn };
}
