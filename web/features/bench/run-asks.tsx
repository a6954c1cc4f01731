'use client';

import type { BenchRunView } from '@dusk-tally/lab/bench';
import { Link } from '@/kit/link';
import { useState } from 'react';
import { Button } from '@/kit/button';
import { Choice, Option } from '@/kit/choice';
import { NumberInput, quantityOfHead } from '@/kit/quantity-field';
import { typedNumber } from '@/kit/typed-number';
import type { useAct } from '@/kit/use-act';
import { commandRunAct, spotReadingAct } from './bench-acts';
import { ASK_WORDS } from './words';

const numberIn = (text: string) => typedNumber(text) ?? NaN;

interface Acting {
  act: ReturnType<typeof useAct>['run'];
  busy: boolean;
}

/** What a run waits for, to be typed. */
export function RunAsks({ run: first, act, busy }: Acting & { run: BenchRunView['run'] }) {
  const [answer, setAnswer] = useState('');
  const asks = first.asks ? ASK_WORDS[first.asks] : null;
  if (!asks) return null;
  return (
    <>
      {first.asks === 'torque' && (
        <p className="mt-3">
          A string is read cell by cell, on the cells’ own terminals:{' '}
          <Link className="underline" href="/bench/load-test/new">
            write its load test down
          </Link>
          .
        </p>
      )}
      {asks && (
        <form
          className="panel flex flex-wrap items-end gap-3 p-4"
          onSubmit={(event) => {
            event.preventDefault();
            act(
              (key) =>
                commandRunAct(
                  { benchRunId: first.id, kind: 'answer', value: numberIn(answer) },
                  key,
                ),
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
    </>
  );
}

/** What is read by a hand meter beside the instrument, and what that says of the leads. */
export function HandMeter({ view, act, busy }: Acting & { view: BenchRunView }) {
  const { run: first } = view;
  const [spot, setSpot] = useState({ quantity: 'voltage' as 'voltage' | 'temperature', text: '' });
  return (
    <section className="panel p-4" aria-label="Hand meter">
      <h3 className="font-semibold">By hand meter, now</h3>
      <form
        className="mt-2 flex flex-wrap items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          act(
            (key) =>
              spotReadingAct(
                {
                  benchRunId: first.id,
                  quantity: spot.quantity,
                  value: numberIn(spot.text),
                },
                key,
              ),
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
  );
}
