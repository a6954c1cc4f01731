'use server';

import type { LogMapping } from '@dusk-tally/core/evidence';
import {
  addInstrument,
  type CheckedFigure,
  checkRun,
  keepMapping,
  recordRetightened,
  runWindow,
  type WindowView,
} from '@dusk-tally/lab/evidence';
import { revalidatePath } from 'next/cache';
import { lab } from '@/lib/lab';
import { type Outcome, outcomeOf } from '@/lib/outcome';
import { actor } from '@/lib/session';
import { typedNumber } from '@/kit/typed-number';

/** Adds an instrument from a form; blank numbers count as zero. */
export async function addInstrumentAct(
  _before: Outcome<unknown> | null,
  form: FormData,
): Promise<Outcome<unknown>> {
  const text = (name: string) => String(form.get(name) ?? '').trim();
  const number = (name: string) => typedNumber(text(name)) ?? 0;
  const common = {
    name: text('name'),
    serial: text('serial') || null,
    calibratedOn: text('calibratedOn') || null,
    dueOn: text('dueOn') || null,
  };
  const kind = text('kind') as 'tester' | 'acMeter' | 'voltmeter' | 'scale' | 'caliper';
  const work =
    kind === 'tester'
      ? addInstrument(lab(), await actor(), {
          ...common,
          kind,
          accuracy: {
            currentGainPct: number('gainPct'),
            currentOffsetA: number('offset') / 1000,
            voltageGainPct: number('voltageGainPct'),
            voltageOffsetV: number('voltageOffset') / 1000,
            timePpm: number('timePpm'),
          },
        })
      : addInstrument(lab(), await actor(), {
          ...common,
          kind,
          accuracy: {
            gainPct: number('gainPct'),
            offset: kind === 'voltmeter' ? number('offset') / 1000 : number('offset'),
          },
        });
  const outcome = await outcomeOf(work);
  if (outcome.ok) revalidatePath('/lab');
  return outcome;
}

/** Computes a run again from its stored trace, without storing anything. */
export async function checkRunAct(input: { id: number }): Promise<Outcome<CheckedFigure[]>> {
  return outcomeOf(checkRun(lab(), await actor(), input));
}

/** Keeps how the columns of one header shape are to be read. */
export async function keepMappingAct(input: {
  shape: string;
  fileName: string;
  mapping: LogMapping;
}): Promise<Outcome<void>> {
  return outcomeOf(keepMapping(lab(), await actor(), input));
}

/** Charge of a run between two voltages. */
export async function runWindowAct(input: {
  id: number;
  fromV: number;
  toV: number;
}): Promise<Outcome<WindowView>> {
  return outcomeOf(runWindow(lab(), await actor(), input));
}

/** Records that a cell’s joint was made again. */
export async function recordRetightenedAct(input: { number: string }): Promise<Outcome<void>> {
  const outcome = await outcomeOf(recordRetightened(lab(), await actor(), input));
  if (outcome.ok) revalidatePath(`/cells/${input.number}`);
  return outcome;
}
