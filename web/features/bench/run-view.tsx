'use client';

import { ALARMS, type RunEvent } from '@dusk-tally/core/bench';
import type { BenchRunView } from '@dusk-tally/lab/bench';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useEffect, useMemo, useState } from 'react';
import { Button, ButtonLink } from '@/kit/button';
import { Problem } from '@/kit/page';
import { useAct } from '@/kit/use-act';
import { commandRunAct, finishByHandAct, spotReadingAct } from './bench-acts';
import { BandChart } from './band-chart';
import { RunChart } from './run-chart';
import { useStream } from './use-stream';
import { ASK_WORDS, doing, lengthOf, STEP_WORDS } from './words';
import { useClock } from '@/kit/use-clock';
import { Choice, Option } from '@/kit/choice';
import { NumberInput, quantityOfHead } from '@/kit/quantity-field';
import { typedNumber } from '@/kit/typed-number';

interface StreamedRecord {
  seq: number;
  timeS: number;
  step: number;
  voltageV: number | null;
  currentA: number | null;
  temperatureC: number | null;
  event: RunEvent | null;
}

/** Time between looks whether the evidence of an ended run is there, ms. */
const RENEW_MS = 2500;
/** Points kept on the screen, most. */
const MOST_POINTS = 1600;

function eventWords(event: RunEvent): string {
  switch (event.event) {
    case 'started':
      return 'Started.';
    case 'step':
      return `Step ${event.step + 1} began.`;
    case 'stepEnded':
      return `Step ${event.step + 1} ended by ${event.reason}${event.ah > 0.0005 ? `, ${event.ah.toFixed(3)} Ah moved` : ''}.`;
    case 'ask':
      return `Waits for ${ASK_WORDS[event.what]?.[0] ?? event.what}.`;
    case 'measured':
      return `${ASK_WORDS[event.what]?.[0] ?? event.what}: ${event.value} ${ASK_WORDS[event.what]?.[1] ?? ''}.`;
    case 'alarm':
      return `${ALARMS[event.code].title}. ${event.text}`;
    case 'paused':
      return `Paused. ${event.reason}`;
    case 'resumed':
      return 'Went on.';
    case 'ended':
      return `${event.completed ? 'Done' : 'Ended'}. ${event.reason}`;
  }
}

const numberIn = (text: string) => typedNumber(text) ?? NaN;

