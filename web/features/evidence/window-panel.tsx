'use client';

import type { WindowView } from '@dusk-tally/lab/evidence';
import { expandedUncertainty } from '@dusk-tally/core/units';
import { useState } from 'react';
import { Button } from '@/kit/button';
import { FigureText } from '@/kit/figure-text';
import { Problem } from '@/kit/page';
import { typedNumber } from '@/kit/typed-number';
import { useAct } from '@/kit/use-act';
import { runWindowAct } from './acts';
import { Label } from '@/kit/form-parts';
import { NumberInput } from '@/kit/quantity-field';

/** Charge between two voltages of a run, and what the model’s full curves make of it. */
export function WindowPanel({ runId, cutoffV }: { runId: number; cutoffV: number }) {
  const { run, busy, problem } = useAct();
  const [from, setFrom] = useState('');
  const [to, setTo] = useState(String(cutoffV));
  const [bad, setBad] = useState<string | null>(null);
  const [view, setView] = useState<WindowView | null>(null);
  const compute = () => {
    const [fromV, toV] = [typedNumber(from), typedNumber(to)];
    if (!fromV || !toV || Number.isNaN(fromV + toV))
      return setBad('Expected two voltages in V, the upper one first, such as 3.3 and 3.0.');
    setBad(null);
    run(() => runWindowAct({ id: runId, fromV, toV }), setView);
  };
  return (
    <section className="panel p-4" aria-label="Between two voltages">
      <h2 className="font-semibold">Between two voltages</h2>
      <p className="text-quiet">
        For a run that was only part of a discharge: the charge of a window, stated as that.
      </p>
      <form
        className="mt-2 flex flex-wrap items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          compute();
        }}
      >
        <Label text="From / V">
          <NumberInput
            quantity="voltageV"
            text={from}
            onText={(next) => setFrom(next)}
            className="w-24"
          />
        </Label>
        <Label text="down to / V">
          <NumberInput
            quantity="voltageV"
            text={to}
            onText={(next) => setTo(next)}
            className="w-24"
          />
        </Label>
        <Button type="submit" disabled={busy}>
          {busy ? 'Computing …' : 'Read off'}
        </Button>
      </form>
      {(bad ?? problem) && <Problem>{bad ?? problem}</Problem>}
      {view && (
        <div role="status" className="mt-2 space-y-1">
          {view.reason && <p className="border-l-4 border-doubt pl-2">{view.reason}</p>}
          {view.window && (
            <p>
              Window capacity{' '}
              <FigureText
                value={view.window.value}
                U={expandedUncertainty(view.window)}
                unit="Ah"
                bound="exact"
              />{' '}
              <span className="text-quiet">
                from {view.window.inputs[0]!.value} V to {view.window.inputs[1]!.value} V
              </span>
            </p>
          )}
          {view.full && (
            <p>
              Full capacity, estimated{' '}
              <FigureText
                value={view.full.value}
                U={expandedUncertainty(view.full)}
                unit="Ah"
                bound="exact"
              />
              <span className="block text-quiet">{view.full.steps.join(' ')}</span>
            </p>
          )}
          {view.fullReason && <p className="text-quiet">{view.fullReason}</p>}
        </div>
      )}
    </section>
  );
}
