'use client';

import { holdLimitsFields } from '@dusk-tally/lab/inputs';
import { HOLD_WORDS, type HoldLimits } from '@dusk-tally/core/verdicts';
import type { LimitsPreview, MovedResult } from '@dusk-tally/lab/verdicts';
import { useFetched } from '@/lib/use-fetched';
import { useWatch } from 'react-hook-form';
import { NumberField, TextField } from '@/kit/form/fields';
import { Form } from '@/kit/form/form';
import { useLabForm } from '@/kit/form/use-lab-form';
import type { ShownIn } from '@/kit/quantity-field';
import { changeHoldLimitsAct, previewHoldLimitsAct } from './hold-actions';

const PERCENT: ShownIn = { unit: '%', scale: 0.01 };
const MILLIVOLT: ShownIn = { unit: 'mV', scale: 1e-3 };

/** How each limit is written: what it is, and the unit it is shown in. */
const FIELDS: Record<keyof HoldLimits, { label: string; shownIn?: ShownIn }> = {
  understated: { label: 'Capacity above, % of rated', shownIn: PERCENT },
  voltageV: { label: 'Voltage outside the model’s by, mV', shownIn: MILLIVOLT },
  countsApart: { label: 'Counter and integral apart by, %', shownIn: PERCENT },
  outOfNothing: { label: 'Discharge above, % of what was put in', shownIn: PERCENT },
  disagrees: { label: 'Apart from the cell’s other results by, %', shownIn: PERCENT },
  disagreesEn: { label: 'and with Eₙ above' },
  clocksApart: { label: 'Clocks apart by, %', shownIn: PERCENT },
};
const ORDER = Object.keys(FIELDS) as (keyof HoldLimits)[];
const NAMES = Object.fromEntries(ORDER.map((key) => [key, FIELDS[key].label]));

/** So many results are named; the rest is counted. */
const MOST_NAMED = 6;

function movedWords(moved: readonly MovedResult[]): string {
  const named = moved
    .slice(0, MOST_NAMED)
    .map(({ cell, rule }) => `${cell} (${HOLD_WORDS[rule]})`)
    .join(', ');
  return moved.length > MOST_NAMED ? `${named} and ${moved.length - MOST_NAMED} more` : named;
}

const results = (n: number): string => (n === 1 ? '1 result' : `${n} results`);

/** What the limits typed so far would do. */
function PreviewWords({ preview }: { preview: LimitsPreview }) {
  const { held, freed } = preview;
  if (held.length + freed.length === 0)
    return <p>None of {results(preview.results)} would be held or let count by it.</p>;
  return (
    <ul className="list-disc pl-5">
      {held.length > 0 && (
        <li>
          {results(held.length)} more would be held: {movedWords(held)}.
        </li>
      )}
      {freed.length > 0 && (
        <li>
          {results(freed.length)} would count again: {movedWords(freed)}.
        </li>
      )}
    </ul>
  );
}

function Consequences({ limits }: { limits: HoldLimits }) {
  const typed = useWatch() as HoldLimits;
  const next = holdLimitsFields.safeParse(typed);
  const isChanged = next.success && ORDER.some((key) => next.data[key] !== limits[key]);
  const { data } = useFetched({
    queryKey: ['hold-limits', next.data],
    enabled: isChanged,
    queryFn: () => previewHoldLimitsAct(next.data!),
  });
  if (!isChanged) return null;
  return (
    <div role="status" className="rounded-sm bg-wash p-3">
      <p className="font-medium">What this changes</p>
      {data?.ok ? <PreviewWords preview={data.data} /> : <p>{data?.message ?? 'Looking …'}</p>}
      <p className="text-quiet">Every lot is judged anew at once; issued reports do not change.</p>
      <TextField name="reason" label="Why" className="mt-3" />
    </div>
  );
}

/** Limits beyond which a result is held; a lead changes them, and every lot is judged anew. */
export function HoldLimitsForm({ limits }: { limits: HoldLimits & { version: number } }) {
  const form = useLabForm({
    schema: 'holdLimitsInput',
    first: { ...limits, reason: '' },
    act: changeHoldLimitsAct,
    keepAs: 'hold-limits',
  });
  return (
    <Form
      of={form}
      label="Limits of holds"
      act="Change the limits"
      names={NAMES}
      disabled={!form.form.formState.isDirty}
    >
      <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-3">
        {ORDER.map((key) => {
          const { label, shownIn } = FIELDS[key];
          const quantity =
            shownIn === undefined ? 'plain' : key === 'voltageV' ? 'voltageV' : 'share';
          return (
            <NumberField key={key} name={key} label={label} quantity={quantity} shownIn={shownIn} />
          );
        })}
      </div>
      <Consequences limits={limits} />
    </Form>
  );
}

/** The limits as they are, for those who do not change them. */
export function HoldLimitsList({ limits }: { limits: HoldLimits }) {
  return (
    <dl className="grid gap-x-6 gap-y-1 sm:grid-cols-2">
      {ORDER.map((key) => {
        const { label, shownIn } = FIELDS[key];
        return (
          <div key={key} className="flex justify-between gap-2">
            <dt className="text-quiet">{label}</dt>
            <dd className="tabular-nums">
              {Number((limits[key] / (shownIn?.scale ?? 1)).toPrecision(6))}
            </dd>
          </div>
        );
      })}
    </dl>
  );
}
