'use client';

import type { HandLogView } from '@dusk-tally/lab/gathering';
import { useState } from 'react';
import { MomentInForm, NumberField } from '@/kit/form/fields';
import { Form } from '@/kit/form/form';
import { useLabForm } from '@/kit/form/use-lab-form';
import { setHandLogAct } from './hand-acts';

/** The moment the load came on and how the tester was set: points count from there. */
export function LoadOnForm({
  view,
  countAtStartAh = null,
  done,
}: {
  view: HandLogView;
  /** What is offered to be subtracted; null for as it was said. */
  countAtStartAh?: number | null;
  done?: () => void;
}) {
  const { log, recipe } = view;
  const [first] = useState(() => ({
    benchRunId: view.benchRunId,
    version: log?.version ?? 0,
    loadOnAt: log?.loadOnAt ?? view.now,
    setA: log ? log.setA : recipe.setA,
    setCutoffV: log ? log.setCutoffV : recipe.cutoffV,
    countAtStartAh: countAtStartAh ?? log?.countAtStartAh ?? recipe.counterAh,
  }));
  const form = useLabForm({ schema: 'handLogInput', first, act: setHandLogAct, done });
  return (
    <Form
      of={form}
      label="Load on"
      act={log ? 'Correct it' : 'The load is on'}
      className="grid items-end gap-3 sm:grid-cols-2 lg:grid-cols-4"
    >
      <MomentInForm name="loadOnAt" label="Load came on" />
      <NumberField name="setA" quantity="currentA" label="Set current / A" />
      <NumberField name="setCutoffV" quantity="voltageV" label="Set cut-off / V" />
      <NumberField name="countAtStartAh" quantity="capacityAh" label="Counter then / Ah" />
    </Form>
  );
}