/** One run of the bench: its curve as it grows, what happened, and what a person can do. */
export function RunView({ view }: { view: BenchRunView }) {
  const clock = useClock();
  const { run: first } = view;
  const router = useRouter();
  const [points, setPoints] = useState(view.points);
  const [events, setEvents] = useState(view.events);
  const { run: act, busy, problem } = useAct();
  const [confirming, setConfirming] = useState(false);
  const [spot, setSpot] = useState({ quantity: 'voltage' as 'voltage' | 'temperature', text: '' });
  const [answer, setAnswer] = useState('');
  const isOn = first.state === 'ready' || first.state === 'running';
  const isUp = useStream<StreamedRecord[]>(
    isOn && first.driven ? `/api/bench/runs/${first.id}/live?after=${first.lastSeq}` : null,
    (records) => {
      const readings = records.filter((record) => record.event === null);
      setPoints((before) => {
        const all = [
          ...before,
          ...readings.map(({ seq, timeS, step, voltageV, currentA, temperatureC }) => ({
            seq,
            timeS,
            step,
            voltageV: voltageV!,
            currentA: currentA!,
            temperatureC,
          })),
        ];
        return all.length > MOST_POINTS
          ? all.filter((_, i) => i % 2 === 0 || i > all.length - 200)
          : all;
      });
      const happened = records.flatMap(({ seq, timeS, event }) =>
        event ? [{ seq, timeS, event }] : [],
      );
      if (happened.length > 0) {
        setEvents((before) => [...before, ...happened]);
        router.refresh();
      }
    },
  );
  useEffect(() => {
    if (first.state !== 'ended') return;
    // Its evidence is being taken in: the page is made new until that is done.
    const timer = setInterval(() => router.refresh(), RENEW_MS);
    return () => clearInterval(timer);
  }, [first.state, router]);
  const now = new Date();
  const last = points[points.length - 1];
  const kinds = useMemo(() => view.expected.map(({ kind }) => kind), [view.expected]);
  const asks = first.asks ? ASK_WORDS[first.asks] : null;
  return (
    <div className="space-y-4">
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
            {first.finishAt && `, done at about ${clock(first.finishAt, now)}`}
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
              onClick={() => act(() => commandRunAct({ benchRunId: first.id, kind: 'pause' }))}
            >
              Pause
            </Button>
          )}
          {isOn && first.phase === 'paused' && (
            <Button
              look="primary"
              disabled={busy}
              onClick={() => act(() => commandRunAct({ benchRunId: first.id, kind: 'resume' }))}
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
                    () => commandRunAct({ benchRunId: first.id, kind: 'stop' }),
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
      {problem && <Problem>{problem}</Problem>}
      {!isUp && (
        <Problem>
          The line to the app is down. What is missed meanwhile comes when it is back.
        </Problem>
      )}
      {isOn && first.asks === 'torque' && (
        <p className="mt-3">
          A string is read cell by cell, on the cells’ own terminals:{' '}
          <Link className="underline" href="/bench/load-test/new">
            write its load test down
          </Link>
          .
        </p>
      )}
      {isOn && asks && (
        <form
          className="panel flex flex-wrap items-end gap-3 p-4"
          onSubmit={(event) => {
            event.preventDefault();
            act(
              () =>
                commandRunAct({ benchRunId: first.id, kind: 'answer', value: numberIn(answer) }),
              () => setAnswer(''),
            );
          }}
        >
          <label>
            <span className="mb-1 block font-medium">
              The run waits for the {asks[0]} / {asks[1]}
            </span>
            <NumberInput
              quantity={quantityOfHead(`${asks[0]} / ${asks[1]}`)}
              text={answer}
              onText={(next) => setAnswer(next)}
              className="w-48"
            />
          </label>
          <Button type="submit" look="primary" disabled={busy || answer.trim() === ''}>
            Enter
          </Button>
        </form>
      )}
      <div className="grid items-start gap-4 xl:grid-cols-[1fr_320px]">
        <section className="panel p-4" aria-label="Curve">
          <dl className="mb-3 flex flex-wrap gap-x-8 gap-y-2 tabular-nums">
            {[
              ['Voltage', last ? `${last.voltageV.toFixed(3)} V` : '–'],
              ['Current', last ? `${last.currentA.toFixed(3)} A` : '–'],
              [
                'Temperature',
                (last?.temperatureC ?? null) === null
                  ? '–'
                  : `${last!.temperatureC!.toFixed(1)} °C`,
              ],
              [
                'In this step',
                `${first.stepAh.toFixed(3)} Ah${first.expectedAh > 0 ? ` of about ${first.expectedAh.toFixed(1)}` : ''}`,
              ],
              ['Since start', lengthOf(last?.timeS ?? first.timeS)],
            ].map(([name, value]) => (
              <div key={name}>
                <dt className="text-[0.82rem] text-quiet">{name}</dt>
                <dd className="text-xl font-semibold">{value}</dd>
              </div>
            ))}
          </dl>
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
          {isOn && (
            <section className="panel p-4" aria-label="Hand meter">
              <h3 className="font-semibold">By hand meter, now</h3>
              <form
                className="mt-2 flex flex-wrap items-end gap-2"
                onSubmit={(event) => {
                  event.preventDefault();
                  act(
                    () =>
                      spotReadingAct({
                        benchRunId: first.id,
                        quantity: spot.quantity,
                        value: numberIn(spot.text),
                      }),
                    () => setSpot({ ...spot, text: '' }),
                  );
                }}
              >
                <Choice
                  label="What was measured"
                  className="w-44"
                  value={spot.quantity}
                  onValue={(next) => setSpot({ ...spot, quantity: next as typeof spot.quantity })}
                >
                  <Option value="voltage">at the terminals / V</Option>
                  <Option value="temperature">surface / °C</Option>
                </Choice>
                <NumberInput
                  quantity={spot.quantity === 'voltage' ? 'voltageV' : 'temperatureC'}
                  text={spot.text}
                  onText={(next) => setSpot({ ...spot, text: next })}
                  aria-label="Value"
                  className="w-20"
                />
                <Button type="submit" disabled={busy || spot.text.trim() === ''}>
                  Keep
                </Button>
              </form>
              {view.spotLeads && (
                <p className="mt-2">
                  {view.spotLeads.mohm === null
                    ? `Nothing can be said of the leads: ${view.spotLeads.reason}`
                    : `Leads take ${view.spotLeads.mohm.toFixed(1)} ± ${(2 * view.spotLeads.standardUncertaintyMohm!).toFixed(1)} mΩ${
                        view.spotLeads.loss
                          ? `, ${(view.spotLeads.loss.dropV * 1000).toFixed(0)} mV now`
                          : ''
                      }.`}
                  {view.spotLeads.loss?.advice && ` ${view.spotLeads.loss.advice}`}
                </p>
              )}
            </section>
          )}
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
          <section className="panel p-4" aria-label="What happened">
            <h3 className="font-semibold">What happened</h3>
            <ol
              className="mt-1 max-h-80 space-y-1 overflow-y-auto"
              tabIndex={0}
              aria-label="Events, newest first"
            >
              {[...events].reverse().map(({ seq, timeS, event }) => (
                <li key={seq} className={event.event === 'alarm' ? 'font-semibold' : ''}>
                  <span className="text-quiet tabular-nums">{lengthOf(timeS)}</span>{' '}
                  {eventWords(event)}
                </li>
              ))}
              {events.length === 0 && <li className="text-quiet">Nothing yet.</li>}
            </ol>
          </section>
          <section className="panel p-4" aria-label="Steps">
            <h3 className="font-semibold">Steps</h3>
            <ol className="mt-1 list-inside list-decimal">
              {view.expected.map(({ kind, fromS, toS }, i) => (
                <li
                  key={i}
                  aria-current={i === first.step && isOn ? 'step' : undefined}
                  className={
                    i === first.step && isOn ? 'font-semibold' : i < first.step ? 'text-quiet' : ''
                  }
                >
                  {STEP_WORDS[kind] ?? kind}, about {lengthOf(toS - fromS)}
                </li>
              ))}
            </ol>
          </section>
        </div>
      </div>
    </div>
  );
}
