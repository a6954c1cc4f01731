'use client';

import type { BenchRunView } from '@dusk-tally/lab/bench';
import { eventWords, type RunState } from './run-state';
import { lengthOf, STEP_WORDS } from './words';

/** What a run shows now: voltage, current, temperature, charge and time. */
export function RunValues({
  run: first,
  points,
}: {
  run: BenchRunView['run'];
  points: RunState['points'];
}) {
  const last = points[points.length - 1];
  return (
    <dl className="mb-3 flex flex-wrap gap-x-8 gap-y-2 tabular-nums">
      {[
        ['Voltage', last ? `${last.voltageV.toFixed(3)} V` : '–'],
        ['Current', last ? `${last.currentA.toFixed(3)} A` : '–'],
        [
          'Temperature',
          (last?.temperatureC ?? null) === null ? '–' : `${last!.temperatureC!.toFixed(1)} °C`,
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
  );
}

/** What happened in a run, newest first. */
export function RunEvents({ events }: { events: RunState['events'] }) {
  return (
    <section className="panel p-4" aria-label="What happened">
      <h3 className="font-semibold">What happened</h3>
      <ol
        className="mt-1 max-h-80 space-y-1 overflow-y-auto"
        tabIndex={0}
        aria-label="Events, newest first"
      >
        {[...events].reverse().map(({ seq, timeS, event }) => (
          <li key={seq} className={event.event === 'alarm' ? 'font-semibold' : ''}>
            <span className="text-quiet tabular-nums">{lengthOf(timeS)}</span> {eventWords(event)}
          </li>
        ))}
        {events.length === 0 && <li className="text-quiet">Nothing yet.</li>}
      </ol>
    </section>
  );
}

/** The steps of a run, the one it is in marked. */
export function RunSteps({ view, isOn }: { view: BenchRunView; isOn: boolean }) {
  const { run: first } = view;
  return (
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
  );
}
